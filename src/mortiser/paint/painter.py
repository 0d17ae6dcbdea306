"""Paint a scene's moment with Skia, by the steps written in core.scene."""

from __future__ import annotations

import math
from collections.abc import Iterator
from contextlib import contextmanager
from functools import lru_cache

import numpy as np
import skia

from mortiser.core.common.errors import NotFound
from mortiser.core.style.layout.rect import Rect
from mortiser.emoji import emoji_png
from mortiser.paint.inks import SEEN, Inks, Pixels, fill, picture_of, plain, rounded_stroke
from mortiser.paint.outlines import outline
from mortiser.paint.pictures import (
    LINEAR,
    Letters,
    Under,
    letters_picture,
    shifted_picture,
    skia_matrix,
    surface_on,
    under_picture,
)
from mortiser.paint.state import (
    STILL,
    CueState,
    Matrix,
    PathState,
    PictureState,
    RectState,
    StampState,
    State,
    WaveState,
    cue_reach,
    reach_of,
    reaches,
    upright,
)
from mortiser.pictures import sized_png

Area = tuple[int, int, int, int]
"""Left, top, right, bottom in frame pixels, half open."""
NOWHERE: Area = (0, 0, 0, 0)
FAR = 10_000.0
"""Above and below all letters."""


def area_of(state: State, width: int, height: int) -> Area:
    """Frame pixels that a moment may touch, on even edges; empty where nothing shows."""
    boxes = list(reaches(state))
    if not boxes:
        return NOWHERE
    left, top = min(box[0] for box in boxes), min(box[1] for box in boxes)
    right, bottom = max(box[2] for box in boxes), max(box[3] for box in boxes)
    return even_area(Rect(left, top, right, bottom), (0, 0, width, height))


def even_area(box: Rect, within: Area) -> Area:
    """The part of an area (on even edges) that a box may touch, on even edges; empty where it is outside."""
    left, top, right, bottom = box
    found = (
        max(within[0], int(left) - 1 & ~1),
        max(within[1], int(top) - 1 & ~1),
        min(within[2], int(right) + 2 & ~1),
        min(within[3], int(bottom) + 2 & ~1),
    )
    return found if found[0] < found[2] and found[1] < found[3] else NOWHERE


def paint(state: State, area: Area, inks: Inks = SEEN) -> Pixels:
    """The moment painted on nothing: premultiplied BGRA of shape (h, w, 4) for an area."""
    left, top, right, bottom = area
    pixels = np.zeros((bottom - top, right - left, 4), np.uint8)
    canvas = surface_on(pixels).getCanvas()
    canvas.translate(-left, -top)
    draw(canvas, state, inks)
    return pixels


def draw(canvas: skia.Canvas, state: State, inks: Inks = SEEN) -> None:
    """Draw the moment in frame coordinates."""
    brush = _Brush(canvas, inks)
    for cue in state:
        if cue.opacity >= 1:
            brush.cue(cue)
        elif cue.parts:
            canvas.saveLayerAlpha(skia.Rect.MakeLTRB(*cue_reach(cue)), _alpha(cue.opacity))
            brush.cue(cue)
            canvas.restore()


