"""Caption files read back by other people's parsers."""

import csv
import io
import json
import re
from io import StringIO
from itertools import pairwise

import pysubs2
import pytest
import webvtt
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import SECOND
from mortiser.core.transcript.glossary import Entry
from mortiser.core.transcript.words import Shown
from mortiser.formats import glossary
from mortiser.formats.base import Caption, CaptionDocument, GridPlace, Look
from mortiser.formats.registry import FORMATS, READERS, read

line = st.text(
    st.characters(exclude_categories=("Cc", "Cs", "Zl", "Zp", "Zs"), exclude_characters="{}\\"),
    min_size=1,
    max_size=12,
)


@st.composite
def captions(draw: st.DrawFn) -> list[Caption]:
    at, made = 0, []
    for _ in range(draw(st.integers(1, 6))):
        start = at + draw(st.integers(0, 3_000_000))
        at = start + draw(st.integers(40_000, 8_000_000))
        made.append(Caption(start, at, tuple(draw(st.lists(line, min_size=1, max_size=3)))))
    return made


TRICKY = [
    Caption(0, 999_600, ("Salt & <i>pepper</i>",)),
    Caption(1_000_000, 2_000_000, ("an arrow --> here", "and a second line")),
    Caption(3_599_999_900, 3_601_000_000, ("42", "über 🔧 ½")),
]


PLAIN = CaptionDocument(0)
LOOK = Look(
    "Fira Sans", True, 80, (250, 240, 230, 255), (250, 240, 230, 128), (0, 0, 0, 255), 6.0,
    place=GridPlace("top", "left"), x=0.3, y=0.2, accents=((200, 60, 40, 255),),
)  # fmt: skip
SAID = Caption(
    1_000_000,
    3_000_000,
    ("We mend", "kettles"),
    (
        Shown("We", 1_000_000, 1_400_000),
        Shown("mend", 1_400_000, 2_100_000, accent=1),
        Shown("kettles", 2_100_000, 2_900_000),
    ),
)


def near(us: int, ms: int) -> bool:
    return abs(us - ms * 1000) <= 500


@given(captions())
def test_subrip_reads_back(made: list[Caption]) -> None:
    found = pysubs2.SSAFile.from_string(
        FORMATS["srt"](made, PLAIN), format_="srt", keep_html_tags=True
    )
    assert len(found) == len(made)
    for event, caption in zip(found, made, strict=True):
        assert near(caption.start_us, event.start)
        assert near(caption.end_us, event.end)


def test_subrip_keeps_text_and_arrows_do_not_break_it() -> None:
    found = pysubs2.SSAFile.from_string(
        FORMATS["srt"](TRICKY, PLAIN), format_="srt", keep_html_tags=True
    )
    assert [e.text.split("\\N") for e in found] == [
        ["Salt & <i>pepper</i>"],
        ["an arrow → here", "and a second line"],
        ["42", "über 🔧 ½"],
    ]


def milliseconds(stamp: str) -> int:
    hours, minutes, seconds = stamp.split(":")
    return round((int(hours) * 3600 + int(minutes) * 60 + float(seconds)) * 1000)


@given(captions())
def test_webvtt_reads_back(made: list[Caption]) -> None:
    found = list(webvtt.from_buffer(StringIO(FORMATS["vtt"](made, PLAIN))))
    assert len(found) == len(made)
    for cue, caption in zip(found, made, strict=True):
        assert near(caption.start_us, milliseconds(cue.start))
        assert near(caption.end_us, milliseconds(cue.end))
        assert len(cue.lines) == len(caption.lines)


@pytest.mark.parametrize("ending", ["srt", "vtt"])
def test_rounding_makes_no_overlap(ending: str) -> None:
    made = [Caption(a, b, ("x",)) for a, b in pairwise(range(0, 5_000_000, 333_333))]
    found = pysubs2.SSAFile.from_string(FORMATS[ending](made, PLAIN), format_=ending)
    assert all(a.end == b.start for a, b in pairwise(found))


@given(captions())
def test_substation_reads_back(made: list[Caption]) -> None:
    text = FORMATS["ass"](made, CaptionDocument(0, timed=True, look=LOOK, size=(1080, 1920)))
    found = pysubs2.SSAFile.from_string(text, format_="ass")
    assert len(found) == len(made)
    for event, caption in zip(found, made, strict=True):
        assert abs(caption.start_us / 1_000 - event.start) <= 5
        assert abs(caption.end_us / 1_000 - event.end) <= 5


def test_substation_has_the_look_the_accents_and_when_words_are_said() -> None:
    text = FORMATS["ass"]([SAID], CaptionDocument(0, timed=True, look=LOOK, size=(1080, 1920)))
    found = pysubs2.SSAFile.from_string(text, format_="ass")
    style = found.styles["Piece"]
    assert (style.fontname, style.bold, style.fontsize, style.outline) == ("Fira Sans", True, 80, 6)
    assert (style.primarycolor.r, style.secondarycolor.a) == (250, 127)
    (event,) = found
    assert event.plaintext == "We mend\nkettles"
    assert [int(one) for one in re.findall(r"\\k(\d+)", event.text)] == [40, 70, 90]
    assert r"\c&H00283CC8&" in event.text
    assert r"\pos(324,384)" in event.text
    (back,) = read(text).captions
    assert back.starts == (1_000_000, 1_400_000, 2_100_000)
    assert back.place == GridPlace("top", "left")
    assert back.lines == SAID.lines


