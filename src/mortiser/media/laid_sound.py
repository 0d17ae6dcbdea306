"""A microphone's sound by the clock of the recording it belongs to."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from mortiser.core.common.time import SECOND
from mortiser.media.frames import Resampler
from mortiser.media.opening import open_media, unfinished
from mortiser.media.sound import Samples, timed_sound

RATE = 48_000
BLOCK = RATE


def lay(
    microphone: Path,
    out: Path,
    offset_us: int,
    drift_ppm: float,
    duration_us: int,
    progress: Callable[[float], None] = lambda _: None,
) -> None:
    """Write a microphone's sound as FLAC whose moment t is ``t * (1 + drift_ppm / 1e6) + offset_us`` of
    it, ``duration_us`` long; silence where it has none. Raises BadMedia, and NoSpace on a full disk."""
    count = duration_us * RATE // SECOND
    try:
        with open_media(microphone) as reading, av.open(str(out), "w", format="flac") as writing:
            track = reading.streams.audio[0]
            layout = "mono" if track.codec_context.channels == 1 else "stereo"
            stream = writing.add_stream("flac", rate=RATE, layout=layout)
            stream.codec_context.format = "s16"
            shape = Resampler("s16", layout, RATE)
            tape = _Tape(timed_sound(reading, track, layout, RATE), 1 if layout == "mono" else 2)
            for at in range(0, count, BLOCK):
                many = min(BLOCK, count - at)
                first = offset_us * RATE / SECOND + at * (1 + drift_ppm / 1e6)
                frame = av.AudioFrame.from_ndarray(
                    tape.read(first, 1 + drift_ppm / 1e6, many), format="fltp", layout=layout
                )
                frame.sample_rate, frame.pts, frame.time_base = RATE, at, Fraction(1, RATE)
                for piece in shape.told(frame):
                    writing.mux(stream.encode(piece))
                progress(at / count)
            for piece in shape.rest():
                writing.mux(stream.encode(piece))
            writing.mux(stream.encode(None))
    except av.error.FFmpegError as error:
        raise unfinished(error, "use it") from error


class _Tape:
    """A sound that is read on from block to block, at places between its samples."""

    def __init__(self, blocks: Iterator[Samples], channels: int) -> None:
        self._blocks = blocks
        self._kept: Samples = np.zeros((channels, 0), np.float32)
        self._first = 0
        """Which sample the kept ones begin with."""
        self._over = False

    def read(self, first: float, step: float, count: int) -> Samples:
        """Samples at ``first + i * step``, by cubic interpolation (Catmull and Rom)."""
        places = first + np.arange(count) * step
        if step == 1:
            places = np.round(places)
        low, high = int(np.floor(places[0])) - 1, int(np.floor(places[-1])) + 3
        near = self._between(low, high)
        whole = np.floor(places).astype(np.int64)
        part = (places - whole).astype(np.float32)
        at = whole - low
        a, b, c, d = (near[:, at + shift] for shift in (-1, 0, 1, 2))
        slope = c - a
        bend = 2 * a - 5 * b + 4 * c - d
        sway = 3 * (b - c) + d - a
        mixed = b + 0.5 * part * (slope + part * (bend + part * sway))
        return np.ascontiguousarray(mixed, np.float32)

    def _between(self, low: int, high: int) -> Samples:
        while not self._over and self._first + self._kept.shape[1] < high:
            block = next(self._blocks, None)
            if block is None:
                self._over = True
                break
            self._kept = np.concatenate([self._kept, block], axis=1)
            spare = min(max(0, low - self._first), self._kept.shape[1])
            self._kept, self._first = self._kept[:, spare:], self._first + spare
        found = np.zeros((self._kept.shape[0], high - low), np.float32)
        start = max(low, self._first)
        end = min(high, self._first + self._kept.shape[1])
        if start < end:
            found[:, start - low : end - low] = self._kept[
                :, start - self._first : end - self._first
            ]
        return found
