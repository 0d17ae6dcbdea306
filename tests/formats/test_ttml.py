"""TTML written in the text profile of IMSC 1.1, read back by another parser and by our own."""

import csv
import io
from xml.etree import ElementTree

import pysubs2
import pytest
from hypothesis import given

from mortiser.core.common.errors import BadInput
from mortiser.core.transcript.words import Shown
from mortiser.formats.base import Caption, CaptionDocument, GridPlace
from mortiser.formats.registry import FORMATS, read, reader_of
from mortiser.formats.ttml import PARAMETER, TT, XML
from tests.formats.test_files import TRICKY, captions, near

HEAD = (
    '<tt xmlns="http://www.w3.org/ns/ttml" xmlns:ttp="http://www.w3.org/ns/ttml#parameter" '
    'xmlns:tts="http://www.w3.org/ns/ttml#styling" xml:lang="de" {0}><body>{1}</body></tt>'
)


def written(made: list[Caption]) -> str:
    return FORMATS["ttml"](made, CaptionDocument(10_000_000))


@given(captions())
def test_another_parser_reads_the_same(made: list[Caption]) -> None:
    found = pysubs2.SSAFile.from_string(written(made), format_="ttml")
    assert len(found) == len(made)
    for event, caption in zip(found, made, strict=True):
        assert near(caption.start_us, event.start)
        assert near(caption.end_us, event.end)
        plain = event.plaintext.replace("\n", "")
        assert [ch for ch in plain if not ch.isspace()] == [
            ch for line in caption.lines for ch in line if not ch.isspace()
        ]


@given(captions())
def test_our_own_reader_loses_nothing(made: list[Caption]) -> None:
    text = written(made)
    assert reader_of(text) == "ttml"
    found = read(text).captions
    assert [one.lines for one in found] == [one.lines for one in made]
    for one, caption in zip(found, made, strict=True):
        assert abs(one.start_us - caption.start_us) <= 500
        assert abs(one.end_us - caption.end_us) <= 500


def test_speakers_places_and_signs_that_mean_something_are_kept() -> None:
    made = [
        Caption(0, 900_000, TRICKY[0].lines, speaker='Ada "A" & co'),
        Caption(900_000, 2_000_000, TRICKY[1].lines, place=GridPlace("top", "right")),
        Caption(2_000_000, 3_000_000, ("plain",), speaker="Ben", place=GridPlace("middle", "left")),
    ]
    found = read(written(made)).captions
    assert [(one.speaker, one.place, one.lines) for one in found] == [
        (one.speaker, one.place, one.lines) for one in made
    ]


def test_it_is_of_the_text_profile() -> None:
    root = ElementTree.fromstring(written([Caption(0, 1_000_000, ("a\x07b",))]).encode())
    assert root.get(f"{PARAMETER}contentProfiles", "").endswith("/imsc1.1/text")
    assert root.get(f"{XML}lang") == ""
    spoken = FORMATS["ttml"]([Caption(0, 1, ("Tee",))], CaptionDocument(1, language="de"))
    assert ElementTree.fromstring(spoken.encode()).get(f"{XML}lang") == "de"
    regions = {one.get(f"{XML}id") for one in root.iter(f"{TT}region")}
    paragraphs = list(root.iter(f"{TT}p"))
    assert {one.get("region") for one in paragraphs} <= regions
    assert paragraphs[0].text == "ab", "signs that no XML can hold are left out"


@pytest.mark.parametrize(
    ("begin", "end", "more", "wanted"),
    [
        ("00:00:01.500", "00:00:02", "", (1_500_000, 2_000_000)),
        ("1.5s", "2500ms", "", (1_500_000, 2_500_000)),
        ("00:00:01:12", "00:00:02:00", 'ttp:frameRate="24"', (1_500_000, 2_000_000)),
        ("36f", "48f", 'ttp:frameRate="24"', (1_500_000, 2_000_000)),
        ("15000000t", "2s", 'ttp:tickRate="10000000"', (1_500_000, 2_000_000)),
        (
            "30f", "60f", 'ttp:frameRate="30" ttp:frameRateMultiplier="1000 1001"',
            (1_001_000, 2_002_000),
        ),
    ],
)  # fmt: skip
def test_times_are_read_in_every_form(
    begin: str, end: str, more: str, wanted: tuple[int, int]
) -> None:
    text = HEAD.format(more, f'<div><p begin="{begin}" end="{end}">Tee</p></div>')
    (found,) = read(text).captions
    assert (found.start_us, found.end_us) == wanted


def test_durations_spans_and_breaks_are_read() -> None:
    inner = '<p begin="1s" dur="2s">one <span>two</span><br/>three</p>'
    (found,) = read(HEAD.format("", f"<div><div>{inner}</div></div>")).captions
    assert (found.end_us, found.lines) == (3_000_000, ("one two", "three"))
    wrong = HEAD.format("", '<div><p begin="soon" end="2s">a</p><p begin="1s" end="2s">b</p></div>')
    reading = read(wrong)
    assert [one.lines for one in reading.captions] == [("b",)]
    assert "is no time" in reading.notes[0].text


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ('<!DOCTYPE a [<!ENTITY b "c">]>' + HEAD.format("", ""), "entities"),
        (HEAD.format("", "<div>"), "damaged"),
        ('<a xmlns="http://www.w3.org/ns/ttml"/>', "no TTML"),
        (HEAD.format("", ""), "No caption"),
    ],
)
def test_what_is_no_ttml_is_told_as_such(text: str, said: str) -> None:
    with pytest.raises(BadInput, match=said):
        read(text)


def test_a_table_of_words_is_read_by_spreadsheets() -> None:
    words = (
        Shown("=SUM(1)", 0, 250_000, confidence=0.5, speaker="Ada"),
        Shown('“say,"so"', 250_000, 1_000_400),
    )
    text = FORMATS["csv"]([Caption(0, 1_000_000, ("x",), words)], CaptionDocument(0))
    head, *rows = csv.reader(io.StringIO(text))
    assert head[:2] == ["caption", "word"]
    assert rows == [
        ["1", " =SUM(1)", "0.000", "0.250", "Ada", "0.50"],
        ["1", '“say,"so"', "0.250", "1.000", "", ""],
    ]


def test_spans_may_lie_in_one_another_however_deep() -> None:
    deep = "<span>" * 3_000 + "We<br/>mend" + "</span> it" * 3_000
    text = (
        '<tt xmlns="http://www.w3.org/ns/ttml"><body><div>'
        f'<p begin="1s" end="2s">{deep}</p></div></body></tt>'
    )
    (caption,) = read(text).captions
    assert caption.lines[0] == "We"
    assert caption.lines[1].startswith("mend it it")
