"""Captions in the way of faces, guides and edges, and what helps."""

from collections.abc import Sequence
from typing import Any

import pytest

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.guides import GUIDES, STORED, Area
from mortiser.core.framing.layer import (
    Bubble,
    Headline,
    Layer,
    PictureLayer,
    PlateLayer,
    ProgressBar,
)
from mortiser.core.framing.shape import FramedStretch, Framing, LayerPlace, Shape
from mortiser.core.framing.subject import Face, Track
from mortiser.core.project.piece import ShapedPiece
from mortiser.core.scene.layered import LayerReader, layer_readers
from mortiser.core.scene.overlap_checks import Help, PlacedCaptions, Trouble, layers_in_the_way
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.layout.rect import Rect
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from tests.pieces import piece_of

SECOND = 1_000_000
SIZE = (1000, 1000)
FINISH = FINISHES["Pine"]
LINE = Timeline([Clip(1, 0, 10 * SECOND, id=1)])


def piece(framing: Framing | None = None) -> ShapedPiece:
    shape = Shape(id=1, width=1000, height=1000, framing=framing or Framing())
    return piece_of(LINE, shape, finish=FINISH, pictures={1: SIZE}).in_shape()


def cue(number: int = 1) -> Cue:
    start = number * SECOND
    return Cue(
        1, (Shown("tea", start, start + 400_000, clip_id=1),), start, start + 500_000, id=number
    )


def lay(cues: Sequence[Cue], finish: Finish) -> list[Rect]:
    """A box in the middle, as high as the finish's size and moved as it says."""
    half = finish.size * SIZE[1] / 2
    middle = 500 + finish.place.dy * SIZE[1]
    return [Rect(300, middle - half, 700, middle + half) for _ in cues]


def faces(x: float, y: float, height: float = 0.2) -> dict[int, tuple[Track, ...]]:
    face = Face(x=x, y=y, width=height, height=height, score=0.9)
    return {1: (Track(looks=tuple(range(60)), faces=(face,) * 60),)}


def troubles(*given: Any) -> list[Trouble]:
    return PlacedCaptions(*given).troubles()


def helped(*given: Any) -> Help | None:
    return PlacedCaptions(*given).helped()


def test_a_caption_over_a_face_is_told_and_a_free_place_found() -> None:
    here = 0.5 + FINISH.place.dy
    found = troubles(piece(), [cue()], [], faces(0.5, here), lay)
    assert [(one.kind, one.cue_id) for one in found] == [("face", 1)]
    help_ = helped(piece(), [cue()], [], faces(0.5, here), lay)
    assert help_ is not None
    assert help_.left == 0
    moved = FINISH.model_copy(
        update={"place": FINISH.place.model_copy(update={"dy": help_.changes["place.dy"]})}
    )
    assert not troubles(piece(), [cue()], [], faces(0.5, here), lambda cues, _: lay(cues, moved))
    assert not troubles(piece(), [cue()], [], faces(0.1, here), lay)


def test_faces_are_where_the_framing_shows_them() -> None:
    here = 0.5 + FINISH.place.dy
    assert troubles(piece(), [cue()], [], faces(0.05, here, 0.1), lay) == []
    near = piece(Framing(fit="fill", zoom=4, x=0.15, y=here))
    caption = Rect(300, 450, 700, 550)
    found = troubles(near, [cue()], [], faces(0.15, here, 0.1), lambda cues, _: [caption])
    assert [one.kind for one in found] == ["face"]


def test_what_lies_under_a_guide_or_at_the_edge_is_told() -> None:
    area = Area(x=0, y=0.6, width=1, height=0.4, about="controls")
    found = troubles(piece(), [cue(1), cue(2)], [area], {}, lay)
    assert [(one.kind, one.about) for one in found] == [("guide", "Under controls.")] * 2
    help_ = helped(piece(), [cue(1), cue(2)], [area], {}, lay)
    assert help_ is not None
    assert help_.left == 0
    edge = troubles(piece(), [cue()], [], {}, lambda cues, _: [Rect(300, 960, 700, 1010)])
    assert [one.kind for one in edge] == ["edge"]