def test_webvtt_has_places_styles_and_when_words_are_said() -> None:
    text = FORMATS["vtt"]([SAID], CaptionDocument(0, timed=True, look=LOOK, size=(1080, 1920)))
    (cue,) = webvtt.from_buffer(StringIO(text))
    assert cue.text == "We mend\nkettles"
    assert "line:20% position:30% align:start" in text
    assert "color: rgba(250, 240, 230, 1.00);" in text
    (back,) = read(text).captions
    assert back.starts == (1_000_000, 1_400_000, 2_100_000)
    assert back.place == GridPlace("top", "left")


def test_a_moment_outside_of_its_caption_is_left_out() -> None:
    late = Caption(0, 1_000_000, ("a b c",), (
        Shown("a", 0, 10), Shown("b", 1_500_000, 1_600_000), Shown("c", 400_000, 500_000),
    ))  # fmt: skip
    text = FORMATS["vtt"]([late], CaptionDocument(0, timed=True))
    assert text.endswith("a b <00:00:00.400>c\n")


def test_plain_text_can_say_when() -> None:
    assert (
        FORMATS["txt"]([SAID], CaptionDocument(0, timed=True)) == "00:00:01.000  We mend kettles\n"
    )


def test_plain_text_is_the_words_alone() -> None:
    text = FORMATS["txt"](TRICKY, PLAIN)
    assert text.splitlines()[1] == "an arrow --> here and a second line"


def test_json_has_words_and_captions() -> None:
    word = Shown("mend", 100_000, 300_000, 0.9, "Marlo")
    made = [Caption(60_000, 900_000, ("mend",), (word,))]
    assert json.loads(FORMATS["json"](made, CaptionDocument(2_000_000))) == {
        "duration_us": 2_000_000,
        "words": [
            {
                "text": "mend",
                "start_us": 100_000,
                "end_us": 300_000,
                "confidence": 0.9,
                "speaker": "Marlo",
            }
        ],
        "cues": [{"start_us": 60_000, "end_us": 900_000, "lines": ["mend"]}],
    }


ENTRY_TEXT = st.text(
    st.characters(codec="utf-8", exclude_characters="\r\n\0"), min_size=1, max_size=12
)


@given(st.lists(st.tuples(ENTRY_TEXT, st.lists(ENTRY_TEXT, max_size=3)), max_size=6))
def test_a_glossary_reads_back_and_holds_no_live_formula(rows: list[tuple[str, list[str]]]) -> None:
    entries = [Entry(written.strip(), tuple(h.strip() for h in heard)) for written, heard in rows]
    entries = [e for e in entries if e.written and e.written.casefold() != "written"]
    kept = [Entry(e.written, tuple(filter(None, e.heard))) for e in entries]
    text = glossary.write(entries)
    for row in csv.reader(io.StringIO(text)):
        assert not any(cell[:1] in ("=", "+", "-", "@", "\t", "\r") for cell in row if cell)
    assert [entry for _, entry in glossary.read(text)] == kept


@pytest.mark.parametrize(
    "cell", ['=HYPERLINK("x")', "+1", "-a", "@x", "'=x", "''=x", "'plain", "a=b"]
)
def test_formulas_are_told_apart_from_apostrophes(cell: str) -> None:
    assert glossary.read(glossary.write([Entry(cell, (cell,))]))[0][1] == Entry(cell, (cell,))


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ('Kettle,"' + "a" * 200_000, "quotation mark left open"),
        ("Kettle\nKettle," + "a" * 200_000, "Line . cannot be read"),
        ("a\n" * 20_001, "more than 20,000 entries"),
    ],
    ids=["open quote", "long field", "many"],
)
def test_a_glossary_that_cannot_be_read_is_said(text: str, says: str) -> None:
    with pytest.raises(BadInput, match=says):
        glossary.read(text)


@pytest.mark.parametrize("form", ["vtt", "ass", "ttml"])
@pytest.mark.parametrize("number", [1, 3, 4, 5, 6, 7, 8, 9])
def test_places_of_single_captions_come_back(form: str, number: int) -> None:
    place = GridPlace.of(number)
    assert place is not None
    assert place.number == number
    captions = [
        Caption(0, SECOND, ("We mend",), place=place),
        Caption(SECOND, 2 * SECOND, ("kettles",)),
    ]
    for look in (None, LOOK):
        text = FORMATS[form](captions, CaptionDocument(2 * SECOND, look=look))
        first, second = READERS[form](text).captions
        assert first.place == place
        if look is None and form != "ass":
            assert second.place is None


def test_a_glossary_of_very_many_columns_is_refused_at_once() -> None:
    with pytest.raises(BadInput, match="more than 200 columns"):
        glossary.read("a" + "," * 1_900_000)
    kept = glossary.read("written,heard\nMarlo,marlow,mar low\n")
    assert kept[0][1] == Entry("Marlo", ("marlow", "mar low"))
