"""Sound peaks for the ribbon and the Loupe, at several zoom levels."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from functools import lru_cache
from pathlib import Path

import numpy as np
import numpy.typing as npt

from mortiser.core.editing.cutting import SILENT, Loudness
from mortiser.core.editing.timeline import Timeline
from mortiser.core.scene.waves import NOT_HEARD, Heard
from mortiser.media.sound import RATE, Samples

FINEST_US = 5_000
STEP = RATE * FINEST_US // 1_000_000
LEVELS = (1, 4, 16, 64)
"""Bin lengths in units of FINEST_US: 5, 20, 80 and 320 ms."""
DRAWN = 4
"""Finest bins that a peak of a waveform over the picture is of."""


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


def track_key(track: int) -> str:
    """What a recording's own sound track is known by; "" is the first one's."""
    return str(track) if track else ""


def peaks_beside(recording: Path, key: str) -> Path:
    """Where the peaks of a sound of a recording lie; ``key`` says which sound."""
    return recording.parent / f"peaks{f'-{key}' if key else ''}.npz"


def piece_sound(files: Mapping[int, Path], timeline: Timeline, from_us: int, to_us: int) -> Heard:
    """The sound of a stretch of a piece as waveforms are drawn of it, 20 ms a peak; nothing as long as
    peaks are being made."""
    if not all(file.exists() for file in files.values()):
        return NOT_HEARD
    length = FINEST_US * DRAWN
    from_us, to_us = from_us // length * length, min(to_us, timeline.duration_us)
    # Of the finest: behind a cut, peaks of a source lie anywhere between those of the piece.
    first, finest = _bins(files, timeline, from_us, to_us, 1)
    bins = np.pad(finest, (0, -len(finest) % DRAWN)).reshape(-1, DRAWN).max(axis=1)
    loudest = max(int(np.max(_stored(file)[-1], initial=0)) for file in files.values())
    return Heard(first * FINEST_US, length, bins.tobytes(), loudest)


def piece_peaks(
    files: Mapping[int, Path], timeline: Timeline, from_us: int, to_us: int, most: int
) -> tuple[int, int, npt.NDArray[np.uint8]]:
    """Peaks of a piece from those of its sources, at the finest level with at most ``most`` bins.

    Returns the start and length of a bin in µs of the piece, and the bins that touch ``[from_us,
    to_us)``, as far as the piece goes. A bin holds whatever touches it on either side of a cut.
    """
    to_us = min(to_us, timeline.duration_us)
    levels = (level for level in LEVELS if -(-(to_us - from_us) // (FINEST_US * level)) < most)
    level = next(levels, LEVELS[-1])
    first, bins = _bins(files, timeline, from_us, to_us, level)
    return first * FINEST_US * level, FINEST_US * level, bins


def _bins(
    files: Mapping[int, Path], timeline: Timeline, from_us: int, to_us: int, level: int
) -> tuple[int, npt.NDArray[np.uint8]]:
    """The number of the first bin of a stretch at a level, and the bins."""
    length = FINEST_US * level
    first = from_us // length
    bins = np.zeros(max(0, -(-to_us // length) - first), np.uint8)
    read = {key: _stored(file)[LEVELS.index(level)] for key, file in files.items()}
    for part in timeline.slice(first * length, first * length + len(bins) * length):
        clip = part.clip
        source = np.arange(clip.start_us // length, -(-clip.end_us // length))
        source = source[source < len(read[clip.source_id])]
        # Each bin of the source goes to the bins of the piece it reaches into.
        for edge in (source * length, (source + 1) * length - 1):
            at = np.clip(edge, clip.start_us, clip.end_us - 1) - clip.start_us + part.at_us
            np.maximum.at(bins, at // length - first, read[clip.source_id][source])
    return first, bins


def loudness(path: Path) -> Loudness:
    """The finest level of a file of peaks, kept in memory for the files used last; nothing where there
    is no file yet."""
    try:
        return Loudness(FINEST_US, _stored(path)[0])
    except FileNotFoundError:
        return SILENT


def _stored(path: Path) -> tuple[npt.NDArray[np.uint8], ...]:
    return _levels(path, path.stat().st_mtime_ns)


@lru_cache(maxsize=16)
def _levels(path: Path, written_ns: int) -> tuple[npt.NDArray[np.uint8], ...]:
    with np.load(path) as stored:
        return tuple(stored[f"arr_{number}"] for number in range(len(LEVELS)))
