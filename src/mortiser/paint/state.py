"""A scene read at one moment: the numbers a painter needs, equal when nothing moved."""

from __future__ import annotations

from dataclasses import dataclass

from mortiser.core.motion.track import value_at
from mortiser.core.scene import PathItem, RectItem, Shows


@dataclass(frozen=True, slots=True)
class RectState:
    """A plank now: box (x, y, w, h) with its move added, fill and opacity."""

    item: RectItem
    box: tuple[float, ...]
    opacity: float


@dataclass(frozen=True, slots=True)
class PathState:
    """A word now."""

    item: PathItem
    fill: tuple[int, ...]
    opacity: float
    x: float
    y: float
    scale: float


State = tuple[tuple[RectState, ...], tuple[PathState, ...]]


def state_at(scene: Shows, at_us: int) -> State:
    """What shows at a moment of the piece."""
    rects: list[RectState] = []
    paths: list[PathState] = []
    for cue in scene.at(at_us):
        for rect in cue.rects:
            (opacity,) = value_at(rect.opacity, at_us)
            dx, dy = value_at(rect.move, at_us)
            x, y, w, h = value_at(rect.box, at_us)
            if opacity > 0:
                rects.append(RectState(rect, (x + dx, y + dy, w, h), opacity))
        for item in cue.paths:
            (opacity,) = value_at(item.opacity, at_us)
            if opacity <= 0:
                continue
            dx, dy = value_at(item.move, at_us)
            (scale,) = value_at(item.scale, at_us)
            fill = tuple(int(v + 0.5) for v in value_at(item.fill, at_us))
            paths.append(PathState(item, fill, opacity, item.x + dx, item.y + dy, scale))
    return tuple(rects), tuple(paths)
