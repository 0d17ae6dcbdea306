"""Caption files as they are found: whole, broken, in other encodings, from other programs."""

import pysubs2
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.errors import BadInput
from mortiser.formats import ass, srt, vtt
from mortiser.formats.base import Caption
from mortiser.formats.decoding import decode
from mortiser.formats.registry import FORMATS, READERS, read, reader_of

WHOLE = r"""1
00:00:01,000 --> 00:00:02,500
Good <i>morning</i>
from {\an8}Lantern Lane

2
00:00:03,000 --> 00:00:04,000
Tea & cake
"""


def shown(reading) -> list[tuple[int, int, tuple[str, ...]]]:
    return [(c.start_us, c.end_us, c.lines) for c in reading.captions]


def test_a_whole_file_is_read_without_notes() -> None:
    reading = srt.read(WHOLE)
    assert shown(reading) == [
        (1_000_000, 2_500_000, ("Good morning", "from Lantern Lane")),
        (3_000_000, 4_000_000, ("Tea & cake",)),
    ]
    assert reading.notes == []


BROKEN = """7
0:1,5 -> 0:2,25
short times

00:00:03.000 --> 00:00:04.000
no number, a point
9
00:00:05,000 --> 00:00:04,000
backwards

10
00:00:07,000 --> 00:00:08,000

11
00:00 --> soon
lost
12
00:00:09,000-->00:00:10,000
no blank line before, tight arrow
13
00:00:00,100 --> 00:00:00,900
out of order"""


def test_a_broken_file_is_read_as_far_as_it_can_be() -> None:
    reading = srt.read(BROKEN)
    assert shown(reading) == [
        (100_000, 900_000, ("out of order",)),
        (1_500_000, 2_250_000, ("short times",)),
        (3_000_000, 4_000_000, ("no number, a point",)),
        (5_000_000, 7_000_000, ("backwards",)),
        (9_000_000, 10_000_000, ("no blank line before, tight arrow",)),
    ]
    said = "\n".join(reading.notes)
    assert "Line 2: “0:1,5 -> 0:2,25” read as 1.500 s." in said
    assert "Line 8: the caption ended before it started" in said
    assert "Line 12: the caption has no words" in said
    assert "Line 15: “00:00 --> soon” is no time; left out." in said
    assert "out of order" in said


def test_voices_notes_styles_and_entities_of_webvtt() -> None:
    text = (
        "WEBVTT - made up\n\nSTYLE\n::cue { color: red }\n\nNOTE\nnothing\n\n"
        "first\n00:01.000 --> 00:02.000 align:start position:10%\n"
        "<v.loud Marlo Finch>Tea <00:01.500><c.b>&amp; cake</c></v>\n"
    )
    (caption,) = vtt.read(text).captions
    assert caption == Caption(1_000_000, 2_000_000, ("Tea & cake",), (), "Marlo Finch")
    assert "was missing" in vtt.read(text.removeprefix("WEBVTT")).notes[0]


def test_ass_as_another_program_writes_it() -> None:
    other = pysubs2.SSAFile()
    other.append(
        pysubs2.SSAEvent(start=1_000, end=2_000, text="{\\b1}Good{\\b0}\\Nmorning, all", name="Ada")
    )
    other.append(pysubs2.SSAEvent(start=2_500, end=3_000, text="{\\p1}m 0 0 l 9 9{\\p0}"))
    other.append(pysubs2.SSAEvent(start=4_000, end=5_000, text="a comment", type="Comment"))
    reading = ass.read(other.to_string("ass"))
    assert shown(reading) == [(1_000_000, 2_000_000, ("Good", "morning, all"))]
    assert reading.captions[0].speaker == "Ada"
    assert "no times" in ass.read("[Events]\nDialogue: 0,soon,later,D,,0,0,0,,x").notes[0]


lines = st.lists(
    st.text(
        st.characters(codec="utf-8", categories=["L", "N", "P"], exclude_characters="<>{}&"),
        min_size=1,
    ).filter(lambda line: not line.isdigit() and "->" not in line),
    min_size=1,
    max_size=3,
)


@given(st.lists(st.tuples(st.integers(0, 900), st.integers(1, 400), lines), min_size=1, max_size=6))
@pytest.mark.parametrize("kind", ["srt", "vtt"])
def test_what_is_written_is_read_back(kind: str, rows: list[tuple[int, int, list[str]]]) -> None:
    captions = []
    at = 0
    for gap, length, text in rows:
        start = at + gap * 1_000
        at = start + length * 1_000
        captions.append(Caption(start, at, tuple(text)))
    again = READERS[kind](FORMATS[kind](captions, at))
    assert again.captions == captions
    assert again.notes == []


def test_other_programs_read_the_same(tmp_path) -> None:
    ours = [
        (c.start_us // 1_000, c.end_us // 1_000, " ".join(c.lines))
        for c in srt.read(WHOLE).captions
    ]
    theirs = [
        (e.start, e.end, e.plaintext.replace("\n", " ")) for e in pysubs2.SSAFile.from_string(WHOLE)
    ]
    assert ours == theirs


def test_formats_are_told_apart_by_what_they_say() -> None:
    assert reader_of(WHOLE) == "srt"
    assert reader_of("WEBVTT\n") == "vtt"
    assert reader_of("[Events]\nDialogue: x") == "ass"
    assert reader_of("just\nlines") is None
    with pytest.raises(BadInput, match="No caption could be read"):
        read("1\nsoon --> later\nx")


@pytest.mark.parametrize(
    ("text", "encoding", "guessed"),
    [
        ("Über die Brücke", "utf-8", False),
        ("Über die Brücke", "utf-8-sig", False),
        ("Доброе утро", "utf-16", False),
        ("Über die Brücke", "cp1252", True),
        ("Доброе утро, мастерская открыта каждый день", "cp1251", True),
        ("おはようございます、修理室です", "shift_jis", True),
    ],
)
def test_encodings_are_found_out(text: str, encoding: str, guessed: bool) -> None:
    found, name = decode(f"{text}\r\nx\ry".encode(encoding))
    assert found == f"{text}\nx\ny"
    assert (name is not None) == guessed


@pytest.mark.parametrize(
    "data", [bytes(range(256)) * 4, b"\x00\x00\x00\x18ftypmp42" + b"\x00" * 64]
)
def test_what_is_no_text_is_refused(data: bytes) -> None:
    with pytest.raises(BadInput, match="no text"):
        decode(data)
