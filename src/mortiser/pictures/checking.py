"""Files of pictures read once and drawn as pixels, so that nothing else ever reads them as they came."""

from __future__ import annotations

import hashlib
import io
import re
import warnings
from dataclasses import dataclass
from importlib.resources import as_file, files
from xml.etree import ElementTree

import resvg_py
from PIL import Image, ImageOps

from mortiser.core.common.errors import BadInput
from mortiser.core.framing.own_picture import MOST_SIDE

LARGEST = 30_000_000
"""Of a file, in bytes."""
LARGEST_DRAWING = 2_000_000
MOST_PIXELS = 60_000_000
DRAWN_SIDE = 1_600
"""The longer side of an SVG drawing's pixels."""
MOST_RATIO = 20
KINDS = ("PNG", "JPEG", "WEBP")
ACTIVE = {"script", "foreignObject", "iframe", "feImage", "a", "audio", "video", "set", "animate"}
"""Elements of SVG that are left out: they do something, or fetch."""


@dataclass(frozen=True)
class CheckedPicture:
    """A picture as a PNG (RGBA, upright)."""

    digest: str
    width: int
    height: int
    png: bytes


def checked(data: bytes) -> CheckedPicture:
    """A PNG, JPEG, WebP or SVG file as a picture. Raises BadInput saying what to do."""
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
                image.load()
                upright = ImageOps.exif_transpose(image).convert("RGBA")
    except BadInput:
        raise
    except Exception as error:  # Pillow raises whatever a broken file leads to
        raise BadInput(
            "That is no picture that can be read. Choose a PNG, JPEG, WebP or SVG file."
        ) from error
    upright.thumbnail((MOST_SIDE, MOST_SIDE), Image.Resampling.LANCZOS)
    out = io.BytesIO()
    upright.save(out, "PNG")
    pixels = upright.tobytes() + repr(upright.size).encode()
    digest = hashlib.sha256(pixels).hexdigest()[:32]
    return CheckedPicture(digest, upright.width, upright.height, out.getvalue())


def small_png(data: bytes, side: int) -> bytes:
    """A PNG, JPEG, WebP or SVG file as a PNG with sides of at most so many pixels. Raises BadInput."""
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
        raise BadInput("That is no drawing. Choose a PNG, JPEG, WebP or SVG file.")
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
