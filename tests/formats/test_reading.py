"""Caption files as they are found: whole, broken, in other encodings, from other programs."""

import pysubs2
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.formats import ass, srt, vtt
from mortiser.formats.base import Caption, CaptionDocument, GridPlace
from mortiser.formats.decoding import decode
from mortiser.formats.markup import marked
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
        (4_000_000, 5_000_000, ("backwards",)),
        (9_000_000, 10_000_000, ("no blank line before, tight arrow",)),
    ]
    said = "\n".join(note.text for note in reading.notes)
    assert "Line 2: “0:1,5 -> 0:2,25” read as 1.500 s." in said
    assert "Line 8: start and end were the wrong way round" in said
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
    assert caption == Caption(
        1_000_000,
        2_000_000,
        ("Tea & cake",),
        (),
        "Marlo Finch",
        place=GridPlace("bottom", "left"),
    )
    assert "was missing" in vtt.read(text.removeprefix("WEBVTT")).notes[0].text


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
    assert "no times" in ass.read("[Events]\nDialogue: 0,soon,later,D,,0,0,0,,x").notes[0].text


@pytest.mark.parametrize(
    ("override", "lost"),
    [
        ("\\fad(200,200)", "fades and motion"),
        ("\\fade(255,0,255,0,1,2,3)", "fades and motion"),
        ("\\move(10,20,30,40)", "fades and motion"),
        ("\\t(0,500,\\fscx120)", "fades and motion"),
        ("\\frz30", "turns and slants"),
        ("\\fax-0.5", "turns and slants"),
        ("\\bord3", "outlines and shadows"),
        ("\\blur2", "outlines and shadows"),
        ("\\iclip(0,0,9,9)", "masks"),
    ],
)
def test_what_of_a_look_is_not_taken_is_said(override: str, lost: str) -> None:
    line = f"Dialogue: 0,0:00:01.00,0:00:02.00,D,,0,0,0,,{{{override}}}Good morning"
    reading = ass.read(f"[Events]\n{line}")
    assert shown(reading) == [(1_000_000, 2_000_000, ("Good morning",))]
    assert lost in reading.notes[0].text


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
    again = READERS[kind](FORMATS[kind](captions, CaptionDocument(at)))
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


@pytest.mark.parametrize(
    ("text", "words", "italic"),
    [
        ("<i>Tea</i> time", ["Tea", "time"], [0]),
        ("un<i>believ</i>able, <i>all of it</i>", ["unbelievable,", "all", "of", "it"], [1, 2, 3]),
        ("a <b>bold</b> <font color=red>red</font> one", ["a", "bold", "red", "one"], []),
        ("3 < 4 and 5 > 4", ["3", "<", "4", "and", "5", ">", "4"], []),
        ("<ruby>kettle<rt>ketoru</rt></ruby> on", ["kettle", "on"], []),
        ("<i", ["<i"], []),
        ("{\\an8}up {not an override}", ["up", "{not", "an", "override}"], []),
    ],
)
def test_markup_in_lines(text: str, words: list[str], italic: list[int]) -> None:
    found = marked(text, angles=True, braces=True)
    assert found.words == words
    assert [i for i, flag in enumerate(found.italic) if flag] == italic


def test_what_cannot_be_held_is_named_once_with_its_place() -> None:
    text = (
        "WEBVTT\n\nSTYLE\n::cue { color: red }\n\n"
        "00:01.000 --> 00:02.000 region:low\n<c.yellow>Good</c> <b>morning</b>\n\n"
        "00:03.000 --> 00:04.000\n<ruby>tea<rt>ti</rt></ruby> <c.red>time</c>\n"
    )
    notes = {note.text: note.at_us for note in vtt.read(text).notes}
    said = "\n".join(notes)
    assert "Not taken: classes, in 2 captions." in said
    assert "Not taken: readings (ruby), in one caption." in said
    assert "region" in said
    assert "style sheet" in said
    ruby = next(at for note, at in notes.items() if "ruby" in note)
    assert ruby == 3_000_000


@pytest.mark.parametrize(
    ("settings", "place"),
    [
        ("", None),
        ("line:0", GridPlace("top", "centre")),
        ("line:50% align:start", GridPlace("middle", "left")),
        ("line:-1", None),
        ("position:90% line:10%", GridPlace("top", "right")),
    ],
)
def test_places_of_webvtt(settings: str, place: GridPlace | None) -> None:
    (caption,) = vtt.read(f"WEBVTT\n\n00:01.000 --> 00:02.000 {settings}\nTea\n").captions
    assert caption.place == place


