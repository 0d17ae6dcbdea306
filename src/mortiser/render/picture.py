"""The picture of a plan: frames of its recordings, each with its time in the piece."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from fractions import Fraction

import av
from av.video.reformatter import ColorRange, Colorspace

from mortiser.core.common.errors import BadMedia
from mortiser.core.common.time import SECOND
from mortiser.core.framing.frame import BACKDROP_FPS
from mortiser.core.framing.shape import Backdrop
from mortiser.core.scene import SceneCue
from mortiser.media.frames import EXACT
from mortiser.media.picture import plane_of
from mortiser.render.backdrops import backdrop_planes
from mortiser.render.covers import Covers
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.source_readers import FINE, SLACK_US, PlanReaders, SourceReader, SourceReaders

TAIL_US = SECOND // 5
"""Sound commonly ends this much after the picture: no more frames are made for that."""


def at(plan: RenderPlan, at_us: int) -> av.VideoFrame:
    """The frame of a plan at a moment (µs), its own to be written to."""
    readers = PlanReaders(plan.recordings, SourceReaders())
    try:
        covered = Covers(plan, readers).at(at_us)
        if covered is not None:
            return _copy(covered)
    finally:
        readers.close()
    placed = plan.timeline.playing(min(at_us, plan.timeline.duration_us - 1))
    framing = plan.framing(plan.timeline.placed.index(placed))
    reader = SourceReader(plan.recordings[placed.clip.source_id])
    try:
        if not reader.has_picture:
            return _backdrop(plan.size, framing.backdrop)
        source_us = placed.to_source(at_us)
        found = reader.at(source_us)
        if found is None:
            raise BadMedia("There is no frame at this moment of the recording.")
        return reader.fit(found, plan.size, framing, source_us)
    finally:
        reader.close()


def time_base(plan: RenderPlan) -> Fraction:
    """The unit of the times that ``frames`` gives."""
    recording = plan.untouched
    if recording is None:
        return 1 / plan.rate
    reader = SourceReader(recording)
    try:
        return reader.time_base()
    finally:
        reader.close()


def frames(plan: RenderPlan, kept: SourceReaders | None = None) -> Iterator[av.VideoFrame]:
    """The frames of a plan in yuv420p, in order, writable, with their times in the piece.

    Readers of a plan that is put together are taken from those ``kept``, and go back to them.
    """
    recording = plan.untouched
    if recording is None:
        return _of_grid(plan, kept or SourceReaders())
    return _of_one(plan, recording)


def _of_one(plan: RenderPlan, recording: Recording) -> Iterator[av.VideoFrame]:
    """A recording's own frames at their own times, and more of them where captions change meanwhile:
    while the picture rests, or after it has ended."""
    reader = SourceReader(recording)
    try:
        if not reader.has_picture:
            yield from _plain(plan)
            return
        held: av.VideoFrame | None = None
        framing = plan.framing(0)
        for frame in reader.all():
            fresh = reader.fit(frame, plan.size, framing, moment_of(frame))
            if held is None and moment_of(fresh) > TAIL_US:
                # As players show it: the first frame stands until it is its turn.
                held = _copy(fresh)
                held.pts = 0
                yield held
            if held is not None:
                yield from _between(plan, held, moment_of(fresh))
            yield fresh
            held = fresh
        if held is not None and plan.timeline.duration_us - moment_of(held) > TAIL_US:
            yield from _between(plan, held, plan.timeline.duration_us)
    finally:
        reader.close()


def _between(plan: RenderPlan, held: av.VideoFrame, to_us: int) -> Iterator[av.VideoFrame]:
    """A frame that is held, again at every moment before another at which captions look different."""
    step = SECOND // BACKDROP_FPS
    from_us = moment_of(held)
    if to_us - from_us <= 5 * step // 2:
        return
    before = _shown(plan, from_us)
    for at_us in range(from_us + step, to_us - step // 2, step):
        now = _shown(plan, at_us)
        # While one shows it may be moving; what changes nothing costs next to nothing.
        if now or before:
            again = _copy(held)
            again.pts = round(at_us / SECOND / (held.time_base or FINE))
            yield again
        before = now


def _shown(plan: RenderPlan, at_us: int) -> list[SceneCue]:
    """All that is painted at a moment."""
    at_us += plan.shown_from_us
    return [one for shows in plan.shows for one in shows.at(at_us)]


def _of_grid(plan: RenderPlan, kept: SourceReaders) -> Iterator[av.VideoFrame]:
    """Frames at the plan's own rate, each what is seen at its moment; all hold colours in the first one's terms."""
    # What is seen over a recording may be another moment of it: each has readers of its own.
    readers = PlanReaders(plan.recordings, kept), PlanReaders(plan.recordings, kept)
    clips, covers = _Clips(plan, readers[0]), Covers(plan, readers[1])
    first: av.VideoFrame | None = None
    try:
        for number in range(frame_count(plan)):
            at_us = round(number * SECOND / plan.rate)
            covered = covers.at(at_us)
            # The reader may show it once more.
            frame = clips.at(at_us) if covered is None else _copy(covered)
            first = first or frame
            frame = _in_terms_of(first, frame)
            frame.pts, frame.time_base = number, 1 / plan.rate
            yield frame
    except BaseException:
        for one in readers:
            one.close()
        raise
    for one in readers:
        one.give_back()


class _Clips:
    """The frames of a plan's clips; best asked forwards."""

    def __init__(self, plan: RenderPlan, readers: PlanReaders) -> None:
        self._plan = plan
        self._starts = [placed.at_us for placed in plan.timeline.placed]
        self._readers = readers
        self._plain = _backdrop(plan.size, plan.framing(0).backdrop)

    def at(self, at_us: int) -> av.VideoFrame:
        """The frame at a moment of the plan, its own to be written to."""
        index = max(0, bisect_right(self._starts, at_us) - 1)
        placed = self._plan.timeline.placed[index]
        source_us = placed.to_source(at_us)
        reader = self._readers.of(placed.clip.source_id, source_us)
        found = reader.at(source_us)
        if found is None:
            return _copy(self._plain)
        fitted = reader.fit(found, self._plan.size, self._plan.framing(index), source_us)
        # The reader may show it once more.
        return _copy(found) if fitted is found else fitted


