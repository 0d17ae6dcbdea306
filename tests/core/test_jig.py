"""Jigs: made of pieces, kept as files, given to others."""

import json

import pytest

from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import BadInput
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.layer import Headline, PictureLayer, ProgressBar
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import Framed, FramedStretch, Framing, Move, Shape
from mortiser.core.project.jig import JIGS, SUNG, Jig, behind, filled, jig_of, read_jig, write_jig
from mortiser.core.project.output import TextFile, VideoFile
from tests.pieces import piece_of

STRETCH = {"source_id": 1, "start_us": 0, "end_us": 5}
SHAPE = Shape(
    id=1,
    width=1080,
    height=1080,
    framing=Framing(fit="fill", zoom=1.2),
    framed=(Framed(**STRETCH, framing=Framing()),),
    moves=(Move(**STRETCH),),
    look={"place.dy": 0.3},
)
LAYERS = (
    Headline(id=1, text="Mend it", during=FramedStretch(**STRETCH)),
    ProgressBar(id=2),
)


def made(name: str = " My  square ") -> Jig:
    line = Timeline([Clip(1, 0, 10)])
    piece = piece_of(
        line, SHAPE, file_pace=PACES["sentence"], layers=LAYERS,
        outputs=(VideoFile(), TextFile(form="vtt")),
    )  # fmt: skip
    return jig_of(name, piece)


def test_a_jig_leaves_out_what_a_piece_says() -> None:
    jig = made()
    assert jig.name == "My square"
    (shape,) = jig.shapes
    assert (shape.framed, shape.moves) == ((), ())
    assert (shape.framing, shape.look) == (SHAPE.framing, SHAPE.look)
    assert (jig.outputs, jig.file_pace) == ((VideoFile(), TextFile(form="vtt")), PACES["sentence"])
    assert [(one.title, one.during) for one in jig.layers] == [("", None), ("", None)]
    with pytest.raises(BadInput, match="name"):
        made("  ")


def test_headlines_say_what_the_piece_said_or_its_name() -> None:
    jig = made()
    assert filled(jig.layers, LAYERS, "Chairs")[0].text == "Mend it"
    assert filled(jig.layers, (), "Chairs")[0].text == "Chairs"
    twice = (*jig.layers, jig.layers[0].model_copy(update={"id": 3}))
    assert [one.title for one in filled(twice, LAYERS, "Chairs")] == ["Mend it", "", ""]


def test_pictures_go_into_the_slots_of_a_jig() -> None:
    cover, logo = (OwnPicture(digest=one * 32, name=one, width=40, height=40) for one in ("a", "b"))
    given = filled(SUNG.layers, (), "Song", ["Tea", "Kettle choir"], [cover])
    assert [one.picture for one in given if one.kind == "picture"] == [cover]
    assert [one.text for one in given if one.kind == "headline"] == ["Tea", "Kettle choir"]
    assert {shape.backdrop.picture for shape in behind(SUNG.shapes, given)} == {cover}
    before = (PictureLayer(id=7, picture=logo),)
    own = filled(SUNG.layers, before, "Song")
    assert own[0].picture == logo
    assert behind((SHAPE,), own) == (SHAPE,), "a blurred backdrop waits for nothing"
    assert behind(SUNG.shapes, filled(SUNG.layers, (), "Song")) == SUNG.shapes


@pytest.mark.parametrize("jig", [*JIGS, made()], ids=lambda jig: jig.name)
def test_a_file_is_read_as_it_was_written(jig: Jig) -> None:
    assert read_jig(write_jig(jig).encode()) == jig


def test_a_file_that_is_none_is_told_as_such() -> None:
    file = json.loads(write_jig(made()))
    for data, said in (
        (b"\xff\xfe", "no JSON"),
        (b"[]", "no jig"),
        (json.dumps({**file, "version": 9}).encode(), "newer"),
        (json.dumps({**file, "jig": {**file["jig"], "shapes": []}}).encode(), "shapes"),
        (json.dumps({**file, "jig": {**file["jig"], "colour": 1}}).encode(), "colour"),
    ):
        with pytest.raises(BadInput, match=said):
            read_jig(data)


def test_built_in_jigs_have_their_layers_places_in_the_frame() -> None:
    for jig in JIGS:
        known = {layer.id for layer in jig.layers}
        for shape in jig.shapes:
            assert set(shape.places) <= known
            assert all(0 < place.y < 1 for place in shape.places.values())
