"""The picture of a plan: frames of its recordings, each with its time in the piece."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

import av

from mortiser.core.common.time import SECOND
from mortiser.core.framing.frame import BACKDROP_FPS
from mortiser.core.scene import SceneCue
from mortiser.render.composing import Composer, backdrop_frame, copied, put_look
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.source_readers import FINE, SLACK_US, SourceReader, SourceReaders

TAIL_US = SECOND // 5
"""Sound commonly ends this much after the picture: no more frames are made for that."""


def at(plan: RenderPlan, at_us: int) -> av.VideoFrame:
    """The frame of a plan at a moment (µs), its own to be written to. Raises BadMedia."""
    composer = Composer(plan, SourceReaders(), strict=True)
    try:
        return composer.at(min(at_us, plan.timeline.duration_us - 1))
    finally:
        composer.close()


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
        framing, grades = plan.framing(0), plan.assembled.grades
        for frame in reader.all():
            moment = moment_of(frame)
            fresh = reader.fit(frame, plan.size, framing, moment)
            if not grades.plain:
                fresh = copied(fresh)
                for grade in (grades.of(plan.timeline.clips[0].source_id), grades.whole):
                    put_look(fresh, grade, moment)
            if held is None and moment_of(fresh) > TAIL_US:
                # As players show it: the first frame stands until it is its turn.
                held = copied(fresh)
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
            again = copied(held)
            again.pts = round(at_us / SECOND / (held.time_base or FINE))
            yield again
        before = now


def _shown(plan: RenderPlan, at_us: int) -> list[SceneCue]:
    """All that is painted at a moment."""
    at_us += plan.shown_from_us
    return [one for shows in plan.shows for one in shows.at(at_us)]


def _of_grid(plan: RenderPlan, kept: SourceReaders) -> Iterator[av.VideoFrame]:
    """Frames at the plan's own rate, each what is seen at its moment."""
    composer = Composer(plan, kept)
    try:
        for number in range(frame_count(plan)):
            frame = composer.at(round(number * SECOND / plan.rate))
            frame.pts, frame.time_base = number, 1 / plan.rate
            yield frame
    except BaseException:
        composer.close()
        raise
    composer.give_back()


def _plain(plan: RenderPlan) -> Iterator[av.VideoFrame]:
    """The backdrop, for a recording without a picture."""
    plain = backdrop_frame(plan.size, plan.framing(0).backdrop)
    for number in range(-(-plan.timeline.duration_us * BACKDROP_FPS // SECOND)):
        frame = copied(plain)
        frame.pts, frame.time_base = number * FINE.denominator // BACKDROP_FPS, FINE
        yield frame


def frame_count(plan: RenderPlan) -> int:
    """How many frames a plan has at its own rate."""
    # Edges of clips are whole microseconds: what they are over a frame's end is none of the next.
    return max(1, -(-(plan.timeline.duration_us - SLACK_US) * plan.rate // SECOND))


def moment_of(frame: av.VideoFrame) -> int:
    """When a frame shows, in µs of the piece."""
    return round((frame.pts or 0) * (frame.time_base or FINE) * SECOND)
