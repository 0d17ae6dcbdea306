"""Pictures of the user's own: kept by what is in them, given in any size."""

from __future__ import annotations

import io
from functools import lru_cache
from pathlib import Path

from PIL import Image

from mortiser import disk
from mortiser.core.common.errors import NotFound
from mortiser.pictures.checking import CheckedPicture
from mortiser.pictures.moving import MovingPicture

_folder: Path | None = None


def use_pictures(folder: Path) -> None:
    """Keep and look for pictures in a folder, from now on in this process."""
    global _folder
    _folder = folder


def keep(picture: CheckedPicture) -> None:
    """Keep a picture; one that is kept already stays."""
    if not is_kept(picture.digest):
        disk.write(_path(picture.digest), picture.png)


def is_kept(digest: str) -> bool:
    """Whether a picture is in this workspace."""
    return _path(digest).exists()


def moving_picture(digest: str) -> MovingPicture:
    """The frames of a moving picture. Raises NotFound."""
    try:
        return MovingPicture(_path(digest))
    except OSError as error:
        raise NotFound("That picture is not in this workspace. Choose it again.") from error


@lru_cache(maxsize=64)
def sized_png(digest: str, width: int, height: int) -> bytes:
    """A picture as a PNG of so many pixels. Raises NotFound."""
    try:
        with Image.open(_path(digest)) as image:
            image.load()
    except OSError as error:
        raise NotFound("That picture is not in this workspace. Choose it again.") from error
    out = io.BytesIO()
    image.resize((width, height), Image.Resampling.LANCZOS).save(out, "PNG", compress_level=1)
    return out.getvalue()


def _path(digest: str) -> Path:
    if _folder is None:
        raise NotFound("There is no folder of pictures.")
    return _folder / f"{digest}.png"
