import json
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.api.scene_schemas import SceneView
from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.scene import SceneReader, build_scene, scene_json
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Finish
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from tests.strategies import cues_of, spoken_words

LACQUER, PINE = FINISHES["Lacquer"], FINISHES["Pine"]
WHOLE = Timeline([Clip(1, 0, 10**9)])
SIZE = (1080, 1920)


def one_cue() -> Cue:
    words = tuple(
        Shown(t, i * 400_000, i * 400_000 + 300_000, id=i + 1)
        for i, t in enumerate(["we", "mend", "things"])
    )
    (cue,) = retime([Cue(1, words, 0, 1, id=7)], WHOLE, PACES["quick"])
    return cue


@settings(max_examples=25, deadline=None)
@given(spoken_words(most=20), st.data(), st.sampled_from(list(FINISHES)))
def test_a_reel_shows_what_the_scene_shows(
    words: list[Shown], data: st.DataObject, name: str
) -> None:
    cues = retime(data.draw(cues_of(words)), WHOLE, PACES["quick"])
    scene = build_scene(cues, FINISHES[name], SIZE, font_book())
    reader = SceneReader(cues, FINISHES[name], SIZE, font_book())
    for at in data.draw(
        st.lists(st.integers(0, words[-1].end_us + 10**6), min_size=1, max_size=10)
    ):
        assert reader.at(at) == scene.at(at)


def test_a_scene_has_a_path_for_each_word_and_one_plank_under_them() -> None:
    cue = build_scene([one_cue()], LACQUER, SIZE, font_book()).cues[0]
    assert len(cue.paths) == 3
    assert len(cue.rects) == 1
    assert build_scene([one_cue()], PINE, SIZE, font_book()).cues[0].rects == ()


def test_the_json_is_complete_and_sends_equal_outlines_once() -> None:
    cue = one_cue()
    scene = build_scene([cue, cue], PINE, SIZE, font_book())
    sent = json.loads(json.dumps(scene_json(scene)))
    assert len(sent["outlines"]) == 3
    first = sent["cues"][0]["paths"][0]
    assert sent["outlines"][first["outline_of"]] == scene.cues[0].paths[0].path
    assert first["outlines"][0][0] == pytest.approx(PINE.outlines[0].width * 108, abs=0.01)
    SceneView.model_validate(sent)


def test_an_exit_goes_on_over_the_entrance_of_the_next_where_they_touch() -> None:
    words = [
        Shown(t, i * 500_000, i * 500_000 + 480_000, id=i + 1)
        for i, t in enumerate(["we", "mend", "things", "here", "today"])
    ]
    parts = [Cue(1, tuple(words[:2]), 0, 1, id=1), Cue(1, tuple(words[2:4]), 0, 1, id=2)]
    later = replace(words[4], start_us=9_000_000, end_us=9_500_000)
    cues = retime([*parts, Cue(1, (later,), 0, 1, id=3)], WHOLE, PACES["quick"])
    assert cues[0].end_us == cues[1].start_us
    leaving = PINE.motion.exit.model_copy(
        update={"kind": "fade", "duration_ms": 200, "overlap": True}
    )
    finish = PINE.model_copy(update={"motion": PINE.motion.model_copy(update={"exit": leaving})})
    first, second, third = build_scene(cues, finish, SIZE, font_book()).cues
    assert first.end_us == cues[0].end_us + 200_000
    assert (second.end_us, third.end_us) == (cues[1].end_us, cues[2].end_us)
    fading = next(layer.opacity for layer in first.layers if layer.opacity)
    assert (fading[0].at_us, fading[-1].at_us) == (cues[0].end_us, first.end_us)
    reader = SceneReader(cues, finish, SIZE, font_book())
    assert [c.id for c in reader.at(cues[1].start_us + 100_000)] == [1, 2]
    assert [c.id for c in reader.at(cues[1].start_us + 250_000)] == [2]


@pytest.mark.parametrize("name", list(FINISHES))
def test_a_caption_stands_whole_at_the_moment_that_is_said(name: str) -> None:
    cue = one_cue()
    (shown,) = build_scene([cue], FINISHES[name], SIZE, font_book()).cues
    assert cue.start_us <= shown.whole_us < cue.end_us
    parts = [layer for item in shown.paths for layer in (*shown.layers, *item.layers)]
    for layer in parts:
        if layer.opacity and layer.opacity[-1].value == (1.0,):
            # An entrance that is over by then.
            assert layer.opacity[-1].at_us <= shown.whole_us


def test_an_accent_has_a_font_and_a_case_of_its_own() -> None:
    words = (
        Shown("we", 0, 400_000, id=1),
        Shown("mend", 400_000, 900_000, id=2, own='{"case": "upper", "font": "Space Mono"}'),
    )
    plain = Cue(1, (words[0], replace(words[1], own="")), 0, 1_000_000, id=1)
    before = build_scene([plain], PINE, SIZE, font_book()).cues[0]
    own = build_scene([replace(plain, words=words)], PINE, SIZE, font_book()).cues[0]
    assert own.paths[0].path == before.paths[0].path
    assert own.paths[1].path != before.paths[1].path


def test_a_reel_shows_as_many_captions_at_once_as_a_scene() -> None:
    cues = [
        Cue(
            1,
            (Shown(f"word{n}", n * 1000, n * 1000 + 500, id=n),),
            n * 100_000,
            9_000_000,
            True,
            True,
            n,
        )
        for n in range(1, 21)
    ]
    reader = SceneReader(cues, PINE, SIZE, font_book())
    assert [cue.id for cue in reader.at(5_000_000)] == list(range(1, 21))
    assert [cue.id for cue in reader.at(350_000)] == [1, 2, 3]


@pytest.mark.parametrize("finish", FINISHES.values(), ids=lambda one: one.name)
def test_a_caption_that_begins_with_the_piece_stands_on_its_first_frame(finish: Finish) -> None:
    words = tuple(
        Shown(text, at, at + 300_000, id=number)
        for number, (text, at) in enumerate([("We", 0), ("mend", 350_000)], start=1)
    )
    first = Cue(1, words, 0, 1_500_000, id=1)
    (cue,) = build_scene([first], finish, (360, 640), font_book()).cues
    assert cue.whole_us == 0
    later = replace(first, start_us=200_000)
    (cue,) = build_scene([later], finish, (360, 640), font_book()).cues
    moves = finish.motion.entrance.kind != "none"
    assert (cue.whole_us > 200_000) or not moves
