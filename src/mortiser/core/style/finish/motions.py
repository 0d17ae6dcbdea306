"""The motions a finish can have, as values; ``core/style/motion`` plays them.

Times are milliseconds at most: motions shorten themselves when words come fast. ``strength`` is 1
for what the motion's author meant.
"""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from mortiser.core.style.finish.names import Curve, EmphasisName, EntranceName, ExitName, LoopName
from mortiser.core.style.finish.parts import Value


class Entrance(Value):
    """How captions, lines, words or letters come in."""

    kind: EntranceName = "none"
    by: Literal["caption", "line", "word", "letter"] = "caption"
    when: Literal["start", "spoken"] = Field(
        default="start", description="With the caption, or each part as it is said."
    )
    duration_ms: int = Field(default=180, ge=0, le=2000)
    delay_ms: int = Field(default=0, ge=0, le=1000)
    stagger_ms: int = Field(default=40, ge=0, le=500, description="Between parts, from the start.")
    strength: float = Field(default=1.0, ge=0, le=3)
    curve: Curve = "out"


class Emphasis(Value):
    """What the word being said does."""

    kind: EmphasisName = "none"
    duration_ms: int = Field(default=140, ge=0, le=1000, description="On its way and back.")
    strength: float = Field(default=1.0, ge=0, le=3)
    curve: Curve = "out"


class Exit(Value):
    """How captions or their words go."""

    kind: ExitName = "none"
    by: Literal["caption", "word"] = "caption"
    duration_ms: int = Field(default=140, ge=0, le=1000)
    stagger_ms: int = Field(default=30, ge=0, le=300)
    strength: float = Field(default=1.0, ge=0, le=3)
    curve: Curve = "inout"
    overlap: bool = Field(
        default=False, description="Goes while the next caption comes, where the two touch."
    )


class Loop(Value):
    """A gentle motion for as long as the caption stands."""

    kind: LoopName = "none"
    by: Literal["caption", "word"] = "caption"
    period_ms: int = Field(default=1800, ge=300, le=10_000)
    strength: float = Field(default=1.0, ge=0, le=3)


class Motion(Value):
    """Everything that moves in a finish."""

    entrance: Entrance = Entrance()
    emphasis: Emphasis = Emphasis()
    exit: Exit = Exit()
    loop: Loop = Loop()
