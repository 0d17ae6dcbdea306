"""Sound peaks for the ribbon and the Loupe, at several zoom levels."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

import numpy as np
import numpy.typing as npt

from mortiser.media.sound import RATE, Samples

FINEST_US = 5_000
STEP = RATE * FINEST_US // 1_000_000
LEVELS = (1, 4, 16, 64)
"""Bin lengths in units of FINEST_US: 5, 20, 80 and 320 ms."""


def compute_peaks(sound: Iterable[Samples]) -> list[npt.NDArray[np.uint8]]:
    """Loudest |sample| of each bin as 0..255, one array a level, finest first."""
    parts: list[npt.NDArray[np.float32]] = []
    rest = np.zeros(0, np.float32)
    for samples in sound:
        rest = np.concatenate([rest, samples])
        whole = len(rest) // STEP * STEP
        parts.append(np.abs(rest[:whole]).reshape(-1, STEP).max(axis=1))
        rest = rest[whole:]
    if len(rest):
        parts.append(np.abs(rest).max(keepdims=True))
    finest = np.concatenate(parts) if parts else np.zeros(0, np.float32)
    levels = []
    for level in LEVELS:
        padded = np.pad(finest, (0, -len(finest) % level))
        bins = padded.reshape(-1, level).max(axis=1)
        levels.append(np.minimum(255, np.round(bins * 255)).astype(np.uint8))
    return levels


def save_peaks(path: Path, levels: list[npt.NDArray[np.uint8]]) -> None:
    """Keep the levels in one file."""
    with path.open("wb") as out:
        np.savez_compressed(out, *levels)


def read_peaks(
    path: Path, from_us: int, to_us: int, most: int
) -> tuple[int, int, npt.NDArray[np.uint8]]:
    """The finest level with at most ``most`` bins in the stretch.

    Returns the start and length of a bin in µs and the bins that touch ``[from_us, to_us)``.
    """
    with np.load(path) as stored:
        for number, level in enumerate(LEVELS):
            length = FINEST_US * level
            first, last = from_us // length, -(-to_us // length)
            if last - first <= most or number == len(LEVELS) - 1:
                return first * length, length, stored[f"arr_{number}"][first:last]
    raise AssertionError("there is a coarsest level")
