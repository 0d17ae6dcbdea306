"""Paint a scene's moment with Skia, by the steps written in core.scene."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import numpy.typing as npt
import skia
from fontTools.pens.basePen import BasePen
from fontTools.svgLib.path import parse_path

from mortiser.core.scene.model import Bounds, Drop, Stroke
from mortiser.emoji import emoji_png
from mortiser.paint.state import (
    STILL,
    CueState,
    Matrix,
    PathState,
    RectState,
    StampState,
    State,
    cue_reach,
    reach_of,
    reaches,
)

Pixels = npt.NDArray[np.uint8]
Area = tuple[int, int, int, int]
"""Left, top, right, bottom in frame pixels, half open."""


_Point = tuple[float, float]


class _SkiaPen(BasePen):  # type: ignore[misc]
    """Draws into a skia.PathBuilder."""

    def __init__(self) -> None:
        super().__init__(None)
        self.builder = skia.PathBuilder()

    def _moveTo(self, pt: _Point) -> None:  # noqa: N802
        self.builder.moveTo(*pt)

    def _lineTo(self, pt: _Point) -> None:  # noqa: N802
        self.builder.lineTo(*pt)

    def _curveToOne(self, a: _Point, b: _Point, c: _Point) -> None:  # noqa: N802
        self.builder.cubicTo(*a, *b, *c)

    def _qCurveToOne(self, a: _Point, b: _Point) -> None:  # noqa: N802
        self.builder.quadTo(*a, *b)

    def _closePath(self) -> None:  # noqa: N802
        self.builder.close()


@lru_cache(maxsize=5_000)
def outline(svg: str) -> skia.Path:
    pen = _SkiaPen()
    parse_path(svg, pen)
    return pen.builder.detach()


def area_of(state: State, width: int, height: int) -> Area:
    """Frame pixels that a moment may touch, on even edges; empty where nothing shows."""
    boxes = list(reaches(state))
    if not boxes:
        return 0, 0, 0, 0
    left, top = min(box[0] for box in boxes), min(box[1] for box in boxes)
    right, bottom = max(box[2] for box in boxes), max(box[3] for box in boxes)
    found = (
        max(0, int(left) - 1) & ~1,
        max(0, int(top) - 1) & ~1,
        min(width, (int(right) + 2) & ~1),
        min(height, (int(bottom) + 2) & ~1),
    )
    return found if found[0] < found[2] and found[1] < found[3] else (0, 0, 0, 0)


def paint(state: State, area: Area) -> Pixels:
    """The moment painted on nothing: premultiplied BGRA of shape (h, w, 4) for an area."""
    left, top, right, bottom = area
    pixels = np.zeros((bottom - top, right - left, 4), np.uint8)
    surface = skia.Surface.MakeRasterDirect(_image_info(right - left, bottom - top), pixels)
    canvas = surface.getCanvas()
    canvas.translate(-left, -top)
    draw(canvas, state)
    return pixels


def _image_info(width: int, height: int) -> skia.ImageInfo:
    # Skia's blitters for its native order round as the browser's do; for others they round up,
    # which adds up to 8 of 255 where the shadows of several words overlap.
    return skia.ImageInfo.Make(width, height, skia.kBGRA_8888_ColorType, skia.kPremul_AlphaType)


def draw(canvas: skia.Canvas, state: State) -> None:
    """Draw the moment in frame coordinates."""
    for cue in state:
        if cue.opacity >= 1:
            _draw_cue(canvas, cue)
        elif cue.parts:
            canvas.saveLayerAlpha(skia.Rect.MakeLTRB(*cue_reach(cue)), _alpha(cue.opacity))
            _draw_cue(canvas, cue)
            canvas.restore()


def _draw_cue(canvas: skia.Canvas, cue: CueState) -> None:
    for plate in cue.plates:
        canvas.save()
        canvas.concat(_skia(plate.matrix))
        red, green, blue, alpha = plate.fill
        canvas.drawPath(
            outline(plate.item.path), _colour((red, green, blue, int(alpha * plate.opacity + 0.5)))
        )
        canvas.restore()
    for rect in cue.rects:
        _draw_rect(canvas, rect)
    whole = [item for item in cue.paths if item.opacity >= 1]
    for item in whole:
        _draw_under(canvas, item)
    for item in whole:
        _draw_fill(canvas, item)
    for item in cue.paths:
        if item.opacity < 1:
            bounds = skia.Rect.MakeLTRB(*reach_of(item.matrix, item.item.reach))
            canvas.saveLayerAlpha(bounds, _alpha(item.opacity))
            _draw_under(canvas, item)
            _draw_fill(canvas, item)
            canvas.restore()
    for stamp in cue.stamps:
        _draw_stamp(canvas, stamp)


def _draw_rect(canvas: skia.Canvas, rect: RectState) -> None:
    x, y, w, h = rect.box
    radius = max(0.0, min(rect.item.radius, w / 2, h / 2))
    canvas.save()
    canvas.concat(_skia(rect.matrix))
    box = skia.Rect.MakeXYWH(x, y, w, h)
    canvas.drawRoundRect(box, radius, radius, _colour(rect.item.fill))
    canvas.restore()


def _draw_stamp(canvas: skia.Canvas, stamp: StampState) -> None:
    side = stamp.item.side
    image = _stamp_image(stamp.item.emoji, round(side))
    canvas.save()
    canvas.concat(_skia(stamp.matrix))
    canvas.drawImageRect(
        image,
        skia.Rect.MakeWH(side, side),
        skia.SamplingOptions(skia.FilterMode.kLinear),
        skia.Paint(Alpha=_alpha(stamp.opacity)),
    )
    canvas.restore()


@lru_cache(maxsize=64)
def _stamp_image(emoji: str, side: int) -> skia.Image:
    return skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(emoji_png(emoji, side)))


def _draw_under(canvas: skia.Canvas, state: PathState) -> None:
    """Shadow and outlines of a word, from a picture of them.

    At rest the picture is of just where the word stands, and laid down pixel by pixel. While the word
    moves, one of the word upright is moved along: drawing it anew for each frame took most of the time.
    """
    item = state.item
    if not item.outlines and item.shadow is None:
        return
    fill = () if item.outlines else state.fill
    under = _Under(item.path, item.reach, item.outlines, item.shadow, fill, STILL)
    if not state.steady:
        image, left, top = _under_picture(under)
        canvas.save()
        canvas.concat(_skia(state.matrix))
        canvas.drawImage(image, left, top, skia.SamplingOptions(skia.FilterMode.kLinear))
        canvas.restore()
        return
    a, b, c, d, e, f = state.matrix
    x, y = math.floor(e), math.floor(f)
    image, dx, dy = _under_picture(under._replace(matrix=(a, b, c, d, e - x, f - y)))
    canvas.drawImage(image, x + dx, y + dy)


class _Under(NamedTuple):
    """What a word's shadow and outlines depend on; its matrix within a pixel."""

    path: str
    reach: Bounds
    outlines: tuple[Stroke, ...]
    shadow: Drop | None
    fill: tuple[int, ...]
    matrix: Matrix


