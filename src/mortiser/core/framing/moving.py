"""Where the picture may move over a whole piece, so that a talk in one frame does not stand still.

Marked words get a quick move in, longer sentences a slow one, in and out by turns; between two of them the
picture rests.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from mortiser.core.common.time import MILLISECOND, SECOND
from mortiser.core.framing.shape import Way
from mortiser.core.transcript.sentences import sentences
from mortiser.core.transcript.words import Shown

LEAST_US = 1_600 * MILLISECOND
"""Over a shorter sentence a slow move would not be one."""
REST_US = 2_500 * MILLISECOND
"""Between two moves."""
QUICK_US = 5 * SECOND
"""Between two quick ones."""


class Proposed(NamedTuple):
    """A move over neighbouring words."""

    words: tuple[Shown, ...]
    way: Way


def proposed_moves(words: Sequence[Shown]) -> list[Proposed]:
    """Moves over the words of a piece (in the order they are said), none of them over another."""
    found: list[Proposed] = []
    free_us = quick_us = 0
    slow: Way = "in"
    for first, last in sentences(words):
        said = tuple(words[first : last + 1])
        marked = next((word for word in said if word.accent and word.start_us >= quick_us), None)
        if marked is not None and marked.start_us >= free_us:
            found.append(Proposed((marked,), "quick"))
            free_us, quick_us = marked.end_us + REST_US, marked.end_us + QUICK_US
        elif said[0].start_us >= free_us and said[-1].end_us - said[0].start_us >= LEAST_US:
            found.append(Proposed(said, slow))
            slow = "out" if slow == "in" else "in"
            free_us = said[-1].end_us + REST_US
    return found
