"""The user's own fonts: checked and cleaned before any renderer sees them.

A file goes through the OpenType Sanitizer (the checks that browsers make), then only the tables
that shaping and outlines need are kept. Variable fonts are pinned to one weight.
"""

from __future__ import annotations

import os
import subprocess
import tempfile
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path
from urllib.parse import quote, unquote

import ots
from fontTools.ttLib import TTFont, TTLibError
from fontTools.varLib import instancer

from mortiser import disk
from mortiser.core.common.errors import BadInput, NotFound

LARGEST = 20_000_000
FEWEST_LETTERS = 10
BOLD = 700
KEPT_TABLES = frozenset(
    "head hhea maxp OS/2 hmtx cmap name post glyf loca CFF GSUB GPOS GDEF vhea vmtx VORG".split()  # noqa: SIM905
)
_KINDS = {
    b"wOFF": "a web font (WOFF)",
    b"wOF2": "a web font (WOFF2)",
    b"ttcf": "a collection of fonts (TTC)",
}
LONGEST_NAME = 200
"""Bytes of a family's name as a part of its file's."""
_RESTRICTED = 0x0002
"""OS/2 fsType: "Restricted License embedding" (OpenType specification, OS/2 table)."""


@dataclass(frozen=True, slots=True)
class OwnFont:
    """A cleaned font: its family, its weight, its bytes."""

    family: str
    weight: int
    data: bytes


def checked(data: bytes) -> OwnFont:
    """A TTF or OTF file, cleaned. Raises BadInput saying what is wrong and what to do."""
    if len(data) > LARGEST:
        raise BadInput("That font is larger than 20 MB. Choose one with fewer letters.")
    if kind := _KINDS.get(data[:4]):
        raise BadInput(f"That is {kind}. Add the TTF or OTF file it was made from.")
    if data[:4] not in (b"\x00\x01\x00\x00", b"OTTO", b"true"):
        raise BadInput("That is no font file. Add a TTF or OTF file.")
    try:
        font = TTFont(BytesIO(_sanitized(data)), recalcTimestamp=False)
        return _cleaned(font)
    except BadInput:
        raise
    except Exception as error:  # fontTools raises whatever a broken table leads to
        kind = "no font that can be read" if isinstance(error, TTLibError) else "damaged"
        raise BadInput(f"That font is {kind}. Fetch it from its maker again.") from error


def add(folder: Path, font: OwnFont) -> None:
    """Keep a cleaned font in a folder, in the place of one of its family and weight."""
    kept = folder / f"{quote(font.family, safe='')}_{font.weight}.ttf"
    disk.write(kept, font.data)


def remove(folder: Path, family: str) -> None:
    """Forget a family of one's own; looks that name it fall back. Raises NotFound."""
    found = [file for file, name, _ in listed(folder) if name == family]
    if not found:
        raise NotFound(f"There is no font “{family}” of your own.")
    for file in found:
        file.unlink(missing_ok=True)


def listed(folder: Path | None) -> list[tuple[Path, str, int]]:
    """(file, family, weight) of the fonts in a folder, by name."""
    if folder is None or not folder.is_dir():
        return []
    found = []
    for file in sorted(folder.glob("*_*.ttf")):
        name, _, weight = file.stem.rpartition("_")
        if weight.isdecimal():
            found.append((file, unquote(name), int(weight)))
    return found


def _sanitized(data: bytes) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        source, clean = Path(folder) / "in", Path(folder) / "out"
        source.write_bytes(data)
        command = [os.fspath(ots.OTS_SANITIZE), os.fspath(source), os.fspath(clean)]
        result = subprocess.run(command, capture_output=True, text=True, timeout=60, check=False)
        if result.returncode or not clean.exists():
            lines = [line for line in (result.stderr or result.stdout or "").splitlines() if line]
            why = lines[-1].removeprefix("ERROR: ").strip() if lines else "it is damaged"
            raise BadInput(f"That font did not pass the check: {why[:120]}. Fetch it again.")
        return clean.read_bytes()


def _cleaned(font: TTFont) -> OwnFont:
    if font["OS/2"].fsType & _RESTRICTED:
        raise BadInput("That font's licence forbids using it in videos. Choose another one.")
    if "glyf" not in font and "CFF " not in font and "CFF2" not in font:
        raise BadInput("That font holds pictures, not outlines. Choose one with outlines.")
    letters = sum(chr(code).isalnum() for code in font.getBestCmap() or {})
    if letters < FEWEST_LETTERS:
        raise BadInput(f"That font has {letters} letters only. Choose one to write with.")
    weight = int(font["OS/2"].usWeightClass)
    if "fvar" in font:
        axes = {axis.axisTag: axis for axis in font["fvar"].axes}
        place = {tag: axis.defaultValue for tag, axis in axes.items()}
        if "wght" in axes:
            weight = round(min(max(BOLD, axes["wght"].minValue), axes["wght"].maxValue))
            place["wght"] = weight
        font = instancer.instantiateVariableFont(font, place)
    family = _family(font)
    for tag in [
        tag for tag in list(font.keys()) if tag.strip() not in KEPT_TABLES and tag != "GlyphOrder"
    ]:
        del font[tag]
    out = BytesIO()
    font.save(out)
    return OwnFont(family, min(1000, max(100, weight)), out.getvalue())


def _family(font: TTFont) -> str:
    names = font["name"]
    found = names.getDebugName(16) or names.getDebugName(1) or ""
    clean = " ".join("".join(ch for ch in found if ch.isprintable()).split())[:60]
    while len(quote(clean, safe="")) > LONGEST_NAME:
        clean = clean[:-1].rstrip()
    if not clean:
        raise BadInput("That font has no name. Choose another one.")
    return clean
