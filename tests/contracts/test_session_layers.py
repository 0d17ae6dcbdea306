"""Layers of a piece, on every session."""

import pytest

from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.cutting.pieces import NewPiece
from mortiser.core.edits.look.jigs import ApplyJig
from mortiser.core.edits.look.layers import (
    AddLayer,
    ChangeLayer,
    DropLayer,
    FinishLayer,
    LastLayer,
    LayerChanges,
    LayerPlaceChanges,
    PlaceLayer,
    RaiseLayer,
)
from mortiser.core.edits.look.shapes import AddShape
from mortiser.core.edits.session import EditSession
from mortiser.core.project.jig import JIGS
from mortiser.core.style.finish.builtin import FINISHES


@pytest.fixture
def layered(session: EditSession) -> EditSession:
    for kind in ("headline", "bar", "plate"):
        AddLayer.model_validate({"piece_id": 1, "layer": kind, "text": "Tea"}).apply(session)
    return session


def kinds(session: EditSession, piece_id: int = 1) -> list[str]:
    return [one.kind for one in session.settings(piece_id).layers]


def test_plates_come_below_what_there_is_and_layers_are_raised(layered: EditSession) -> None:
    assert kinds(layered) == ["plate", "headline", "bar"]
    RaiseLayer(piece_id=1, layer_id=1, by=1).apply(layered)
    assert kinds(layered) == ["plate", "bar", "headline"]
    RaiseLayer(piece_id=1, layer_id=1, by=1).apply(layered)
    assert kinds(layered) == ["plate", "bar", "headline"], "it is the highest already"


def test_a_layer_is_changed_in_all_shapes_and_placed_in_one(layered: EditSession) -> None:
    AddShape(piece_id=1, width=1080, height=1080).apply(layered)
    ChangeLayer(piece_id=1, layer_id=1, changes=LayerChanges(text="Mend", opacity=0.5)).apply(
        layered
    )
    headline = next(one for one in layered.settings(1).layers if one.id == 1)
    assert (headline.text, headline.opacity) == ("Mend", 0.5)
    PlaceLayer(piece_id=1, shape_id=2, layer_id=1, changes=LayerPlaceChanges(y=0.8)).apply(layered)
    first, second = layered.settings(1).shapes
    assert first.places == {}
    assert second.places[1].y == 0.8
    FinishLayer(piece_id=1, layer_id=1, finish=FINISHES["Pine"]).apply(layered)
    assert layered.settings(1).layers[1].finish == FINISHES["Pine"]
    DropLayer(piece_id=1, layer_id=1).apply(layered)
    assert kinds(layered) == ["plate", "bar"]
    assert layered.settings(1).shapes[1].places == {}
    with pytest.raises(NotFound):
        DropLayer(piece_id=1, layer_id=1).apply(layered)


def test_a_layer_lasts_for_what_captions_say(layered: EditSession) -> None:
    cues = layered.cues(1)[1:3]
    LastLayer(piece_id=1, layer_id=2, cue_ids=[cue.id for cue in cues]).apply(layered)
    during = next(one for one in layered.settings(1).layers if one.id == 2).during
    assert during is not None
    assert during.start_us == cues[0].words[0].start_us
    assert during.end_us == cues[1].words[-1].end_us
    LastLayer(piece_id=1, layer_id=2).apply(layered)
    assert next(one for one in layered.settings(1).layers if one.id == 2).during is None


def test_a_new_piece_has_the_layers_of_the_one_it_is_made_of(layered: EditSession) -> None:
    NewPiece(piece_id=1).apply(layered)
    assert layered.settings(2).layers == layered.settings(1).layers


def test_there_are_not_too_many_layers(layered: EditSession) -> None:
    for _ in range(21):
        AddLayer(piece_id=1, layer="bar").apply(layered)
    with pytest.raises(BadInput, match="at most"):
        AddLayer(piece_id=1, layer="bar").apply(layered)


def test_a_jig_makes_a_piece_anew_and_leaves_what_it_says(layered: EditSession) -> None:
    said = [word.text for cue in layered.cues(1) for word in cue.words]
    captions = len(layered.cues(1))
    jig = next(one for one in JIGS if one.name == "Talk, wide and square")
    ApplyJig(piece_id=1, jig=jig).apply(layered)
    assert layered.settings(1).shapes == jig.shapes
    assert kinds(layered) == ["headline", "bar"]
    assert layered.settings(1).layers[0].text == "Tea", "the headline it had"
    assert layered.settings(1).finish == jig.finish
    assert layered.pace(1) == PACES["sentence"]
    assert [word.text for cue in layered.cues(1) for word in cue.words] == said
    assert len(layered.cues(1)) < captions, "grouped by the jig's pace"


def test_a_layer_is_not_given_what_its_kind_does_not_have(layered: EditSession) -> None:
    bar = next(one for one in layered.settings(1).layers if one.kind == "bar")
    with pytest.raises(BadInput, match=r"progress bar.* has no text"):
        ChangeLayer(piece_id=1, layer_id=bar.id, changes=LayerChanges(text="Tea")).apply(layered)
