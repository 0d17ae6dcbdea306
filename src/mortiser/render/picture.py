"""The picture of a plan: frames of its recordings, each with its time in the piece."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Generator, Iterator
from contextlib import ExitStack
from fractions import Fraction
from pathlib import Path
from threading import Lock

import av
from av.video.reformatter import ColorRange, Colorspace

from mortiser.core.common.errors import BadMedia
from mortiser.core.common.time import SECOND
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.frame import BACKDROP_FPS
from mortiser.core.framing.shape import Backdrop
from mortiser.core.scene import SceneCue
from mortiser.media.frames import decoded_picture
from mortiser.media.opening import moving_picture, open_media
from mortiser.media.picture import plane_of, turned
from mortiser.render.backdrops import backdrop_planes
from mortiser.render.blend import UNSPECIFIED, space_of
from mortiser.render.framing import Framer
from mortiser.render.plan import Recording, RenderPlan

SLACK_US = 1_000
"""A moment this little before a frame is meant to be that frame."""
NEAR_US = 200_000
"""This long before a moment gone to all frames are decoded."""
AHEAD_US = 2 * SECOND
"""A moment no further off than this is reached by decoding on, not by going there."""
TAIL_US = SECOND // 5
"""Sound commonly ends this much after the picture: no more frames are made for that."""
FINE = Fraction(1, 90_000)
Decoded = Generator[tuple[int, av.VideoFrame], None, None]
"""Frames with their times (µs)."""


class SourceReaders:
    """Readers kept open between one plan and the next: what plays on from where one stopped need
    not be looked for, with all the frames from the key frame before it."""

    def __init__(self, most: int = 0) -> None:
        self._most = most
        self._idle: list[tuple[Path, SourceReader]] = []
        self._guard = Lock()

    def take(self, recording: Recording, source_us: int) -> SourceReader:
        """A reader of a recording, for frames from a moment on; to be given back."""
        with self._guard:
            for one in reversed(self._idle):
                path, reader = one
                if path == recording.path and reader.goes_on(source_us):
                    self._idle.remove(one)
                    return reader
        return SourceReader(recording)

    def give_back(self, recording: Recording, reader: SourceReader) -> None:
        """Keep a reader for what follows; of too many the oldest is closed."""
        with self._guard:
            self._idle.append((recording.path, reader))
            over = self._idle[: max(0, len(self._idle) - self._most)]
            del self._idle[: len(over)]
        for _, old in over:
            old.close()

    def close(self) -> None:
        """Let go of all files."""
        with self._guard:
            over, self._idle = self._idle, []
        for _, old in over:
            old.close()


class SourceReader:
    """Frames of one recording by its own time, upright; best asked forwards."""

    def __init__(self, recording: Recording) -> None:
        self._open = ExitStack()
        self._reading = self._open.enter_context(open_media(recording.path))
        self._picture = moving_picture(self._reading)
        if self._picture is not None:
            self._picture.thread_type = "AUTO"
        self._frames = _nothing()
        self._shown: tuple[int, av.VideoFrame] | None = None
        self._next: tuple[int, av.VideoFrame] | None = None
        self._begun = False
        self._leap: int | None = None
        self._damaged = recording.damaged
        self._framer = Framer(recording.picture)

    @property
    def has_picture(self) -> bool:
        """Whether there is a picture at all."""
        return self._picture is not None

    def close(self) -> None:
        """Let go of the file, and of its decoder with its threads and frames.

        The frames that are being decoded refer to the reader and it to them: left to the collector of
        garbage, which seldom runs in a server, each reader would keep tens of megabytes.
        """
        self._frames.close()
        self._frames = _nothing()
        self._shown = self._next = self._picture = None
        self._open.close()

    def time_base(self) -> Fraction:
        """The unit of the recording's own frame times."""
        base = self._picture.time_base if self._picture is not None else None
        return base or FINE

    def fit(
        self, frame: av.VideoFrame, size: tuple[int, int], framing: ClipFraming, source_us: int
    ) -> av.VideoFrame:
        """A frame of the recording upright, as it lies in a frame of ``size`` pixels at a moment."""
        stated = self._picture.sample_aspect_ratio if self._picture is not None else None
        aspect = stated or Fraction(1)
        lies = round(frame.rotation / 90) % 2
        aspect = 1 / aspect if lies else aspect
        upright = turned(frame)
        fitted = self._framer.framed(upright, size, framing, source_us, aspect)
        if fitted.colorspace == UNSPECIFIED:
            # Said once for all: at another size players would take it for something else.
            fitted.colorspace = space_of(upright)
        return fitted

    def all(self) -> Iterator[av.VideoFrame]:
        """Every frame from the start on. Those that damage has put back in time are left out; of those
        before the start the last one shows until the first one after it."""
        newest = -1
        early: av.VideoFrame | None = None
        for _, frame in self._decoded():
            if frame.pts is None:
                continue
            if newest < 0 and frame.pts < 0:
                early = frame
                continue
            if early is not None and frame.pts > 0:
                early.pts = newest = 0
                yield early
            early = None
            if frame.pts > newest:
                newest = frame.pts
                yield frame

    def at(self, source_us: int) -> av.VideoFrame | None:
        """The frame that shows at a moment; the first one before it begins. None without any."""
        shown = self._shown
        if not self._begun or (shown and shown[0] > source_us + SLACK_US) or self._far(source_us):
            self._go_to(source_us)
        self._play_to(source_us)
        if self._leapt_over():
            self._go_to(source_us, leap=False)
            self._play_to(source_us)
        return self._shown[1] if self._shown else None

    def _play_to(self, source_us: int) -> None:
        while self._next is not None and self._next[0] <= source_us + SLACK_US:
            self._shown, self._next = self._next, next(self._frames, None)
        if self._shown is None:
            self._shown, self._next = self._next, next(self._frames, None)

    def goes_on(self, source_us: int) -> bool:
        """Whether a moment lies a little ahead of where it stands."""
        shown = self._shown
        return shown is not None and shown[0] <= source_us + SLACK_US and not self._far(source_us)

    def _far(self, source_us: int) -> bool:
        return self._next is not None and source_us - self._next[0] > AHEAD_US

    def _leapt_over(self) -> bool:
        """Whether the frame that should show was left out on the way there."""
        return self._leap is not None and self._shown is not None and self._shown[0] < self._leap

    def _go_to(self, source_us: int, *, leap: bool = True) -> None:
        self._begun = True
        self._leap = None
        if self._picture is not None:
            self._picture.codec_context.skip_frame = "DEFAULT"
            self._reading.seek(max(0, source_us - SLACK_US))
        self._frames = self._decoded(source_us + SLACK_US if leap else None)
        self._shown, self._next = None, next(self._frames, None)

    def _decoded(self, to_us: int | None = None) -> Decoded:
        """Frames as they come, damaged packets passed over, with their times in µs.

        On the way to a moment, frames that no others are made from are left out until shortly before it;
        ``_leap`` is when the last frame up to the moment shows.
        """
        if self._picture is None:
            return
        for packet in self._reading.demux(self._picture):
            if to_us is not None and packet.pts is not None and packet.time_base is not None:
                at_us = round(packet.pts * packet.time_base * SECOND)
                far = at_us < to_us - NEAR_US
                self._picture.codec_context.skip_frame = "NONREF" if far else "DEFAULT"
                if at_us <= to_us:
                    self._leap = max(at_us, self._leap or 0)
            for frame in decoded_picture(packet, self._damaged):
                if frame.pts is not None:
                    base = frame.time_base or Fraction(1)
                    yield round(frame.pts * base * SECOND), frame