def _in_terms_of(first: av.VideoFrame, frame: av.VideoFrame) -> av.VideoFrame:
    """A frame whose planes hold colours as those of the first one do: a file says that once for all."""
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


def _plain(plan: RenderPlan) -> Iterator[av.VideoFrame]:
    """The backdrop, for a recording without a picture."""
    plain = _backdrop(plan.size, plan.framing(0).backdrop)
    for number in range(-(-plan.timeline.duration_us * BACKDROP_FPS // SECOND)):
        frame = _copy(plain)
        frame.pts, frame.time_base = number * FINE.denominator // BACKDROP_FPS, FINE
        yield frame


def frame_count(plan: RenderPlan) -> int:
    """How many frames a plan has at its own rate."""
    # Edges of clips are whole microseconds: what they are over a frame's end is none of the next.
    return max(1, -(-(plan.timeline.duration_us - SLACK_US) * plan.rate // SECOND))


def moment_of(frame: av.VideoFrame) -> int:
    """When a frame shows, in µs of the piece."""
    return round((frame.pts or 0) * (frame.time_base or FINE) * SECOND)


def _copy(frame: av.VideoFrame) -> av.VideoFrame:
    """A frame of its own with the same picture."""
    fresh = av.VideoFrame(frame.width, frame.height, frame.format.name)
    for index in range(3):
        plane_of(fresh, index)[...] = plane_of(frame, index)
    fresh.colorspace, fresh.color_range = frame.colorspace, frame.color_range
    fresh.pts, fresh.time_base = frame.pts, frame.time_base or FINE
    return fresh


def _backdrop(size: tuple[int, int], backdrop: Backdrop) -> av.VideoFrame:
    """What shows where there is no picture: of the picture blurred, there is a colour left."""
    seen = backdrop
    if backdrop.kind == "blur":
        seen = Backdrop(kind="colour")
    plain = av.VideoFrame(*size, "yuv420p")
    plain.colorspace, plain.color_range = Colorspace.ITU709, ColorRange.MPEG
    for index, plane in enumerate(backdrop_planes(seen, plain, size)):
        plane_of(plain, index)[...] = plane
    return plain
