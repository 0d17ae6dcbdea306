"""What finishes are made of: colours, paints, outlines, shadows, plates. Values, checked when made.

Lengths are shares of the type size unless said otherwise, so that one finish serves every frame.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.style.finish.names import EntranceName, LoopName

Channel = Annotated[int, Field(ge=0, le=255)]
Colour = tuple[Channel, Channel, Channel, Channel]
"""Red, green, blue, opacity, each 0 to 255, sRGB, not premultiplied."""


class Value(BaseModel):
    """A part of a finish: never changes, knows all its fields, equal by value."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Gradient(Value):
    """One colour running into another across a word's letters."""

    first: Colour
    last: Colour
    angle: float = Field(
        default=90, ge=-360, le=360, description="Degrees: 0 to the right, 90 down."
    )


Paint = Colour | Gradient


def ends(paint: Paint) -> tuple[Colour, Colour]:
    """The colours a paint begins and ends with; the same for a plain one."""
    return (paint.first, paint.last) if isinstance(paint, Gradient) else (paint, paint)


class Outline(Value):
    """A line around the letters; ``width`` is what shows outside of what it surrounds."""

    width: float = Field(ge=0, le=0.3)
    colour: Colour


class Shadow(Value):
    """A blurred shadow; ``blur`` is twice the Gaussian sigma."""

    dx: float = Field(default=0.0, ge=-0.5, le=0.5)
    dy: float = Field(default=0.05, ge=-0.5, le=0.5)
    blur: float = Field(default=0.15, ge=0, le=1)
    colour: Colour = (0, 0, 0, 150)


class WordPlate(Value):
    """A rounded box behind one word."""

    colour: Colour
    pad_x: float = Field(default=0.16, ge=0, le=1)
    pad_y: float = Field(default=0.0, ge=-0.5, le=1)
    radius: float = Field(default=0.15, ge=0, le=1)


class Plate(WordPlate):
    """Rounded boxes behind the whole caption, each of its lines, or each of its words."""

    behind: Literal["caption", "line", "word"] = "line"


class Companion(Value):
    """An emoji that stands by a word without being part of the text."""

    emoji: str = Field(min_length=1, max_length=40)
    place: Literal["before", "after", "above"] = "above"
    size: float = Field(default=1.15, ge=0.3, le=4, description="Side, share of the type size.")
    comes: EntranceName = Field(default="swell", description="When its word is said.")
    loop: LoopName = "bob"


class Plank(WordPlate):
    """A plate that goes from word to word with what is being said."""

    travel: Literal["slide", "jump"] = "slide"


class Place(Value):
    """Where captions stand: a box of a width, held at a place of the frame, moved and turned."""

    across: Literal["left", "centre", "right"] = "centre"
    down: Literal["top", "middle", "bottom"] = "middle"
    dx: float = Field(default=0.0, ge=-1, le=1, description="To the right, share of the width.")
    dy: float = Field(default=0.21, ge=-1, le=1, description="Down, share of the height.")
    width: float = Field(default=0.84, ge=0.1, le=1, description="Share of the frame's width.")
    turn: float = Field(default=0.0, ge=-180, le=180, description="Degrees, clockwise.")
