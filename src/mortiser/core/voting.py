"""Several hearings of the same sound vote on its words.

After Fiscus, "A post-processing system to yield reduced word error rates: Recognizer Output Voting
Error Reduction (ROVER)" (ASRU 1997): hearings are aligned word by word, and where they differ each
place goes to the one with more behind it. Here the first hearing has the captions already, so that a
place is a *contest* between its words and those of the second; further hearings only say whom they
back, and how much each thing counts was fitted on speech with known text (see Evidence).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from rapidfuzz.distance import Levenshtein

BASE = 1.0
PER_SURE = 1.0
ADDED = -1.0
LEFT_OUT = -1.0
HEARING_FOR = 1.0
HEARING_AGAINST = 0.5
DECODER_FOR = 0.5
DECODER_AGAINST = 0.5
GUESSED = 1.0


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
    """What speaks for either side of a contest."""

    least_sure: float
    """How sure the second engine is of its least sure word there, 0 to 1; 1 where it has none."""
    added: bool
    """Only the second hearing has words there."""
    left_out: bool
    """Only the first hearing has words there."""
    hearings_for: int
    """Further hearings by the first engine that have what the second has."""
    hearings_against: int
    """… that have what the first has."""
    decoder_for: bool
    decoder_against: bool
    guessed: int
    """Words of the first that no dictionary knows, less those of the second."""


def second_is_right(seen: Evidence) -> float:
    """The chance, 0 to 1, that the second hearing is nearer to what was said."""
    score = BASE + PER_SURE * math.log(max(0.01, seen.least_sure))
    score += ADDED * seen.added + LEFT_OUT * seen.left_out
    score += HEARING_FOR * seen.hearings_for - HEARING_AGAINST * seen.hearings_against
    score += DECODER_FOR * seen.decoder_for - DECODER_AGAINST * seen.decoder_against
    score += GUESSED * seen.guessed
    return 1 / (1 + math.exp(-score))


def styled(texts: Sequence[str], before: str | None, instead_of: Sequence[str]) -> list[str]:
    """Words of another hearing as they are written here: a capital where a sentence begins and for
    those that have one anyway, and the stop of the words they replace."""
    if not texts:
        return []
    result = list(texts)
    opening = before is None or before.rstrip("\"'”’)]").endswith((".", "!", "?", "…"))
    first = result[0]
    if opening:
        result[0] = first[:1].upper() + first[1:]
    elif instead_of and instead_of[0][:1].islower() and not first.startswith(("I'", "I’")):
        result[0] = first if first == "I" else first[:1].lower() + first[1:]
    if instead_of:
        stem = result[-1].rstrip(".,!?;:…")
        stop = instead_of[-1][len(instead_of[-1].rstrip(".,!?;:…")) :]
        result[-1] = (stem or result[-1]) + stop
    return result
