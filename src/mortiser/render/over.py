"""What cutaways show, moment by moment, and where it is put into a frame."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from mortiser.core.assembly.covering import Cover
from mortiser.core.assembly.cutaway import CutawayPlace, RecordingSeen
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.shape import Backdrop, Move
from mortiser.paint.inks import PlaneInks
from mortiser.render.plan import RenderPlan
from mortiser.render.shown_picture import SeenOver, ShownPicture
from mortiser.render.source_readers import PlanReaders
from mortiser.render.transitions import mixed
from mortiser.render.transitions.pair import Three, Weights, blended

LEAST_DRIFT = 0.01
"""What moves less rests."""
Box = tuple[int, int, int, int]
"""Left, top, width and height in even pixels."""


class Covers:
    """The frames of a plan's cutaways; best asked forwards."""

    def __init__(self, plan: RenderPlan, readers: PlanReaders) -> None:
        self._plan = plan
        self._readers = readers
        self._picture: ShownPicture | None = None
        self._cover: Cover | None = None

    def shown(self, cover: Cover, at_us: int) -> SeenOver | None:
        """What is seen of a cutaway, of the size that it has in the frame; None where its picture is not to be had."""
        place, size = cover.cutaway.place, self._plan.size
        if place is not None:
            size = place.box(size)[2:]
        framing = _lying(cover, self._plan.framing(0).backdrop)
        seen, on_us = cover.cutaway.seen, at_us - cover.from_us
        if isinstance(seen, RecordingSeen):
            if seen.source_id not in self._plan.recordings:
                return None
            source_us = cover.seen_us(at_us)
            reader = self._readers.of(seen.source_id, source_us)
            found = reader.at(source_us)
            return None if found is None else SeenOver(reader.fit(found, size, framing, on_us))
        if self._picture is None or self._cover is not cover:
            self._picture, self._cover = ShownPicture(seen.picture), cover
        return self._picture.at(size, framing, on_us, cover.seen_us(at_us))


def lay_over(
    base: Three, seen: Three, cover: Cover, at_us: int, inks: PlaneInks, weights: Weights | None
) -> None:
    """Put a cutaway over a picture, as much of it as is there at a moment; ``seen`` is of the size it has in the frame,
    and of the same colours. ``weights`` say how much of each point there is, where that is not all of it."""
    place, opacity = cover.cutaway.place, cover.cutaway.opacity
    rows, columns = base[0].shape
    box = (0, 0, columns, rows) if place is None else place.box((columns, rows))
    behind = _part(base, box)
    over: Three = seen
    if place is not None:
        within, line = _edges(place, box[2:], min(rows, columns))
        solid = np.ones_like(within) if weights is None else weights
        if line is not None:
            solid = np.maximum(solid, line)
            ink = inks.colour(place.border_colour)[:3]
            over = blended(
                seen, [np.full_like(one, c) for one, c in zip(seen, ink, strict=True)], line
            )
        over = blended(behind, over, np.asarray(within * solid * opacity, np.float32))
    elif weights is not None:
        over = blended(behind, over, np.asarray(weights * opacity, np.float32))
    elif opacity < 1:
        over = blended(behind, over, np.full((rows, columns), opacity, np.float32))
    changing = cover.changing(at_us)
    if changing is not None:
        over = mixed(behind, over, changing[1], changing[0], inks)
    for part, shown in zip(behind, over, strict=True):
        part[...] = shown


def _part(planes: Three, box: Box) -> Three:
    """The planes of a part of the frame, to be written to."""
    left, top, width, height = box
    return [
        plane[top // step : (top + height) // step, left // step : (left + width) // step]
        for plane, step in zip(planes, (1, 2, 2), strict=True)
    ]


@lru_cache(maxsize=8)
def _edges(
    place: CutawayPlace, size: tuple[int, int], short: int
) -> tuple[Weights, Weights | None]:
    """Of a box with round corners: how much of each point lies in it, and in the line around it, if any."""
    columns, rows = size
    radius = place.corner * min(size)
    # The distance to a rounded box is that to a smaller one, less the radius.
    x = np.abs(np.arange(columns) + 0.5 - columns / 2) - (columns / 2 - radius)
    y = np.abs(np.arange(rows) + 0.5 - rows / 2) - (rows / 2 - radius)
    outside = np.hypot(np.maximum(x, 0)[None, :], np.maximum(y, 0)[:, None])
    far = outside + np.minimum(np.maximum(x[None, :], y[:, None]), 0) - radius
    weights = np.clip(0.5 - far, 0, 1).astype(np.float32)
    if not place.border:
        return weights, None
    inner = np.clip(0.5 - (far + place.border * short), 0, 1)
    return weights, (1 - inner).astype(np.float32)


def _lying(cover: Cover, behind: Backdrop) -> ClipFraming:
    """How a cutaway lies in its box, by the time that it has been seen for."""
    drift = cover.cutaway.drift
    if abs(drift) < LEAST_DRIFT:
        return ClipFraming(cover.cutaway.framing, behind)
    lasts = cover.to_us - cover.from_us
    move = Move(
        source_id=1, start_us=0, end_us=lasts, zoom=1 + abs(drift), way="in" if drift > 0 else "out"
    )
    return ClipFraming(cover.cutaway.framing, behind, (move,))
