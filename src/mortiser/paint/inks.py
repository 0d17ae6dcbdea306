"""What a scene's colours are painted as: themselves, or what a video's planes hold for them."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt
import skia

from mortiser.core.scene.model import Line, Stroke

FOOT, GREY = 16, 128
"""Black in a limited range, and no colour, in the planes."""
STEPS = 256
"""Colours of a gradient; more could not be told apart in eight bits."""

Pixels = npt.NDArray[np.uint8]
Numbers = tuple[int, ...]
"""Red, green, blue, opacity."""


@dataclass(frozen=True)
class Inks:
    """Colours as they are seen: ``SEEN``. Subclasses write them down in other terms."""

    def colour(self, colour: Numbers) -> Numbers:
        """A colour (0 to 255, not premultiplied) as it is painted."""
        return colour

    def picture(self, pixels: Pixels) -> Pixels:
        """Premultiplied BGRA of shape (h, w, 4) as it is painted."""
        return pixels


@dataclass(frozen=True)
class PlaneInks(Inks):
    """Luma in the place of red, blue difference in that of green, red difference in that of blue.

    Going over to them is a matrix and an offset, and so are blending, fading from colour to colour
    and gradients: what is painted in these terms is what would come of the painted colours. ``kr``
    and ``kb`` are the weights of red and blue in luma (ITU-R BT.709-6 and BT.601-7).
    """

    kr: float
    kb: float
    full: bool

    def colour(self, colour: Numbers) -> Numbers:
        """Luma, blue and red difference, opacity."""
        return _in_planes(self, colour)

    def picture(self, pixels: Pixels) -> Pixels:
        """V, U, Y, opacity; still premultiplied."""
        turn, offset = _matrix(self)
        opacity = pixels[..., 3:].astype(np.float64)
        planes = pixels[..., 2::-1] @ turn.T + offset * opacity / 255
        found = np.concatenate([planes[..., ::-1], opacity], axis=2)
        # No more than its opacity, which rounding could pass.
        turned: Pixels = np.clip(np.rint(found), 0, opacity).astype(np.uint8)
        return turned


@lru_cache(maxsize=8)
def _matrix(inks: PlaneInks) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    luma = np.array([inks.kr, 1 - inks.kr - inks.kb, inks.kb])
    blue = (np.array([0, 0, 1]) - luma) / (2 - 2 * inks.kb)
    red = (np.array([1, 0, 0]) - luma) / (2 - 2 * inks.kr)
    scale = (1.0, 1.0, 1.0) if inks.full else (219 / 255, 224 / 255, 224 / 255)
    turn = np.stack([luma, blue, red]) * np.array(scale)[:, None]
    return turn, np.array([0 if inks.full else FOOT, GREY, GREY], np.float64)


@lru_cache(maxsize=5_000)
def _in_planes(inks: PlaneInks, colour: Numbers) -> Numbers:
    turn, offset = _matrix(inks)
    y, u, v = np.clip(np.rint(turn @ np.array(colour[:3]) + offset), 0, 255).astype(int).tolist()
    return y, u, v, colour[3]


SEEN = Inks()


@lru_cache(maxsize=1_000)
def plain(inks: Inks, colour: Numbers) -> skia.Paint:
    """A colour; not to be changed."""
    red, green, blue, alpha = inks.colour(colour)
    return skia.Paint(AntiAlias=True, Color=skia.ColorSetARGB(alpha, red, green, blue))


@lru_cache(maxsize=200)
def stroke(inks: Inks, rim: Stroke) -> skia.Paint:
    """The pen of an outline; not to be changed."""
    pen = skia.Paint(plain(inks, rim.colour))
    pen.setStyle(skia.Paint.kStroke_Style)
    pen.setStrokeWidth(2 * rim.width)
    pen.setStrokeJoin(skia.Paint.kRound_Join)
    return pen


@lru_cache(maxsize=64)
def rounded_stroke(inks: Inks, thick: float, colour: Numbers) -> skia.Paint:
    """A pen with round ends and joins; not to be changed."""
    pen = skia.Paint(plain(inks, colour))
    pen.setStyle(skia.Paint.kStroke_Style)
    pen.setStrokeWidth(thick)
    pen.setStrokeJoin(skia.Paint.kRound_Join)
    pen.setStrokeCap(skia.Paint.kRound_Cap)
    return pen


def fill(inks: Inks, line: Line | None, colours: Numbers) -> skia.Paint:
    """A plain colour (four numbers) or a gradient along the word's line (eight)."""
    first, last = colours[:4], colours[4:]
    if line is None or not last or first == last:
        return plain(inks, first)
    return skia.Paint(AntiAlias=True, Shader=_along(_ramp(inks, first, last), line))


def _along(ramp: skia.Image, line: Line) -> skia.Shader:
    """A column of colours, stretched along a line.

    Skia's own gradients cost five times as much as this, which is looked up like a picture; quickest
    where the line runs down.
    """
    x0, y0, x1, y1 = line
    matrix = skia.Matrix.Translate(x0, y0)
    matrix.preRotate(math.degrees(math.atan2(y1 - y0, x1 - x0)) - 90)
    matrix.preScale(1, math.hypot(x1 - x0, y1 - y0) / STEPS)
    clamp = skia.TileMode.kClamp
    return ramp.makeShader(clamp, clamp, skia.SamplingOptions(skia.FilterMode.kNearest), matrix)


@lru_cache(maxsize=500)
def _ramp(inks: Inks, first: Numbers, last: Numbers) -> skia.Image:
    """One column of ``STEPS`` pixels, from colour to colour."""
    ends = np.array([inks.colour(first), inks.colour(last)], np.float64)
    share = ((np.arange(STEPS) + 0.5) / STEPS)[:, None]
    colours = ends[0] + (ends[1] - ends[0]) * share
    colours[:, :3] *= colours[:, 3:] / 255
    return picture_of(np.rint(colours[:, None, [2, 1, 0, 3]]).astype(np.uint8))


def picture_of(pixels: Pixels) -> skia.Image:
    """An image of premultiplied BGRA of shape (h, w, 4)."""
    return skia.Image.fromarray(
        np.ascontiguousarray(pixels),
        colorType=skia.kBGRA_8888_ColorType,
        alphaType=skia.kPremul_AlphaType,
    )
