"""Passages of a long talk that could be a piece of their own: whole thoughts, each with its reasons.

Plain rules: a passage begins and ends with sentences, best where it was quiet; a question stays with its
answer; it does not begin with words that lean on what came before; and it says much that is said nowhere
else (Spärck Jones, "A statistical interpretation of term specificity and its application in retrieval",
Journal of Documentation 28, 1972).
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import log

import numpy as np

from mortiser.core.common.time import SECOND
from mortiser.core.editing.repeats import LEADS_ON, listed
from mortiser.core.editing.talk import Item, Quiet, TalkWord
from mortiser.core.transcript.sentences import PARTED_US, ends_sentence
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import word_key

SHORTEST_US, LONGEST_US = 20 * SECOND, 90 * SECOND
LIKED_US = 45 * SECOND
QUIET_US = 600_000
LONG_TALK_US = 60 * SECOND
MOST = 12
NAMED = 3
"""Words that a reason names."""
LEANS = {
    "en": listed(
        """and but so because or it he she they that this those these then also which who its his her
        their there"""
    ),
    "de": listed("und aber also denn oder er sie es das dies dann auch weil"),
}
"""Words that lean on what came before, by language."""


@dataclass(frozen=True)
class Thought:
    """Words of a strand (by their ids) that stand alone, where they play (µs of the piece), and why
    they were chosen."""

    strand_id: int
    first_word: int
    last_word: int
    at_us: int
    length_us: int
    text: str
    reasons: tuple[str, ...]


@dataclass(frozen=True)
class _Sentence:
    words: tuple[TalkWord, ...]
    start_us: int
    end_us: int
    keys: frozenset[str]

    @property
    def asks(self) -> bool:
        return self.words[-1].word.text.rstrip("\"'”’»").endswith("?")


def thoughts(items: Sequence[Item], language: str) -> list[Thought]:
    """The passages worth a piece among what is kept of a talk, the best first; none of a short one."""
    said = list(_sentences(items, language))
    if not said or said[-1].end_us - said[0].start_us < LONG_TALK_US:
        return []
    rare = _rarity(said)
    found = list(_spans(said))
    dense = [_density(said[a : b + 1], rare) for a, b in found]
    usual = float(np.median(dense)) if dense else 1.0
    rated = [
        (density / (usual or 1.0) + _shape(said, a, b, language), a, b)
        for density, (a, b) in zip(dense, found, strict=True)
    ]
    taken: list[tuple[int, int]] = []
    for _, a, b in sorted(rated, key=lambda one: (-one[0], one[1])):
        if len(taken) < MOST and all(b < other[0] or a > other[1] for other in taken):
            taken.append((a, b))
    return [_thought(said, a, b, rare) for a, b in taken]


def _sentences(items: Sequence[Item], language: str) -> Iterator[_Sentence]:
    words: list[TalkWord] = []
    for item in items:
        ended = bool(words) and ends_sentence(words[-1].word.text)
        if isinstance(item, Quiet):
            ended |= item.kept_us >= PARTED_US
        elif item.at_us is None:
            continue
        elif words:
            last = words[-1]
            ended |= item.strand_id != last.strand_id or item.word.speaker != last.word.speaker
        if words and ended:
            yield _sentence(words, language)
            words = []
        if isinstance(item, TalkWord):
            words.append(item)
    if words:
        yield _sentence(words, language)


def _sentence(words: list[TalkWord], language: str) -> _Sentence:
    small = LEADS_ON.get(language, frozenset())
    last = words[-1]
    end = (last.at_us or 0) + last.end_us - last.start_us
    keys = (word_key(word.word.text) for word in words)
    told = frozenset(key for key in keys if len(key) > 3 and key not in small)
    return _Sentence(tuple(words), words[0].at_us or 0, end, told)


def _rarity(said: Sequence[_Sentence]) -> dict[str, float]:
    """How much a word says: the more, the fewer sentences have it."""
    count = Counter(key for sentence in said for key in sentence.keys)
    return {key: log(len(said) / many) for key, many in count.items()}


def _spans(said: Sequence[_Sentence]) -> Iterator[tuple[int, int]]:
    for a, first in enumerate(said):
        for b in range(a, len(said)):
            length = said[b].end_us - first.start_us
            one = said[b].words[0].strand_id == first.words[0].strand_id
            if length > LONGEST_US or not one:
                break
            if length >= SHORTEST_US:
                yield a, b


def _density(part: Sequence[_Sentence], rare: dict[str, float]) -> float:
    """What is said, a second."""
    told = frozenset[str]().union(*(sentence.keys for sentence in part))
    return sum(rare[key] for key in told) / ((part[-1].end_us - part[0].start_us) / SECOND)


def _shape(said: Sequence[_Sentence], a: int, b: int, language: str) -> float:
    """How well it begins and ends."""
    score = -abs(said[b].end_us - said[a].start_us - LIKED_US) / (240 * SECOND)
    if _quiet(said, a - 1):
        score += 0.15
    if _quiet(said, b):
        score += 0.15
    if _asks_and_answers(said, a, b):
        score += 0.3
    if said[b].asks:
        score -= 0.6
    if a and said[a - 1].asks:
        score -= 0.4
    if word_key(said[a].words[0].word.text) in LEANS.get(language, frozenset()):
        score -= 0.3
    return score


def _quiet(said: Sequence[_Sentence], at: int) -> bool:
    """Whether it is quiet behind a sentence, or nothing comes before or after."""
    if not 0 <= at < len(said) - 1:
        return True
    return said[at + 1].start_us - said[at].end_us >= QUIET_US


def _asks_and_answers(said: Sequence[_Sentence], a: int, b: int) -> bool:
    return b > a and said[a].asks and not said[b].asks


def _thought(said: Sequence[_Sentence], a: int, b: int, rare: dict[str, float]) -> Thought:
    part = said[a : b + 1]
    words = [word for sentence in part for word in sentence.words]
    reasons = ["a question and its answer"] if _asks_and_answers(said, a, b) else []
    elsewhere = frozenset[str]().union(*(one.keys for one in (*said[:a], *said[b + 1 :])))
    count = Counter(word_key(word.word.text) for word in words)
    own = [key for key in count if key in rare and key not in elsewhere]
    own.sort(key=lambda key: (-count[key], -rare[key]))
    if own:
        reasons.append(f"says what is said nowhere else: {', '.join(own[:NAMED])}")
    if _quiet(said, a - 1) and _quiet(said, b):
        reasons.append("quiet before and after it")
    return Thought(
        words[0].strand_id,
        words[0].word.id,
        words[-1].word.id,
        part[0].start_us,
        part[-1].end_us - part[0].start_us,
        joined([word.word.text for word in words]),
        tuple(reasons),
    )
