"""Files of pictures read once and drawn as pixels, so that nothing else ever reads them as they came."""

from __future__ import annotations

import hashlib
import io
import re
import warnings
from dataclasses import dataclass
from importlib.resources import as_file, files
from xml.etree import ElementTree

import numpy as np
import resvg_py
from PIL import Image, ImageOps, ImageSequence

from mortiser.core.common.errors import BadInput
from mortiser.core.framing.own_picture import MOST_SIDE, OwnPicture
from mortiser.pictures.moving import shown_us

LARGEST = 30_000_000
"""Of a file, in bytes."""
LARGEST_DRAWING = 2_000_000
MOST_PIXELS = 60_000_000
DRAWN_SIDE = 1_600
"""The longer side of an SVG drawing's pixels."""
MOST_RATIO = 20
KINDS = ("PNG", "JPEG", "WEBP", "GIF")
MOST_MOVING_SIDE = 720
"""Of a picture that moves: it is kept with sides of at most so many pixels."""
MOST_MOVING_PIXELS = 120_000_000
"""Of all its frames together; so many take some ten seconds to read."""
MOST_FRAMES = 900
ACTIVE = {"script", "foreignObject", "iframe", "feImage", "a", "audio", "video", "set", "animate"}
"""Elements of SVG that are left out: they do something, or fetch."""


@dataclass(frozen=True)
class CheckedPicture:
    """A picture as a PNG (RGBA, upright); one that moves as an APNG that lasts so long (µs) until it begins again."""

    digest: str
    width: int
    height: int
    png: bytes
    lasts_us: int = 0
    through: bool = False
    """Whether some of it can be seen through."""

    def named(self, name: str) -> OwnPicture:
        """What pieces know of it."""
        return OwnPicture(
            digest=self.digest,
            name=name,
            width=self.width,
            height=self.height,
            lasts_us=self.lasts_us,
            through=self.through,
        )


