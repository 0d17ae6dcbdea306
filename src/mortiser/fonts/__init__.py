"""The fonts that come with Mortiser, each with its licence beside it."""

from functools import cache
from importlib.resources import files

from mortiser.core.layout.fonts import FontBook
from mortiser.emoji import known_emoji

FALLBACKS = ("Noto Sans", "Noto Sans Arabic", "Noto Sans Hebrew")
"""Families that hold the scripts other families lack, tried in this order."""


@cache
def font_book() -> FontBook:
    """All shipped fonts, loaded once. A file is called Family-Name_700Anything.ttf."""
    families: dict[str, dict[int, bytes]] = {}
    for entry in sorted(files(__name__).iterdir(), key=lambda entry: entry.name):
        if entry.name.endswith(".ttf"):
            name, style = entry.name.removesuffix(".ttf").split("_")
            families.setdefault(name.replace("-", " "), {})[int(style[:3])] = entry.read_bytes()
    return FontBook(families, FALLBACKS, known_emoji())
