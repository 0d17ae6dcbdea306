"""Waveforms against the sound they are drawn of, decoded and looked at on its own."""

from __future__ import annotations

import tempfile
from pathlib import Path

import numpy as np
import numpy.typing as npt

from bench.report import at_most
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.layer import Wave
from mortiser.core.scene.waves import LEAST, wave_item
from mortiser.core.style.layout.rect import Rect
from mortiser.media.peaks import compute_peaks, piece_sound, save_peaks
from mortiser.media.sound import RATE, stream_sound

CLIPS = ("kettle.mp4", "counter.m4a", "lyric.m4a")
MEDIA = Path("src/mortiser/demo/media")
WINDOW_US = 20_000
FRAME_US = 33_333


def run() -> None:
    """Print how far levels are from the sound's own peaks, and how late or early."""
    for name in CLIPS:
        samples = np.concatenate(list(stream_sound(MEDIA / name, 0)))
        length = len(samples) * 1_000_000 // RATE
        line = Timeline([Clip(1, 0, length // 3), Clip(1, length // 2, length)])
        with tempfile.TemporaryDirectory() as folder:
            peaks = Path(folder) / "peaks.npz"
            save_peaks(peaks, compute_peaks([samples]))
            heard = piece_sound({1: peaks}, line, 0, line.duration_us)
        item = wave_item(Wave(smooth_ms=0), Rect(0, 0, 900, 200), (0, 0, 0, 255), heard)
        loudest = float(np.abs(samples).max())
        drawn = np.array([item.level(at) for at in _middles(line)])
        real = np.array([_peak(samples, line, at) for at in _middles(line)])
        # One frame before and behind: what is drawn at 30 frames a second is not told apart.
        near = np.stack([np.roll(real, shift) for shift in (-1, 0, 1)])
        low, high = near.min(axis=0) / loudest, near.max(axis=0) / loudest
        beside = np.maximum(1.0, np.maximum(low / drawn, drawn / np.maximum(high, 1e-9)))
        heard_well = real / loudest > LEAST * 1.2
        off = 20 * np.log10(beside[heard_well])
        at_most(f"{name}: levels off", float(off.max()), "dB", 1, "the sound, within a frame", 2)
        at_most(f"{name}: late or early", _lag(drawn, real), "ms", FRAME_US / 1000, "the sound", 1)


def _middles(line: Timeline) -> range:
    return range(WINDOW_US * 3 // 2, line.duration_us - WINDOW_US, WINDOW_US)


def _peak(samples: npt.NDArray[np.float32], line: Timeline, at_us: int) -> float:
    """The loudest of the sound within a window of the piece, read from its recording."""
    found = 0.0
    for part in line.slice(at_us - WINDOW_US // 2, at_us + WINDOW_US // 2):
        first, last = (edge * RATE // 1_000_000 for edge in (part.clip.start_us, part.clip.end_us))
        found = max(found, float(np.abs(samples[first:last]).max(initial=0.0)))
    return found


def _lag(drawn: npt.NDArray[np.float64], real: npt.NDArray[np.float64]) -> float:
    """By how much one lies behind the other where they are most alike."""
    one, other = (values - values.mean() for values in (drawn, real))
    reach = range(-10, 11)
    alike = [float(np.dot(np.roll(one, shift), other)) for shift in reach]
    return abs(reach[int(np.argmax(alike))]) * WINDOW_US / 1000
