"""The fonts that come with Mortiser, each with its licence beside it."""

from functools import cache
from importlib.resources import files

from mortiser.core.layout.face import FontBook

FALLBACKS = ("NotoSans_700Bold", "NotoEmoji_700Bold")


@cache
def font_book() -> FontBook:
    """All shipped fonts by file stem, loaded once."""
    folder = files(__name__)
    faces = {
        entry.name.removesuffix(".ttf"): entry.read_bytes()
        for entry in folder.iterdir()
        if entry.name.endswith(".ttf")
    }
    return FontBook(faces, FALLBACKS)
