import json
from collections.abc import Sequence
from dataclasses import replace
from itertools import combinations, pairwise
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.captions.cue_timing import MOST_EARLY_US
from mortiser.core.captions.grouping import (
    NEVER,
    ORPHAN,
    TOO_SHORT,
    break_cost,
    fill,
    group,
    inside_cost,
)
from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.transcript.words import Seam, Shown
from tests.strategies import spoken_words

SEAMS: list[Seam] = ["free", "free", "free", "free", "break", "join", "line"]
PACE = st.builds(
    Pace,
    words=st.integers(1, 9),
    lines=st.integers(1, 3),
    line_chars=st.integers(6, 30),
    chars_per_s=st.integers(5, 40),
    shortest_us=st.integers(40_000, 2_000_000),
    longest_us=st.integers(500_000, 5_000_000),
)
Ranges = list[tuple[int, int]]


@st.composite
def decided_words(draw: st.DrawFn, most: int) -> list[Shown]:
    """Spoken words with something decided by hand between some of them."""
    words = draw(spoken_words(most=most))
    return [replace(word, seam=draw(st.sampled_from(SEAMS))) for word in words]


def line_count(words: Sequence[Shown], limit: int) -> int:
    lines, width = 1, -1
    for word in reversed(words):
        if width + 1 + len(word.text) > limit and width >= 0:
            lines, width = lines + 1, -1
        width += 1 + len(word.text)
    return lines


def fits(words: Sequence[Shown], pace: Pace) -> bool:
    duration = words[-1].end_us - words[0].start_us
    return (
        len(words) <= pace.words
        and line_count(words, pace.line_chars) <= pace.lines
        and duration <= pace.longest_us
    )


def allowed(words: list[Shown], start: int, end: int, pace: Pace) -> bool:
    """Whether a caption parts no words joined by hand, and fits or is one such run."""
    if any(words[i - 1].seam == "join" for i in (start, end) if 0 < i < len(words)):
        return False
    joined = all(word.seam == "join" for word in words[start : end - 1])
    return joined or fits(words[start:end], pace)


def unevenness(words: Sequence[Shown], pace: Pace) -> float:
    """How far even line ends lie from the nearest start of a word."""
    starts = [sum(len(w.text) + 1 for w in words[:i]) for i in range(len(words) + 1)]
    lines = line_count(words, pace.line_chars)
    shares = [starts[-1] * number / lines for number in range(1, min(lines, 3))]
    inner = starts[1:-1]
    return sum(min((abs(s - share) for s in inner), default=0.0) for share in shares)


def cost(words: list[Shown], ranges: Ranges, pace: Pace) -> float:
    total = 0.0
    for start, end in ranges:
        run, after = words[start:end], words[end] if end < len(words) else None
        lack = max(0, fill(pace) - len(run)) / fill(pace)
        total += 4 * lack**2 + (ORPHAN if len(run) == 1 and pace.words > 1 else 0)
        total += break_cost(run[-1], after)
        total += sum(inside_cost(a, b, pace) for a, b in pairwise(run))
        off = run[-1].end_us + pace.linger_us
        if after is not None:
            off = min(off, max(after.start_us, run[-1].end_us))
        shown = max(1, off - run[0].start_us)
        silent = words[start - 1].end_us if start else 0
        lent = min(max(0, run[0].start_us - silent), MOST_EARLY_US)
        until = after.start_us if after is not None else run[-1].end_us + pace.shortest_us
        time = max(1, max(until, run[-1].end_us) - run[0].start_us + lent)
        total += 2 * max(0.0, 1 - time / pace.shortest_us) ** 2
        total += TOO_SHORT if time < pace.shortest_us else 0
        chars = len(" ".join(w.text for w in run))
        total += 3 * min(1.0, max(0.0, chars / (pace.chars_per_s * shown / 1e6) - 1))
        total += 2 * unevenness(run, pace) / pace.line_chars
    return total


def every_grouping(words: list[Shown], pace: Pace) -> list[Ranges]:
    inner = range(1, len(words))
    found = []
    for size in range(len(words)):
        for cuts in combinations(inner, size):
            ranges = list(pairwise([0, *cuts, len(words)]))
            if all(allowed(words, a, b, pace) for a, b in ranges):
                found.append(ranges)
    return found


@settings(max_examples=150, deadline=None)
@given(decided_words(most=8), PACE | st.sampled_from(list(PACES.values())))
def test_no_grouping_is_cheaper(words: list[Shown], pace: Pace) -> None:
    words[-1] = replace(words[-1], seam="free")
    found = group(words, pace)
    least = min(cost(words, ranges, pace) for ranges in every_grouping(words, pace))
    assert cost(words, found, pace) == pytest.approx(least, abs=1e-6)


@given(decided_words(most=40), PACE | st.sampled_from(list(PACES.values())))
def test_groups_cover_all_words_within_the_limits(words: list[Shown], pace: Pace) -> None:
    found = group(words, pace)
    assert [i for a, b in found for i in range(a, b)] == list(range(len(words)))
    assert all(allowed(words, a, b, pace) for a, b in found)
    ends = {b for _, b in found}
    for index, word in enumerate(words[:-1], start=1):
        assert word.seam != "break" or index in ends
        assert word.seam != "join" or index not in ends


def test_nothing_said_gives_no_captions() -> None:
    assert group([], PACES["quick"]) == []


def test_a_break_made_by_hand_outweighs_everything() -> None:
    words = [Shown("the", 0, 100, seam="break"), Shown("kettle", 100, 400)]
    assert inside_cost(*words, PACES["quick"]) == NEVER
    assert group(words, PACES["sentence"]) == [(0, 1), (1, 2)]


def demo_words(clip: str) -> list[Shown]:
    truth = Path("src/mortiser/demo/media") / f"{clip}.words.json"
    return [Shown(**word) for word in json.loads(truth.read_text())["words"]]


def test_sentences_of_the_demo_end_captions() -> None:
    words = demo_words("kettle")
    texts = [" ".join(w.text for w in words[a:b]) for a, b in group(words, PACES["sentence"])]
    assert "Nine times out of ten it is the fuse, not the element." in texts
    assert all(not t.rstrip(".").count(". ") for t in texts)


def test_quick_captions_do_not_hang_on_an_article() -> None:
    words = demo_words("kettle")
    found = group(words, PACES["quick"])
    hanging = [words[b - 1].text for _, b in found if words[b - 1].text in ("the", "a")]
    assert hanging == []
    assert max(b - a for a, b in found) == 3


@pytest.mark.parametrize("most", [1, 2, 4, 6])
def test_captions_have_at_most_as_many_words_as_wanted(most: int) -> None:
    words = demo_words("kettle")
    found = group(words, PACES["quick"].model_copy(update={"words": most}))
    assert max(b - a for a, b in found) == most


@pytest.mark.parametrize(
    ("texts", "together"),
    [
        ("We met Tamsin Hollis at noon today", "Tamsin Hollis"),
        ("It needs about 13 amps to boil", "13 amps"),
        ("She would have mended every single chair", "would have"),
    ],
)
def test_phrases_stay_in_one_caption(texts: str, together: str) -> None:
    words = [Shown(t, i * 300_000, i * 300_000 + 290_000) for i, t in enumerate(texts.split())]
    pace = PACES["quick"].model_copy(update={"words": 4, "line_chars": 40})
    captions = [" ".join(w.text for w in words[a:b]) for a, b in group(words, pace)]
    assert any(together in caption for caption in captions), captions