def _nothing() -> Decoded:
    yield from ()


def usual_rate(recording: Recording) -> Fraction:
    """How many frames a second a recording has, more or less."""
    with open_media(recording.path) as reading:
        stream = moving_picture(reading)
        stated = stream.average_rate if stream is not None else Fraction(BACKDROP_FPS)
        return stated or Fraction(BACKDROP_FPS)


def at(plan: RenderPlan, at_us: int) -> av.VideoFrame:
    """The frame of a plan at a moment (µs), its own to be written to."""
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
    """Frames at the plan's own rate, each what the clips show at its moment."""
    readers: dict[int, SourceReader] = {}
    starts = [placed.at_us for placed in plan.timeline.placed]
    plain = _backdrop(plan.size, plan.framing(0).backdrop)
    try:
        for number in range(frame_count(plan)):
            at_us = round(number * SECOND / plan.rate)
            index = max(0, bisect_right(starts, at_us) - 1)
            placed = plan.timeline.placed[index]
            source = placed.clip.source_id
            source_us = placed.to_source(at_us)
            if source not in readers:
                readers[source] = kept.take(plan.recordings[source], source_us)
            found = readers[source].at(source_us)
            if found is None:
                frame = _copy(plain)
            else:
                framing = plan.framing(index)
                fitted = readers[source].fit(found, plan.size, framing, source_us)
                # The reader may show it once more.
                frame = _copy(found) if fitted is found else fitted
            frame.pts, frame.time_base = number, 1 / plan.rate
            yield frame
    except BaseException:
        for reader in readers.values():
            reader.close()
        raise
    for source, reader in readers.items():
        kept.give_back(plan.recordings[source], reader)


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