def checked(data: bytes) -> CheckedPicture:
    """A PNG, JPEG, WebP, GIF or SVG file as a picture. Raises BadInput saying what to do."""
    if len(data) > LARGEST:
        raise BadInput("That picture is larger than 30 MB. Save it smaller.")
    head = data[:4_000].lstrip(b"\xef\xbb\xbf \t\r\n")
    if head.startswith(b"<"):
        data = _drawn(data)
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(io.BytesIO(data), formats=KINDS) as image:
                if image.width * image.height > MOST_PIXELS:
                    raise BadInput("That picture has more than 60 million pixels. Save it smaller.")
                if getattr(image, "n_frames", 1) > 1:
                    return _moving(image)
                image.load()
                upright = ImageOps.exif_transpose(image).convert("RGBA")
    except BadInput:
        raise
    except Exception as error:  # Pillow raises whatever a broken file leads to
        raise BadInput(
            "That is no picture that can be read. Choose a PNG, JPEG, WebP, GIF or SVG file."
        ) from error
    upright.thumbnail((MOST_SIDE, MOST_SIDE), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    upright.save(out, "PNG")
    pixels = upright.tobytes() + repr(upright.size).encode()
    digest = hashlib.sha256(pixels).hexdigest()[:32]
    return CheckedPicture(digest, *upright.size, out.getvalue(), through=_through(upright))


def _through(image: Image.Image) -> bool:
    """Whether something of an RGBA picture can be seen through."""
    return bool(np.asarray(image.getchannel("A")).min() < 255)


def _moving(image: Image.Image) -> CheckedPicture:
    """A picture of several frames."""
    share = min(1.0, MOST_MOVING_SIDE / max(image.size))
    size = max(1, round(image.width * share)), max(1, round(image.height * share))
    count = getattr(image, "n_frames", 1)
    if count > MOST_FRAMES or count * image.width * image.height > MOST_MOVING_PIXELS:
        raise BadInput(
            f"That picture moves for too long ({count} frames). Bring it in as a film: an MP4, MOV or WebM file."
        )
    frames: list[Image.Image] = []
    shows_us: list[int] = []
    seen = hashlib.sha256(repr(size).encode())
    for frame in ImageSequence.Iterator(image):
        shows_us.append(shown_us(frame))
        drawn = frame.convert("RGBA")
        frames.append(
            drawn if share == 1 else drawn.resize(size, Image.Resampling.BICUBIC, reducing_gap=2.0)
        )
        seen.update(frames[-1].tobytes() + repr(shows_us[-1]).encode())
    out = io.BytesIO()
    # Every frame stands for itself.
    frames[0].save(
        out, "PNG", save_all=True, append_images=frames[1:], duration=[one / 1_000 for one in shows_us],
        disposal=1, blend=0, compress_level=1,
    )  # fmt: skip
    through = any(_through(frame) for frame in frames)
    return CheckedPicture(seen.hexdigest()[:32], *size, out.getvalue(), sum(shows_us), through)


def small_png(data: bytes, side: int) -> bytes:
    """A PNG, JPEG, WebP, GIF or SVG file as a PNG with sides of at most so many pixels. Raises BadInput."""
    with Image.open(io.BytesIO(checked(data).png)) as image:
        image.thumbnail((side, side), Image.Resampling.LANCZOS)
        out = io.BytesIO()
        image.save(out, "PNG")
    return out.getvalue()


def _drawn(data: bytes) -> bytes:
    """An SVG drawing as a PNG, with nothing in it that acts or fetches."""
    if len(data) > LARGEST_DRAWING:
        raise BadInput("That drawing is larger than 2 MB. Save it as a PNG.")
    if b"<!DOCTYPE" in data and (b"<!ENTITY" in data or b"[" in data.split(b"<!DOCTYPE")[1][:400]):
        raise BadInput("That drawing defines entities. Save it as plain SVG or as a PNG.")
    try:
        root = ElementTree.fromstring(data)
    except ElementTree.ParseError as error:
        raise BadInput("That drawing is damaged. Save it as plain SVG or as a PNG.") from error
    if _bare(root.tag) != "svg":
        raise BadInput("That is no drawing. Choose a PNG, JPEG, WebP, GIF or SVG file.")
    width, height = _size(root)
    if not 1 / MOST_RATIO <= width / height <= MOST_RATIO:
        raise BadInput("That drawing is too long and narrow. Give it a canvas of its own.")
    _calm(root)
    share = DRAWN_SIDE / max(width, height)
    with as_file(files("mortiser.fonts")) as fonts:
        try:
            png: bytes = resvg_py.svg_to_bytes(
                svg_string=ElementTree.tostring(root, encoding="unicode"),
                width=max(1, round(width * share)),
                height=max(1, round(height * share)),
                skip_system_fonts=True,
                font_dirs=[str(fonts)],
            )
        except Exception as error:  # resvg raises ValueError or its own panic
            raise BadInput("That drawing cannot be drawn. Save it as a PNG.") from error
    return png


def _bare(tag: object) -> str:
    return str(tag).rpartition("}")[2]


def _size(root: ElementTree.Element) -> tuple[float, float]:
    box = [float(n) for n in re.findall(r"-?\d+(?:\.\d+)?", root.get("viewBox", ""))]
    found = [re.match(r"\d+(?:\.\d+)?", root.get(name, "")) for name in ("width", "height")]
    if len(box) == 4 and box[2] > 0 and box[3] > 0:
        return box[2], box[3]
    if all(found):
        width, height = (float(one.group()) for one in found if one)
        if width > 0 and height > 0:
            root.set("viewBox", f"0 0 {width} {height}")
            return width, height
    raise BadInput("That drawing has no size. Save it with a width and a height.")


def _calm(element: ElementTree.Element) -> None:
    """Take out what acts or fetches."""
    for child in list(element):
        if _bare(child.tag) in ACTIVE or (_bare(child.tag) == "image" and not _carried(child)):
            element.remove(child)
        else:
            _calm(child)


def _carried(image: ElementTree.Element) -> bool:
    """Whether a picture in a drawing comes along in it."""
    links = [value for name, value in image.attrib.items() if _bare(name) == "href"]
    return all(re.match(r"data:image/(png|jpeg|webp);", value) for value in links)