def test_a_smaller_size_is_tried_where_no_place_is_free() -> None:
    high = FINISH.size
    band = (1 - high * 0.8) / 2
    areas = [
        Area(x=0, y=0, width=1, height=band, about="above"),
        Area(x=0, y=1 - band, width=1, height=band, about="below"),
    ]
    help_ = helped(piece(), [cue()], areas, {}, lay)
    assert help_ is not None
    assert help_.left == 0
    full = Area(x=0, y=0, width=1, height=1, about="all")
    assert helped(piece(), [cue()], [full], {}, lay) is None
    assert help_.changes.get("size", high) <= high


def test_guides_are_kept_as_text() -> None:
    assert STORED.read(STORED.write(GUIDES)) == GUIDES
    assert STORED.read("[]") == ()
    for guide in GUIDES:
        for area in guide.areas:
            assert area.x + area.width == pytest.approx(min(1, area.x + area.width))


AREA = Area(about="the buttons", x=0.0, y=0.0, width=1.0, height=0.3)


def readers(*layers: Layer, places: dict[int, LayerPlace] | None = None) -> list[LayerReader]:
    shape = Shape(id=1, width=1000, height=1000, places=places or {})
    made = piece_of(LINE, shape, layers=layers, pictures={1: SIZE}).in_shape()
    return layer_readers(made, [cue()], SIZE, font_book())


def test_a_layer_under_a_guide_is_told_and_a_free_place_found() -> None:
    plate = PlateLayer(id=4)
    place = LayerPlace(y=0.2, width=0.5, height=0.1)
    (found,) = layers_in_the_way(readers(plate, places={4: place}), [AREA], {})
    assert (found.kind, found.layer_id, found.about) == ("guide", 4, "Under the buttons.")
    assert found.y is not None
    free = place.model_copy(update={"y": found.y})
    assert layers_in_the_way(readers(plate, places={4: free}), [AREA], {}) == []
    whole = Area(about="everything", x=0, y=0, width=1, height=1)
    (stuck,) = layers_in_the_way(readers(plate, places={4: place}), [whole], {})
    assert stuck.y is None


def test_a_layer_over_a_face_is_told_unless_it_shows_at_other_times() -> None:
    bubble = Bubble(id=1)
    place = {1: LayerPlace(y=0.5, width=0.4, height=0.3)}
    (found,) = layers_in_the_way(readers(bubble, places=place), [], faces(0.5, 0.5))
    assert found.kind == "face"
    assert layers_in_the_way(readers(bubble, places=place), [], faces(0.1, 0.1, 0.1)) == []
    away = bubble.model_copy(
        update={"during": FramedStretch(source_id=9, start_us=0, end_us=SECOND)}
    )
    assert layers_in_the_way(readers(away, places=place), [], faces(0.5, 0.5)) == []


def test_letters_of_layers_keep_from_the_edge_and_bars_need_not() -> None:
    low = {1: LayerPlace(y=0.995, width=0.9, height=0.01)}
    assert layers_in_the_way(readers(ProgressBar(id=1), places=low), [], {}) == []
    headline = Headline(id=1, text="Mend it")
    (found,) = layers_in_the_way(readers(headline, places=low), [], {})
    assert (found.kind, found.y is not None) == ("edge", True)
    assert layers_in_the_way(readers(PictureLayer(id=1)), [AREA], {}) == []


def test_a_caption_alone_is_moved_where_nothing_is_the_matter() -> None:
    here = 0.5 + FINISH.place.dy
    (found,) = troubles(piece(), [cue()], [], faces(0.5, here), lay)
    assert found.alone is not None
    moved = FINISH.model_copy(
        update={"place": FINISH.place.model_copy(update={"dy": found.alone["place.dy"]})}
    )
    assert not troubles(piece(), [cue()], [], faces(0.5, here), lambda cues, _: lay(cues, moved))
