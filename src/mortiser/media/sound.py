"""Sound decoded to what speech parts hear: one channel, 16 kHz, float32 in −1..1."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from mortiser.media.opening import open_media

RATE = 16_000
SEEK_LEAD_US = 200_000
"""Decoders need a little of what comes before to sound right."""
Samples = npt.NDArray[np.float32]


def stream_sound(path: Path, track: int = 0) -> Iterator[Samples]:
    """The recording's sound in pieces of shape (n,), from its time zero on.

    Silence is put where the track starts late or has a hole, so that sample i is heard at
    i / RATE seconds of the recording. Damaged packets are passed over.
    """
    with open_media(path) as container:
        stream = container.streams.audio[track]
        resampler = _Resampler()
        written = 0
        for frame in _frames(container, stream):
            if frame.pts is not None and frame.time_base is not None:
                start = round(float(frame.pts * frame.time_base) * RATE)
                if start - written > RATE // 20:
                    yield from _silence(start - written)
                    written = start
            for samples in resampler.heard(frame):
                written += len(samples)
                yield samples
        yield from resampler.rest()


def read_sound(path: Path, from_us: int, to_us: int, track: int = 0) -> Samples:
    """The sound of one stretch, shape (n,): sample i is heard at ``from_us`` + i / RATE seconds."""
    wanted = np.zeros(max(0, (to_us - from_us) * RATE // 1_000_000), np.float32)
    with open_media(path) as container:
        stream = container.streams.audio[track]
        resampler = _Resampler()
        container.seek(max(0, from_us - SEEK_LEAD_US))
        at: int | None = None
        for frame in _frames(container, stream):
            if at is None:
                if frame.pts is None or frame.time_base is None:
                    continue
                at = round((float(frame.pts * frame.time_base) - from_us / 1e6) * RATE)
            for samples in resampler.heard(frame):
                _copy_into(wanted, samples, at)
                at += len(samples)
            if at >= len(wanted):
                break
    return wanted


class _Resampler:
    """To one channel at RATE, whatever the form of the frames, which may change in damaged files."""

    def __init__(self) -> None:
        self._form: tuple[str, str, int] | None = None
        self._resampler: av.AudioResampler | None = None

    def heard(self, frame: av.AudioFrame) -> Iterator[Samples]:
        """What can be told of a frame by now."""
        form = frame.format.name, frame.layout.name, frame.sample_rate
        if form != self._form:
            yield from self.rest()
            self._form = form
            self._resampler = av.AudioResampler(format="flt", layout="mono", rate=RATE)
        yield from self._told(frame)

    def rest(self) -> Iterator[Samples]:
        """What is left when no more frames come."""
        yield from self._told(None)

    def _told(self, frame: av.AudioFrame | None) -> Iterator[Samples]:
        if self._resampler is not None:
            for piece in self._resampler.resample(frame):
                yield np.asarray(piece.to_ndarray(), np.float32).reshape(-1)


def _copy_into(wanted: Samples, samples: Samples, at: int) -> None:
    first, last = max(0, at), min(len(wanted), at + len(samples))
    if last > first:
        wanted[first:last] = samples[first - at : last - at]


def _frames(
    container: av.container.InputContainer, stream: av.AudioStream
) -> Iterator[av.AudioFrame]:
    for packet in container.demux(stream):
        try:
            yield from packet.decode()
        except av.error.FFmpegError:
            continue  # Decoders call damage by many names.


def _silence(count: int) -> Iterator[Samples]:
    while count > 0:
        step = min(count, RATE * 10)
        yield np.zeros(step, np.float32)
        count -= step
