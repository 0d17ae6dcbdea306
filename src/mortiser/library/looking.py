"""What a file of a library is, and a small picture of it."""

from __future__ import annotations

import tempfile
from functools import lru_cache
from pathlib import Path

from mortiser.apart import done_apart
from mortiser.core.common.errors import MortiserError
from mortiser.core.library.found import Found, FoundKind
from mortiser.library.base import SMALL_SIDE
from mortiser.media.glance import length_and_sides
from mortiser.media.picture import save_poster
from mortiser.pictures.checking import small_png

AT_S = 0.5
"""The moment of a film that is shown."""


def looked_at(found: Found, path: Path) -> Found:
    """The same with its length and its sides, as far as they are known."""
    if found.kind == "picture":
        return found
    length_us, (width, height) = length_and_sides(path)
    return found.model_copy(update={"length_us": length_us, "width": width, "height": height})


def small_of(kind: FoundKind, path: Path) -> bytes:
    """A file's small picture, as JPEG or PNG; nothing of a sound, and where there is none to be had."""
    if kind in ("sound", "music"):
        return b""
    try:
        about = path.stat()
        return _drawn(kind, path, about.st_mtime_ns, about.st_size)
    except (MortiserError, OSError):
        return b""


@lru_cache(maxsize=256)
def _drawn(kind: FoundKind, path: Path, changed_ns: int, size: int) -> bytes:
    """A file's small picture; another one, once the file is another. Raises OSError, MortiserError."""
    del changed_ns, size
    if kind == "picture":
        return done_apart(small_png, path.read_bytes(), SMALL_SIDE)
    with tempfile.TemporaryDirectory() as folder:
        out = Path(folder) / "small.jpg"
        save_poster(path, out, AT_S)
        return out.read_bytes()
