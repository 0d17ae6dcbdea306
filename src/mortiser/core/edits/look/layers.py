"""Edits of what stands over the picture besides captions."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.limits import Id, Ids
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.cutting.saying import stretch_said
from mortiser.core.edits.look.shapes import ShapeEdit, change_shape, shape_of
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.layer import (
    LAYER_NAMES,
    LAYERS,
    PLACES,
    Corner,
    Layer,
    LayerKind,
    Layers,
    Wave,
)
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import MOST_LAYERS, FramedStretch, LayerPlace, Shape, Shapes
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.names import EntranceName, ExitName
from mortiser.core.style.finish.parts import Colour

NAMES: dict[LayerKind, str] = {
    **{kind: name.lower() for kind, name in LAYER_NAMES.items()},
    "speaker": "name of who speaks",
}
"""As they are called within a sentence."""
UNDER: frozenset[LayerKind] = frozenset({"plate", "bubble"})
"""What comes under the layers that are there."""


class AddLayer(BaseEdit):
    """Put a layer over the picture, in all shapes; plates and bubbles under the layers that there are."""

    kind: Literal["add_layer"] = "add_layer"
    piece_id: Id
    layer: LayerKind
    text: str = Field(default="", max_length=400)
    picture: OwnPicture | None = None

    def label(self, session: EditSession) -> str:
        return f"add {NAMES[self.layer]}"

    def apply(self, session: EditSession) -> None:
        was = session.settings(self.piece_id)
        kind = LAYERS[self.layer]
        given = {"text": self.text, "picture": self.picture}
        fresh = kind(
            id=_free_id(was.layers),
            **{name: value for name, value in given.items() if name in kind.model_fields},
        )
        made = (fresh, *was.layers) if self.layer in UNDER else (*was.layers, fresh)
        session.save_settings(self.piece_id, replace(was, layers=made))


class LayerChanges(BaseModel):
    """What is set of a layer; the rest stays."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    text: str | None = Field(default=None, max_length=400)
    colour: Colour | None = None
    under: Colour | None = None
    radius: float | None = Field(default=None, ge=0, le=0.5)
    opacity: float | None = Field(default=None, ge=0, le=1)
    picture: OwnPicture | None = None
    wave: Wave | None = None
    tail: Corner | None = None
    coming: EntranceName | Literal["own"] | None = Field(
        default=None, description="“own” moves as without one."
    )
    going: ExitName | Literal["own"] | None = None

    @property
    def values(self) -> dict[str, object]:
        """What is set, by name."""
        found = {name: getattr(self, name) for name in self.model_fields_set}
        return {
            name: None if value == "own" and name in MOTIONS else value
            for name, value in found.items()
            if value is not None
        }


MOTIONS = ("coming", "going")
WHAT = {
    "text": "text",
    "colour": "colour",
    "under": "colour",
    "radius": "roundness",
    "opacity": "opacity",
    "picture": "choice",
    "wave": "form",
    "tail": "tail",
    "coming": "entrance",
    "going": "exit",
}
"""What is set, in a word."""


class LayerEdit(BaseEdit):
    """An edit of one layer of a piece."""

    piece_id: Id
    layer_id: Id


class ChangeLayer(LayerEdit):
    """Set what a layer says, or how it looks, in all shapes."""

    kind: Literal["change_layer"] = "change_layer"
    changes: LayerChanges

    def label(self, session: EditSession) -> str:
        what = WHAT.get(next(iter(self.changes.values), ""), "look")
        return f"{what} of {_name(session, self)}"

    def apply(self, session: EditSession) -> None:
        _set(session, self, self.changes.values)


class FinishLayer(LayerEdit):
    """Give a layer's letters a finish of their own; with none they are in the piece's."""

    kind: Literal["finish_layer"] = "finish_layer"
    finish: Finish | None = None

    def label(self, session: EditSession) -> str:
        return f"finish of {_name(session, self)}"

    def apply(self, session: EditSession) -> None:
        _set(session, self, {"finish": self.finish})


class LastLayer(LayerEdit):
    """Have a layer last for what these captions say, from a word on or up to the end of one (the other end
    stays where it is), or until the first caption comes; for the whole piece with none of these."""

    kind: Literal["last_layer"] = "last_layer"
    cue_ids: Ids = Field(default=[])
    intro: bool = False
    from_word: Id | None = None
    to_word: Id | None = None

    def label(self, session: EditSession) -> str:
        return f"when {_name(session, self)} shows"

    def apply(self, session: EditSession) -> None:
        if self.from_word is not None or self.to_word is not None:
            _set(session, self, {"during": self._from_to(session), "intro": False})
            return
        if self.intro or not self.cue_ids:
            _set(session, self, {"during": None, "intro": self.intro})
            return
        during = stretch_said(session, self.piece_id, self.cue_ids)
        _set(session, self, {"during": during, "intro": False})

    def _from_to(self, session: EditSession) -> FramedStretch:
        first, last = (
            None if word_id is None else session.said(word_id)
            for word_id in (self.from_word, self.to_word)
        )
        (source_id, *others) = {word.source_id for word in (first, last) if word}
        clips = [one for one in session.timeline(self.piece_id).clips if one.source_id == source_id]
        if others or not clips:
            raise BadInput("Choose two words of one recording of this piece.")
        known = _layer(session, self).during
        start, end = min(one.start_us for one in clips), max(one.end_us for one in clips)
        if known is not None and known.source_id == source_id:
            start, end = known.start_us, known.end_us
        start = first.start_us if first else start
        end = last.end_us if last else end
        if start >= end:
            raise BadInput("A layer ends behind where it begins. Choose a word that is said later.")
        return FramedStretch(source_id=source_id, start_us=start, end_us=end)


