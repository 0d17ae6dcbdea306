"""Reading takes time in proportion to the file, whatever its own signs are put together to."""

import itertools
import time
from collections.abc import Callable
from contextlib import suppress

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.formats import glossary
from mortiser.formats.decoding import decode
from mortiser.formats.registry import READERS

SIGNS = {
    "vtt": [
        "<", "<v ", "<v a>", "<c.x", "</", "<00:00:01.000>", "<i>", "<ruby><rt>", "&", "&#x", "&#9",
        "-->", "00:00:00.000 --> 00:00:01.000", "00:", "1:", " ", "\n", "\n\n", "NOTE", "STYLE",
        "line:1 ", "position:50% ", "9", "x", ">",
    ],
    "srt": [
        "<i>", "<font color=", "{\\an8}", "{\\", "{", "}", "<", ">", "1\n", "00:00:01,000", "-->",
        "00:00:01,000 --> 00:00:02,000", "- ->", "–>", ",", ":", " ", "\n", "\n\n", "9", "&amp;",
    ],
    "ass": [
        "Dialogue: ", "Dialogue: 0,0:00:01.00,0:00:02.00,D,,0,0,0,,a\n", "{\\k10}", "{\\", "{", "}",
        "\\N", "\\h", "\\p1", "\\pos(1,1)", "\\pos(", "Format: ", "Style: ", "Start", ",", "\n", "0:",
        " ", "9", "\\k9", "x",
    ],
    "glossary": ['"', '""', ",", ";", "\n", "'", "=", "a", " ", '"\n"', "\t"],
    "encodings": ["\x00", "\xe9", "\xff\xfe", "\r", "a", "\u3042", "+2AA-", "\n"],
}  # fmt: skip
HEADS = {
    "vtt": "WEBVTT\n\n00:00:00.000 --> 00:00:09.000\n",
    "srt": "1\n00:00:00,000 --> 00:00:09,000\n",
    "ass": "[Events]\nDialogue: 0,0:00:01.00,0:00:02.00,D,,0,0,0,,",
    "glossary": "written,heard\n",
    "encodings": "",
}
READ: dict[str, Callable[[str], object]] = {
    **READERS,
    "glossary": glossary.read,
    "encodings": lambda text: decode(text.encode("utf-8") + b"\xe9"),
}
LETTERS = 3_000
TIMES = 8
TRIES = 3
NOTHING_S = 0.02
"""Less than this says nothing."""


def work_s(kind: str, text: str) -> float:
    """The least time of two readings, of this thread's own work."""
    spent = []
    for _ in range(2):
        began = time.thread_time()
        with suppress(BadInput):
            READ[kind](text)
        spent.append(time.thread_time() - began)
    return min(spent)


def check_in_proportion(kind: str, made: Callable[[int], str], letters: int) -> None:
    """What is made for 8 counts takes about 8 times as long; where every sign looks at all others,
    it takes 64 times. What the machine does besides is not held against it."""
    count = max(1, LETTERS // letters)
    for _ in range(TRIES):
        short = work_s(kind, HEADS[kind] + made(count))
        long = work_s(kind, HEADS[kind] + made(count * TIMES))
        if long <= 3 * TIMES * max(short, NOTHING_S / TIMES):
            return
    raise AssertionError(f"{made(1)!r}: {short:.3f} s became {long:.3f} s")


@pytest.mark.parametrize("kind", SIGNS)
def test_signs_over_and_over_take_time_in_proportion(kind: str) -> None:
    for piece in SIGNS[kind]:
        check_in_proportion(kind, lambda count, piece=piece: piece * count, len(piece))


@pytest.mark.parametrize("kind", SIGNS)
def test_signs_inside_one_another_take_time_in_proportion(kind: str) -> None:
    for before, after in itertools.islice(itertools.permutations(SIGNS[kind], 2), 0, None, 9):
        check_in_proportion(
            kind,
            lambda count, before=before, after=after: before * count + after * count,
            len(before + after),
        )


@pytest.mark.parametrize("kind", SIGNS)
def test_any_mix_of_signs_is_read_in_time_or_refused(kind: str) -> None:
    @settings(max_examples=25, deadline=None)
    @given(st.lists(st.sampled_from(SIGNS[kind]), min_size=1, max_size=5), st.text(max_size=3))
    def tried(signs: list[str], tail: str) -> None:
        piece = "".join(signs)
        check_in_proportion(kind, lambda count: piece * count + tail, len(piece))

    tried()


@pytest.mark.parametrize("kind", ["vtt", "srt"])
@pytest.mark.parametrize(
    "number", ["&#" + "9" * 5_000 + ";", "&#x" + "f" * 5_000, "&#" + "9" * 5_000]
)
def test_letters_by_a_number_without_end_are_no_fault(kind: str, number: str) -> None:
    try:
        found = READ[kind](HEADS[kind] + number).captions
    except BadInput:
        found = []
    assert all(caption.lines for caption in found)
