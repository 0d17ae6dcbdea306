"""Several hearings of the same sound vote on its words.

After Fiscus, "A post-processing system to yield reduced word error rates: Recognizer Output Voting
Error Reduction (ROVER)" (ASRU 1997): hearings are aligned word by word, and where they differ each
place goes to the one with more behind it. Here the first hearing has the captions already, so that a
place is a *contest* between what stands there and what another hearing has: first the second one, then
the third. Whoever is not in it says whom it backs, a language model which of the two is the likelier
wording, and how much each thing counts was fitted on speech with known text (see Weights).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from rapidfuzz.distance import Levenshtein

NAMED = 2.0
"""Not fitted: the glossary is careful on its own."""
MOST_WORDING = 10.0


@dataclass(frozen=True, slots=True)
class Spoken:
    """Written words as they are said: the spoken words, and the index of the written word each
    belongs to."""

    said: tuple[str, ...]
    owner: tuple[int, ...]
    count: int
    """How many written words there are."""

    def written(self, first: int, end: int) -> tuple[int, int]:
        """The written words that spoken words ``first`` to ``end`` (exclusive) lie in."""
        at = self.owner[first] if first < len(self.said) else self.count
        return (at, self.owner[end - 1] + 1) if end > first else (at, at)


@dataclass(frozen=True, slots=True)
class Contest:
    """A place where two hearings differ: written words [first, end) of the one, [start, stop) of
    the other; either may be empty."""

    first: int
    end: int
    start: int
    stop: int


def contests(mine: Spoken, theirs: Spoken) -> list[Contest]:
    """Where two hearings differ, in order, as few words as possible; numbers count as they are said.

    Whole written words: where half of one differs, all of it does, on both sides.
    """
    found: list[Contest] = []
    for step in Levenshtein.opcodes(mine.said, theirs.said):
        if step.tag == "equal":
            continue
        first, end = mine.written(step.src_start, step.src_end)
        start, stop = theirs.written(step.dest_start, step.dest_end)
        last = found[-1] if found else None
        if last and first <= last.end and start <= last.stop:
            found[-1] = Contest(last.first, max(end, last.end), last.start, max(stop, last.stop))
        else:
            found.append(Contest(first, end, start, stop))
    return found


def heard_at(mine: Sequence[str], witness: Sequence[str], first: int, end: int) -> list[str]:
    """What a witness heard in the place of spoken words [first, end)."""
    low = high = 0
    for step in Levenshtein.opcodes(mine, witness):
        span = step.src_end - step.src_start
        length = step.dest_end - step.dest_start
        if step.src_start < first <= step.src_end:
            part = first - step.src_start
            low = step.dest_end if part == span else step.dest_start + part * length // span
        if step.src_start < end <= step.src_end:
            part = end - step.src_start
            high = step.dest_end if part == span else step.dest_start + part * length // span
        elif span == 0 and step.src_start == end:
            high = step.dest_end
    return list(witness[low : max(low, high)])


@dataclass(frozen=True, slots=True)
class Evidence:
    """What speaks for either side of a contest.

    ``wording``: how much likelier a language model that has heard nothing finds what would come in than
    what stands there (nats). ``against``: another hearing has what stands there; ``behind``: it has what
    would come in. ``named``: the glossary has written one of the words that would come in.
    """

    wording: float
    against: bool = False
    behind: bool = False
    named: bool = False


@dataclass(frozen=True, slots=True)
class VoteWeights:
    """How much each thing counts for what would come in (log odds)."""

    base: float
    wording: float
    against: float
    behind: float


SECOND = VoteWeights(1.5, 0.34, -1.47, 0.0)
"""The second engine against the first, the third beside them. Fitted on 235 contests of ten recordings: it
is right so much more often that it takes the others or a much worse wording to stop it."""
THIRD = VoteWeights(-0.56, 0.28, -0.19, 0.64)
"""The third engine against what the vote of the others came to. Fitted on 142 contests."""


def is_right(seen: Evidence, weights: VoteWeights) -> float:
    """The chance, 0 to 1, that what would come in is nearer to what was said than what stands there."""
    score = weights.base + NAMED * seen.named
    score += weights.wording * max(-MOST_WORDING, min(MOST_WORDING, seen.wording))
    score += weights.against * seen.against + weights.behind * seen.behind
    return 1 / (1 + math.exp(-score))


def both_names(mine: Sequence[str], theirs: Sequence[str], before: str | None) -> bool:
    """Whether each side has a capital that no sentence gives it: how usual a name is says nothing of
    who was named."""
    return _has_name(mine, before) and _has_name(theirs, before)


def _has_name(texts: Sequence[str], before: str | None) -> bool:
    previous = before
    for text in texts:
        own = text == "I" or text.startswith(("I'", "I’"))
        if text[:1].isupper() and not own and not opens(previous):
            return True
        previous = text
    return False


def opens(before: str | None) -> bool:
    """Whether a sentence begins behind a word, or behind nothing."""
    return before is None or before.rstrip("\"'”’)]").endswith((".", "!", "?", "…"))


def styled(texts: Sequence[str], before: str | None, instead_of: Sequence[str]) -> list[str]:
    """Words of another hearing as they are written here: a capital where a sentence begins and for
    those that have one anyway, and the stop of the words they replace."""
    if not texts:
        return []
    result = list(texts)
    first = result[0]
    if opens(before):
        result[0] = first[:1].upper() + first[1:]
    elif instead_of and instead_of[0][:1].islower() and not first.startswith(("I'", "I’")):
        result[0] = first if first == "I" else first[:1].lower() + first[1:]
    if instead_of:
        stem = result[-1].rstrip(".,!?;:…")
        stop = instead_of[-1][len(instead_of[-1].rstrip(".,!?;:…")) :]
        result[-1] = (stem or result[-1]) + stop
    return result
