"""Jigs: everything about how a piece is made apart from what it says, under a name.

A jig as a file is ``{"format": "mortiser-jig", "version": 1, "jig": {...}}``, its value's own fields by name;
docs/jig.md describes it. A later version reads earlier ones.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any, Literal

from pydantic import Field, JsonValue, ValidationError

from mortiser.core.assembly.grade import Grade
from mortiser.core.assembly.joining import Joins
from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.common import exported
from mortiser.core.common.errors import BadInput
from mortiser.core.common.stored import Stored
from mortiser.core.common.time import SECOND
from mortiser.core.framing.layer import (
    PLACES,
    Headline,
    Layer,
    Layers,
    PictureLayer,
    ProgressBar,
    SpeakerName,
    Wave,
    Waveform,
    parted_by_kind,
)
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import (
    MOST_LAYERS,
    MOST_SHAPES,
    Backdrop,
    Framing,
    LayerPlace,
    Shape,
    Shapes,
)
from mortiser.core.project.output import MOST_OUTPUTS, USUAL_OUTPUTS, Outputs
from mortiser.core.project.piece import Piece
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.parts import Value
from mortiser.core.style.finish.stored import said

FORMAT = "mortiser-jig"
VERSION: Literal[3] = 3
MOST_LETTERS = 40


class Jig(Value):
    """Shapes with their framings, layers, finish, pace, transitions, the look of the picture and what is delivered.

    What is about single clips and words is left out. Headlines and pictures are slots: what a headline says is
    the piece's own, and a picture of the piece takes the place of the jig's.
    """

    version: Literal[3] = VERSION
    name: str = Field(min_length=1, max_length=MOST_LETTERS)
    about: str = Field(default="", max_length=160)
    shapes: Shapes = Field(min_length=1, max_length=MOST_SHAPES)
    layers: Layers = Field(default=(), max_length=MOST_LAYERS)
    finish: Finish
    pace: Pace
    file_pace: Pace | None = None
    joins: Joins = Joins()
    look: Grade = Grade()
    outputs: Outputs = Field(default=USUAL_OUTPUTS, min_length=1, max_length=MOST_OUTPUTS)


def jig_of(name: str, piece: Piece) -> Jig:
    """A jig of what a piece has. Raises BadInput for a name that is none."""
    clean = " ".join(name.split())
    if not clean or len(clean) > MOST_LETTERS:
        raise BadInput(f"A jig needs a name of 1 to {MOST_LETTERS} letters.")
    bare = tuple(
        one.model_copy(update={"framed": (), "moves": ()}) for one in piece.settings.shapes
    )
    slots = tuple(
        one.model_copy(update={"during": None} | ({"text": ""} if one.kind == "headline" else {}))
        for one in piece.settings.layers
    )
    return Jig(
        name=clean,
        shapes=bare,
        layers=slots,
        finish=piece.settings.finish,
        pace=piece.settings.pace,
        file_pace=piece.settings.file_pace,
        joins=piece.settings.joins.model_copy(update={"own": ()}),
        look=piece.settings.grades.whole,
        outputs=piece.settings.outputs,
    )


def filled(
    layers: Layers,
    before: Layers,
    name: str,
    texts: Sequence[str] = (),
    pictures: Sequence[OwnPicture] = (),
) -> Layers:
    """A jig's layers for a piece: headlines say in turn what is given, what its own said, or (the first one)
    its name; pictures are in turn those given, its own, or the jig's."""
    said = [*texts] or [one.text for one in before if one.kind == "headline" and one.text]
    if not said:
        said = [name]
    seen = [*pictures] or [one.picture for one in before if one.kind == "picture" and one.picture]
    made: list[Layer] = []
    for one in layers:
        if one.kind == "headline":
            one = one.model_copy(update={"text": said.pop(0) if said else ""})
        if one.kind == "picture" and seen:
            one = one.model_copy(update={"picture": seen.pop(0)})
        made.append(one)
    return tuple(made)


def behind(shapes: Shapes, layers: Layers) -> Shapes:
    """A jig's shapes for a piece with these layers: a backdrop that waits for a picture has the first one."""
    picture = next((one.picture for one in layers if one.kind == "picture" and one.picture), None)
    if picture is None:
        return shapes
    return tuple(
        shape.model_copy(
            update={"backdrop": shape.backdrop.model_copy(update={"picture": picture})}
        )
        if shape.backdrop.kind == "picture" and shape.backdrop.picture is None
        else shape
        for shape in shapes
    )


def _with_layers_by_kind(jig: Any) -> Any:
    """Version 1 had one kind of layer, with the fields of all."""
    if not isinstance(jig, dict):
        return jig
    return jig | {"version": 2, "layers": parted_by_kind(jig.get("layers", []))}


def _without_transitions(jig: Any) -> Any:
    """Version 2 said nothing of transitions and looks: there are none."""
    return jig | {"version": 3} if isinstance(jig, dict) else jig


STORED: Stored[Jig] = Stored(
    Jig, first=json.loads, upgrades=[_with_layers_by_kind, _without_transitions]
)


def write_jig(jig: Jig) -> str:
    """A jig as a file."""
    file = {"format": FORMAT, "version": STORED.version, "jig": jig.model_dump(mode="json")}
    return exported.write(file)


