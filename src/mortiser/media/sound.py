"""Sound decoded to what speech parts hear: one channel, 16 kHz, float32 in −1..1."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

from mortiser.core.common.time import SECOND
from mortiser.media.frames import Resampler, decoded_sound
from mortiser.media.opening import open_media, origin_s

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
        yield from (block[0] for block in timed_sound(container, stream, "mono", RATE))


def timed_sound(
    container: av.container.InputContainer, stream: av.AudioStream, layout: str, rate: int
) -> Iterator[Samples]:
    """A sound track in blocks of shape (channels, n) at ``rate`` (Hz), from the recording's time zero on;
    silence where the track starts late or has a hole."""
    channels = 1 if layout == "mono" else 2
    resampler = Resampler("fltp", layout, rate)
    origin = origin_s(container)
    written = 0
    for frame in _frames(container, stream):
        if frame.pts is not None and frame.time_base is not None:
            start = round((float(frame.pts * frame.time_base) - origin) * rate)
            if start - written > rate // 20:
                yield from _silence(start - written, channels, rate)
                written = start
        for piece in resampler.told(frame):
            block = _block(piece, channels)
            written += block.shape[1]
            yield block
    for piece in resampler.rest():
        yield _block(piece, channels)


def _block(piece: av.AudioFrame, channels: int) -> Samples:
    return np.asarray(piece.to_ndarray(), np.float32).reshape(channels, -1)


def read_sound(path: Path, from_us: int, to_us: int, track: int = 0) -> Samples:
    """The sound of one stretch, shape (n,): sample i is heard at ``from_us`` + i / RATE seconds."""
    wanted = np.zeros(max(0, (to_us - from_us) * RATE // 1_000_000), np.float32)
    with open_media(path) as container:
        stream = container.streams.audio[track]
        resampler = Resampler("flt", "mono", RATE)
        first = from_us / 1e6 + origin_s(container)
        container.seek(max(0, from_us - SEEK_LEAD_US))
        at: int | None = None
        for frame in _frames(container, stream):
            if at is None:
                if frame.pts is None or frame.time_base is None:
                    continue
                at = round((float(frame.pts * frame.time_base) - first) * RATE)
            for samples in map(_samples, resampler.told(frame)):
                _copy_into(wanted, samples, at)
                at += len(samples)
            if at >= len(wanted):
                break
    return wanted


def _samples(piece: av.AudioFrame) -> Samples:
    return np.asarray(piece.to_ndarray(), np.float32).reshape(-1)


def _copy_into(wanted: Samples, samples: Samples, at: int) -> None:
    first, last = max(0, at), min(len(wanted), at + len(samples))
    if last > first:
        wanted[first:last] = samples[first - at : last - at]


def _frames(
    container: av.container.InputContainer, stream: av.AudioStream
) -> Iterator[av.AudioFrame]:
    for packet in container.demux(stream):
        yield from decoded_sound(packet)


def _silence(count: int, channels: int, rate: int) -> Iterator[Samples]:
    while count > 0:
        step = min(count, rate * 10)
        yield np.zeros((channels, step), np.float32)
        count -= step


def clip(sound: Iterable[Samples], from_us: int, to_us: int) -> Iterator[Samples]:
    """The sound from one moment (µs) to another."""
    skipped = from_us * RATE // SECOND
    left = max(0, to_us - from_us) * RATE // SECOND
    for samples in sound:
        if skipped >= len(samples):
            skipped -= len(samples)
            continue
        part = samples[skipped : skipped + left]
        skipped = 0
        left -= len(part)
        if len(part):
            yield part
        if left <= 0:
            return
