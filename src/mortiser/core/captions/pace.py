"""How a piece's captions are grouped and timed: one value, with two built-in ones and saved ones.

The numbers of "sentence" are the common defaults of caption files: two frames between captions,
5/6 s at least, 7 s at most, 42 characters a line on two lines, 20 characters a second. "quick" is
for short feeds: a few words at a time that hand over without a gap.
"""

from __future__ import annotations

import json
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.common.stored import Stored
from mortiser.core.common.time import MILLISECOND, SECOND

PaceName = Literal["quick", "sentence"]
RuleSet = Literal["feed", "course", "own"]
"""Whose limits the checks go by: those of feeds, of courses, or the piece's own."""

MOST_WORDS = 20


class Pace(BaseModel):
    """Limits of a caption and rules for its times (µs)."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    words: int = Field(default=3, ge=1, le=MOST_WORDS, description="Most words a caption.")
    lines: int = Field(default=2, ge=1, le=3)
    line_chars: int = Field(default=20, ge=6, le=80, description="Most characters a line.")
    chars_per_s: int = Field(default=30, ge=5, le=60, description="Fastest reading speed.")
    lead_us: int = Field(default=40 * MILLISECOND, ge=0, le=SECOND)
    linger_us: int = Field(default=250 * MILLISECOND, ge=0, le=3 * SECOND)
    shortest_us: int = Field(
        default=333 * MILLISECOND,
        ge=40 * MILLISECOND,
        le=5 * SECOND,
        description="Kept wherever the sound allows it; checks say where it does not.",
    )
    longest_us: int = Field(default=4 * SECOND, ge=500 * MILLISECOND, le=20 * SECOND)
    close_us: int = Field(default=400 * MILLISECOND, ge=0, le=3 * SECOND)
    gap_frames: int = Field(default=0, ge=0, le=12, description="What is left of a closed gap.")
    snap: bool = Field(default=True, description="Whether edges go to frames.")


PACES: dict[PaceName, Pace] = {
    "quick": Pace(),
    "sentence": Pace(
        words=16,
        line_chars=42,
        chars_per_s=20,
        shortest_us=833 * MILLISECOND,
        longest_us=7 * SECOND,
        close_us=500 * MILLISECOND,
        gap_frames=2,
    ),
}

GROUPING_FIELDS = ("words", "lines", "line_chars", "chars_per_s", "shortest_us", "longest_us")
"""What grouping looks at: a change of these groups anew."""


def regroups(old: Pace, new: Pace) -> bool:
    """Whether going from one pace to another changes how words are grouped."""
    return any(getattr(old, name) != getattr(new, name) for name in GROUPING_FIELDS)


def pace_name(pace: Pace) -> PaceName | None:
    """The name of a built-in pace."""
    return next((name for name, known in PACES.items() if known == pace), None)


def _first(text: str) -> Any:
    known = {str(name): pace for name, pace in PACES.items()}
    return known[text].model_dump(mode="json") if text in known else json.loads(text)


STORED: Stored[Pace] = Stored(Pace, first=_first)
"""Texts of before versions are the name of a built-in one, or a pace."""


def limits(rules: RuleSet, own: Pace) -> Pace:
    """The limits that a rule set checks by."""
    return own if rules == "own" else PACES["quick" if rules == "feed" else "sentence"]
