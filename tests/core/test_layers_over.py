"""Layers over the picture: when and where they show, in any shape."""

import re

import pytest
from pydantic import ValidationError

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.layer import (
    LAYERS,
    STORED,
    Bubble,
    Clock,
    Headline,
    Layer,
    PictureLayer,
    PlateLayer,
    ProgressBar,
    SpeakerName,
)
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import FramedStretch, LayerPlace, Shape
from mortiser.core.project.piece import ShapedPiece
from mortiser.core.scene import SceneCue
from mortiser.core.scene.layered import layer_readers, span_of
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.motion.track import value_at
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from tests.pieces import piece_of

SECOND = 1_000_000
SIZE = (1080, 1080)


def piece(*layers: Layer, places: dict[int, LayerPlace] | None = None) -> ShapedPiece:
    shape = Shape(id=1, width=SIZE[0], height=SIZE[1], places=places or {})
    clips = [Clip(1, 0, 4 * SECOND, id=1), Clip(1, 10 * SECOND, 16 * SECOND, id=2)]
    return piece_of(Timeline(clips), shape, finish="Lacquer", layers=layers).in_shape()


def shown(of: ShapedPiece, at_us: int, cues: list[Cue] | None = None) -> list[SceneCue]:
    readers = layer_readers(of, cues or [], SIZE, font_book())
    return [one for reader in readers for one in reader.at(at_us)]


def test_a_bar_is_as_long_as_what_has_played() -> None:
    place = LayerPlace(x=0.5, y=0.9, width=0.5, height=0.02)
    made = piece(ProgressBar(id=1), places={1: place})
    for at, share in ((0, 0.04), (5 * SECOND, 0.52), (10 * SECOND - 1, 1.0)):
        (bar,) = shown(made, at)
        under, over = (value_at(rect.box, at) for rect in bar.rects)
        assert under == pytest.approx((270, 0.9 * 1080 - 10.8, 540, 21.6))
        assert over[2] == pytest.approx(540 * share, abs=2)
    assert shown(made, 10 * SECOND) == []


def test_a_headline_stands_still_in_one_colour_with_its_own_lines() -> None:
    made = piece(Headline(id=3, text="Mend it\n\nbefore you throw it"))
    early, late = (shown(made, at)[0] for at in (SECOND, 9 * SECOND))
    assert early == late
    assert early.id == -3
    assert len(early.paths) >= 6
    tops = sorted({round(path.y) for path in early.paths})
    assert len(tops) == 2
    assert all(len({key.value for key in path.fill}) == 1 for path in early.paths)
    assert early.rects == ()
    assert shown(piece(Headline(id=1, text="  ")), SECOND) == []


@pytest.mark.parametrize("name", FINISHES)
def test_a_headline_is_all_there_in_every_finish(name: str) -> None:
    made = piece(Headline(id=1, text="Mend it first", finish=FINISHES[name]))
    (headline,) = shown(made, 5 * SECOND)
    assert headline.whole_us < SECOND
    for path in headline.paths:
        for layer in (*headline.layers, *path.layers):
            assert layer.opacity is None or value_at(layer.opacity, 5 * SECOND) == (1.0,)
        assert value_at(path.fill, 5 * SECOND)[3] > 150


def test_a_place_is_each_shapes_own() -> None:
    text = Headline(id=1, text="Mend")
    high, low = (
        shown(piece(text, places={1: LayerPlace(y=y)}), SECOND)[0].paths[0].y for y in (0.2, 0.7)
    )
    assert low - high == pytest.approx(0.5 * SIZE[1], abs=1)


def test_a_layer_lasts_for_its_words_wherever_they_are() -> None:
    during = FramedStretch(source_id=1, start_us=11 * SECOND, end_us=12 * SECOND)
    made = piece(PlateLayer(id=1, during=during))
    assert span_of(made.settings.layers[0], made) == (5 * SECOND, 6 * SECOND)
    assert shown(made, 4 * SECOND) == []
    assert len(shown(made, 5_500_000)) == 1
    gone = FramedStretch(source_id=1, start_us=5 * SECOND, end_us=9 * SECOND)
    assert shown(piece(PlateLayer(id=1, during=gone)), 4 * SECOND) == []


def test_a_clock_counts_the_piece() -> None:
    made = piece(Clock(id=1))
    found = {at: shown(made, at * SECOND + 500_000)[0] for at in range(10)}
    assert [found[at].start_us for at in range(10)] == [at * SECOND for at in range(10)]
    assert found[1].paths[0].path != found[2].paths[0].path
    (reader,) = layer_readers(made, [], SIZE, font_book())
    assert len(list(reader.between(0, 10 * SECOND))) == 10


def test_who_speaks_is_named_while_they_do() -> None:
    def cue(number: int, name: str) -> Cue:
        start = number * SECOND
        words = (Shown("tea", start, start + 900_000, speaker=name),)
        return Cue(1, words, start, start + 950_000, id=number + 1)

    made = piece(SpeakerName(id=1))
    cues = [cue(0, "Ada"), cue(1, "Ada"), cue(2, "Bo")]
    one, two, other = (shown(made, at, cues)[0] for at in (100_000, 1_500_000, 2_100_000))
    assert one == two
    assert other.start_us == 2 * SECOND
    assert one.paths[0].path != other.paths[0].path


def test_layers_are_kept_as_text() -> None:
    layers = (Headline(id=2, text="Mend", finish=FINISHES["Pine"]),)
    assert STORED.read(STORED.write(layers)) == layers
    assert STORED.read("") == ()
    during = FramedStretch(source_id=1, start_us=0, end_us=1)
    copied = ProgressBar(id=1, during=during).of_copies({1: 5})
    assert copied.during is not None
    assert copied.during.source_id == 5


