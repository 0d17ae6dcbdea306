"""No edit leaves captions of one speaker showing at once that did not before.

Rules for free edges see to that (core.captions.cue_timing); pinned edges go where a cut, a drag or a shift takes them.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Iterator, Sequence
from contextlib import contextmanager
from dataclasses import replace

from mortiser.core.captions.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.projection import follow_times
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue

ROUNDING_US = 1
"""Times that a cut has moved are a microsecond off."""
MOST_ROUNDS = 8
Times = tuple[int | None, int | None]


def carry_out(edit: BaseEdit, session: EditSession) -> None:
    """Make an edit with all that follows from it."""
    with kept_apart(session, edit.concerns() or (), edit.brought()):
        edit.apply(session)
        follow_times(session)


@contextmanager
def kept_apart(
    session: EditSession, moved: Collection[int] = (), brought: Collection[Times] = ()
) -> Iterator[None]:
    """Part captions afterwards that show at once and did not before.

    Those that were ``moved`` keep their times where the other one can give way; those that came in with
    times that overlap (``brought``) keep them.
    """
    before = set(session.crowding())
    yield
    for _ in range(MOST_ROUNDS):
        new = [pair for pair in session.crowding() if pair not in before]
        parted = [_part(session, pair, moved, brought) for pair in new]
        if not any(parted):
            return


def _part(
    session: EditSession, pair: tuple[int, int], moved: Collection[int], brought: Collection[Times]
) -> bool:
    """Whether two captions had to be parted."""
    found = session.some(pair)
    if len(found) < 2:
        return False  # Its words went where the piece shows nothing.
    one, after = found
    if one.end_us - after.start_us <= ROUNDING_US:
        return False
    if all((cue.start_us, cue.end_us) in brought for cue in (one, after)):
        return False
    at = after.start_us
    if one.id in moved and after.id not in moved:
        # What was moved by hand stays, as far as it leaves the other one a moment.
        at = max(at, min(one.end_us, after.end_us - SHORTEST_SHOWN_US))
    at = max(at, one.start_us + SHORTEST_SHOWN_US)
    session.save_cue(replace(one, end_us=at))
    if after.start_us != at:
        end = max(after.end_us, at + SHORTEST_SHOWN_US)
        session.save_cue(replace(after, start_us=at, end_us=end))
    return True


def crowded(cues: Iterable[tuple[int, str | None, int, int]]) -> list[tuple[int, int]]:
    """Pairs of captions (id, speaker, start, end; in time order) of one speaker that show at once."""
    found: list[tuple[int, int]] = []
    showing: list[tuple[int, str | None, int, int]] = []
    for cue in cues:
        showing = [one for one in showing if one[3] - cue[2] > ROUNDING_US]
        found += [(one[0], cue[0]) for one in showing if one[1] == cue[1]]
        showing.append(cue)
    return found


def of_cues(cues: Sequence[Cue]) -> list[tuple[int, int]]:
    """The same of captions."""
    return crowded((cue.id, cue.words[0].speaker, cue.start_us, cue.end_us) for cue in cues)
