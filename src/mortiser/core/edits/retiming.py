"""Work cue times out again after an edit, as little as possible."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.captions.cue_timing import retime
from mortiser.core.edits.session import CaptionSession
from mortiser.core.transcript.words import Cue

CONTEXT = 5
"""How many neighbours on each side the times of changed captions are worked out from."""
REACH = 3
"""How many neighbours on each side a change to one caption can move."""
FEW = 8


def retime_near(session: CaptionSession, cue: Cue) -> None:
    """Retime a changed cue and its neighbours, from what lies around these."""
    before, after = session.around(cue, CONTEXT)
    run = [*before, cue, *after]
    at = len(before)
    fresh = retime_of(session, run)
    for index in range(max(0, at - REACH), min(len(run), at + REACH + 1)):
        if fresh[index] != run[index]:
            session.save_cue(fresh[index])


def retime_of(session: CaptionSession, cues: Sequence[Cue]) -> list[Cue]:
    """Neighbouring cues with the times that their piece's rules give them."""
    piece_id = cues[0].piece_id
    return retime(
        cues, session.timeline(piece_id), session.pace(piece_id), session.frames(piece_id)
    )


def retime_run(
    session: CaptionSession, before: Sequence[Cue], run: Sequence[Cue], after: Sequence[Cue]
) -> None:
    """Retime changed neighbouring cues, given in order, and those around them.

    New captions may have next to no time of their own: then they push those behind them along.
    Where ``before`` or ``after`` are CONTEXT or more, the outermost only say where others may be.
    """
    whole = [*before, *run, *after]
    spare = CONTEXT - REACH
    first = spare if len(before) >= CONTEXT else 0
    last = len(whole) - (spare if len(after) >= CONTEXT else 0)
    fresh = retime_of(session, whole)
    for old, new in list(zip(whole, fresh, strict=True))[first:last]:
        if old != new:
            session.save_cue(new)


def retime_each(session: CaptionSession, cues: Sequence[Cue]) -> None:
    """Retime some changed cues and their neighbours: one by one, or all when they are many."""
    if len(cues) > FEW:
        retime_all(session, cues[0].piece_id)
        return
    for cue in cues:
        retime_near(session, session.cue(cue.id))


def retime_all(session: CaptionSession, piece_id: int) -> None:
    """Retime every cue of a piece."""
    cues = session.cues(piece_id)
    if not cues:
        return
    timed = zip(cues, retime_of(session, cues), strict=True)
    session.save_times([new for old, new in timed if _apart(old, new)])


def _apart(old: Cue, new: Cue) -> bool:
    """Whether times differ by more than rounding: captions that a cut has moved by whole frames are a
    microsecond off the grid."""
    return abs(old.start_us - new.start_us) > 1 or abs(old.end_us - new.end_us) > 1