def test_figures_stand_in_their_boxes() -> None:
    place = LayerPlace(x=0.5, y=0.5, width=0.4, height=0.2, turn=30)
    kinds = ("plate", "arrow", "bubble", "waveform")
    made = piece(
        *(LAYERS[kind](id=n) for n, kind in enumerate(kinds, start=1)),
        places=dict.fromkeys(range(1, 5), place),
    )
    box = (324.0, 432.0, 756.0, 648.0)
    for one in shown(made, SECOND):
        (turn,) = (value_at(layer.turn, SECOND)[0] for layer in one.layers if layer.turn)
        assert turn == 30
        for item in one.plates:
            points = [float(n) for n in re.findall(r"-?\d+\.\d+", item.path)]
            xs, ys = points[0::2], points[1::2]
            assert min(xs) + item.x == pytest.approx(box[0], abs=0.1)
            assert max(xs) + item.x == pytest.approx(box[2], abs=0.1)
            assert min(ys) + item.y >= box[1] - 0.1
            assert max(ys) + item.y == pytest.approx(box[3], abs=0.1)
        for wave in one.waves:
            assert wave.reach == pytest.approx(
                (box[0] - wave.thick, box[1] - wave.thick, box[2] + wave.thick, box[3] + wave.thick)
            )


@pytest.mark.parametrize("tail", ["lower_left", "lower_right", "upper_left", "upper_right"])
def test_the_tail_of_a_bubble_points_from_its_corner(tail: str) -> None:
    made = piece(Bubble(id=1, tail=tail), places={1: LayerPlace(height=0.3)})
    ((item,),) = (one.plates for one in shown(made, SECOND))
    box = item.reach
    at = (box.left + 1) if tail.endswith("left") else (box.right - 1)
    tip = 0.1 if tail.endswith("left") else 0.9
    y = (box.top + 1) if tail.startswith("upper") else (box.bottom - 1)
    assert f"{tip * (box.width - 2):.2f} {y:.2f}" in item.path
    assert at < box.right


def test_a_picture_keeps_its_proportions_and_whole_pixels() -> None:
    own = OwnPicture(digest="a" * 32, width=300, height=200)
    layer = PictureLayer(id=1, picture=own, radius=0.25)
    ((item,),) = (
        one.pictures
        for one in shown(piece(layer, places={1: LayerPlace(width=0.31, x=0.333)}), SECOND)
    )
    assert (item.width, item.height, item.radius) == (335, 223, 223 * 0.25)
    assert item.x == int(item.x)
    assert shown(piece(layer.model_copy(update={"picture": None})), SECOND) == []


def test_figures_come_and_go_with_the_motions_of_captions() -> None:
    made = piece(PlateLayer(id=1, coming="rise", going="fade", opacity=0.5))

    def opacity(at_us: int) -> float:
        (one,) = shown(made, at_us)
        found = 1.0
        for layer in one.layers:
            found *= value_at(layer.opacity, at_us)[0] if layer.opacity else 1.0
        return found

    assert opacity(0) < 0.2
    assert opacity(5 * SECOND) == 0.5
    assert opacity(10 * SECOND - 10_000) < 0.1
    (early,) = shown(made, 50_000)
    assert any(layer.move for layer in early.layers)


def test_a_headline_comes_as_it_is_told_in_any_finish() -> None:
    plain, faded = (
        shown(piece(Headline(id=1, text="Tea", coming=coming, going="fade")), 20_000)
        for coming in ("none", "fade")
    )

    def opacities(cues: list[SceneCue]) -> list[float]:
        layers = [layer for one in cues for layer in one.layers if layer.opacity]
        return [value_at(layer.opacity, 20_000)[0] for layer in layers if layer.opacity]

    assert all(value == 1 for value in opacities(plain))
    assert min(opacities(faded)) < 0.5


def test_an_introduction_lasts_until_the_first_caption() -> None:
    made = piece(Headline(id=1, text="Song", intro=True))

    def first(start: int) -> list[Cue]:
        return [Cue(1, (Shown("la", start, start + 1),), start, start + SECOND, id=1)]

    assert span_of(made.settings.layers[0], made, first(3 * SECOND)) == (0, 3 * SECOND)
    assert span_of(made.settings.layers[0], made, first(SECOND)) == (0, 0), "no time to read it"
    assert span_of(made.settings.layers[0], made) == (0, 10 * SECOND)
    assert shown(made, 2 * SECOND, first(3 * SECOND))
    assert not shown(made, 4 * SECOND, first(3 * SECOND))


def test_what_is_laid_out_once_is_not_laid_out_again() -> None:
    (reader,) = layer_readers(piece(Headline(id=1, text="Tea")), [], SIZE, font_book())
    assert reader.at(SECOND)[0] is reader.at(2 * SECOND)[0]


def test_a_layer_has_what_its_kind_has() -> None:
    """Version 1 kept the fields of all kinds with each of them."""
    one = {"id": 1, "kind": "picture", "text": "", "wave": {}, "opacity": 0.5}
    (read,) = STORED.of(1, [one])
    assert read == PictureLayer(id=1, opacity=0.5, radius=0.5), "all corners were half round"
    with pytest.raises(ValidationError):
        STORED.of(2, [one])
    with pytest.raises(ValidationError):
        STORED.of(1, [{"id": 1, "kind": "lamp"}])
