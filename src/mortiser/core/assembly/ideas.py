"""Where a cutaway would help: where the picture does not change for long, and where something is named that there is
a picture of. Each is an idea with its reason; nothing is placed unasked."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from operator import attrgetter

from mortiser.core.assembly.cutaway import Seen
from mortiser.core.common.stems import LEAST_LETTERS, stems
from mortiser.core.common.time import SECOND
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import Cue

LONG_US = 6 * SECOND
"""A feed's viewers look for a change of picture sooner."""
MOST = 60
LONGEST_ASKED = 1_500
"""Letters of a question to a library."""
Stretch = tuple[int, int]


@dataclass(frozen=True)
class Named:
    """Something to be seen, by its name and its ``tags``: here, or in a ``library`` by a ``ref``."""

    name: str
    seen: Seen | None = None
    library: str = ""
    ref: str = ""
    tags: tuple[str, ...] = ()


@dataclass(frozen=True)
class Idea:
    """A caption that something could be seen over, why, and what, where that is known: here, or in a library."""

    cue_id: int
    at_us: int
    text: str
    reason: str
    seen: Seen | None = None
    name: str = ""
    library: str = ""
    ref: str = ""


def ideas(
    cues: Sequence[Cue],
    duration_us: int,
    changes: Sequence[int],
    covered: Sequence[Stretch],
    named: Sequence[Named],
) -> list[Idea]:
    """Ideas for a piece, in its order. ``changes`` are the moments at which its picture becomes another one,
    ``covered`` the stretches in which something else is seen already, ``named`` what there is to be seen."""
    free = uncovered(cues, covered)
    found = [*named_ideas(free, named)]
    taken = {idea.cue_id for idea in found}
    edges = sorted({0, *changes, *(at for one in covered for at in one), duration_us})
    for start, end in pairwise(edges):
        if end - start < LONG_US or any((start, end) == one for one in covered):
            continue
        inside = [cue for cue in free if start <= cue.start_us and cue.end_us <= end]
        if not inside or any(cue.id in taken for cue in inside):
            continue
        # Not at its beginning, where who speaks is met: behind the middle.
        middle = bisect_left(inside, (start + end) // 2, key=attrgetter("start_us"))
        cue = inside[min(len(inside) - 1, middle)]
        reason = f"{(end - start) / SECOND:.1f} s without a change of picture"
        found.append(Idea(cue.id, cue.start_us, _text(cue), reason))
    return sorted(found, key=lambda idea: idea.at_us)[:MOST]


def uncovered(cues: Sequence[Cue], covered: Sequence[Stretch]) -> list[Cue]:
    """Captions over which nothing else is seen yet."""
    return [cue for cue in cues if cue.words and not _over(cue, covered)]


def asked_for(cues: Sequence[Cue]) -> str:
    """What a library is to be asked for: the words of a talk that may name something, each once, and so many as can be
    asked."""
    said = dict.fromkeys(
        part
        for cue in cues
        for word in cue.words
        for part in stems(word.text)
        if len(part) >= LEAST_LETTERS
    )
    text = ""
    for part in said:
        if len(text) + len(part) >= LONGEST_ASKED:
            break
        text = f"{text} {part}".lstrip()
    return text


def named_ideas(cues: Sequence[Cue], known: Sequence[Named]) -> Iterator[Idea]:
    """Captions that say what something is called: each thing once, where it is said first."""
    said = [(cue, set(stems(" ".join(word.text for word in cue.words)))) for cue in cues]
    for one in known:
        named = [*stems(one.name.rpartition(".")[0] or one.name), *stems(" ".join(one.tags))]
        # Shorter ones are in every talk.
        parts = {part for part in named if len(part) >= LEAST_LETTERS}
        for cue, of_cue in said:
            both = parts & of_cue
            if both:
                reason = f"“{min(both)}” is said"
                yield Idea(
                    cue.id,
                    cue.start_us,
                    _text(cue),
                    reason,
                    one.seen,
                    one.name,
                    one.library,
                    one.ref,
                )
                break


def _over(cue: Cue, covered: Sequence[Stretch]) -> bool:
    return any(start < cue.end_us and cue.start_us < end for start, end in covered)


def _text(cue: Cue) -> str:
    return joined([word.text for word in cue.words])