@lru_cache(maxsize=128)
def _under_picture(under: _Under) -> tuple[skia.Image, int, int]:
    """The picture, and where its corner is."""
    left, top, right, bottom = map(int, reach_of(under.matrix, under.reach))
    surface = skia.Surface.MakeRaster(_image_info(right - left + 2, bottom - top + 2))
    canvas = surface.getCanvas()
    canvas.translate(1 - left, 1 - top)
    canvas.concat(_skia(under.matrix))
    path = outline(under.path)
    shape = _stroke(under.outlines[0]) if under.outlines else _colour(under.fill[:4])
    _shadow(canvas, path, shape, under.shadow)
    for rim in under.outlines:
        canvas.drawPath(path, _stroke(rim))
    return surface.makeImageSnapshot(), left - 1, top - 1


def _draw_fill(canvas: skia.Canvas, state: PathState) -> None:
    item = state.item
    canvas.save()
    canvas.concat(_skia(state.matrix))
    path = outline(item.path)
    canvas.drawPath(path, _fill(item.line, state.fill))
    if state.ink is not None:
        colours, left, right = state.ink
        canvas.clipRect(skia.Rect.MakeLTRB(left, -FAR, right, FAR), doAntiAlias=True)
        canvas.drawPath(path, _fill(item.line, colours))
    canvas.restore()


FAR = 10_000.0
"""Above and below all letters."""


def _shadow(canvas: skia.Canvas, path: skia.Path, shape: skia.Paint, drop: Drop | None) -> None:
    """The blurred shape; a fading shape fades its shadow."""
    if drop is None:
        return
    red, green, blue, alpha = drop.colour
    dark = skia.Paint(shape)
    dark.setColor(skia.ColorSetARGB(int(alpha * shape.getAlpha() / 255 + 0.5), red, green, blue))
    if drop.blur:
        sigma = drop.blur / 2
        dark.setMaskFilter(skia.MaskFilter.MakeBlur(skia.kNormal_BlurStyle, sigma, True))
    canvas.save()
    canvas.translate(drop.dx, drop.dy)
    canvas.drawPath(path, dark)
    canvas.restore()


def _stroke(rim: Stroke) -> skia.Paint:
    stroke = _colour(rim.colour)
    stroke.setStyle(skia.Paint.kStroke_Style)
    stroke.setStrokeWidth(2 * rim.width)
    stroke.setStrokeJoin(skia.Paint.kRound_Join)
    return stroke


def _fill(line: Bounds | None, colours: tuple[int, ...]) -> skia.Paint:
    """A plain colour (four numbers) or a gradient along the word's line (eight)."""
    if line is None or len(colours) == 4:
        return _colour(colours[:4])
    first, last = colours[:4], colours[4:]
    if first == last:
        return _colour(first)
    x0, y0, x1, y1 = line
    paint_ = skia.Paint(AntiAlias=True)
    paint_.setShader(
        skia.GradientShader.MakeLinear(
            [skia.Point(x0, y0), skia.Point(x1, y1)],
            [skia.ColorSetARGB(c[3], c[0], c[1], c[2]) for c in (first, last)],
        )
    )
    return paint_


def _colour(colour: tuple[int, ...]) -> skia.Paint:
    red, green, blue, alpha = colour
    return skia.Paint(AntiAlias=True, Color=skia.ColorSetARGB(alpha, red, green, blue))


def _alpha(opacity: float) -> int:
    return int(opacity * 255 + 0.5)


def _skia(m: Matrix) -> skia.Matrix:
    return skia.Matrix.MakeAll(m[0], m[2], m[4], m[1], m[3], m[5], 0, 0, 1)
