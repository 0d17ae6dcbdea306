"""Frames of one recording by its own time; readers that are kept open between one plan and the next."""

from __future__ import annotations

from collections.abc import Generator, Iterator, Mapping
from contextlib import ExitStack
from fractions import Fraction
from pathlib import Path
from threading import Lock

import av

from mortiser.core.common.time import SECOND
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.frame import BACKDROP_FPS
from mortiser.media.frames import decoded_picture
from mortiser.media.opening import moving_picture, open_media
from mortiser.media.picture import turned
from mortiser.render.blend import UNSPECIFIED, space_of
from mortiser.render.framing import Framer
from mortiser.render.plan import Recording

SLACK_US = 1_000
"""A moment this little before a frame is meant to be that frame."""
NEAR_US = 200_000
"""This long before a moment gone to all frames are decoded."""
AHEAD_US = 2 * SECOND
"""A moment no further off than this is reached by decoding on, not by going there."""
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


class PlanReaders:
    """A reader for each recording of a plan, from those that are kept; given back when the plan is played."""

    def __init__(self, recordings: Mapping[int, Recording], kept: SourceReaders) -> None:
        self._recordings = recordings
        self._kept = kept
        self._open: dict[int, SourceReader] = {}

    def of(self, source_id: int, source_us: int) -> SourceReader:
        """The reader of a source; the first time one that is for frames from a moment on."""
        if source_id not in self._open:
            self._open[source_id] = self._kept.take(self._recordings[source_id], source_us)
        return self._open[source_id]

    def give_back(self) -> None:
        """Keep the readers for what follows."""
        for source_id, reader in self._open.items():
            self._kept.give_back(self._recordings[source_id], reader)
        self._open.clear()

    def close(self) -> None:
        """Let go of all files."""
        for reader in self._open.values():
            reader.close()
        self._open.clear()


def usual_rate(recording: Recording) -> Fraction:
    """How many frames a second a recording has, more or less."""
    with open_media(recording.path) as reading:
        stream = moving_picture(reading)
        stated = stream.average_rate if stream is not None else Fraction(BACKDROP_FPS)
        return stated or Fraction(BACKDROP_FPS)
