"""What is seen at each moment of a plan: clips, how they go over into each other, what covers them, how it looks."""

from __future__ import annotations

from bisect import bisect_right

import av
from av.video.reformatter import ColorRange, Colorspace

from mortiser.core.assembly.grade import Grade
from mortiser.core.assembly.joining import Side
from mortiser.core.assembly.stretch import lasting_at
from mortiser.core.common.errors import BadMedia
from mortiser.core.framing.frame import BACKDROP_FPS
from mortiser.core.framing.shape import Backdrop
from mortiser.media.frames import EXACT
from mortiser.media.picture import plane_of
from mortiser.render.backdrops import backdrop_planes
from mortiser.render.blend import inks_of
from mortiser.render.grading import graded
from mortiser.render.over import Covers, lay_over
from mortiser.render.plan import RenderPlan
from mortiser.render.source_readers import FINE, PlanReaders, SourceReaders
from mortiser.render.transitions import mixed
from mortiser.render.transitions.pair import Three

GRAIN_US = 1_000_000 // BACKDROP_FPS
"""Grain is another one after so long."""


class Composer:
    """The frames of a plan at moments of it; best asked forwards. All hold colours as the first one does."""

    def __init__(self, plan: RenderPlan, kept: SourceReaders, *, strict: bool = False) -> None:
        """``strict`` raises BadMedia where a recording has no frame for a moment; the backdrop stands there
        otherwise."""
        self._plan = plan
        self._strict = strict
        # Neighbours that go over into each other, and what is seen over them, may be of one recording: each has
        # readers of its own.
        *self._lanes, over = self._readers = [PlanReaders(plan.recordings, kept) for _ in range(3)]
        self._covers = Covers(plan, over)
        self._starts = [placed.at_us for placed in plan.timeline.placed]
        self._terms: av.VideoFrame | None = None

    def give_back(self) -> None:
        """Keep the readers for what follows."""
        for one in self._readers:
            one.give_back()

    def close(self) -> None:
        """Let go of all files."""
        for one in self._readers:
            one.close()

    def at(self, at_us: int) -> av.VideoFrame:
        """The frame at a moment of the plan, its own to be written to."""
        cover = lasting_at(self._plan.assembled.covers, at_us)
        shown = None if cover is None else self._covers.shown(cover, at_us)
        if cover is None or shown is None:
            frame = self._clips(at_us)
        elif shown.weights is None and cover.alone and cover.changing(at_us) is None:
            # The reader may show it once more.
            frame = self._alike(copied(shown.frame))
        else:
            frame = self._clips(at_us)
            seen = self._alike(shown.frame)
            lay_over(planes(frame), planes(seen), cover, at_us, inks_of(frame), shown.weights)
        placed = self._plan.timeline.placed[self._index(at_us)]
        put_look(frame, self._plan.assembled.grades.whole, placed.to_source(at_us))
        return frame

    def _index(self, at_us: int) -> int:
        return max(0, bisect_right(self._starts, at_us) - 1)

    def _clips(self, at_us: int) -> av.VideoFrame:
        """What is seen of the clips."""
        join = lasting_at(self._plan.assembled.joins, at_us)
        if join is not None:
            frame, other = (self._side(side, at_us) for side in (join.before, join.after))
            found = mixed(
                planes(frame), planes(other), join.share(at_us), join.transition, inks_of(frame)
            )
            put(frame, found)
            return frame
        index = self._index(at_us)
        placed = self._plan.timeline.placed[index]
        by_us = placed.clip.start_us - placed.at_us
        lane = (self._plan.first_lane + index) % 2
        return self._side(
            Side(placed.clip.source_id, by_us, self._plan.framing(index), lane), at_us
        )

    def _side(self, side: Side, at_us: int) -> av.VideoFrame:
        """One clip's picture, its own to be written to; beyond what was recorded its edge stands."""
        source_us = max(0, at_us + side.by_us)
        reader = self._lanes[side.lane].of(side.source_id, source_us)
        found = reader.at(source_us)
        if found is None:
            if self._strict and reader.has_picture:
                raise BadMedia("There is no frame at this moment of the recording.")
            return self._alike(backdrop_frame(self._plan.size, side.framing.backdrop))
        fitted = reader.fit(found, self._plan.size, side.framing, source_us)
        # The reader may show it once more.
        frame = self._alike(copied(found) if fitted is found else fitted)
        put_look(frame, self._plan.assembled.grades.of(side.source_id), source_us)
        return frame

    def _alike(self, frame: av.VideoFrame) -> av.VideoFrame:
        """A frame whose planes hold colours as those of the first one do: a file says that once for all."""
        if self._terms is None:
            self._terms = frame
        return _in_terms_of(self._terms, frame)


def put_look(frame: av.VideoFrame, grade: Grade, source_us: int) -> None:
    """Put a grade on a frame, whose grain goes by the time of its recording."""
    if not grade.plain:
        put(frame, graded(planes(frame), grade, inks_of(frame), source_us // GRAIN_US))


def planes(frame: av.VideoFrame) -> Three:
    """The planes of a yuv420p frame, its own."""
    return [plane_of(frame, index) for index in range(3)]


def put(frame: av.VideoFrame, found: Three) -> None:
    """Write planes into a frame of their size."""
    for index, plane in enumerate(found):
        plane_of(frame, index)[...] = plane


def copied(frame: av.VideoFrame) -> av.VideoFrame:
    """A frame of its own with the same picture."""
    fresh = av.VideoFrame(frame.width, frame.height, frame.format.name)
    put(fresh, planes(frame))
    fresh.colorspace, fresh.color_range = frame.colorspace, frame.color_range
    fresh.pts, fresh.time_base = frame.pts, frame.time_base or FINE
    return fresh


def backdrop_frame(size: tuple[int, int], backdrop: Backdrop) -> av.VideoFrame:
    """What shows where there is no picture: of the picture blurred, there is a colour left."""
    seen = backdrop
    if backdrop.kind == "blur":
        seen = Backdrop(kind="colour")
    plain = av.VideoFrame(*size, "yuv420p")
    plain.colorspace, plain.color_range = Colorspace.ITU709, ColorRange.MPEG
    put(plain, backdrop_planes(seen, plain, size))
    return plain


def _in_terms_of(first: av.VideoFrame, frame: av.VideoFrame) -> av.VideoFrame:
    if (frame.colorspace, frame.color_range) == (first.colorspace, first.color_range):
        return frame
    made = frame.reformat(
        src_colorspace=frame.colorspace,
        dst_colorspace=first.colorspace,
        src_color_range=frame.color_range,
        dst_color_range=first.color_range,
        interpolation=EXACT,
        threads=1,
    )
    made.colorspace, made.color_range = first.colorspace, first.color_range
    return made
