"""Orders: the files they come to, and what those are called."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from mortiser.core.common.errors import BadInput
from mortiser.core.delivery.estimate import Expected, corrected, expected
from mortiser.core.delivery.format_limits import not_held
from mortiser.core.delivery.naming import FIELDS, checked_pattern, file_stem, filled
from mortiser.core.delivery.order import Order, PieceStretch
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.shape import Shape
from mortiser.core.project.output import (
    OUTPUT_SETS,
    STORED,
    USUAL_OUTPUTS,
    VIDEO_FORMS,
    Output,
    StillFile,
    TextFile,
    VideoFile,
    each_once,
)
from mortiser.core.transcript.words import Cue, Shown
from tests.pieces import piece_of

TALL, SQUARE = Shape(id=1, width=1080, height=1920), Shape(id=2, width=1080, height=1080)
VIDEOS = st.builds(
    VideoFile,
    form=st.sampled_from([one for one in VIDEO_FORMS if one != "overlay"]),
    lines=st.sampled_from([0, 360, 720]),
    rate=st.sampled_from([0, 25]),
    quality=st.sampled_from(["small", "good", "fine"]),
)
TEXTS = st.builds(
    TextFile,
    form=st.sampled_from(["srt", "vtt", "ass", "txt"]),
    as_picture=st.booleans(),
    timed=st.booleans(),
)
OUTPUTS = st.lists(VIDEOS | TEXTS | st.just(StillFile()), min_size=1, max_size=8)


def ordered(outputs: list[Output], shapes: int = 1, parts: int = 0, pattern: str = "") -> Order:
    piece = piece_of(
        Timeline([Clip(1, 0, 10_000_000)]), *(TALL, SQUARE)[:shapes], name="Fuse",
        outputs=each_once(outputs),
    )  # fmt: skip
    stretches = [PieceStretch(start_us=a * 10**6, end_us=(a + 1) * 10**6) for a in range(parts)]
    facts = {"project": "The kettle", "piece": "Fuse", "date": str(date(2026, 11, 27))}
    return Order.of(piece, [], [], pattern or "{project}", (), stretches, facts)


@given(OUTPUTS, st.integers(1, 2), st.integers(0, 3), st.sampled_from(["", "{piece}", "x"]))
def test_no_two_files_have_one_name(
    outputs: list[Output], shapes: int, parts: int, pattern: str
) -> None:
    made = ordered(outputs, shapes, parts, pattern).parts()
    names = [one.name.casefold() for one in made]
    assert len(set(names)) == len(names)
    for one in made:
        assert one.name.endswith(f".{one.output.ending}")
        assert len(one.name.encode()) < 250


def test_files_are_named_by_what_tells_them_apart() -> None:
    outputs = [VideoFile(), VideoFile(lines=720, captions="both"), TextFile()]
    assert [one.name for one in ordered(outputs, 2).parts()] == [
        "The-kettle-tall-h264.mp4",
        "The-kettle-square-h264.mp4",
        "The-kettle-tall-h264-720p-both.mp4",
        "The-kettle-square-h264-720p-both.mp4",
        "The-kettle.srt",
    ]
    made = ordered([TextFile()], 1, 2, "{date} {piece} {part}").parts()
    assert [one.name for one in made] == ["2026-11-27-Fuse-1.srt", "2026-11-27-Fuse-2.srt"]
    assert [one.stretch and one.stretch.start_us for one in made] == [0, 1_000_000]


def test_a_pattern_says_what_it_can_have() -> None:
    assert checked_pattern("  {piece}   of {date} ") == "{piece} of {date}"
    for bad in ("{maker}", "{", "a}", "{{piece}}", "x" * 121):
        with pytest.raises(BadInput, match="pattern"):
            checked_pattern(bad)


@given(st.text(max_size=300), st.dictionaries(st.sampled_from(FIELDS), st.text(max_size=60)))
def test_names_are_safe_whatever_they_are_made_of(pattern: str, facts: dict[str, str]) -> None:
    for stem in (file_stem(pattern), filled(pattern, facts)):
        assert stem
        assert not set(stem) & set('/\\:*?"<>|\0\n .')
        assert len(stem.encode()) <= 180
        assert stem.casefold() not in ("con", "nul", "com1")


@given(OUTPUTS)
def test_outputs_read_back_as_they_were_stored(outputs: list[Output]) -> None:
    kept = each_once(outputs)
    assert STORED.read(STORED.write(kept)) == kept
    assert len(set(kept)) == len(kept)


def test_outputs_of_earlier_versions_are_understood() -> None:
    assert STORED.read('["mp4", "srt", "vtt"]') == USUAL_OUTPUTS
    assert STORED.read("") == USUAL_OUTPUTS
    assert STORED.read('["json"]') == (TextFile(form="json"),)


@pytest.mark.parametrize(
    ("settings", "says"),
    [
        ({"form": "gif", "captions": "both"}, "cannot hold captions"),
        ({"form": "webp", "loudness": -16}, "has no sound"),
        ({"form": "overlay", "captions": "none"}, "An overlay is the captions"),
        ({"lines": 60}, "at least 120 lines"),
        ({"rate": 100}, "less than or equal to 60"),
    ],
)
def test_what_does_not_go_together_is_told(settings: dict[str, object], says: str) -> None:
    with pytest.raises(ValidationError, match=says):
        VideoFile.model_validate(settings)


def test_sizes_and_rates_are_those_asked_for() -> None:
    assert VideoFile().size_of((1080, 1920)) == (1080, 1920)
    assert VideoFile(lines=720).size_of((1080, 1920)) == (720, 1280)
    assert VideoFile(lines=720).size_of((1920, 1080)) == (1280, 720)
    assert VideoFile(form="gif").size_of((1080, 1920)) == (480, 852)
    assert VideoFile(form="gif").size_of((320, 180)) == (320, 180)
    assert (VideoFile().rate_of(29.97), VideoFile(rate=25).rate_of(30)) == (29.97, 25)
    assert VideoFile(form="webp").rate_of(30) == 12


def test_sets_are_of_outputs_that_go_together() -> None:
    assert len({one.name for one in OUTPUT_SETS}) == len(OUTPUT_SETS)
    for one in OUTPUT_SETS:
        assert each_once(one.outputs) == one.outputs


def test_finer_and_larger_files_are_expected_to_be_larger() -> None:
    def size(**settings: object) -> float:
        output = VideoFile.model_validate(settings)
        return expected(output, (1080, 1920), 900, 30, 0.1).size

    assert size(quality="small") < size() < size(quality="fine")
    assert size(lines=720) < size()
    assert size(form="av1") < size() < size(form="prores")
    assert expected(TextFile(), (1080, 1920), 0, 30, 0).size < 10_000
    still = expected(StillFile(), (1080, 1920), 0, 0, 0)
    assert still.seconds > 0


def test_what_earlier_files_came_to_counts() -> None:
    first = Expected(1_000, 10)
    assert corrected(first, []) == first
    before = [(Expected(100, 1), Expected(150, 2)), (Expected(200, 2), Expected(300, 4))]
    assert corrected(first, before) == Expected(1_500, 20)
    wild = [(Expected(1, 1), Expected(10**9, 10**9))]
    assert corrected(first, wild) == Expected(8_000, 80)


def test_what_a_file_cannot_hold_is_told() -> None:
    order = ordered([TextFile()])
    plain = Cue(1, (Shown("mend", 0, 1_000_000),), 0, 1_000_000)
    marked = Cue(1, (Shown("mend", 0, 1_000_000, accent=1, own="size=2"),), 0, 1_000_000)
    assert not_held(TextFile(), order.piece, [plain]) == []
    assert not_held(TextFile(), order.piece, [marked]) == [
        "the accents of marked words",
        "the looks that captions and words have of their own",
    ]
    assert "the accents of marked words" not in not_held(
        TextFile(form="ass"), order.piece, [marked]
    )
    assert not_held(VideoFile(form="gif"), order.piece, [marked]) == ["sound"]
    assert (
        "the player chooses" in not_held(VideoFile(captions="switchable"), order.piece, [marked])[0]
    )
    assert not_held(VideoFile(), order.piece, [marked]) == []


@pytest.mark.parametrize(
    ("pattern", "facts", "name"),
    [
        (
            "{project}_{shape}_{number}_{part}",
            {"project": "bike talk", "number": "01"},
            "bike-talk_01",
        ),
        ("{project}_{shape}_{number}", {"project": "Tea", "number": "01"}, "Tea_01"),
        ("{shape}-{project}", {"project": "Tea"}, "Tea"),
        ("{project}__{number}", {"project": "Tea", "number": "2"}, "Tea__2"),
        ("{shape}", {}, "piece"),
    ],
)
def test_parts_that_there_are_not_leave_nothing(
    pattern: str, facts: dict[str, str], name: str
) -> None:
    assert filled(pattern, facts) == name
