"""Find where a microphone's sound lies under a recording's, from the sounds themselves.

Coarse: envelopes correlated over all offsets. Fine: generalised cross-correlation with phase transform
(Knapp and Carter, "The generalized correlation method for estimation of time delay", IEEE Transactions
on Acoustics, Speech, and Signal Processing 24, 1976) in windows all along; a line through what they say
is the offset, and the drift of one clock against the other.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from mortiser.core.common.time import SECOND

RATE = 16_000
"""Samples a second that both sounds are given in."""
STEP = RATE // 100
WINDOW_S = 8
MOST_WINDOWS = 48
REACH_S = 0.25
"""So far from the coarse offset the fine one is looked for."""
NEAR_S = 0.004
"""Windows within so much of the line agree with it."""
MOST_DRIFT_PPM = 400.0
SHORTEST_S = 3.0
"""So much of both has to sound at the same time."""
LEAST_SURE = 0.5
SAYS_SOMETHING = 6.0
"""How far the peak of a window stands out: its height over that of the noise around it."""
DRIFT_FROM_S = 45.0
"""Over less than this a drift is smaller than what it is measured by."""
Sound = npt.NDArray[np.float32]
Levels = npt.NDArray[np.float64]


@dataclass(frozen=True)
class SoundMatch:
    """A moment t of the recording is ``t * (1 + drift_ppm / 1e6) + offset_us`` of the microphone (µs).

    ``sure`` is the share (0 to 1) of the windows that agree, ``over_us`` how long both sound at once.
    """

    offset_us: int
    drift_ppm: float
    sure: float
    over_us: int

    @property
    def belongs(self) -> bool:
        """Whether the two sounds are of the same moment."""
        return self.sure >= LEAST_SURE


NONE = SoundMatch(0, 0.0, 0.0, 0)


def match(recording: Sound, microphone: Sound) -> SoundMatch:
    """Where a microphone's sound lies under a recording's; both mono at RATE.

    Of sounds that do not belong together ``belongs`` is False.
    """
    if min(len(recording), len(microphone)) < SHORTEST_S * RATE:
        return NONE
    found = [_fine(recording, microphone, offset) for offset in _coarse(recording, microphone)]
    return max(found, key=lambda one: one.sure, default=NONE)


def _envelope(sound: Sound) -> Levels:
    """How much louder or softer it gets, a hundred times a second."""
    count = len(sound) // STEP
    power = np.square(sound[: count * STEP].reshape(count, STEP)).mean(axis=1)
    level = np.log(power + max(1e-10, float(np.percentile(power, 20))))
    rise = np.diff(level, prepend=level[:1])
    return np.convolve(rise, np.full(3, 1 / 3))[: len(rise)]


def _correlated(one: Levels, other: Levels) -> tuple[Levels, npt.NDArray[np.int64]]:
    """How alike ``other`` is to ``one`` when it comes later by each lag, and the lags."""
    count = len(one) + len(other) - 1
    size = _fast(count)
    both = np.fft.irfft(np.fft.rfft(other, size) * np.fft.rfft(one[::-1], size), size)
    return both[:count], np.arange(1 - len(one), len(other))


def _fast(least: int) -> int:
    """A length that Fourier transforms are quick of."""
    return 1 << (least - 1).bit_length()


def _coarse(recording: Sound, microphone: Sound) -> Iterator[int]:
    """The likeliest offsets, in samples."""
    one, other = _envelope(recording), _envelope(microphone)
    both, lags = _correlated(one, other)
    overlap = np.minimum(len(other), lags + len(one)) - np.maximum(0, lags)
    # By how much of both it is about: a short overlap is alike by chance more easily.
    score = both / np.sqrt(np.maximum(overlap, SHORTEST_S * 100))
    score[overlap < SHORTEST_S * 100] = -np.inf
    for _ in range(3):
        best = int(np.argmax(score))
        if not np.isfinite(score[best]):
            return
        yield int(lags[best]) * STEP
        score[max(0, best - 30) : best + 31] = -np.inf


def _fine(recording: Sound, microphone: Sound, offset: int) -> SoundMatch:
    start = max(0, -offset)
    end = min(len(recording), len(microphone) - offset)
    size = min(WINDOW_S * RATE, (end - start) // 4 * 2)
    if size < RATE:
        return NONE
    count = int(np.clip((end - start) // size * 2, 3, MOST_WINDOWS))
    heard: list[tuple[float, float]] = []
    said = 0
    for at in np.linspace(start, end - size, count).astype(int):
        part = recording[at : at + size]
        if np.abs(part).max(initial=0) < 1e-4:
            continue
        said += 1
        lag, height = _delay(part, microphone[at + offset : at + offset + size])
        if height >= SAYS_SOMETHING:
            heard.append(((at + size / 2) / RATE, (offset + lag) / RATE))
    if len(heard) < 2:
        return NONE
    base, slope, agree = _line(np.array(heard))
    over = round((end - start) / RATE * SECOND)
    return SoundMatch(round(base * SECOND), slope * 1e6, agree / max(1, said), over)


def _delay(one: Sound, other: Sound) -> tuple[float, float]:
    """By how many samples ``other`` comes later, and how far that stands out."""
    shape = np.hanning(len(one)).astype(np.float32)
    size = _fast(2 * len(one))
    cross = np.conj(np.fft.rfft(one * shape, size)) * np.fft.rfft(other * shape, size)
    # Only where there is speech: rumble and hiss are each microphone's own.
    freqs = np.arange(len(cross)) * RATE / size
    weight = ((freqs > 150) & (freqs < 6_000)).astype(np.float32)
    strength = np.abs(cross)
    white = cross / (strength + 1e-3 * strength.max(initial=1e-12)) * weight
    reach = int(REACH_S * RATE)
    lags = np.fft.irfft(white, size)
    near = np.concatenate([lags[-reach:], lags[: reach + 1]])
    best = int(np.argmax(near))
    spread = float(np.median(np.abs(near))) / 0.6745 or 1e-12
    lag = best - reach + _between(near, best)
    return lag, float(near[best]) / spread


def _between(values: npt.NDArray[np.float32], best: int) -> float:
    """Where between samples the peak is, by a parabola."""
    if not 0 < best < len(values) - 1:
        return 0.0
    before, peak, after = (float(value) for value in values[best - 1 : best + 2])
    bend = before - 2 * peak + after
    return 0.0 if bend >= 0 else (before - after) / (2 * bend)


def _line(heard: npt.NDArray[np.float64]) -> tuple[float, float, int]:
    """Offset at the recording's start (s), drift, and how many windows agree with them: the line
    through two windows that most agree with, then the best through those."""
    at, offset = heard.T
    best = np.zeros(len(at), bool)
    for a in range(len(at)):
        for b in range(a + 1, len(at)):
            slope = (offset[b] - offset[a]) / (at[b] - at[a])
            if at[-1] - at[0] < DRIFT_FROM_S:
                slope = 0.0
            if abs(slope) > MOST_DRIFT_PPM / 1e6:
                continue
            agree = np.abs(offset - offset[a] - slope * (at - at[a])) < NEAR_S
            if agree.sum() > best.sum():
                best = agree
    if not best.any():
        return 0.0, 0.0, 0
    if at[best][-1] - at[best][0] < DRIFT_FROM_S:
        return float(np.median(offset[best])), 0.0, int(best.sum())
    slope, base = np.polyfit(at[best], offset[best], 1)
    return float(base), float(slope), int(best.sum())
