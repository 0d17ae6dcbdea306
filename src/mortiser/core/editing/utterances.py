"""What was said in a project's recordings, whichever pieces show it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from mortiser.core.editing.strand import Strand
from mortiser.core.editing.timeline import Timeline
from mortiser.core.transcript.search import find_in
from mortiser.core.transcript.sentences import sentences
from mortiser.core.transcript.words import Word


@dataclass(frozen=True)
class Utterance:
    """Neighbouring words of a source, and which of them (by their places in it) are to be noticed."""

    source_id: int
    words: tuple[Word, ...]
    noticed: tuple[int, ...] = ()


@dataclass(frozen=True)
class Playing:
    """Where an utterance plays in a piece: the strand all its words are in, and the moment (µs of the
    piece) its first kept word begins at."""

    strand_id: int
    at_us: int


def said(words: Mapping[int, Sequence[Word]], text: str) -> list[Utterance]:
    """The sentences that a text is said in among the words of some sources (each in time order); all of
    them for an empty text. One that goes over the end of a sentence is found in both, as one."""
    found: list[Utterance] = []
    for source_id, mine in words.items():
        ends = sentences(mine)
        if not text.strip():
            found += [Utterance(source_id, tuple(mine[a : b + 1])) for a, b in ends]
            continue
        of = {at: number for number, (a, b) in enumerate(ends) for at in range(a, b + 1)}
        hits: dict[tuple[int, int], list[int]] = {}
        for match in find_in([word.text for word in mine], text):
            stretch = ends[of[match.first]][0], ends[of[match.last]][1]
            hits.setdefault(stretch, []).extend(range(match.first, match.last + 1))
        found += [
            Utterance(source_id, tuple(mine[a : b + 1]), tuple(at - a for at in places))
            for (a, b), places in hits.items()
        ]
    return found


def playing(one: Utterance, timeline: Timeline, strands: Sequence[Strand]) -> Playing | None:
    """Where an utterance plays first in a piece; None where all of it is struck, or none is there."""
    first, last = one.words[0].middle_us, one.words[-1].middle_us
    found: list[Playing] = []
    for strand in strands:
        if strand.source_id != one.source_id:
            continue
        if not strand.start_us <= first <= last <= strand.end_us:
            continue
        for word in one.words:
            if placed := timeline.shows(strand.id, word.middle_us):
                found.append(Playing(strand.id, placed.to_piece(word.start_us)))
                break
    return min(found, key=lambda place: place.at_us, default=None)
