import json
from itertools import combinations, pairwise
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mortiser.core.grouping import (
    GROUPINGS,
    GroupName,
    GroupRules,
    break_cost,
    fits,
    group,
    inside_cost,
    size_cost,
)
from mortiser.core.words import Word
from tests.strategies import spoken_words


def cost(words: list[Word], ranges: list[tuple[int, int]], rules: GroupRules) -> float:
    total = 0.0
    for start, end in ranges:
        after = words[end] if end < len(words) else None
        total += size_cost(end - start, rules) + break_cost(words[end - 1], after)
        total += sum(inside_cost(words[i], words[i + 1], rules) for i in range(start, end - 1))
    return total


def every_grouping(words: list[Word], rules: GroupRules) -> list[list[tuple[int, int]]]:
    inner = range(1, len(words))
    found = []
    for size in range(len(words)):
        for cuts in combinations(inner, size):
            edges = [0, *cuts, len(words)]
            ranges = list(pairwise(edges))
            if all(fits(words[a:b], rules) for a, b in ranges):
                found.append(ranges)
    return found


@settings(max_examples=60, deadline=None)
@given(spoken_words(most=9), st.sampled_from(list(GROUPINGS)))
def test_no_grouping_is_cheaper(words: list[Word], name: GroupName) -> None:
    rules = GROUPINGS[name]
    found = group(words, rules)
    least = min(cost(words, ranges, rules) for ranges in every_grouping(words, rules))
    assert cost(words, found, rules) == pytest.approx(least)


@given(spoken_words(most=40), st.sampled_from(list(GROUPINGS)))
def test_groups_cover_all_words_within_the_limits(words: list[Word], name: GroupName) -> None:
    found = group(words, GROUPINGS[name])
    assert [i for a, b in found for i in range(a, b)] == list(range(len(words)))
    assert all(fits(words[a:b], GROUPINGS[name]) for a, b in found)


def test_nothing_said_gives_no_captions() -> None:
    assert group([], GROUPINGS["quick"]) == []


def demo_words(clip: str) -> list[Word]:
    truth = Path("src/mortiser/demo/media") / f"{clip}.words.json"
    return [Word(**word) for word in json.loads(truth.read_text())["words"]]


def test_sentences_of_the_demo_end_captions() -> None:
    words = demo_words("kettle")
    texts = [" ".join(w.text for w in words[a:b]) for a, b in group(words, GROUPINGS["sentence"])]
    assert "Nine times out of ten it is the fuse, not the element." in texts
    assert all(not t.rstrip(".").count(". ") for t in texts)


def test_quick_captions_do_not_hang_on_an_article() -> None:
    words = demo_words("kettle")
    found = group(words, GROUPINGS["quick"])
    hanging = [words[b - 1].text for _, b in found if words[b - 1].text in ("the", "a")]
    assert hanging == []
    assert max(b - a for a, b in found) == 3
