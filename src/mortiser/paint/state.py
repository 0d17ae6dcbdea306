"""A scene read at one moment: the numbers a painter needs, equal when nothing moved."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import ceil, cos, floor, radians, sin

from mortiser.core.scene.model import (
    PathItem,
    PictureItem,
    RectItem,
    SceneCue,
    Shows,
    StampItem,
    WaveItem,
)
from mortiser.core.style.layout.rect import Rect
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import Track, value_at

Matrix = tuple[float, float, float, float, float, float]
"""(a, b, c, d, e, f): x' = a x + c y + e, y' = b x + d y + f."""
STILL: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class PathState:
    """A word or a plate now; ``steady`` says that nothing moves it at the moment."""

    item: PathItem
    matrix: Matrix
    fill: tuple[int, ...]
    opacity: float
    steady: bool = True
    ink: tuple[tuple[int, ...], float, float] | None = None

    @property
    def reach(self) -> Rect:
        """Frame pixels it may touch."""
        return reach_of(self.matrix, self.item.reach)


@dataclass(frozen=True, slots=True)
class RectState:
    """A plank now: its box (x, y, w, h)."""

    item: RectItem
    matrix: Matrix
    box: tuple[float, ...]

    @property
    def reach(self) -> Rect:
        """Frame pixels it may touch."""
        x, y, w, h = self.box
        return reach_of(self.matrix, Rect.sized(x, y, w, h).grown(1, 1))


@dataclass(frozen=True, slots=True)
class StampState:
    """An emoji now."""

    item: StampItem
    matrix: Matrix
    opacity: float

    @property
    def reach(self) -> Rect:
        """Frame pixels it may touch."""
        side = self.item.side + 1
        return reach_of(self.matrix, Rect(-1, -1, side, side))


@dataclass(frozen=True, slots=True)
class PictureState:
    """A picture now."""

    item: PictureItem
    matrix: Matrix

    @property
    def reach(self) -> Rect:
        """Frame pixels it may touch."""
        return reach_of(self.matrix, Rect(-1, -1, self.item.width + 1, self.item.height + 1))


@dataclass(frozen=True, slots=True)
class WaveState:
    """A wave now: the level of each of its marks."""

    item: WaveItem
    matrix: Matrix
    levels: tuple[float, ...]

    @property
    def reach(self) -> Rect:
        """Frame pixels it may touch."""
        return reach_of(self.matrix, self.item.reach)


PartState = PathState | RectState | StampState | PictureState | WaveState


@dataclass(frozen=True, slots=True)
class CueState:
    """A caption now."""

    opacity: float
    plates: tuple[PathState, ...]
    rects: tuple[RectState, ...]
    paths: tuple[PathState, ...]
    stamps: tuple[StampState, ...]
    pictures: tuple[PictureState, ...] = ()
    waves: tuple[WaveState, ...] = ()

    @property
    def parts(self) -> tuple[PartState, ...]:
        """All that is painted of it."""
        return (
            *self.plates,
            *self.rects,
            *self.paths,
            *self.stamps,
            *self.pictures,
            *self.waves,
        )


State = tuple[CueState, ...]


def state_at(scene: Shows, at_us: int) -> State:
    """What shows at a moment of the piece."""
    return tuple(_cue(cue, at_us) for cue in scene.at(at_us) if _opacity(cue.layers, at_us) > 0)


def _cue(cue: SceneCue, at_us: int) -> CueState:
    outer = _matrix(STILL, cue.layers, at_us)
    steady = _steady(cue.layers, at_us)
    stamps = []
    for stamp in cue.stamps:
        opacity = _opacity(stamp.layers, at_us)
        if opacity > 0:
            inner = _matrix(outer, stamp.layers, at_us)
            stamps.append(StampState(stamp, _placed(inner, stamp.x, stamp.y), opacity))
    return CueState(
        _opacity(cue.layers, at_us),
        tuple(_paths(cue.plates, outer, steady, at_us)),
        tuple(RectState(rect, outer, value_at(rect.box, at_us)) for rect in cue.rects),
        tuple(_paths(cue.paths, outer, steady, at_us)),
        tuple(stamps),
        tuple(PictureState(one, _placed(outer, one.x, one.y)) for one in cue.pictures),
        tuple(
            WaveState(one, outer, tuple(one.level(at_us - mark.age_us) for mark in one.marks))
            for one in cue.waves
        ),
    )


def _paths(
    items: Iterable[PathItem], outer: Matrix, steady: bool, at_us: int
) -> Iterable[PathState]:
    for item in items:
        opacity = _opacity(item.layers, at_us)
        if opacity <= 0:
            continue
        ink = None
        if item.ink is not None:
            left, right = value_at(item.ink.span, at_us)
            ink = (_whole(item.ink.fill, at_us), left, right) if right > left else None
        yield PathState(
            item,
            _placed(_matrix(outer, item.layers, at_us), item.x, item.y),
            _whole(item.fill, at_us),
            opacity,
            steady and _steady(item.layers, at_us),
            ink,
        )


def _whole(track: Track, at_us: int) -> tuple[int, ...]:
    return tuple(int(v + 0.5) for v in value_at(track, at_us))


def _opacity(layers: tuple[MotionLayer, ...], at_us: int) -> float:
    opacity = 1.0
    for layer in layers:
        if layer.opacity is not None:
            opacity *= value_at(layer.opacity, at_us)[0]
    return opacity


def _steady(layers: tuple[MotionLayer, ...], at_us: int) -> bool:
    return all(
        track is None or at_us <= track[0].at_us or at_us >= track[-1].at_us
        for layer in layers
        for track in (layer.move, layer.scale, layer.turn)
    )


def _matrix(matrix: Matrix, layers: tuple[MotionLayer, ...], at_us: int) -> Matrix:
    for layer in layers:
        dx, dy = value_at(layer.move, at_us) if layer.move else (0.0, 0.0)
        scale = value_at(layer.scale, at_us)[0] if layer.scale else 1.0
        turn = radians(value_at(layer.turn, at_us)[0]) if layer.turn else 0.0
        if turn == 0 and scale == 1:
            matrix = _moved(matrix, dx, dy)
            continue
        px, py = layer.pivot
        a, b = scale * cos(turn), scale * sin(turn)
        own = (a, b, -b, a, px + dx - a * px + b * py, py + dy - b * px - a * py)
        matrix = _times(matrix, own)
    return matrix


def _times(m: Matrix, n: Matrix) -> Matrix:
    return (
        m[0] * n[0] + m[2] * n[1],
        m[1] * n[0] + m[3] * n[1],
        m[0] * n[2] + m[2] * n[3],
        m[1] * n[2] + m[3] * n[3],
        m[0] * n[4] + m[2] * n[5] + m[4],
        m[1] * n[4] + m[3] * n[5] + m[5],
    )


def _moved(m: Matrix, x: float, y: float) -> Matrix:
    return (m[0], m[1], m[2], m[3], m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5])


def _placed(m: Matrix, x: float, y: float) -> Matrix:
    """An item's own matrix: where nothing scales or turns it, it stands on quarters of a pixel."""
    placed = _moved(m, x, y)
    if not upright(placed):
        return placed
    a, b, c, d, e, f = placed
    return a, b, c, d, floor(4 * e + 0.5) / 4, floor(4 * f + 0.5) / 4


