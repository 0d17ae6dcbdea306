"""Layers: what stands over the picture besides captions. Values, checked when made."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Literal

from pydantic import Field

from mortiser.core.common.stored import Stored
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import MOST_ID, FramedStretch, LayerPlace
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.names import EntranceName, ExitName
from mortiser.core.style.finish.parts import Colour, Value

LayerKind = Literal[
    "headline", "picture", "plate", "arrow", "bubble", "bar", "waveform", "clock", "speaker"
]
LETTERS: frozenset[LayerKind] = frozenset({"headline", "clock", "speaker"})
"""What is laid out like captions; everything else stands in a box."""
CORNERED: frozenset[LayerKind] = frozenset({"picture", "plate", "bubble", "bar"})
"""What has corners to be rounded."""
WaveForm = Literal["bars", "mirrored", "line", "ring"]
Corner = Literal["lower_left", "lower_right", "upper_left", "upper_right"]


class Wave(Value):
    """How a waveform is drawn: ``count`` marks of its sound, each ``thick`` of the room it has, evened out
    over ``smooth_ms``."""

    form: WaveForm = "mirrored"
    count: int = Field(default=36, ge=8, le=120)
    thick: float = Field(default=0.5, ge=0.08, le=1)
    smooth_ms: int = Field(default=40, ge=0, le=400)


class Layer(Value):
    """One layer of a piece.

    ``text`` is a headline's; letters are in the piece's finish, or in ``finish``. ``colour`` is that of what is
    drawn, ``under`` of what a bar runs on. ``radius`` rounds corners, a share of the height: 0.5 is a pill.
    A bubble's ``tail`` points from one of its corners. ``coming`` and ``going`` are the motions of captions;
    without one letters move as their finish says, and everything else just stands there. ``during`` is the
    stretch of a source it lasts for, ``intro`` has it last until the first caption comes; the whole piece
    without either.
    """

    id: int = Field(ge=1, le=MOST_ID)
    kind: LayerKind
    text: str = Field(default="", max_length=400)
    finish: Finish | None = None
    colour: Colour = (214, 122, 44, 255)
    under: Colour = (255, 255, 255, 90)
    radius: float = Field(default=0.5, ge=0, le=0.5)
    opacity: float = Field(default=1.0, ge=0, le=1)
    picture: OwnPicture | None = None
    wave: Wave = Wave()
    tail: Corner = "lower_left"
    coming: EntranceName | None = None
    going: ExitName | None = None
    during: FramedStretch | None = None
    intro: bool = False

    def of_copies(self, sources: Mapping[int, int]) -> Layer:
        """The same for copies of its source, by their ids."""
        if self.during is None:
            return self
        source = sources.get(self.during.source_id, self.during.source_id)
        during = self.during.model_copy(update={"source_id": source})
        return self.model_copy(update={"during": during})


PLACES: dict[LayerKind, LayerPlace] = {
    "headline": LayerPlace(y=0.14, size=0.075),
    "bar": LayerPlace(y=0.98, width=0.92, height=0.014),
    "clock": LayerPlace(x=0.9, y=0.94, width=0.2, size=0.045),
    "speaker": LayerPlace(y=0.9, size=0.05),
    "plate": LayerPlace(y=0.14, width=0.9, height=0.23),
    "picture": LayerPlace(y=0.3, width=0.4),
    "arrow": LayerPlace(y=0.4, width=0.26, height=0.14),
    "bubble": LayerPlace(y=0.2, width=0.62, height=0.22),
    "waveform": LayerPlace(y=0.85, width=0.84, height=0.1),
}
"""Where a layer of each kind stands at first."""

LAYER_NAMES: dict[LayerKind, str] = {
    "headline": "Headline",
    "picture": "Picture",
    "plate": "Plate",
    "arrow": "Arrow",
    "bubble": "Speech bubble",
    "bar": "Progress bar",
    "waveform": "Waveform",
    "clock": "Clock",
    "speaker": "Who speaks",
}
"""What the kinds are called, in the order they are offered in."""

Layers = tuple[Layer, ...]
STORED: Stored[Layers] = Stored(Layers, first=lambda text: json.loads(text) if text else [])
"""Texts of before versions leave out what is as usual."""
