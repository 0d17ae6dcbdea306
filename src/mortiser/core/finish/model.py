"""What a finish is made of. Lengths are shares, so that one finish serves every frame."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Channel = Annotated[int, Field(ge=0, le=255)]
Colour = tuple[Channel, Channel, Channel, Channel]
"""Red, green, blue, opacity, each 0 to 255, sRGB, not premultiplied."""

CueMotionName = Literal["still", "settle"]
WordMotionName = Literal["still", "rise"]


class _Value(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Outline(_Value):
    """A line around the letters; ``width`` is the part outside them, as a share of the size."""

    width: float = Field(ge=0, le=0.3)
    colour: Colour


class Shadow(_Value):
    """A blurred shadow; lengths are shares of the type size, ``blur`` twice the Gaussian sigma."""

    dx: float = Field(ge=-0.5, le=0.5)
    dy: float = Field(ge=-0.5, le=0.5)
    blur: float = Field(ge=0, le=1)
    colour: Colour


class Plank(_Value):
    """A box that slides under the word being spoken; lengths are shares of the type size."""

    colour: Colour
    pad_x: float = Field(ge=0, le=1)
    pad_y: float = Field(ge=-0.5, le=1)
    radius: float = Field(ge=0, le=1)


class Accent(_Value):
    """A named emphasis: what a marked word has instead of the finish's own; sizes are shares."""

    name: str = Field(min_length=1, max_length=24)
    about: str
    ahead: Colour | None = None
    live: Colour | None = None
    past: Colour | None = None
    scale: float = Field(default=1.0, ge=0.5, le=2)


MOST_ACCENTS = 8


class Finish(_Value):
    """A look: letters, place, the paints of the three word states, accents, and motion."""

    name: str
    about: str
    font: str
    size: float = Field(gt=0, le=0.5, description="Type size as a share of the frame's short side.")
    upper: bool = False
    measure: float = Field(gt=0, le=1, description="Widest line as a share of the frame's width.")
    max_lines: int = Field(ge=1, le=6)
    anchor_y: float = Field(ge=0, le=1, description="Middle of the block, share of the height.")
    line_height: float = Field(ge=0.7, le=3)
    word_gap: float = Field(ge=0, le=2, description="Space between words, share of the size.")
    ahead: Colour
    live: Colour
    past: Colour
    outline: Outline | None = None
    shadow: Shadow | None = None
    plank: Plank | None = None
    cue_motion: CueMotionName = "still"
    word_motion: WordMotionName = "still"
    accents: tuple[Accent, ...] = Field(default=(), max_length=MOST_ACCENTS)

    def accent(self, number: int) -> Accent | None:
        """The accent of a marked word (from 1); the last one where the finish has fewer."""
        if not number or not self.accents:
            return None
        return self.accents[min(number, len(self.accents)) - 1]

    def cased(self, text: str) -> str:
        """The text as its letters are shown."""
        return text.upper() if self.upper else text