def upright(matrix: Matrix) -> bool:
    """Whether it only shifts."""
    return matrix[:4] == STILL[:4]


def reach_of(matrix: Matrix, box: Rect) -> Rect:
    """Frame pixels that a box in an item's own pixels covers, on whole pixels."""
    xs, ys = [], []
    for x, y in ((box[0], box[1]), (box[2], box[1]), (box[0], box[3]), (box[2], box[3])):
        xs.append(matrix[0] * x + matrix[2] * y + matrix[4])
        ys.append(matrix[1] * x + matrix[3] * y + matrix[5])
    return Rect(floor(min(xs)), floor(min(ys)), ceil(max(xs)), ceil(max(ys)))


def reaches(state: State) -> Iterable[Rect]:
    """Where each caption of a moment may paint, in frame pixels."""
    for cue in state:
        if cue.parts:
            yield cue_reach(cue)


def changed(before: State, after: State) -> Rect | None:
    """Where two moments may look different, in frame pixels; None where other things show."""
    if len(before) != len(after):
        return None
    boxes: list[Rect] = []
    for was, now in zip(before, after, strict=True):
        same = len(was.parts) == len(now.parts) and was.opacity == now.opacity
        if not same or any(a.item is not b.item for a, b in zip(was.parts, now.parts, strict=True)):
            return None
        for old, new in zip(was.parts, now.parts, strict=True):
            if old != new:
                boxes += [old.reach, new.reach]
    if not boxes:
        return None
    lefts, tops, rights, bottoms = zip(*boxes, strict=True)
    return Rect(min(lefts), min(tops), max(rights), max(bottoms))


def cue_reach(cue: CueState) -> Rect:
    """Where a caption may paint, in frame pixels."""
    lefts, tops, rights, bottoms = zip(*(part.reach for part in cue.parts), strict=True)
    return Rect(min(lefts), min(tops), max(rights), max(bottoms))
