"""The fonts at hand: those that come with Mortiser, each with its licence beside it, and one's own."""

from __future__ import annotations

from functools import cache, lru_cache
from importlib.resources import files
from pathlib import Path

from mortiser.core.style.layout.fonts import FontBook
from mortiser.emoji import known_emoji
from mortiser.fonts.own import listed

FALLBACKS = ("Noto Sans", "Noto Sans Arabic", "Noto Sans Hebrew", "Noto Sans CJK")
"""Families that hold the scripts other families lack, tried in this order."""

_own_folder: Path | None = None


def use_own_fonts(folder: Path) -> None:
    """Take the fonts in a folder too (see ``own.add``), from now on in this process."""
    global _own_folder
    _own_folder = folder


def font_book() -> FontBook:
    """All fonts; made anew when fonts of one's own came or went."""
    own = tuple(
        (str(file), name, weight, file.stat().st_mtime_ns)
        for file, name, weight in listed(_own_folder)
    )
    return _book(own)


@lru_cache(maxsize=2)
def _book(own: tuple[tuple[str, str, int, int], ...]) -> FontBook:
    families = {name: dict(faces) for name, faces in shipped().items()}
    for file, name, weight, _ in own:
        families.setdefault(name, {})[weight] = Path(file).read_bytes()
    return FontBook(families, FALLBACKS, known_emoji())


@cache
def shipped() -> dict[str, dict[int, bytes]]:
    """The files that come with Mortiser by family and weight: Family-Name_700Anything.ttf or .otf."""
    families: dict[str, dict[int, bytes]] = {}
    for entry in sorted(files(__name__).iterdir(), key=lambda entry: entry.name):
        if entry.name.endswith((".ttf", ".otf")):
            name, style = entry.name[:-4].split("_")
            families.setdefault(name.replace("-", " "), {})[int(style[:3])] = entry.read_bytes()
    return families