class _Brush:
    """Draws on one canvas in one kind of inks."""

    def __init__(self, canvas: skia.Canvas, inks: Inks) -> None:
        self._canvas = canvas
        self._inks = inks

    def cue(self, cue: CueState) -> None:
        """One caption."""
        for plate in cue.plates:
            self._plate(plate)
        for rect in cue.rects:
            self._rect(rect)
        whole = [item for item in cue.paths if item.opacity >= 1]
        for item in whole:
            self._under(item)
        for item in whole:
            self._fill(item)
        for item in cue.paths:
            if item.opacity < 1:
                bounds = skia.Rect.MakeLTRB(*reach_of(item.matrix, item.item.reach))
                self._canvas.saveLayerAlpha(bounds, _alpha(item.opacity))
                self._under(item)
                self._fill(item)
                self._canvas.restore()
        for stamp in cue.stamps:
            self._stamp(stamp)
        for picture in cue.pictures:
            self._picture(picture)
        for wave in cue.waves:
            self._wave(wave)

    def _plate(self, plate: PathState) -> None:
        red, green, blue, alpha = plate.fill
        faded = (red, green, blue, int(alpha * plate.opacity + 0.5))
        with _moved(self._canvas, plate.matrix):
            self._canvas.drawPath(outline(plate.item.path), plain(self._inks, faded))

    def _rect(self, rect: RectState) -> None:
        x, y, w, h = rect.box
        radius = max(0.0, min(rect.item.radius, w / 2, h / 2))
        with _moved(self._canvas, rect.matrix):
            box = skia.Rect.MakeXYWH(x, y, w, h)
            self._canvas.drawRoundRect(box, radius, radius, plain(self._inks, rect.item.fill))

    def _stamp(self, stamp: StampState) -> None:
        side = stamp.item.side
        with _moved(self._canvas, stamp.matrix):
            self._canvas.drawImageRect(
                _stamp_image(stamp.item.emoji, round(side), self._inks),
                skia.Rect.MakeWH(side, side),
                LINEAR,
                skia.Paint(Alpha=_alpha(stamp.opacity)),
            )

    def _picture(self, state: PictureState) -> None:
        item = state.item
        try:
            image = _own_image(item.picture, item.width, item.height, self._inks)
        except NotFound:
            return  # It is said where pictures are chosen; a delivery goes on without it.
        # Filled with, not drawn: edges that lie aslant come out as in the browser then.
        shader = image.makeShader(skia.TileMode.kDecal, skia.TileMode.kDecal, LINEAR)
        with _moved(self._canvas, state.matrix):
            box = skia.Rect.MakeWH(item.width, item.height)
            pen = skia.Paint(AntiAlias=True, Shader=shader)
            self._canvas.drawRoundRect(box, item.radius, item.radius, pen)

    def _wave(self, state: WaveState) -> None:
        item = state.item
        path = skia.PathBuilder()
        for mark, level in zip(item.marks, state.levels, strict=True):
            x, y = mark.x + mark.dx * level, mark.y + mark.dy * level
            if item.joined:
                (path.lineTo if mark is not item.marks[0] else path.moveTo)(x, y)
                continue
            back = level if item.both else 0.0
            path.moveTo(mark.x - mark.dx * back, mark.y - mark.dy * back)
            path.lineTo(x, y)
        with _moved(self._canvas, state.matrix):
            self._canvas.drawPath(path.detach(), rounded_stroke(self._inks, item.thick, item.fill))

    def _under(self, state: PathState) -> None:
        """Shadow and outlines of a word, from a picture of them.

        At rest the picture is of just where the word stands. While the word moves, one of the word
        upright is moved along: drawing it anew for each frame took most of the time.
        """
        item = state.item
        if not item.outlines and item.shadow is None:
            return
        fill_ = () if item.outlines else state.fill
        under = Under(item.path, item.reach, item.outlines, item.shadow, fill_, STILL, self._inks)
        x, y, within = _parted(state.matrix)
        if state.steady:
            image, dx, dy = under_picture(under._replace(matrix=within))
        elif upright(state.matrix):
            image, dx, dy = shifted_picture(under, within[4], within[5])
        else:
            image, left, top = under_picture(under)
            with _moved(self._canvas, state.matrix):
                self._canvas.drawImage(image, left, top, LINEAR)
            return
        self._canvas.drawImage(image, x + dx, y + dy)

    def _fill(self, state: PathState) -> None:
        """The letters of a word; from a picture where they are likely to be painted again."""
        item = state.item
        if state.ink is None and (state.steady or upright(state.matrix)):
            x, y, within = _parted(state.matrix)
            letters = Letters(item.path, item.line, state.fill, within, self._inks)
            image, dx, dy = letters_picture(letters)
            self._canvas.drawImage(image, x + dx, y + dy)
            return
        path = outline(item.path)
        with _moved(self._canvas, state.matrix):
            self._canvas.drawPath(path, fill(self._inks, item.line, state.fill))
            if state.ink is not None:
                colours, left, right = state.ink
                self._canvas.clipRect(skia.Rect.MakeLTRB(left, -FAR, right, FAR), doAntiAlias=True)
                self._canvas.drawPath(path, fill(self._inks, item.line, colours))


def _parted(matrix: Matrix) -> tuple[int, int, Matrix]:
    """Whole pixels, and the matrix within one."""
    a, b, c, d, e, f = matrix
    x, y = math.floor(e), math.floor(f)
    return x, y, (a, b, c, d, e - x, f - y)


@contextmanager
def _moved(canvas: skia.Canvas, matrix: Matrix) -> Iterator[None]:
    canvas.save()
    canvas.concat(skia_matrix(matrix))
    yield
    canvas.restore()


@lru_cache(maxsize=64)
def _stamp_image(emoji: str, side: int, inks: Inks) -> skia.Image:
    return _image_of(emoji_png(emoji, side), inks)


@lru_cache(maxsize=32)
def _own_image(digest: str, width: int, height: int, inks: Inks) -> skia.Image:
    return _image_of(sized_png(digest, width, height), inks)


def _image_of(png: bytes, inks: Inks) -> skia.Image:
    image = skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(png))
    seen = image.toarray(colorType=skia.kBGRA_8888_ColorType, alphaType=skia.kPremul_AlphaType)
    return picture_of(inks.picture(seen))


def _alpha(opacity: float) -> int:
    return int(opacity * 255 + 0.5)
