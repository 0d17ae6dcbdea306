"""Shapes: the frames a piece is shown in, and how its picture is put into each. Values, checked when made.

Times are of sources, so that what was decided about a stretch of a recording stays with it however the
piece is cut.
"""

from __future__ import annotations

import hashlib
import json
import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal, Self, TypeVar

from pydantic import Field, JsonValue, model_validator

from mortiser.core.common.limits import Id, Micros
from mortiser.core.common.stored import Stored
from mortiser.core.framing.frame import BACKDROP
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.style.finish.parts import Colour, Value

SMALLEST, LARGEST = 240, 4_096
"""Of a frame's side, in pixels."""
MOST_SHAPES = 8
MOST_LAYERS = 24
MOST_CHOSEN = 24
"""Points that were chosen of the sources of one framing."""
MOST_ID = 1_000_000
"""Of a shape or a layer: numbers are not given twice."""
MOST_STRETCHES = 2_000
MOST_SIDE = 16_384
Side = Annotated[int, Field(ge=2, le=MOST_SIDE)]
Share = Annotated[float, Field(ge=0, le=1)]
Zoom = Annotated[float, Field(ge=0.2, le=8)]

Fit = Literal["whole", "fill"]
BackdropKind = Literal["blur", "colour", "gradient", "picture"]
Follow = Literal["off", "calm", "close"]
Who = Literal["face", "speaker"]
Way = Literal["in", "out", "quick"]


class OfSource(Value):
    """Something about a source."""

    source_id: Id

    def of_copy(self, sources: Mapping[int, int]) -> Self:
        """The same about the copy of its source, by the ids of both; as it is where that was not copied."""
        source = sources.get(self.source_id, self.source_id)
        return self.model_copy(update={"source_id": source})


class Chosen(OfSource):
    """A point of a source's picture (shares of its sides) at a moment: who or what is there is meant."""

    at_us: Micros
    x: Share
    y: Share


class Seat(Chosen):
    """Where somebody who speaks is seen."""

    speaker: str = Field(min_length=1, max_length=80)


class Framing(Value):
    """How a picture lies in the frame.

    ``whole`` shows all of it, ``fill`` leaves nothing of the frame uncovered; ``zoom`` is what comes on
    top of that. ``x`` and ``y`` say which point of the picture lies in the middle of the frame, in shares
    of its width and height, as far as the picture reaches. ``quarters`` are quarter turns clockwise,
    ``turn`` is degrees clockwise on top of them; ``mirror`` swaps left and right.

    Where a face is known and ``follow`` is not off, it lies at ``px``, ``py`` of the frame instead, as
    far as the picture reaches: ``calm`` moves as little as it can, ``close`` holds the face still.
    """

    fit: Fit = "whole"
    zoom: Zoom = 1.0
    x: Share = 0.5
    y: Share = 0.5
    quarters: int = Field(default=0, ge=0, le=3)
    turn: float = Field(default=0.0, ge=-45, le=45)
    mirror: bool = False
    follow: Follow = "off"
    px: Share = 0.5
    py: Share = 0.42
    who: Who = "face"
    chosen: tuple[Chosen, ...] = Field(default=(), max_length=MOST_CHOSEN)
    seats: tuple[Seat, ...] = Field(default=(), max_length=MOST_CHOSEN)

    def choosing(self, chosen: Chosen) -> Framing:
        """The same, following what is at a point of a source's picture."""
        others = [one for one in self.chosen if one.source_id != chosen.source_id]
        return self.model_copy(update={"chosen": (*others, chosen)[-MOST_CHOSEN:], "who": "face"})

    def seating(self, seat: Seat) -> Framing:
        """The same, with somebody who speaks at a point of a source's picture."""
        mine = (seat.source_id, seat.speaker)
        others = [one for one in self.seats if (one.source_id, one.speaker) != mine]
        return self.model_copy(update={"seats": (*others, seat)[-MOST_CHOSEN:], "who": "speaker"})


class Backdrop(Value):
    """What lies behind a picture that does not cover the frame: the picture itself, blurred and darkened
    (``dark`` of its light is taken away), a colour, a gradient from top to bottom, or a picture of the user's
    own that fills the frame, ``soft`` and darkened as much as is said."""

    kind: BackdropKind = "blur"
    dark: Share = 0.45
    first: Colour = BACKDROP
    last: Colour = (20, 26, 28, 255)
    picture: OwnPicture | None = None
    soft: Share = 0.0


class FramedStretch(OfSource):
    """A stretch of a source, in its time."""

    start_us: Micros
    end_us: Micros

    @model_validator(mode="after")
    def _has_length(self) -> FramedStretch:
        if self.end_us <= self.start_us:
            raise ValueError("a stretch has a length")
        return self

    def holds(self, source_id: int, at_us: int) -> bool:
        """Whether a moment of a source lies in it."""
        return self.source_id == source_id and self.start_us <= at_us < self.end_us


class Framed(FramedStretch):
    """A stretch with a framing of its own."""

    framing: Framing


