"""Build the emoji that come with Mortiser from two npm packages: pictures, and names to search by.

Usage: python -m scripts.emoji_data, with npm at hand. Writes src/mortiser/emoji/pictures.zip, one
entry a kind of emoji with all its skin tones, and names.json.
"""

from __future__ import annotations

import json
import subprocess
import tarfile
import tempfile
import zipfile
from collections import defaultdict
from pathlib import Path
from typing import Any

OUT = Path("src/mortiser/emoji")
PICTURES, NAMES = "@iconify-json/noto@1.2.9", "emojibase-data@17.0.0"
TONES = range(0x1F3FB, 0x1F400)


def main() -> None:
    """Fetch, check against each other, write."""
    icons = _read(PICTURES, "icons.json")
    chars = _read(PICTURES, "chars.json")
    listed = _read(NAMES, "en/compact.json")
    groups: dict[str, dict[str, str]] = defaultdict(dict)
    for code, icon in chars.items():
        text = "".join(chr(int(part, 16)) for part in code.split("-"))
        groups[_toneless(text)][text] = icons["icons"][icon]["body"]
    with zipfile.ZipFile(OUT / "pictures.zip", "w", zipfile.ZIP_LZMA) as file:
        for name, variants in sorted(groups.items()):
            entry = zipfile.ZipInfo(_entry(name), (2026, 1, 1, 0, 0, 0))
            entry.compress_type = zipfile.ZIP_LZMA
            file.writestr(entry, json.dumps(variants, ensure_ascii=False))
    known = {text for variants in groups.values() for text in variants}
    names = [
        {
            "emoji": one["unicode"],
            "name": one["label"],
            "words": one.get("tags", []),
            "group": one["group"],
        }
        for one in sorted(listed, key=lambda one: one.get("order", 10**6))
        if "group" in one and one["unicode"].replace("\ufe0f", "") in known
    ]
    index = {"known": sorted(known), "names": names}
    (OUT / "names.json").write_text(json.dumps(index, ensure_ascii=False))
    print(f"{len(known)} pictures of {len(groups)} kinds, {len(names)} to choose from")


def _toneless(text: str) -> str:
    return "".join(ch for ch in text if ord(ch) not in TONES)


def _entry(text: str) -> str:
    return "-".join(f"{ord(ch):x}" for ch in text) + ".json"


def _read(package: str, name: str) -> Any:
    with tempfile.TemporaryDirectory() as folder:
        subprocess.run(["npm", "pack", "--silent", package], cwd=folder, check=True)
        (archive,) = Path(folder).glob("*.tgz")
        with tarfile.open(archive) as file:
            member = file.extractfile(f"package/{name}")
            assert member is not None
            return json.load(member)


if __name__ == "__main__":
    main()
