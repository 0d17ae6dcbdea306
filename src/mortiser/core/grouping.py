"""Group words into captions: the cheapest way to break a run of words, by dynamic programming.

The cost of a caption of words ``i..j-1`` (lower is better) is the sum of

    size     4 · ((fill − n) / fill)², how far it is from the size the preset fills towards,
             and ORPHAN for a lone word where the preset wants more
    break    what it costs to break after word ``j-1``: free at a sentence end or a long pause,
             little at a clause mark or a short pause, dear elsewhere, dearer after a word that
             leans on the next one (an article, a preposition, an auxiliary, a number)
    inside   what it costs *not* to break after each word before: much after a sentence end or
             a long pause, a little after a clause mark, nothing elsewhere

Limits (words, characters, duration) are hard, but a single word always fits. The search looks at
every break within the limits, so its result is the cheapest there is: O(words · max_words).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import accumulate
from typing import Literal

from mortiser.core.time import MILLISECOND, SECOND
from mortiser.core.words import Word, word_key

GroupName = Literal["quick", "sentence"]

LONG_PAUSE_US = 450 * MILLISECOND
SHORT_PAUSE_US = 180 * MILLISECOND
ORPHAN = 3.0
_CLINGING = frozenset({"a", "an", "the", "my", "your", "his", "her", "its", "our", "their"})
_LEANING_WORDS = """
this that these those some any no every each of in on at to for from with by into over under about
as than between through is are was were be been am do does did has have had will would can could
shall should may might must and or but if because so when where who which what not very i we he
she they you mr mrs ms dr one two three four five six seven eight nine ten
"""
_LEANING = frozenset(_LEANING_WORDS.split())


@dataclass(frozen=True, slots=True)
class GroupRules:
    """Limits and leanings of a way of grouping; times in microseconds."""

    max_words: int
    max_chars: int
    max_us: int
    fill: int
    max_lines: int
    sentence_inside: float
    pause_inside: float
    clause_inside: float


GROUPINGS: dict[GroupName, GroupRules] = {
    "quick": GroupRules(3, 24, 3 * SECOND, 3, 2, 9.0, 8.0, 2.5),
    "sentence": GroupRules(14, 84, 6 * SECOND, 9, 2, 12.0, 9.0, 0.5),
}


def break_cost(word: Word, after: Word | None) -> float:
    """What it costs to end a caption after ``word`` when ``after`` follows."""
    if after is None or word.speaker != after.speaker:
        return 0.0
    pause = after.start_us - word.end_us
    if _ends_sentence(word.text) or pause >= LONG_PAUSE_US:
        return 0.0
    if _ends_clause(word.text):
        return 1.0
    return (2.0 if pause >= SHORT_PAUSE_US else 4.0) + _lean(word.text)


def inside_cost(word: Word, after: Word, rules: GroupRules) -> float:
    """What it costs to keep ``word`` and ``after`` in one caption."""
    if word.speaker != after.speaker:
        return 40.0
    cost = 0.0
    pause = after.start_us - word.end_us
    if _ends_sentence(word.text):
        cost += rules.sentence_inside
    elif _ends_clause(word.text):
        cost += rules.clause_inside
    if pause >= LONG_PAUSE_US:
        cost += rules.pause_inside * (1 + pause / SECOND)
    return cost


def size_cost(count: int, rules: GroupRules) -> float:
    """What it costs that a caption has ``count`` words."""
    lack = max(0, rules.fill - count) / rules.fill
    return 4.0 * lack * lack + (ORPHAN if count == 1 and rules.max_words > 1 else 0.0)


def fits(words: Sequence[Word], rules: GroupRules) -> bool:
    """Whether these words may be one caption."""
    if len(words) == 1:
        return True
    chars = sum(len(w.text) for w in words) + len(words) - 1
    duration = words[-1].end_us - words[0].start_us
    return len(words) <= rules.max_words and chars <= rules.max_chars and duration <= rules.max_us


def group(words: Sequence[Word], rules: GroupRules) -> list[tuple[int, int]]:
    """Half-open index ranges of the captions, in order, covering all words.

    Of equally cheap groupings the one with the longest last caption is taken.
    """
    count = len(words)
    if count == 0:
        return []
    follow = [*words[1:], None]
    breaks = [break_cost(w, n) for w, n in zip(words, follow, strict=True)]
    kept = [
        0.0 if n is None else inside_cost(w, n, rules) for w, n in zip(words, follow, strict=True)
    ]
    inside = list(accumulate(kept, initial=0.0))
    chars = list(accumulate((len(w.text) + 1 for w in words), initial=0))
    sizes = [size_cost(n, rules) for n in range(rules.max_words + 1)]
    starts = [w.start_us for w in words]
    best = [0.0] * (count + 1)
    back = [0] * (count + 1)
    for end in range(1, count + 1):
        last_us, tail = words[end - 1].end_us, breaks[end - 1]
        cheapest, chosen = float("inf"), end - 1
        for start in range(end - 1, max(-1, end - rules.max_words - 1), -1):
            if end - start > 1 and (
                chars[end] - chars[start] - 1 > rules.max_chars
                or last_us - starts[start] > rules.max_us
            ):
                break
            cost = best[start] + sizes[end - start] + tail + inside[end - 1] - inside[start]
            if cost <= cheapest:
                cheapest, chosen = cost, start
        best[end], back[end] = cheapest, chosen
    ranges: list[tuple[int, int]] = []
    end = count
    while end > 0:
        ranges.append((back[end], end))
        end = back[end]
    return ranges[::-1]


def _ends_sentence(text: str) -> bool:
    return text.rstrip("\"'”’)]").endswith((".", "!", "?", "…"))


def _ends_clause(text: str) -> bool:
    return text.rstrip("\"'”’)]").endswith((",", ";", ":", "–", "—"))


def _lean(text: str) -> float:
    """How much a word wants the next one beside it: an article most of all."""
    key = word_key(text)
    return 6.0 if key in _CLINGING else 3.0 if key in _LEANING else 0.0
