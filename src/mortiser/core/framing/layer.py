"""Layers: what stands over the picture besides captions. Values, checked when made."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Annotated, Any, Literal, Self, get_args

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
WaveForm = Literal["bars", "mirrored", "line", "ring"]
Corner = Literal["lower_left", "lower_right", "upper_left", "upper_right"]
CLAY: Colour = (214, 122, 44, 255)
Roundness = Annotated[float, Field(ge=0, le=0.5)]
"""How round corners are, a share of the height: 0.5 is a pill."""


class Wave(Value):
    """How a waveform is drawn: ``count`` marks of its sound, each ``thick`` of the room it has, evened out
    over ``smooth_ms``."""

    form: WaveForm = "mirrored"
    count: int = Field(default=36, ge=8, le=120)
    thick: float = Field(default=0.5, ge=0.08, le=1)
    smooth_ms: int = Field(default=40, ge=0, le=400)


class BaseLayer(Value):
    """What every layer has.

    ``coming`` and ``going`` are the motions of captions; without one letters move as their finish says, and
    everything else just stands there. ``during`` is the stretch of a source it lasts for, ``intro`` has it
    last until the first caption comes; the whole piece without either.
    """

    id: int = Field(ge=1, le=MOST_ID)
    opacity: float = Field(default=1.0, ge=0, le=1)
    coming: EntranceName | None = None
    going: ExitName | None = None
    during: FramedStretch | None = None
    intro: bool = False

    @property
    def title(self) -> str:
        """What tells it from others of its kind; nothing where nothing does."""
        return ""

    def of_copies(self, sources: Mapping[int, int]) -> Self:
        """The same for copies of its source, by their ids."""
        if self.during is None:
            return self
        return self.model_copy(update={"during": self.during.of_copy(sources)})


class Lettered(BaseLayer):
    """What is laid out like captions: in the piece's finish, or in one of its own."""

    finish: Finish | None = None


class Headline(Lettered):
    """A text that stands."""

    kind: Literal["headline"] = "headline"
    text: str = Field(default="", max_length=400)

    @property
    def title(self) -> str:
        return self.text


class Clock(Lettered):
    """How much of the piece has passed."""

    kind: Literal["clock"] = "clock"


class SpeakerName(Lettered):
    """The name of who speaks."""

    kind: Literal["speaker"] = "speaker"


class PictureLayer(BaseLayer):
    """A picture of the user's; an empty slot without one."""

    kind: Literal["picture"] = "picture"
    picture: OwnPicture | None = None
    radius: Roundness = 0.0

    @property
    def title(self) -> str:
        return self.picture.name if self.picture else ""


class PlateLayer(BaseLayer):
    """A coloured box."""

    kind: Literal["plate"] = "plate"
    colour: Colour = CLAY
    radius: Roundness = 0.5


class Arrow(BaseLayer):
    """An arrow that points to the right, turned by its place."""

    kind: Literal["arrow"] = "arrow"
    colour: Colour = CLAY


class Bubble(BaseLayer):
    """A speech bubble; its ``tail`` points from one of its corners."""

    kind: Literal["bubble"] = "bubble"
    colour: Colour = CLAY
    radius: Roundness = 0.3
    tail: Corner = "lower_left"


class ProgressBar(BaseLayer):
    """How much of the piece has passed, in ``colour`` on ``under``."""

    kind: Literal["bar"] = "bar"
    colour: Colour = CLAY
    under: Colour = (255, 255, 255, 90)
    radius: Roundness = 0.5


class Waveform(BaseLayer):
    """The sound at this moment."""

    kind: Literal["waveform"] = "waveform"
    colour: Colour = CLAY
    wave: Wave = Wave()


OneLayer = (
    Headline
    | PictureLayer
    | PlateLayer
    | Arrow
    | Bubble
    | ProgressBar
    | Waveform
    | Clock
    | SpeakerName
)
Layer = Annotated[OneLayer, Field(discriminator="kind")]
LAYERS: dict[LayerKind, type[OneLayer]] = {
    one.model_fields["kind"].default: one for one in get_args(OneLayer)
}
"""What a layer of each kind is made of."""
LETTERS: frozenset[LayerKind] = frozenset(
    kind for kind, one in LAYERS.items() if issubclass(one, Lettered)
)
"""What is laid out like captions; everything else stands in a box."""

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


def parted_by_kind(layers: Any) -> Any:
    """Layers of version 1, which all had the same fields, as layers of version 2, which have those of their
    kind. Anything else is left as it is: reading it says what is wrong."""
    if not isinstance(layers, list):
        return layers
    return [_of_its_kind(one) if isinstance(one, dict) else one for one in layers]


def _of_its_kind(layer: dict[str, Any]) -> dict[str, Any]:
    made = LAYERS.get(layer.get("kind", ""))
    if made is None:
        return layer
    # All corners were half round unless something else was said.
    return {
        name: value
        for name, value in ({"radius": 0.5} | layer).items()
        if name in made.model_fields
    }


STORED: Stored[Layers] = Stored(
    Layers,
    first=lambda text: json.loads(text) if text else [],
    upgrades=[parted_by_kind],
)
"""Texts of before versions leave out what is as usual."""
