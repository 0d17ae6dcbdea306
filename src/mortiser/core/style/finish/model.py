"""A finish: a complete caption look as one value, with a versioned JSON form.

The JSON form is the value's own fields by name (``Finish.model_dump_json``), with ``version``;
docs/finish.md describes it for people who write one by hand. A later version reads earlier ones.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from mortiser.core.style.finish.motions import Emphasis, Loop, Motion
from mortiser.core.style.finish.parts import (
    Companion,
    Outline,
    Paint,
    Place,
    Plank,
    Plate,
    Shadow,
    Value,
    WordPlate,
)

MOST_ACCENTS = 8
VERSION: Literal[1] = 1

Weight = Annotated[int, Field(ge=100, le=1000, description="Nearest of the family's is taken.")]
Case = Literal["as_written", "upper", "lower", "title"]


class Accent(Value):
    """A named emphasis: what a marked word has instead of the finish's own."""

    name: str = Field(min_length=1, max_length=24)
    about: str = Field(default="", max_length=120)
    ahead: Paint | None = None
    live: Paint | None = None
    past: Paint | None = None
    scale: float = Field(default=1.0, ge=0.5, le=2)
    weight: Weight | None = None
    tilt: float = Field(default=0.0, ge=-45, le=45, description="Degrees, clockwise.")
    lift: float = Field(default=0.0, ge=-5, le=5, description="Up, share of the size.")
    plate: WordPlate | None = None
    outlines: tuple[Outline, ...] | None = Field(default=None, max_length=3)
    emphasis: Emphasis | None = None
    loop: Loop | None = None
    dx: float = Field(default=0.0, ge=-5, le=5, description="To the right, share of the size.")
    font: str | None = Field(default=None, min_length=1, max_length=80)
    case: Case | None = None
    companion: Companion | None = None


class Pattern(Value):
    """Accents by place: part n of a caption has the accent ``cycle[n % len(cycle)]``; 0 is none."""

    by: Literal["line", "word"] = "line"
    cycle: tuple[Annotated[int, Field(ge=0, le=MOST_ACCENTS)], ...] = Field(
        min_length=1, max_length=8
    )


class Finish(Value):
    """Letters, place, paints of the three word states, plates, accents and motion."""

    version: Literal[1] = VERSION
    name: str = Field(min_length=1, max_length=40)
    about: str = Field(default="", max_length=160)
    font: str = Field(min_length=1, max_length=80, description="A family at hand.")
    weight: Weight = 700
    size: float = Field(ge=0.01, le=0.5, description="Share of the frame's short side.")
    case: Case = "as_written"
    letter_gap: float = Field(default=0.0, ge=-0.1, le=0.6, description="Share of the size.")
    word_gap: float = Field(default=0.26, ge=0, le=2, description="Share of the size.")
    line_height: float = Field(default=1.15, ge=0.7, le=3)
    max_lines: int = Field(default=3, ge=1, le=6)
    align: Literal["left", "centre", "right"] = "centre"
    place: Place = Place()
    ahead: Paint
    live: Paint
    past: Paint
    lit: Literal["word", "line"] = Field(
        default="word", description="What is live while one of its words is said."
    )
    outlines: tuple[Outline, ...] = Field(
        default=(), max_length=3, description="Innermost first, each outside the one before."
    )
    shadow: Shadow | None = None
    plate: Plate | None = None
    plank: Plank | None = None
    accents: tuple[Accent, ...] = Field(default=(), max_length=MOST_ACCENTS)
    pattern: Pattern | None = None
    motion: Motion = Motion()

    def accent(self, number: int) -> Accent | None:
        """The accent of a marked word (from 1); the last one where the finish has fewer."""
        if not number or not self.accents:
            return None
        return self.accents[min(number, len(self.accents)) - 1]

    def cased(self, text: str, accent: Accent | None = None) -> str:
        """The text as its letters are shown, in the case of its accent where that has one."""
        match (accent and accent.case) or self.case:
            case "upper":
                return text.upper()
            case "lower":
                return text.lower()
            case "title":
                return text[:1].title() + text[1:]
            case "as_written":
                return text
