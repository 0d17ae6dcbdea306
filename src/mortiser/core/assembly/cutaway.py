"""Cutaways: pictures that cover the talk's while some words are said; the talk goes on. Values, checked when made."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from mortiser.core.assembly.transition import Transition
from mortiser.core.common.limits import Micros
from mortiser.core.common.stored import Stored
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import MOST_ID, FramedStretch, Framing, OfSource, Share
from mortiser.core.style.finish.parts import Colour, Value

MOST_CUTAWAYS = 200
"""In a piece."""
SLOWEST, FASTEST = 0.25, 4.0
"""How fast what is seen can play."""


OwnSound = Literal["off", "quiet", "heard"]
"""Whether the sound of what is seen is heard too: not at all, under the talk, or as it is."""
Drift = Annotated[float, Field(ge=-0.5, le=0.5)]


class RecordingSeen(OfSource):
    """A recording of the project, from a moment of it (µs) on."""

    kind: Literal["recording"] = "recording"
    from_us: Micros = 0


class PictureSeen(Value):
    """A picture of the user's own."""

    kind: Literal["picture"] = "picture"
    picture: OwnPicture


Seen = Annotated[RecordingSeen | PictureSeen, Field(discriminator="kind")]


class CutawayPlace(Value):
    """Where a cutaway is seen that leaves some of the talk in sight: its middle and its width in shares of the
    frame, how much wider it is than high, how round its corners are (a share of its short side), and the line
    around it (a share of the frame's short side)."""

    x: Share = 0.72
    y: Share = 0.2
    width: float = Field(default=0.42, ge=0.05, le=1)
    aspect: float = Field(default=1.0, ge=0.2, le=5)
    corner: float = Field(default=0.12, ge=0, le=0.5)
    border: float = Field(default=0.008, ge=0, le=0.05)
    border_colour: Colour = (255, 255, 255, 255)

    def box(self, frame: tuple[int, int]) -> tuple[int, int, int, int]:
        """Left, top, width and height in a frame, in even pixels, all of it within the frame."""
        width = _even(min(frame[0], self.width * frame[0]))
        height = _even(min(frame[1], width / self.aspect))
        left = _even(self.x * frame[0] - width / 2, 0)
        top = _even(self.y * frame[1] - height / 2, 0)
        return min(left, frame[0] - width), min(top, frame[1] - height), width, height


def _even(length: float, least: int = 2) -> int:
    return max(least, 2 * round(length / 2))


class Cutaway(Value):
    """What is ``seen`` while words of a source are said, those in the stretch ``during``.

    It goes and moves with these words. ``speed`` is how fast a recording plays; its own ``sound`` can be heard where
    it plays as fast as it was recorded. With a ``place`` it is a picture in the picture, else it covers the frame;
    ``framing`` is how it lies in either. It comes slowly nearer by ``drift`` while it is seen, or goes away where that
    is negative.
    """

    id: int = Field(ge=1, le=MOST_ID)
    during: FramedStretch
    seen: Seen
    framing: Framing = Framing(fit="fill")
    speed: float = Field(default=1.0, ge=SLOWEST, le=FASTEST)
    drift: Drift = 0.0
    place: CutawayPlace | None = None
    opacity: float = Field(default=1.0, ge=0.05, le=1)
    sound: OwnSound = "off"
    comes: Transition | None = None
    goes: Transition | None = None

    def of_copies(self, sources: Mapping[int, int]) -> Cutaway:
        """The same for copies of the sources, by their ids."""
        seen = self.seen.of_copy(sources) if isinstance(self.seen, RecordingSeen) else self.seen
        return self.model_copy(update={"during": self.during.of_copy(sources), "seen": seen})

    def is_of(self, source_id: int) -> bool:
        """Whether it lies on a source or shows it."""
        shown = isinstance(self.seen, RecordingSeen) and self.seen.source_id == source_id
        return shown or self.during.source_id == source_id


Cutaways = tuple[Cutaway, ...]


def without_source(cutaways: Cutaways, source_id: int) -> Cutaways:
    """Cutaways that neither lie on a source nor show it."""
    return tuple(one for one in cutaways if not one.is_of(source_id))


STORED: Stored[Cutaways] = Stored(Cutaways, first=lambda text: json.loads(text) if text else [])
