import json
import re
from difflib import SequenceMatcher
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.words import Word
from mortiser.media.sound import stream_sound
from mortiser.speech.chunks import MOST_S, chunks
from mortiser.speech.letters import phones
from mortiser.speech.moonshine import MoonshineRecogniser, tidy
from mortiser.speech.protocols import RATE, HeardLine, WordTime
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.spoken import spoken, spoken_map
from mortiser.speech.transcribe import TimedLine, timed_words, transcribe
from tests.recordings import KETTLE, MEDIA


@pytest.fixture(scope="module")
def heard() -> list[Word]:
    items = transcribe(stream_sound(KETTLE), MoonshineRecogniser(), SphinxAligner())
    return [word for item in items if isinstance(item, TimedLine) for word in item.words]


def key(text: str) -> str:
    return re.sub(r"[^a-z']", "", text.lower())


def test_the_demo_is_heard_well_and_on_time(heard: list[Word]) -> None:
    truth = json.loads((MEDIA / "kettle.words.json").read_text())["words"]
    matcher = SequenceMatcher(
        None, [key(w["text"]) for w in truth], [key(w.text) for w in heard], False
    )
    errors = [
        heard[block.b + i].start_us - truth[block.a + i]["start_us"]
        for block in matcher.get_matching_blocks()
        for i in range(block.size)
    ]
    assert len(errors) >= 0.92 * len(truth)
    assert np.median(np.abs(errors)) <= 40_000
    assert np.percentile(np.abs(errors), 95) <= 120_000


def test_words_are_in_order_and_do_not_overlap(heard: list[Word]) -> None:
    assert all(a.end_us <= b.start_us for a, b in pairwise(heard))
    assert all(w.origin == "heard" and w.confidence is not None for w in heard)


class Deaf:
    """Finds only the words it is told to."""

    def __init__(self, known: dict[str, WordTime]) -> None:
        self._known = known

    def align(self, words, samples) -> list[WordTime | None]:
        return [self._known.get(word) for word in words]


def test_words_that_are_not_found_are_placed_and_marked() -> None:
    line = HeardLine("so the chair creaks", 10.0, 12.0, np.zeros(2 * RATE, np.float32), 10.0)
    words = timed_words(
        line, Deaf({"so": WordTime(0.1, 0.3, 0.9), "creaks": WordTime(1.5, 1.9, 0.9)})
    )
    assert [w.text for w in words] == ["so", "the", "chair", "creaks"]
    assert [w.aligned for w in words] == [True, False, False, True]
    assert words[1].start_us == 10_300_000
    assert words[2].end_us == 11_500_000
    assert words[1].confidence < 0.5


class Scripted:
    name, languages, stretch_s = "scripted", ("en",), 18.0

    def __init__(self, *lines: HeardLine) -> None:
        self._lines = lines

    def hear(self, samples) -> list[HeardLine]:
        return list(self._lines)


def test_a_word_heard_twice_at_a_seam_is_kept_once() -> None:
    sound = np.zeros(RATE, np.float32)
    first = HeardLine("Today, um", 0.0, 1.0, sound, 0.0)
    second = HeardLine("Um, this", 0.7, 1.7, sound, 0.7)
    aligner = Deaf(
        {
            "Today,": WordTime(0.1, 0.5, 0.9),
            "um": WordTime(0.6, 0.9, 0.9),
            "Um,": WordTime(0.0, 0.2, 0.9),
            "this": WordTime(0.5, 0.7, 0.9),
        }
    )
    items = transcribe([sound], Scripted(first, second), aligner)
    lines = [i for i in items if isinstance(i, TimedLine)]
    assert [w.text for line in lines for w in line.words] == ["Today,", "um", "this"]


@pytest.mark.parametrize(
    ("written", "said"),
    [
        ("13", "thirteen"),
        ("1998", "nineteen ninety eight"),
        ("2.5", "two point five"),
        ("3rd", "third"),
        ("£5", "five pounds"),
        ("50%", "fifty percent"),
        ("R&D", "r and d"),
        ("well-known", "well known"),
        ("Don’t", "don't"),
        ("1,200", "one thousand two hundred"),
        ("—", ""),
        (
            "12345678901234567",
            "one two three four five six seven eight nine zero "
            + "one two three four five six seven",
        ),
    ],
)
def test_how_things_are_said(written: str, said: str) -> None:
    got = " ".join(spoken(written)).replace(" and two", " two")
    assert got == said


def test_spoken_words_know_where_they_came_from() -> None:
    assert spoken_map(["Take", "£5", "…", "now"]) == (
        ["take", "five", "pounds", "now"],
        [0, 1, 1, 3],
    )


@given(st.text(max_size=30))
def test_anything_can_be_said(text: str) -> None:
    for word in text.split():
        assert all(part and part == part.strip() for part in spoken(word))
        assert re.fullmatch(r"[A-Z]{1,2}( [A-Z]{1,2})*", phones(word))


@pytest.mark.parametrize(
    ("word", "said"),
    [
        ("mend", "M EH N D"),
        ("shade", "SH EY D"),
        ("kettle", "K EH T L"),
        ("phono", "F AA N OW"),
        ("œ", "AH"),
    ],
)
def test_letters_to_sounds(word: str, said: str) -> None:
    assert phones(word) == said


@given(st.lists(st.integers(1, 5 * RATE), min_size=1, max_size=30), st.integers(0, 2**32 - 1))
def test_chunks_are_the_whole_sound_in_order(sizes: list[int], seed: int) -> None:
    sound = np.random.default_rng(seed).normal(0, 0.1, sum(sizes)).astype(np.float32)
    parts = np.split(sound, np.cumsum(sizes)[:-1])
    found = list(chunks(parts))
    assert np.array_equal(np.concatenate([s for _, s in found]), sound)
    assert all(len(s) <= (MOST_S + 5) * RATE for _, s in found)
    assert [start for start, _ in found] == pytest.approx(
        np.cumsum([0, *[len(s) / RATE for _, s in found[:-1]]])
    )


def test_chunks_end_in_pauses() -> None:
    rng = np.random.default_rng(1)
    sound = rng.normal(0, 0.2, 60 * RATE).astype(np.float32)
    pauses = [4.0, 15.0, 21.0, 39.0, 52.0]
    for at in pauses:
        sound[int(at * RATE) : int((at + 0.4) * RATE)] = 0
    ends = np.cumsum([len(s) / RATE for _, s in chunks([sound])])[:-1]
    assert all(any(p < end < p + 0.4 for p in pauses) for end in ends)


def test_endless_repeats_are_cut() -> None:
    assert tidy("go " * 50 + "home .") == "go go go go home."
