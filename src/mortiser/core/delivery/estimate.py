"""How large a file will be and how long it takes to make, before it is made.

Sizes go by how finely the recording itself is encoded, times by the pixels that are encoded; both are brought
nearer by what earlier files came to on the same machine.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from statistics import median

from mortiser.core.project.output import Output, Quality, StillFile, TextFile, VideoForm

FINENESS: Mapping[VideoForm, Mapping[Quality, float]] = {
    "h264": {"small": 0.8, "good": 1.1, "fine": 1.6},
    "mkv": {"small": 0.8, "good": 1.1, "fine": 1.6},
    "h265": {"small": 0.45, "good": 0.8, "fine": 1.15},
    "vp9": {"small": 0.5, "good": 0.85, "fine": 1.6},
    "av1": {"small": 0.4, "good": 0.65, "fine": 1.1},
}
"""Bits of the picture, as a share of those of the recording for as many pixels and frames."""
BITS: Mapping[VideoForm, Mapping[Quality, float]] = {
    "prores": {"small": 0.5, "good": 0.7, "fine": 1.05},
    "overlay": {"small": 0.15, "good": 0.15, "fine": 0.2},
    "gif": {"small": 0.3, "good": 0.3, "fine": 0.3},
    "webp": {"small": 0.08, "good": 0.14, "fine": 0.3},
}
"""Bits a pixel of forms that go little by what they show."""
NANOSECONDS: Mapping[VideoForm, float] = {
    "h264": 9,
    "mkv": 9,
    "h265": 28,
    "vp9": 36,
    "av1": 15,
    "prores": 21,
    "overlay": 25,
    "gif": 60,
    "webp": 60,
}
"""For a pixel of a frame, on two cores."""
SLOWER: Mapping[Quality, float] = {"small": 1.3, "good": 1.0, "fine": 1.4}
FINEST = 0.35
"""Bits a pixel beyond which nothing is seen of more."""
USUAL = 0.1
"""Bits a pixel of recordings, where nothing is known of one."""
SOUND_BITS = 160_000
"""A second."""
PCM_BITS = 1_536_000
LEAST_S = 0.5
MOST_OFF = 8.0


@dataclass(frozen=True)
class Expected:
    """Bytes, and seconds of work."""

    size: float
    seconds: float


def expected(
    output: Output, shape: tuple[int, int], frames: int, length_s: float, fineness: float
) -> Expected:
    """What a file comes to: ``fineness`` are the bits a pixel and frame of the recording (0 where not known)."""
    if isinstance(output, TextFile):
        return Expected(60 * length_s, LEAST_S)
    if isinstance(output, StillFile):
        pixels = shape[0] * shape[1]
        return Expected(pixels * (0.12 if output.form == "jpeg" else 1.0), 2 * LEAST_S)
    width, height = output.size_of(shape)
    seen = width * height * frames
    if output.form in FINENESS:
        # Fewer pixels of the same picture hold more each.
        finer = ((shape[0] * shape[1]) / (width * height)) ** 0.25
        own = min(FINEST, (fineness or USUAL) * finer)
        bits = seen * own * FINENESS[output.form][output.quality]
    else:
        bits = seen * BITS[output.form][output.quality]
    if output.facts.sound:
        bits += length_s * (PCM_BITS if output.form == "prores" else SOUND_BITS)
    seconds = seen * NANOSECONDS[output.form] * SLOWER[output.quality] / 1e9
    size = bits / 8
    if 0 < output.most_bytes < size:
        return Expected(output.most_bytes, LEAST_S + 2 * seconds)
    return Expected(size, LEAST_S + seconds)


def corrected(first: Expected, before: Sequence[tuple[Expected, Expected]]) -> Expected:
    """An expectation brought nearer by what earlier files were expected to come to, and came to."""
    if not before:
        return first
    sizes = median(_off(came.size, thought.size) for thought, came in before)
    times = median(_off(came.seconds, thought.seconds) for thought, came in before)
    return Expected(first.size * sizes, first.seconds * times)


def _off(came: float, thought: float) -> float:
    return min(MOST_OFF, max(1 / MOST_OFF, came / thought)) if thought > 0 else 1.0
