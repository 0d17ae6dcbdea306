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

from mortiser.core.motion.track import fixed
from mortiser.core.scene import Drop, PathItem, Stroke
from mortiser.paint.state import PathState, RectState, State

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
def _path(svg: str) -> skia.Path:
    pen = _SkiaPen()
    parse_path(svg, pen)
    return pen.builder.detach()


def area_of(state: State, width: int, height: int) -> Area:
    """Frame pixels that a moment may touch, on even edges; empty where nothing shows."""
    left, top, right, bottom = float(width), float(height), 0.0, 0.0
    boxes: list[tuple[float, float, float, float]] = []
    for rect in state[0]:
        x, y, w, h = rect.box
        boxes.append((x - 2, y - 2, x + w + 2, y + h + 2))
    for item in state[1]:
        boxes.append(_reach(item))
    for x0, y0, x1, y1 in boxes:
        left, top = min(left, x0), min(top, y0)
        right, bottom = max(right, x1), max(bottom, y1)
    if right <= left or bottom <= top:
        return 0, 0, 0, 0
    return (
        max(0, int(left)) & ~1,
        max(0, int(top)) & ~1,
        min(width, (int(right) + 2) & ~1),
        min(height, (int(bottom) + 2) & ~1),
    )


def _reach(state: PathState) -> tuple[float, float, float, float]:
    """The word's box with outline and shadow, wherever its scale puts it."""
    bounds = _path(state.item.path).getBounds()
    pad = 2.0 + (state.item.outline.width if state.item.outline else 0.0)
    drop = state.item.shadow
    soft = 1.6 * drop.blur + max(abs(drop.dx), abs(drop.dy)) if drop else 0.0
    pad = (pad + soft) * max(1.0, state.scale)
    px, py = state.item.pivot
    s = state.scale
    return (
        state.x + px + (bounds.left() - px) * s - pad,
        state.y + py + (bounds.top() - py) * s - pad,
        state.x + px + (bounds.right() - px) * s + pad,
        state.y + py + (bounds.bottom() - py) * s + pad,
    )


def paint(state: State, area: Area) -> Pixels:
    """The moment painted on nothing: premultiplied RGBA of shape (h, w, 4) for an area."""
    left, top, right, bottom = area
    pixels = np.zeros((bottom - top, right - left, 4), np.uint8)
    info = skia.ImageInfo.Make(
        right - left, bottom - top, skia.kRGBA_8888_ColorType, skia.kPremul_AlphaType
    )
    surface = skia.Surface.MakeRasterDirect(info, pixels)
    canvas = surface.getCanvas()
    canvas.translate(-left, -top)
    draw(canvas, state)
    return pixels


def draw(canvas: skia.Canvas, state: State) -> None:
    """Draw the moment in frame coordinates."""
    rects, paths = state
    for rect in rects:
        _draw_rect(canvas, rect)
    whole = [item for item in paths if item.opacity >= 1]
    for item in whole:
        if item.scale == 1:
            _draw_resting(canvas, item)
        else:
            _placed(canvas, item, under=True, fill=False)
    for item in whole:
        _placed(canvas, item, under=False, fill=True)
    for item in paths:
        if item.opacity < 1:
            canvas.saveLayerAlpha(None, int(item.opacity * 255 + 0.5))
            _placed(canvas, item, under=True, fill=True)
            canvas.restore()


def _draw_rect(canvas: skia.Canvas, rect: RectState) -> None:
    x, y, w, h = rect.box
    red, green, blue, alpha = rect.item.fill
    paint_ = skia.Paint(AntiAlias=True)
    paint_.setColor(skia.ColorSetARGB(int(alpha * rect.opacity + 0.5), red, green, blue))
    radius = min(rect.item.radius, w / 2, h / 2)
    canvas.drawRoundRect(skia.Rect.MakeXYWH(x, y, w, h), radius, radius, paint_)


def _draw_resting(canvas: skia.Canvas, state: PathState) -> None:
    """Shadow and outline of a word at its size, from a picture kept for as long as it stands."""
    left, top = math.floor(state.x), math.floor(state.y)
    fill = () if state.item.outline is not None else state.fill
    key = _Resting(
        state.item.path, state.item.outline, state.item.shadow, fill, state.x - left, state.y - top
    )
    image, dx, dy = _resting_picture(key)
    if image is not None:
        canvas.drawImage(image, left + dx, top + dy)


class _Resting(NamedTuple):
    """What a resting word's shadow and outline depend on; (x, y) is its place within a pixel."""

    path: str
    outline: Stroke | None
    shadow: Drop | None
    fill: tuple[int, ...]
    x: float
    y: float


@lru_cache(maxsize=48)
def _resting_picture(key: _Resting) -> tuple[skia.Image | None, int, int]:
    still = fixed(0.0, 0.0)
    item = PathItem(
        key.path, 0.0, 0.0, (0.0, 0.0), key.outline, key.shadow, still, still, still, still
    )
    state = PathState(item, key.fill or (0, 0, 0, 255), 1.0, key.x, key.y, 1.0)
    x0, y0, x1, y1 = _reach(state)
    left, top = math.floor(x0), math.floor(y0)
    width, height = math.ceil(x1) - left, math.ceil(y1) - top
    if width <= 0 or height <= 0:
        return None, 0, 0
    surface = skia.Surface(width, height)
    canvas = surface.getCanvas()
    canvas.translate(-left, -top)
    _placed(canvas, state, under=True, fill=False)
    return surface.makeImageSnapshot(), left, top


def _placed(canvas: skia.Canvas, state: PathState, *, under: bool, fill: bool) -> None:
    item = state.item
    px, py = item.pivot
    canvas.save()
    canvas.translate(state.x + px, state.y + py)
    canvas.scale(state.scale, state.scale)
    canvas.translate(-px, -py)
    path = _path(item.path)
    if under and item.outline is not None:
        stroke = _colour(item.outline.colour)
        stroke.setStyle(skia.Paint.kStroke_Style)
        stroke.setStrokeWidth(2 * item.outline.width)
        stroke.setStrokeJoin(skia.Paint.kRound_Join)
        _shadow(canvas, path, stroke, item.shadow, state.scale)
        canvas.drawPath(path, stroke)
    elif under:
        _shadow(canvas, path, _colour(state.fill), item.shadow, state.scale)
    if fill:
        canvas.drawPath(path, _colour(state.fill))
    canvas.restore()


def _shadow(
    canvas: skia.Canvas, path: skia.Path, shape: skia.Paint, drop: Drop | None, scale: float
) -> None:
    """The blurred shape under it, offset in frame pixels; a fading shape fades its shadow."""
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


def _colour(colour: tuple[int, ...]) -> skia.Paint:
    red, green, blue, alpha = colour
    return skia.Paint(AntiAlias=True, Color=skia.ColorSetARGB(alpha, red, green, blue))
