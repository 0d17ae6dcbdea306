"""Group words into captions: the cheapest way to break a run of words, by dynamic programming.

The cost of a caption of words ``i..j-1`` (lower is better) is the sum of

    size     4 · ((fill − n) / fill)², how far it is from the size the pace fills towards,
             and ORPHAN for a lone word where the pace wants more
    break    what it costs to break after word ``j-1``: free at a sentence end or a long pause,
             little at a clause mark or a short pause, dear elsewhere, dearer inside a phrase
             (an article, a preposition, an auxiliary, a number, a first name and what follows)
    inside   what it costs *not* to break after each word before: much after a sentence end or
             a long pause, a little after a clause mark, nothing elsewhere
    time     TOO_SHORT + 2 · lack², lack the share of the shortest duration that it stays under
             even where it borrows from its neighbours, and 3 · excess, excess the share by
             which it exceeds the reading speed (1 at most)
    lines    2 · Σ |nearest word start − even share| / line length over its inner line ends

Limits (words, characters a line, lines, longest duration) are hard, but a single word always fits.
Where the letters' real widths are known, lines are counted by these too. TOO_SHORT is dearer than
any break, so that the shortest duration is kept wherever words can be put together for it.
The search looks at every break within the limits, so its result is the cheapest there is. A
break made by hand stays one, and words joined by hand are never parted, whatever the limits.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import accumulate
from typing import Protocol

import numpy as np
import numpy.typing as npt

from mortiser.core.captions.cue_timing import MOST_EARLY_US
from mortiser.core.captions.pace import Pace
from mortiser.core.common.time import MILLISECOND, SECOND
from mortiser.core.transcript.sentences import ends_clause, ends_sentence
from mortiser.core.transcript.words import Shown, word_key

LONG_PAUSE_US = 450 * MILLISECOND
SHORT_PAUSE_US = 180 * MILLISECOND
ORPHAN = 4.0
TOO_SHORT = 24.0
NEVER = 1e6
_CLINGING = frozenset({"a", "an", "the", "my", "your", "his", "her", "its", "our", "their"})
_LEANING_WORDS = """
this that these those some any no every each of in on at to for from with by into over under about
as than between through is are was were be been am do does did has have had will would can could
shall should may might must and or but if because so when where who which what not very i we he
she they you mr mrs ms dr
"""
_LEANING = frozenset(_LEANING_WORDS.split())
_NUMBERS = frozenset({
    "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve",
    "thirteen", "fourteen", "fifteen", "twenty", "thirty", "forty", "fifty", "hundred", "thousand",
})  # fmt: skip

Floats = npt.NDArray[np.float64]
Ints = npt.NDArray[np.int64]


def fill(pace: Pace) -> int:
    """The size a caption is filled towards: the most words, or about nine in whole sentences."""
    return pace.words if pace.words <= 5 else round(5 + (pace.words - 5) * 4 / 11)


def break_cost(word: Shown, after: Shown | None) -> float:
    """What it costs to end a caption after ``word`` when ``after`` follows."""
    if after is None or word.speaker != after.speaker or word.seam == "break":
        return 0.0
    pause = after.start_us - word.end_us
    if ends_sentence(word.text) or pause >= LONG_PAUSE_US:
        return 0.0
    if ends_clause(word.text):
        return 1.0
    return (2.0 if pause >= SHORT_PAUSE_US else 4.0) + _lean(word.text, after.text)


def inside_cost(word: Shown, after: Shown, pace: Pace) -> float:
    """What it costs to keep ``word`` and ``after`` in one caption."""
    if word.seam == "break":
        return NEVER
    if word.seam == "join":
        return 0.0
    if word.speaker != after.speaker:
        return 40.0
    calm = min(1.0, max(0.0, (pace.words - 3) / 11))
    cost = 0.0
    pause = after.start_us - word.end_us
    if ends_sentence(word.text):
        cost += 9.0 + 3.0 * calm
    elif ends_clause(word.text):
        cost += 2.5 - 2.0 * calm
    if pause >= LONG_PAUSE_US:
        cost += (8.0 + calm) * (1 + pause / SECOND)
    return cost


class Ruler(Protocol):
    """Knows how wide words are in the letters they are shown in."""

    @property
    def lines(self) -> int:
        """How many lines there may be."""

    def share(self, text: str) -> float:
        """A word's width with the space behind it, as a share of a line's."""


def group(words: Sequence[Shown], pace: Pace, ruler: Ruler | None = None) -> list[tuple[int, int]]:
    """Half-open index ranges of the captions, in order, covering all words.

    Of equally cheap groupings the one with the shortest last caption is taken.
    """
    count = len(words)
    if count == 0:
        return []
    costs = _costs(words, pace, ruler)
    most = costs.shape[1]
    best = np.zeros(count + 1)
    back = [0] * (count + 1)
    for end in range(1, count + 1):
        size = min(most, end)
        # Captions of 1, 2, … words that end here: what is best before them, and their own cost.
        options = best[end - size : end][::-1] + costs[end - 1, :size]
        chosen = int(options.argmin())
        best[end], back[end] = options[chosen], end - 1 - chosen
    ranges: list[tuple[int, int]] = []
    end = count
    while end > 0:
        ranges.append((back[end], end))
        end = back[end]
    return ranges[::-1]


def _costs(words: Sequence[Shown], pace: Pace, ruler: Ruler | None) -> Floats:
    """[last word, number of words - 1] → what such a caption costs; infinite beyond the limits."""
    count = len(words)
    atom = _atom_starts(words)
    most = min(count, max(pace.words, *(i - a + 1 for i, a in enumerate(atom))))
    sizes = np.arange(1, most + 1)
    last = np.arange(count)[:, None]
    first = last - sizes + 1
    inside_piece = first >= 0
    first = np.maximum(first, 0)

    follow = [*words[1:], None]
    breaks = np.array([break_cost(w, n) for w, n in zip(words, follow, strict=True)])
    kept = [
        0.0 if n is None else inside_cost(w, n, pace) for w, n in zip(words, follow, strict=True)
    ]
    inside = np.array(list(accumulate(kept, initial=0.0)))
    letters = np.array([len(w.text) for w in words])
    edges = np.concatenate([[0], np.cumsum(letters + 1)])
    chars = edges[last + 1] - edges[first] - 1
    starts = np.array([w.start_us for w in words])
    ends = np.array([w.end_us for w in words])

    wanted = fill(pace)
    size_cost = 4.0 * (np.maximum(0, wanted - sizes) / wanted) ** 2
    if pace.words > 1:
        size_cost[0] += ORPHAN
    costs = size_cost + breaks[last] + inside[last] - inside[first]
    following = np.concatenate([starts[1:], [ends[-1] + pace.linger_us]])
    shown = np.maximum(1, np.minimum(ends + pace.linger_us, np.maximum(following, ends)))
    shown_us = np.maximum(1, shown[last] - starts[first])
    silent = np.concatenate([[0], ends[:-1]])
    lent = np.clip(starts - silent, 0, MOST_EARLY_US)
    until = np.concatenate([starts[1:], [ends[-1] + pace.shortest_us]])
    time_us = np.maximum(until, ends)[last] - starts[first] + lent[first]
    lack = np.clip(1 - np.maximum(1, time_us) / pace.shortest_us, 0.0, 1.0)
    excess = np.clip(chars / (pace.chars_per_s * shown_us / SECOND) - 1, 0.0, 1.0)
    costs = costs + TOO_SHORT * (lack > 0) + 2.0 * lack**2 + 3.0 * excess
    lines = _line_counts(letters, most, pace.line_chars)
    costs = costs + 2.0 * _unevenness(edges, first, last, lines, pace.lines) / pace.line_chars

    joined = np.array([w.seam == "join" for w in words[:-1]] + [False])
    starts_at = np.array(atom)
    whole = ~joined[last] & (starts_at[first] == first)
    single = starts_at[last] == first
    fits = (sizes <= pace.words) & (lines <= pace.lines)
    if ruler is not None:
        # Widths are counted in thousandths of a line.
        widths = np.array([round(1_000 * ruler.share(w.text)) for w in words])
        fits &= _line_counts(widths, most, 1_000, between=0) <= ruler.lines
    fits &= ends[last] - starts[first] <= pace.longest_us
    allowed: Floats = np.where(inside_piece & whole & (fits | single), costs, np.inf)
    return allowed


def _atom_starts(words: Sequence[Shown]) -> list[int]:
    """For each word where the run begins that was joined by hand and holds it."""
    starts: list[int] = []
    for index in range(len(words)):
        held = index > 0 and words[index - 1].seam == "join"
        starts.append(starts[-1] if held else index)
    return starts


def _line_counts(letters: Ints, most: int, limit: int, between: int = 1) -> Ints:
    """[last word, number of words - 1] → how few lines of ``limit`` characters hold the words."""
    count = len(letters)
    lines = np.ones((count, most), np.int64)
    top = letters.copy()
    for size in range(2, most + 1):
        word = letters[np.maximum(np.arange(count) - size + 1, 0)]
        fits = top + between + word <= limit
        lines[:, size - 1] = lines[:, size - 2] + ~fits
        top = np.where(fits, top + between + word, word)
    return lines


def _unevenness(edges: Ints, first: Ints, last: Ints, lines: Ints, most: int) -> Floats:
    """How far, in characters, the inner line ends must lie from where even lines would end.

    Captions of more than ``most`` lines have no choice; theirs are not all looked at.
    """
    off = np.zeros(lines.shape)
    begin, end = edges[first], edges[last + 1]
    for inner in range(1, most):
        several = lines > inner
        target = begin + (end - begin) * inner / np.maximum(lines, 2)
        after = np.searchsorted(edges, target)
        low, high = first + 1, np.maximum(last, first + 1)
        near = np.minimum(
            np.abs(edges[np.clip(after, low, high)] - target),
            np.abs(edges[np.clip(after - 1, low, high)] - target),
        )
        off += np.where(several, near, 0.0)
    return off


def _lean(text: str, after: str) -> float:
    """How much a word wants the next one beside it: an article most of all."""
    key = word_key(text)
    if key in _CLINGING:
        return 12.0
    if key in _NUMBERS or key.isdigit():
        return 5.0
    names = text[:1].isupper() and after[:1].isupper() and word_key(after) != "i"
    return 4.0 if key in _LEANING or names else 0.0