class RaiseLayer(LayerEdit):
    """Put a layer higher (1) or lower (-1) among the others."""

    kind: Literal["raise_layer"] = "raise_layer"
    by: Literal[-1, 1] = 1

    def label(self, session: EditSession) -> str:
        return f"{_name(session, self)} {'higher' if self.by > 0 else 'lower'}"

    def apply(self, session: EditSession) -> None:
        was = session.settings(self.piece_id)
        layers = list(was.layers)
        at = layers.index(_layer(session, self))
        to = at + self.by
        if 0 <= to < len(layers):
            layers[at], layers[to] = layers[to], layers[at]
        session.save_settings(self.piece_id, replace(was, layers=tuple(layers)))


class CopyLayer(LayerEdit):
    """Put the same layer over another piece of the project too, at the same place in each of its shapes."""

    kind: Literal["copy_layer"] = "copy_layer"
    to_piece_id: Id

    def label(self, session: EditSession) -> str:
        return f"copy {_name(session, self)} to {session.settings(self.to_piece_id).name}"

    def apply(self, session: EditSession) -> None:
        layer = _layer(session, self)
        there = session.settings(self.to_piece_id)
        used = {clip.source_id for clip in session.timeline(self.to_piece_id).clips}
        lasting = layer.during if layer.during and layer.during.source_id in used else None
        copy = layer.model_copy(update={"id": _free_id(there.layers), "during": lasting})
        here = session.settings(self.piece_id).shapes
        shapes = tuple(
            one.model_copy(
                update={"places": {**one.places, copy.id: _like(here, one).places[layer.id]}}
            )
            if layer.id in _like(here, one).places
            else one
            for one in there.shapes
        )
        now = replace(there, layers=(*there.layers, copy), shapes=shapes)
        session.save_settings(self.to_piece_id, now)


class DropLayer(LayerEdit):
    """Take a layer away, in all shapes."""

    kind: Literal["drop_layer"] = "drop_layer"

    def label(self, session: EditSession) -> str:
        return f"take {_name(session, self)} away"

    def apply(self, session: EditSession) -> None:
        gone = _layer(session, self)
        was = session.settings(self.piece_id)
        now = replace(
            was,
            layers=tuple(one for one in was.layers if one.id != gone.id),
            shapes=tuple(one.without_layer(gone.id) for one in was.shapes),
        )
        session.save_settings(self.piece_id, now)


class LayerPlaceChanges(BaseModel):
    """What is set of a layer's place; the rest stays."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    x: float | None = Field(default=None, ge=-0.5, le=1.5)
    y: float | None = Field(default=None, ge=-0.5, le=1.5)
    width: float | None = Field(default=None, ge=0.01, le=1.5)
    height: float | None = Field(default=None, ge=0.002, le=1.5)
    size: float | None = Field(default=None, ge=0.01, le=0.5)
    turn: float | None = Field(default=None, ge=-180, le=180)


class PlaceLayer(ShapeEdit):
    """Put a layer somewhere else in one shape."""

    kind: Literal["place_layer"] = "place_layer"
    layer_id: Id
    changes: LayerPlaceChanges

    def label(self, session: EditSession) -> str:
        return f"place of {_name(session, self)}"

    def apply(self, session: EditSession) -> None:
        layer = _layer(session, self)
        shape = shape_of(session, self)
        place = shape.places.get(layer.id, PLACES[layer.kind])
        moved: LayerPlace = place.model_copy(update=self.changes.model_dump(exclude_none=True))
        change_shape(session, self, {"places": {**shape.places, layer.id: moved}})


def _free_id(layers: Layers) -> int:
    """The number of a layer that is to come. Raises BadInput where there are as many as there may be."""
    if len(layers) >= MOST_LAYERS:
        raise BadInput(f"A piece has {MOST_LAYERS} layers at most. Take one away first.")
    return max((one.id for one in layers), default=0) + 1


def _like(shapes: Shapes, wanted: Shape) -> Shape:
    """The shape that is most like another one."""
    return min(
        shapes,
        key=lambda one: abs(math.log(one.width * wanted.height / (one.height * wanted.width))),
    )


def _layer(session: EditSession, edit: LayerEdit | PlaceLayer) -> Layer:
    for one in session.settings(edit.piece_id).layers:
        if one.id == edit.layer_id:
            return one
    raise NotFound("That layer is not there any more. The page shows the newest state.")


def _name(session: EditSession, edit: LayerEdit | PlaceLayer) -> str:
    layer = _layer(session, edit)
    return f"“{short(layer.title)}”" if layer.title else NAMES[layer.kind]


def _set(session: EditSession, edit: LayerEdit, values: dict[str, object]) -> None:
    wanted, was = _layer(session, edit), session.settings(edit.piece_id)
    for name in values.keys() - type(wanted).model_fields.keys():
        raise BadInput(
            f"That layer ({NAMES[wanted.kind]}) has no {WHAT.get(name, name)} to be set."
        )
    layers = tuple(
        one.model_copy(update=values) if one.id == wanted.id else one for one in was.layers
    )
    session.save_settings(edit.piece_id, replace(was, layers=layers))