def test_places_and_karaoke_of_ass_and_subrip() -> None:
    other = pysubs2.SSAFile()
    other.info["PlayResX"], other.info["PlayResY"] = "1080", "1920"
    other.styles["Low"] = pysubs2.SSAStyle(alignment=pysubs2.Alignment.BOTTOM_LEFT, italic=True)
    for text, style in (
        ("{\\k50}Good {\\k30}mor{\\k20}ning\\N{\\kf100}all", "Default"),
        ("{\\pos(540,100)}up", "Default"),
        ("low {\\i0}and upright", "Low"),
    ):
        start = 1_000 + 3_000 * len(other)
        other.append(pysubs2.SSAEvent(start=start, end=start + 2_500, text=text, style=style))
    sung, up, low = ass.read(other.to_string("ass")).captions
    assert sung.lines == ("Good morning", "all")
    assert sung.starts == (1_000_000, 1_500_000, 2_000_000)
    assert up.place == GridPlace("top", "centre")
    assert (low.place, low.italic) == (GridPlace("bottom", "left"), (0,))
    (srt_up,) = srt.read("1\n00:00:01,000 --> 00:00:02,000\n{\\an8}<i>up</i> here\n").captions
    assert (srt_up.place, srt_up.italic) == (GridPlace("top", "centre"), (0,))


def test_word_times_of_webvtt_are_taken_where_all_words_have_one() -> None:
    text = "WEBVTT\n\n00:01.000 --> 00:03.000\nGood <00:01.500>morning <00:02.000>all\n"
    (caption,) = vtt.read(text).captions
    assert caption.starts == (1_000_000, 1_500_000, 2_000_000)
    (some,) = vtt.read(text.replace("<00:02.000>", "")).captions
    assert some.starts == ()


@given(st.lists(st.sampled_from(["<", ">", "{", "}", "v ", "i", "/", "\\k5", " a", "&lt;", "\\"])))
def test_no_markup_loses_letters_outside_of_brackets(parts: list[str]) -> None:
    found = marked("".join(parts) + " end", angles=True, braces=True)
    assert found.words[-1].endswith("end")
    assert len(found.words) == len(found.italic) == len(found.starts)


@pytest.mark.parametrize("piece", ["<v ", "{\\k1", "<i>", "<00:01.000>", "<ruby><rt>", "{\\pos(1,"])
def test_repeated_markup_takes_time_in_proportion(piece: str) -> None:
    """Steps are counted, not seconds: each bracket is looked for a fixed number of times."""

    class Counted(str):
        looks = 0

        def find(self, *args: object) -> int:  # type: ignore[override]
            Counted.looks += 1
            return super().find(*args)  # type: ignore[arg-type]

    seen = []
    for count in (200, 400):
        Counted.looks = 0
        marked(Counted(piece * count), angles=True, braces=True)
        seen.append(Counted.looks)
    assert seen[1] <= 2 * seen[0] + 4


@pytest.mark.parametrize(
    ("text", "encoding"),
    [
        ("¿Qué pasó, señor? El niño soñó con el año", "cp1252"),
        ("Le garçon a mangé l'œuf à Noël, où ça", "cp1252"),
        ("Żółta łódź płynie, a ptaki śpiewają głośno", "cp1250"),
        ("Füße, Äpfel und ölige Übungen", "cp1252"),
    ],
)
def test_western_letters_are_read_as_windows_1252(text: str, encoding: str) -> None:
    data = f"1\n00:00:01,000 --> 00:00:02,000\n{text}\n".encode(encoding)
    found, guessed = decode(data)
    assert text in found
    assert guessed is not None
    chosen, unsaid = decode(data, encoding)
    assert text in chosen
    assert unsaid is None
    with pytest.raises(BadInput, match="no encoding"):
        decode(data, "klingon")


@pytest.mark.parametrize(
    ("file", "what"),
    [
        ("1\n00:00:00,000 --> 00:00:01,000\nA\n\n" * 20_001, "20,001 captions"),
        ("WEBVTT\n\n" + "00:00.000 --> 00:01.000\nA\n\n" * 20_001, "20,001 captions"),
        (
            "[Events]\nDialogue: 0,0:00:00.00,0:00:01.00,,,0,0,0,," + "{\\k1}a" * 200_001,
            "200,001 words",
        ),
        ('<tt xmlns="http://www.w3.org/ns/ttml">' + "<p>a</p>" * 20_001 + "</tt>", "20,001 cap"),
    ],
    ids=["srt", "vtt", "ass", "ttml"],
)
def test_a_file_without_an_end_is_refused_at_once(file: str, what: str) -> None:
    with pytest.raises(BadInput, match=what):
        read(file)