def read_jig(data: bytes) -> Jig:
    """The jig of a file. Raises BadInput saying what is wrong where."""
    value = exported.read(data, "Jigs")
    if not isinstance(value, dict) or value.get("format") != FORMAT:
        raise BadInput("That file holds no jig. Jigs are files that Mortiser exported.")
    exported.need_version(value, STORED.version)
    try:
        return STORED.of(value["version"], value.get("jig"))
    except ValidationError as error:
        raise BadInput(f"That jig cannot be used: {said(error)}") from error


FACED = Framing(fit="fill", follow="calm")


def _shape(
    number: int,
    size: tuple[int, int],
    framing: Framing = FACED,
    places: dict[int, LayerPlace] | None = None,
    backdrop: Backdrop | None = None,
    look: dict[str, JsonValue] | None = None,
) -> Shape:
    return Shape(
        id=number,
        width=size[0],
        height=size[1],
        framing=framing,
        backdrop=backdrop or Backdrop(),
        places=places or {},
        look=look or {},
    )


TALL, SQUARE, WIDE = (1080, 1920), (1080, 1080), (1920, 1080)
HEADLINE = Headline(id=1)
BAR = ProgressBar(id=2)
SPEAKER = SpeakerName(id=3)
WAVE = Waveform(id=4, colour=(244, 236, 222, 255), wave=Wave(count=48, thick=0.45))
COVER = PictureLayer(id=1, radius=0.03)
TITLE = Headline(id=2, intro=True, coming="fade", going="fade")
PERFORMER = Headline(id=3, intro=True, coming="fade", going="fade")
SOFT = Backdrop(kind="picture", dark=0.6, soft=0.6, first=(46, 60, 64, 255))
LOW = PLACES["headline"].model_copy(update={"y": 0.1, "size": 0.062})
LYRIC = FINISHES["Linen"].model_copy(
    update={
        "name": "Linen, sung",
        "about": "",
        "size": 0.085,
        "lit": "line",
        "max_lines": 6,
        "plate": None,
        "ahead": (255, 255, 255, 120),
        "live": (255, 255, 255, 255),
        "past": (255, 255, 255, 120),
    }
)
"""The line being sung is white, the others stand back."""
JIGS: tuple[Jig, ...] = (
    Jig(
        name="Talk, tall",
        about="One tall shape with the face in it, a few words at a time.",
        shapes=(_shape(1, TALL),),
        finish=FINISHES["Lacquer"],
        pace=PACES["quick"],
        file_pace=PACES["sentence"],
    ),
    Jig(
        name="Talk, wide and square",
        about="Wide for a player; whole in a square under a headline, with a progress bar.",
        shapes=(
            _shape(1, WIDE),
            _shape(
                2,
                SQUARE,
                Framing(fit="whole"),
                {1: LOW},
                Backdrop(kind="gradient", first=(46, 60, 64, 255), last=(20, 26, 28, 255)),
            ),
        ),
        layers=(HEADLINE, BAR),
        finish=FINISHES["Pine"],
        pace=PACES["sentence"],
    ),
    Jig(
        name="Conversation, square",
        about="Two voices without a picture: a headline, a waveform, who speaks by name, sentences.",
        shapes=(
            _shape(
                1,
                SQUARE,
                Framing(fit="whole"),
                {
                    1: LOW,
                    3: PLACES["speaker"].model_copy(update={"y": 0.93, "size": 0.042}),
                    4: LayerPlace(y=0.42, width=0.76, height=0.24),
                },
                Backdrop(kind="gradient", first=(58, 44, 60, 255), last=(24, 20, 34, 255)),
            ),
        ),
        layers=(HEADLINE, WAVE, BAR, SPEAKER),
        finish=FINISHES["Linen"],
        pace=PACES["sentence"],
    ),
    Jig(
        name="Lyrics beside a cover",
        about="A cover with its waveform; title and performer first, then the lines as they are sung.",
        shapes=(
            _shape(
                1,
                WIDE,
                Framing(fit="whole"),
                {
                    1: LayerPlace(x=0.25, y=0.5, width=0.36),
                    2: LayerPlace(x=0.72, y=0.44, width=0.46, size=0.1),
                    3: LayerPlace(x=0.72, y=0.57, width=0.46, size=0.055),
                    4: LayerPlace(x=0.72, y=0.84, width=0.44, height=0.13),
                },
                SOFT,
                {
                    "place.across": "centre",
                    "place.down": "middle",
                    "place.dx": 0.22,
                    "place.dy": -0.02,
                    "place.width": 0.46,
                },
            ),
            _shape(
                2,
                TALL,
                Framing(fit="whole"),
                {
                    1: LayerPlace(y=0.3, width=0.74),
                    2: LayerPlace(y=0.6, width=0.86, size=0.1),
                    3: LayerPlace(y=0.66, width=0.86, size=0.055),
                    4: LayerPlace(y=0.84, width=0.74, height=0.13),
                },
                SOFT,
                {"place.down": "middle", "place.dy": 0.14, "place.width": 0.86},
            ),
        ),
        layers=(COVER, WAVE, TITLE, PERFORMER),
        finish=LYRIC,
        pace=Pace(words=16, lines=2, line_chars=30, longest_us=8 * SECOND, close_us=2 * SECOND),
    ),
)
"""Those that there are from the beginning."""
SUNG = JIGS[-1]
"""What a song that comes with a cover is made with."""
