"""Jigs: everything about how a piece is made apart from what it says, under a name.

A jig as a file is ``{"format": "mortiser-jig", "version": 1, "jig": {...}}``, its value's own fields by name;
docs/jig.md describes it. A later version reads earlier ones.
"""

from __future__ import annotations

import json
from typing import Literal

from pydantic import Field, ValidationError

from mortiser.core import exported
from mortiser.core.errors import BadInput
from mortiser.core.finish.builtin import FINISHES
from mortiser.core.finish.model import Finish
from mortiser.core.finish.parts import Value
from mortiser.core.finish.stored import said
from mortiser.core.layer import PLACES, Layer, Layers
from mortiser.core.pace import PACES, Pace
from mortiser.core.shape import (
    MOST_LAYERS,
    MOST_SHAPES,
    Backdrop,
    Framing,
    LayerPlace,
    Shape,
    Shapes,
)

FORMAT = "mortiser-jig"
VERSION: Literal[1] = 1
MOST_LETTERS = 40


class Jig(Value):
    """Shapes with their framings, layers, finish and pace.

    What is about single clips and words is left out. A headline is a slot: what it says is the piece's own.
    """

    version: Literal[1] = VERSION
    name: str = Field(min_length=1, max_length=MOST_LETTERS)
    about: str = Field(default="", max_length=160)
    shapes: Shapes = Field(min_length=1, max_length=MOST_SHAPES)
    layers: Layers = Field(default=(), max_length=MOST_LAYERS)
    finish: Finish
    pace: Pace
    file_pace: Pace | None = None


def jig_of(
    name: str,
    shapes: Shapes,
    layers: Layers,
    finish: Finish,
    pace: Pace,
    file_pace: Pace | None,
) -> Jig:
    """A jig of what a piece has. Raises BadInput for a name that is none."""
    clean = " ".join(name.split())
    if not clean or len(clean) > MOST_LETTERS:
        raise BadInput(f"A jig needs a name of 1 to {MOST_LETTERS} letters.")
    bare = tuple(one.model_copy(update={"framed": (), "moves": ()}) for one in shapes)
    slots = tuple(
        one.model_copy(update={"during": None, "text": "" if one.kind == "headline" else one.text})
        for one in layers
    )
    return Jig(name=clean, shapes=bare, layers=slots, finish=finish, pace=pace, file_pace=file_pace)


def filled(layers: Layers, before: Layers, name: str) -> Layers:
    """A jig's layers for a piece: headlines say in turn what its own said, or its name."""
    texts = [one.text for one in before if one.kind == "headline" and one.text]
    made: list[Layer] = []
    for one in layers:
        if one.kind == "headline":
            one = one.model_copy(update={"text": texts.pop(0) if texts else name})
        made.append(one)
    return tuple(made)


def write_jig(jig: Jig) -> str:
    """A jig as a file."""
    file = {"format": FORMAT, "version": VERSION, "jig": jig.model_dump(mode="json")}
    return exported.write(file)


def read_jig(data: bytes) -> Jig:
    """The jig of a file. Raises BadInput saying what is wrong where."""
    value = exported.read(data, "Jigs")
    if not isinstance(value, dict) or value.get("format") != FORMAT:
        raise BadInput("That file holds no jig. Jigs are files that Mortiser exported.")
    exported.need_version(value, VERSION)
    try:
        return Jig.model_validate_json(json.dumps(value.get("jig")))
    except ValidationError as error:
        raise BadInput(f"That jig cannot be used: {said(error)}") from error


FACED = Framing(fit="fill", follow="calm")


def _shape(
    number: int,
    size: tuple[int, int],
    framing: Framing = FACED,
    places: dict[int, LayerPlace] | None = None,
    backdrop: Backdrop | None = None,
) -> Shape:
    return Shape(
        id=number,
        width=size[0],
        height=size[1],
        framing=framing,
        backdrop=backdrop or Backdrop(),
        places=places or {},
    )


TALL, SQUARE, WIDE = (1080, 1920), (1080, 1080), (1920, 1080)
HEADLINE = Layer(id=1, kind="headline")
BAR = Layer(id=2, kind="bar")
SPEAKER = Layer(id=3, kind="speaker")
LOW = PLACES["headline"].model_copy(update={"y": 0.1, "size": 0.062})
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
        about="Two voices: who speaks by name, a headline, sentences.",
        shapes=(
            _shape(
                1,
                SQUARE,
                Framing(fit="whole"),
                {1: LOW, 3: PLACES["speaker"].model_copy(update={"y": 0.925, "size": 0.042})},
                Backdrop(kind="gradient", first=(58, 44, 60, 255), last=(24, 20, 34, 255)),
            ),
        ),
        layers=(HEADLINE, BAR, SPEAKER),
        finish=FINISHES["Linen"],
        pace=PACES["sentence"],
    ),
)
"""Those that there are from the beginning."""
