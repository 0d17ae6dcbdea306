"""Pictures of parts of words, kept for as long as they are painted again.

Laying a picture down pixel by pixel costs a tenth of drawing letters, a hundredth of a blurred shadow.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
import skia

from mortiser.core.scene.model import Drop, Line, Stroke
from mortiser.core.style.layout.rect import Rect
from mortiser.paint.inks import Inks, Numbers, Pixels, fill, picture_of, plain, stroke
from mortiser.paint.outlines import outline
from mortiser.paint.state import Matrix, reach_of

LINEAR = skia.SamplingOptions(skia.FilterMode.kLinear)


class Under(NamedTuple):
    """What shadow and outlines of a word depend on; ``matrix`` is the word's within a pixel."""

    path: str
    reach: Rect
    outlines: tuple[Stroke, ...]
    shadow: Drop | None
    fill: Numbers
    matrix: Matrix
    inks: Inks


class Letters(NamedTuple):
    """What the letters of a word depend on; ``matrix`` is the word's within a pixel."""

    path: str
    line: Line | None
    fill: Numbers
    matrix: Matrix
    inks: Inks


Placed = tuple[skia.Image, int, int]
"""A picture, and where its corner is."""


@lru_cache(maxsize=128)
def letters_picture(letters: Letters) -> Placed:
    """The letters, filled."""
    path = outline(letters.path)
    box = path.getBounds()
    reach = Rect(box.left(), box.top(), box.right(), box.bottom()).grown(1, 1)
    left, top, right, bottom = map(int, reach_of(letters.matrix, reach))
    pixels = np.zeros((bottom - top, right - left, 4), np.uint8)
    canvas = surface_on(pixels).getCanvas()
    canvas.translate(-left, -top)
    canvas.concat(skia_matrix(letters.matrix))
    canvas.drawPath(path, fill(letters.inks, letters.line, letters.fill))
    return picture_of(pixels), left, top


@lru_cache(maxsize=96)
def shifted_picture(upright: Under, dx: float, dy: float) -> Placed:
    """Shadow and outlines of a word moved by a part of a pixel; words move by quarters."""
    image, left, top = under_picture(upright)
    if not dx and not dy:
        return image, left, top
    pixels = np.zeros((image.height() + 1, image.width() + 1, 4), np.uint8)
    surface_on(pixels).getCanvas().drawImage(image, dx, dy, LINEAR)
    return picture_of(pixels), left, top


@lru_cache(maxsize=128)
def under_picture(under: Under) -> Placed:
    """Shadow and outlines as they are drawn, no larger than what is seen of them."""
    left, top, right, bottom = map(int, reach_of(under.matrix, under.reach))
    pixels = np.zeros((bottom - top + 2, right - left + 2, 4), np.uint8)
    canvas = surface_on(pixels).getCanvas()
    canvas.translate(1 - left, 1 - top)
    canvas.concat(skia_matrix(under.matrix))
    path = outline(under.path)
    inks, rims = under.inks, under.outlines
    shape = stroke(inks, rims[0]) if rims else plain(inks, under.fill[:4])
    _shadow(canvas, path, shape, under)
    for rim in rims:
        canvas.drawPath(path, stroke(inks, rim))
    seen = pixels[..., 3]
    rows, columns = np.flatnonzero(seen.any(axis=1)), np.flatnonzero(seen.any(axis=0))
    if not len(rows):
        return picture_of(pixels[:1, :1]), left, top
    # Pictures are moved with a pixel of nothing around them, so that their edges stay soft.
    y0, y1 = max(0, rows[0] - 1), rows[-1] + 2
    x0, x1 = max(0, columns[0] - 1), columns[-1] + 2
    return picture_of(pixels[y0:y1, x0:x1]), left - 1 + int(x0), top - 1 + int(y0)


def _shadow(canvas: skia.Canvas, path: skia.Path, shape: skia.Paint, under: Under) -> None:
    """The blurred shape; a fading shape fades its shadow."""
    drop = under.shadow
    if drop is None:
        return
    red, green, blue, alpha = under.inks.colour(drop.colour)
    dark = skia.Paint(shape)
    dark.setColor(skia.ColorSetARGB(int(alpha * shape.getAlpha() / 255 + 0.5), red, green, blue))
    if drop.blur:
        sigma = drop.blur / 2
        dark.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, sigma, True))
    canvas.save()
    canvas.translate(drop.dx, drop.dy)
    canvas.drawPath(path, dark)
    canvas.restore()


def surface_on(pixels: Pixels) -> skia.Surface:
    """A surface that paints into premultiplied BGRA of shape (h, w, 4).

    Skia's blitters for its native order round as the browser's do; for others they round up, which
    adds up to 8 of 255 where the shadows of several words overlap.
    """
    height, width = pixels.shape[:2]
    info = skia.ImageInfo.Make(width, height, skia.kBGRA_8888_ColorType, skia.kPremul_AlphaType)
    return skia.Surface.MakeRasterDirect(info, pixels)


def skia_matrix(m: Matrix) -> skia.Matrix:
    """A matrix as Skia takes it."""
    return skia.Matrix.MakeAll(m[0], m[2], m[4], m[1], m[3], m[5], 0, 0, 1)


def png(pixels: Pixels) -> bytes:
    """RGBA pixels of shape (h, w, 4), not premultiplied, as a PNG."""
    image = skia.Image.fromarray(pixels, colorType=skia.kRGBA_8888_ColorType)
    return bytes(image.encodeToData(skia.kPNG, 100))


def jpeg(pixels: Pixels) -> bytes:
    """The same as a JPEG, without its opacity."""
    image = skia.Image.fromarray(pixels, colorType=skia.kRGBA_8888_ColorType)
    return bytes(image.encodeToData(skia.kJPEG, 92))
