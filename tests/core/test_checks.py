"""What the rules find in captions."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.captions.checks import check
from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES, limits
from mortiser.core.common.frames import Frames
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.transcript.words import Cue, Shown
from tests.strategies import cues_of, spoken_words

QUICK, SENTENCE = PACES["quick"], PACES["sentence"]
FRAMES = Frames(30.0)
PIECE_US = 20_000_000


def cue(text: str, start_us: int = 1_000_000, each_us: int = 400_000, **other: object) -> Cue:
    words = tuple(
        Shown(token, start_us + i * each_us, start_us + (i + 1) * each_us, id=i + 1)
        for i, token in enumerate(text.split())
    )
    made = Cue(1, words, words[0].start_us, words[-1].end_us, id=start_us)
    start = other.pop("shown_us", made.start_us)
    return replace(made, start_us=start, **other)  # type: ignore[arg-type]


def kinds(*cues: Cue, **other: object) -> list[str]:
    found = check(list(cues), QUICK, PIECE_US, FRAMES, **other)  # type: ignore[arg-type]
    return [item.kind for item in found]


def test_a_good_caption_is_left_alone() -> None:
    assert kinds(cue("mend it yourself.")) == []


@pytest.mark.parametrize(
    ("changed", "kind"),
    [
        ({"shown_us": 1_100_000}, "late"),
        ({"end_us": 2_100_000}, "early"),
        ({"end_us": 1_200_000}, "too_short"),
        ({"end_us": 6_000_000}, "too_long"),
        ({"end_us": 20_100_000}, "beyond"),
    ],
)
def test_wrong_times_are_found(changed: dict[str, int], kind: str) -> None:
    assert kind in kinds(cue("mend it yourself.", **changed))


def test_handing_over_is_checked() -> None:
    one = cue("mend it yourself.")
    later = cue("and save money.", 2_400_000)
    assert kinds(one, cue("and save money.", 2_200_000)) == []
    assert kinds(one, later) == ["flicker"]
    assert kinds(one, cue("and save money.", 2_700_000)) == []
    over = replace(one, end_us=2_500_000)
    assert kinds(over, later) == ["overlap"]
    two = [replace(c, words=tuple(replace(w, speaker=s) for w in c.words))
           for c, s in ((over, "Odalys"), (later, "Marlo"))]  # fmt: skip
    assert kinds(*two) == []


def test_two_frames_are_no_flicker_where_the_pace_leaves_them() -> None:
    one, two = cue("mend it yourself."), cue("and save money.", 2_266_667)
    course = limits("course", QUICK)
    assert "flicker" in kinds(one, two)
    assert "flicker" not in [c.kind for c in check([one, two], course, PIECE_US, FRAMES)]


def test_fast_empty_disordered_and_lone_captions_are_found() -> None:
    assert "too_fast" in kinds(cue("extraordinarily complicated machinery.", each_us=150_000))
    assert kinds(cue("– …", each_us=300_000)) == ["empty"]
    assert kinds(cue("🫖", each_us=800_000)) == []
    early = replace(cue("said before.", 500_000), start_us=1_900_000, end_us=2_700_000)
    assert "order" in kinds(cue("mend it.", end_us=1_900_000), early)
    assert kinds(cue("mend the"), cue("kettle.", 1_800_000)) == ["orphan"]
    assert kinds(cue("mend it."), cue("Yes.", 1_800_000)) == []


def test_lines_are_counted_as_they_are_delivered() -> None:
    one = cue("mend it yourself.")
    assert kinds(one, lines=[["mend it", "yourself."]]) == []
    assert kinds(one, lines=[["mend", "it", "yourself."]]) == ["many_lines"]
    assert kinds(one, lines=[["mend it all by yourself."]]) == ["wide_line"]


def test_speech_that_no_caption_shows_is_found_once_a_stretch() -> None:
    one = cue("mend it.")
    loose = [Shown(t, 5_000_000 + i * 300_000, 5_200_000 + i * 300_000, id=50 + i)
             for i, t in enumerate(["bring", "your", "chair"])]  # fmt: skip
    far = Shown("bye.", 9_000_000, 9_300_000, id=60)
    found = check([one], QUICK, PIECE_US, FRAMES, [*loose, far])
    assert [(item.kind, item.word_ids) for item in found] == [
        ("unshown", (50, 51, 52)),
        ("unshown", (60,)),
    ]
    assert "bring your chair" in found[0].about


@given(spoken_words(most=25), st.data(), st.sampled_from([QUICK, SENTENCE]))
def test_times_by_the_rules_neither_overlap_nor_flicker(
    words: list[Shown], data: st.DataObject, pace: object
) -> None:
    rules = QUICK if pace == QUICK else SENTENCE
    spans = Timeline([Clip(1, 0, 10**9)])
    cues = retime(data.draw(cues_of(words)), spans, rules, FRAMES)
    found = {item.kind for item in check(cues, rules, spans.duration_us, FRAMES)}
    assert not found & {"overlap", "flicker", "order", "beyond"}
