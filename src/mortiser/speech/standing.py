"""What stands for the words of a stretch of speech while hearings of it vote (see core.transcript.voting)."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace

from mortiser.core.transcript.fillers import FILLERS
from mortiser.core.transcript.voting import (
    Evidence,
    Spoken,
    VoteWeights,
    both_names,
    contests,
    heard_at,
    is_right,
    opens,
    styled,
)
from mortiser.core.transcript.words import Word, word_key
from mortiser.speech.beside import as_said
from mortiser.speech.protocols import HeardChange, LanguageModel

BEFORE, AFTER = 24, 8
"""Words on either side that the language model reads with those of a contest."""
SILENT = frozenset({*FILLERS["en"], "oh"})
"""Fillers: the other engines leave them out, so that their silence says nothing about them; nor does how
unusual they are in writing."""


@dataclass(frozen=True, slots=True)
class ContestPlace:
    """A word as it stands. ``was``: its number among the first engine's words, None for a word of another
    hearing. ``left``: the chance that was left to the other side of its contest, None where it was in none.
    ``offered``: what it would be with words that another hearing has beside it."""

    word: Word
    was: int | None
    left: float | None = None
    offered: tuple[str, ...] = ()


def standing(words: Sequence[Word]) -> list[ContestPlace]:
    """The first engine's words before any vote."""
    return [ContestPlace(word, index) for index, word in enumerate(words)]


def voted(
    places: Sequence[ContestPlace],
    theirs: Sequence[Word],
    other: Sequence[Word],
    weights: VoteWeights,
    reader: LanguageModel | None,
) -> list[ContestPlace]:
    """What stands after each contest with another hearing, a further one beside them. Words that were
    settled by hand stay."""
    places = list(places)
    mine = [place.word for place in places]
    said, there, beside = (as_said([w.text for w in side]) for side in (mine, theirs, other))
    result: list[ContestPlace] = []
    at = 0
    for contest in contests(said, there):
        first, end = _without_silent(mine, contest.first, contest.end)
        old, new = places[first:end], theirs[contest.start : contest.stop]
        result += places[at:first]
        at = end
        if not all(place.word.unsettled for place in old) or not (old or new):
            result += old
            continue
        before = mine[first - 1].text if first else None
        texts = [place.word.text for place in old]
        fresh = styled([word.text for word in new], before, texts)
        if new and new[0].heard_as is not None:
            # A name keeps its capital, whatever it replaces.
            fresh[0] = new[0].text[0] + fresh[0][1:]
        seen = _backed(said, there, beside, (first, end), (contest.start, contest.stop))
        seen = replace(seen, named=any(word.heard_as is not None for word in new))
        if reader and not both_names(texts, fresh, before):
            seen = replace(seen, wording=_wording(reader, mine, first, end, fresh))
        chance = is_right(seen, weights)
        if chance > 0.5:
            result += [
                ContestPlace(replace(word, text=text), None, 1 - chance)
                for word, text in zip(new, fresh, strict=True)
            ]
        else:
            _doubt(places, first, end, chance, "" if old else " ".join(fresh))
            result += places[first:end]
    return [*result, *places[at:]]


def _doubt(places: list[ContestPlace], first: int, end: int, chance: float, missed: str) -> None:
    """Note what was left to the losing side; of words that only it has, with the word behind them."""
    if missed and end < len(places):
        behind = places[end]
        offered = (*behind.offered, f"{missed} {behind.word.text}")
        places[end] = replace(behind, offered=offered)
        end += 1
    for at in range(first, end):
        places[at] = replace(places[at], left=max(chance, places[at].left or 0.0))


def changes(places: Sequence[ContestPlace], words: Sequence[Word]) -> Iterator[HeardChange]:
    """What has come in for which of the first engine's words, in order."""
    fresh: list[Word] = []
    at = 0
    for place in [*places, None]:
        if place is not None and place.was is None:
            fresh.append(place.word)
            continue
        end = len(words) if place is None or place.was is None else place.was
        if fresh or end > at:
            yield HeardChange(at, end, tuple(fresh))
        fresh = []
        at = end + 1


def _without_silent(words: Sequence[Word], first: int, end: int) -> tuple[int, int]:
    """A range of words without the fillers at its ends."""
    while first < end and silent(words[first].text):
        first += 1
    while first < end and silent(words[end - 1].text):
        end -= 1
    return first, end


def silent(text: str) -> bool:
    """Whether the other engines leave such a word out."""
    return word_key(text) in SILENT


def _backed(
    mine: Spoken, theirs: Spoken, other: Spoken, old: tuple[int, int], new: tuple[int, int]
) -> Evidence:
    """Whom another hearing backs, by what it has in the place."""
    first = next((i for i, owner in enumerate(mine.owner) if owner >= old[0]), len(mine.said))
    stands, comes = (
        [word for word, owner in zip(side.said, side.owner, strict=True) if a <= owner < b]
        for side, (a, b) in ((mine, old), (theirs, new))
    )
    had = "".join(heard_at(mine.said, other.said, first, first + len(stands)))
    return Evidence(0.0, against=had == "".join(stands), behind=had == "".join(comes))


def _wording(
    reader: LanguageModel, words: Sequence[Word], first: int, end: int, fresh: Sequence[str]
) -> float:
    """By how much likelier the reader finds the fresh words in the place of ``first`` to ``end`` (nats)."""
    before = _read(word.text for word in words[max(0, first - 2 * BEFORE) : first])[-BEFORE:]
    after = _read(word.text for word in words[end : end + 2 * AFTER])[:AFTER]
    middles = [_read(word.text for word in words[first:end]), _read(fresh)]
    if first and silent(words[first - 1].text):
        middles = [_begun(middle, opens(before[-1] if before else None)) for middle in middles]
    one, other = reader.likelihoods([" ".join([*before, *middle, *after]) for middle in middles])
    return other - one


def _begun(texts: Sequence[str], opening: bool) -> list[str]:
    """Words behind a filler as they are written without it: capitals there are often a filler's doing."""
    first = "".join(texts[:1])
    written = (first[:1].upper() if opening else first[:1].lower()) + first[1:]
    return [written, *texts[1:]] if texts else []


def _read(texts: Iterable[str]) -> list[str]:
    """A text without its fillers."""
    return [text for text in texts if not silent(text)]
