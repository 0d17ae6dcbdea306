"""Caption files read back by other people's parsers."""

import csv
import io
import json
from io import StringIO
from itertools import pairwise

import pysubs2
import pytest
import webvtt
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.errors import BadInput
from mortiser.core.glossary import Entry
from mortiser.core.words import Shown
from mortiser.formats import glossary
from mortiser.formats.base import Caption
from mortiser.formats.registry import FORMATS

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


def near(us: int, ms: int) -> bool:
    return abs(us - ms * 1000) <= 500


@given(captions())
def test_subrip_reads_back(made: list[Caption]) -> None:
    found = pysubs2.SSAFile.from_string(FORMATS["srt"](made, 0), format_="srt", keep_html_tags=True)
    assert len(found) == len(made)
    for event, caption in zip(found, made, strict=True):
        assert near(caption.start_us, event.start)
        assert near(caption.end_us, event.end)


def test_subrip_keeps_text_and_arrows_do_not_break_it() -> None:
    found = pysubs2.SSAFile.from_string(
        FORMATS["srt"](TRICKY, 0), format_="srt", keep_html_tags=True
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
    found = list(webvtt.from_buffer(StringIO(FORMATS["vtt"](made, 0))))
    assert len(found) == len(made)
    for cue, caption in zip(found, made, strict=True):
        assert near(caption.start_us, milliseconds(cue.start))
        assert near(caption.end_us, milliseconds(cue.end))
        assert len(cue.lines) == len(caption.lines)


@pytest.mark.parametrize("ending", ["srt", "vtt"])
def test_rounding_makes_no_overlap(ending: str) -> None:
    made = [Caption(a, b, ("x",)) for a, b in pairwise(range(0, 5_000_000, 333_333))]
    found = pysubs2.SSAFile.from_string(FORMATS[ending](made, 0), format_=ending)
    assert all(a.end == b.start for a, b in pairwise(found))


def test_plain_text_is_the_words_alone() -> None:
    text = FORMATS["txt"](TRICKY, 0)
    assert text.splitlines()[1] == "an arrow --> here and a second line"


def test_json_has_words_and_captions() -> None:
    word = Shown("mend", 100_000, 300_000, 0.9, "Marlo")
    made = [Caption(60_000, 900_000, ("mend",), (word,))]
    assert json.loads(FORMATS["json"](made, 2_000_000)) == {
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
