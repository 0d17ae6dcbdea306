"""Where a cut lies: in the sound between the words it parts, at its quietest place.

Room is left around the words that stay, never more than there is between them and what is struck.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
import numpy.typing as npt

from mortiser.core.common.time import MILLISECOND
from mortiser.core.transcript.words import Word

CLEAR_US = 20 * MILLISECOND
"""Word times are off by so much: a cut keeps clear of a word that stays, also where the other touches it."""
SOUND_US = 60 * MILLISECOND
"""Shorter sounds are clicks of a tongue or a chair."""
LOUD = 0.15
"""Of the loudness of the talk (-16 dB); breaths are at some -25."""
OVER_ROOM = 3.0
"""Times the loudness of the room: a noisy one is still quiet where nothing else is heard."""
SHARP_US = 40 * MILLISECOND
"""Where words touch, a cut may lie this far into the one that is struck."""


@dataclass(frozen=True)
class Room:
    """What is left before and after words that stay, in µs."""

    before_us: int = 60 * MILLISECOND
    after_us: int = 120 * MILLISECOND


@dataclass(frozen=True, eq=False)
class Loudness:
    """The loudest sample (0 to 255) of each ``step_us`` of a source; none where it is not known."""

    step_us: int = 5 * MILLISECOND
    peaks: npt.NDArray[np.uint8] = field(default_factory=lambda: np.zeros(0, np.uint8))

    def quietest(self, from_us: int, to_us: int, near_us: int) -> int:
        """The quietest place in a stretch; of alike ones the nearest to a moment, which is the answer
        where nothing is known."""
        first, last = from_us // self.step_us, -(-to_us // self.step_us)
        peaks = self.peaks[first:last].astype(np.float64)
        if from_us >= to_us or not len(peaks):
            return min(max(near_us, from_us), max(from_us, to_us))
        # Twenty milliseconds around a place say how loud a cut there would be.
        around = np.convolve(peaks, np.ones(4), "same")
        level = np.round(20 * np.log10(around + 1) / 3)
        centres = (np.arange(len(peaks)) + first) * self.step_us + self.step_us // 2
        places = np.clip(centres, from_us, to_us)
        best = np.lexsort((np.abs(places - near_us), level))[0]
        return int(places[best])

    def sounds(self, from_us: int, to_us: int) -> bool:
        """Whether something is heard in a stretch without words: a bell, a beep, music, no mere room or breath."""
        peaks = self.peaks[from_us // self.step_us : -(-to_us // self.step_us)]
        return int((peaks > self._loud).sum()) * self.step_us >= SOUND_US

    @cached_property
    def _loud(self) -> float:
        """What is louder than this is neither a room nor a breath."""
        if not len(self.peaks):
            return 0.0
        room, talk = np.quantile(self.peaks, (0.1, 0.9))
        return float(max(LOUD * talk, OVER_ROOM * room, 1))


SILENT = Loudness()


def stretch_of(
    words: Sequence[Word],
    first: int,
    last: int,
    bounds: tuple[int, int],
    loudness: Loudness,
    room: Room,
    *,
    keep_pause: bool = False,
) -> tuple[int, int]:
    """What is to be cut away to strike ``words[first:last + 1]``, in source time.

    ``words`` are those of the source that stay around them, in time order, ``bounds`` the stretch that
    is kept so far. The longer one of the pauses on their sides stays where it is to be kept.
    """
    before = words[first - 1] if first else None
    after = words[last + 1] if last + 1 < len(words) else None
    start, end = bounds
    if before is not None and before.end_us > start:
        low = before.end_us
        high = max(min(low + room.after_us, words[first].start_us), low + SHARP_US)
        start = loudness.quietest(low + CLEAR_US, high, high)
        start = min(start, words[first].middle_us - 1)
    if after is not None and after.start_us < end:
        high = after.start_us
        low = min(max(high - room.before_us, words[last].end_us), high - SHARP_US)
        end = loudness.quietest(low, high - CLEAR_US, low)
        end = max(end, words[last].middle_us + 1)
    if keep_pause and before is not None and after is not None:
        ahead, behind = words[first].start_us - before.end_us, after.start_us - words[last].end_us
        if ahead >= behind:
            low = max(before.end_us + CLEAR_US, words[first].start_us - room.before_us)
            start = max(start, loudness.quietest(low, words[first].start_us, low))
        else:
            high = min(after.start_us - CLEAR_US, words[last].end_us + room.after_us)
            end = min(end, loudness.quietest(words[last].end_us, high, high))
    return max(start, bounds[0]), min(end, bounds[1])


def kept_around(
    words: Sequence[Word],
    first: int,
    last: int,
    bounds: tuple[int, int],
    loudness: Loudness,
    room: Room,
) -> tuple[int, int]:
    """What is to be kept to bring ``words[first:last + 1]`` back, in source time: the words with room
    around them, but nothing of the words beside them."""
    start = words[first].start_us
    low = max(start - room.before_us, words[first - 1].end_us if first else 0)
    end = words[last].end_us
    high = end + room.after_us
    if last + 1 < len(words):
        high = min(high, words[last + 1].start_us)
    low, high = min(low, start), max(high, end)
    low = loudness.quietest(low, start, low) if low < start else start
    high = loudness.quietest(end, high, high) if high > end else end
    return max(low, bounds[0]), min(max(high, low + 1), bounds[1])


def index_of(words: Sequence[Word], word_id: int) -> int | None:
    """Where a word stands, by its id."""
    return next((at for at, word in enumerate(words) if word.id == word_id), None)
