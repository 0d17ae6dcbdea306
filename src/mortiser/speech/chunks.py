"""Cut a stream of sound at pauses, so that work can start early and memory stays small."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

import numpy as np

from mortiser.speech.protocols import RATE, Samples

FRAME = RATE // 100
FIRST_S = 5.0
USUAL_S = 18.0
LONG_S = 24.0
"""For an engine that takes as long for any sound under half a minute."""
MOST_S = 29.0
AHEAD_S = 10.0
PAUSE_FRAMES = 25


def chunks(
    sound: Iterable[Samples], usual_s: float = USUAL_S, first_s: float = FIRST_S
) -> Iterator[tuple[float, Samples]]:
    """(start s, samples) of stretches that end in a pause where there is one.

    The first stretch is short, so that the first words come soon; none is longer than MOST_S.
    """
    held = np.zeros(0, np.float32)
    start = 0
    target = first_s
    for samples in sound:
        held = np.concatenate([held, samples])
        while len(held) >= min(MOST_S, target + AHEAD_S) * RATE:
            cut = _quietest(held, target)
            yield start / RATE, held[:cut]
            held, start, target = held[cut:], start + cut, usual_s
    if len(held):
        yield start / RATE, held


def _quietest(samples: Samples, target_s: float) -> int:
    """The sample to cut at: the middle of the calmest quarter second around the target."""
    count = len(samples) // FRAME
    energy = np.square(samples[: count * FRAME]).reshape(count, FRAME).mean(axis=1)
    calm = np.convolve(energy, np.ones(PAUSE_FRAMES) / PAUSE_FRAMES, mode="same")
    low = int(target_s * 0.5 * 100)
    high = count - PAUSE_FRAMES
    # A decibel a second: of equally calm places the one nearest to the target is taken.
    level = 10 * np.log10(calm[low:high] + 1e-9)
    distance = np.abs(np.arange(low, high) - target_s * 100) / 100
    return (low + int(np.argmin(level + distance))) * FRAME
