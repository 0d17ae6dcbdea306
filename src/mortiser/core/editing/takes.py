"""Takes: sentences that were said more than once, in one recording or in several.

Two sentences are takes of one another where most words of the longer one come in the same order in the
other (longest common subsequence); of a sentence that is said again right away, half of them. Each joins
the takes of the first sentence it is alike with.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from itertools import pairwise

from rapidfuzz.distance import LCSseq

from mortiser.core.editing.utterances import Utterance
from mortiser.core.transcript.sentences import sentences
from mortiser.core.transcript.words import Word, word_key

FEWEST = 4
"""Words of a take: shorter sentences are said alike by chance."""
ALIKE = 0.6
"""Of the words of the longer one."""
REWORDED = 0.5
"""The same of a sentence said again right away, often in other words; one sentence may stand between."""
AT_ONCE = 2
"""Sentences further on."""
COMMON = 40
"""Pairs of words in so many sentences find no takes: they are how everybody speaks."""


def takes(words: Mapping[int, Sequence[Word]]) -> list[list[Utterance]]:
    """Sentences said more than once among the words of some sources (each in time order), the takes of
    one sentence together, in the order they were said. Noticed are the words that the take in front (of
    the first: the one behind) does not have."""
    said = [
        Utterance(source_id, tuple(mine[first : last + 1]))
        for source_id, mine in words.items()
        for first, last in sentences(mine)
        if last - first + 1 >= FEWEST
    ]
    keys = [tuple(word_key(word.text) for word in one.words) for one in said]
    group: dict[int, int] = {}
    near = list(_near(keys))
    for first, other in near:
        free = other not in group and group.get(first, first) == first
        if free and _alike(keys, first, other, ALIKE):
            group[first], group[other] = first, first
    for first, other in near:
        again = said[first].source_id == said[other].source_id and other - first <= AT_ONCE
        free = first not in group or other not in group
        if again and free and _alike(keys, first, other, REWORDED):
            leader = group.get(first, group.get(other, first))
            group[first], group[other] = leader, leader
    together: dict[int, list[int]] = defaultdict(list)
    for at, first in sorted(group.items()):
        together[first].append(at)
    return [
        [
            replace(said[at], noticed=_only(keys[at], keys[places[number - 1 if number else 1]]))
            for number, at in enumerate(places)
        ]
        for _, places in sorted(together.items())
    ]


def _near(keys: Sequence[tuple[str, ...]]) -> Iterator[tuple[int, int]]:
    """Sentences that share two neighbouring words, as (earlier, later), in order."""
    having: dict[tuple[str, str], list[int]] = defaultdict(list)
    for at, mine in enumerate(keys):
        for pair in set(pairwise(mine)):
            having[pair].append(at)
    near = {
        (one, other)
        for places in having.values()
        if len(places) <= COMMON
        for number, one in enumerate(places)
        for other in places[number + 1 :]
    }
    yield from sorted(near)


def _alike(keys: Sequence[tuple[str, ...]], one: int, other: int, share: float) -> bool:
    longer = max(len(keys[one]), len(keys[other]))
    return LCSseq.similarity(keys[one], keys[other]) >= share * longer


def _only(mine: Sequence[str], other: Sequence[str]) -> tuple[int, ...]:
    """The places of words that another sentence does not have there."""
    steps = LCSseq.opcodes(mine, other)
    return tuple(
        at for step in steps if step.tag == "delete" for at in range(step.src_start, step.src_end)
    )