class Move(FramedStretch):
    """A change of zoom over a stretch: slowly ``in`` or ``out`` over all of it, or a ``quick`` move in at
    its beginning and back at its end. ``zoom`` is the most there is of it."""

    zoom: float = Field(default=1.15, ge=1.01, le=3)
    way: Way = "in"


Spot = Annotated[float, Field(ge=-0.5, le=1.5)]


class LayerPlace(Value):
    """Where a layer stands in a shape: its middle and its width in shares of the frame; the height of bars
    and plates, like the size of letters, is a share of its short side."""

    x: Spot = 0.5
    y: Spot = 0.5
    width: float = Field(default=0.84, ge=0.01, le=1.5)
    height: float = Field(default=0.1, ge=0.002, le=1.5)
    size: float = Field(default=0.07, ge=0.01, le=0.5)
    turn: float = Field(default=0.0, ge=-180, le=180)


class Shape(Value):
    """One frame of a piece: ``width`` by ``height`` pixels.

    ``framing`` is that of all clips but those that a stretch in ``framed`` says otherwise about (the last
    one counts, by the clip's middle). ``alternate`` zooms every other clip by as much; 1 for none.
    ``look`` is what captions have here in place of their finish's: settings by dotted path.
    """

    id: int = Field(ge=1, le=MOST_ID)
    width: Side
    height: Side
    framing: Framing = Framing()
    framed: tuple[Framed, ...] = Field(default=(), max_length=MOST_STRETCHES)
    moves: tuple[Move, ...] = Field(default=(), max_length=MOST_STRETCHES)
    alternate: float = Field(default=1.0, ge=1.0, le=2.0)
    backdrop: Backdrop = Backdrop()
    holds: tuple[Chosen, ...] = Field(default=(), max_length=MOST_STRETCHES)
    """Where somebody said a face that is followed to be."""
    look: dict[str, JsonValue] = Field(default={}, max_length=60)
    places: dict[int, LayerPlace] = Field(default={}, max_length=MOST_LAYERS)
    """Where the piece's layers stand here, by their ids."""

    @property
    def framings(self) -> tuple[Framing, ...]:
        """That of the piece, and those of single stretches."""
        return self.framing, *(one.framing for one in self.framed)

    def without_layer(self, layer_id: int) -> Shape:
        """The same where a layer has no place any more."""
        left = {key: place for key, place in self.places.items() if key != layer_id}
        return self.model_copy(update={"places": left})

    def of_copies(self, sources: Mapping[int, int]) -> Shape:
        """The same for copies of its sources, by their ids."""
        return self.model_copy(
            update={
                "framing": _framing_of_copies(self.framing, sources),
                "framed": tuple(
                    one.model_copy(update={"framing": _framing_of_copies(one.framing, sources)})
                    for one in _of_copies(self.framed, sources)
                ),
                "moves": _of_copies(self.moves, sources),
                "holds": _of_copies(self.holds, sources),
            }
        )

    @property
    def digest(self) -> str:
        """The same for what frames pictures the same."""
        said = self.model_dump_json(exclude={"id", "look", "places"})
        return hashlib.sha256(said.encode()).hexdigest()[:16]

    @property
    def size(self) -> tuple[int, int]:
        """Width and height."""
        return self.width, self.height


_OfSource = TypeVar("_OfSource", bound=OfSource)


def _of_copies(values: tuple[_OfSource, ...], sources: Mapping[int, int]) -> tuple[_OfSource, ...]:
    return tuple(one.of_copy(sources) for one in values)


def _framing_of_copies(framing: Framing, sources: Mapping[int, int]) -> Framing:
    chosen, seats = _of_copies(framing.chosen, sources), _of_copies(framing.seats, sources)
    return framing.model_copy(update={"chosen": chosen, "seats": seats})


NAMED = {"tall": 9 / 16, "portrait": 4 / 5, "square": 1.0, "wide": 16 / 9}
"""Widths of the shapes that have a name, for a height of 1."""


@dataclass(frozen=True)
class NamedShape:
    """A shape that has a name, in the size it is commonly delivered in."""

    name: str
    width: int
    height: int


NAMED_SHAPES = (
    NamedShape("Tall 9:16", 1080, 1920),
    NamedShape("Portrait 4:5", 1080, 1350),
    NamedShape("Square 1:1", 1080, 1080),
    NamedShape("Wide 16:9", 1920, 1080),
)


def shape_word(width: int, height: int) -> str:
    """A shape in one word: the name of the one that is nearest to it."""
    return min(NAMED, key=lambda name: abs(math.log(NAMED[name] * height / width)))


Shapes = tuple[Shape, ...]
STORED: Stored[Shapes] = Stored(Shapes, first=json.loads)
"""Texts of before versions leave out what is as usual."""


def shapes_of(text: str, width: int, height: int) -> Shapes:
    """What a stored text stands for; "" for the one frame a piece begins with."""
    return STORED.read(text) if text else (Shape(id=1, width=width, height=height),)
