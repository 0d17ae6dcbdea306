"""Work cue times out again after an edit, as little as possible."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.cue_timing import SHORTEST_SHOWN_US, retime
from mortiser.core.edits.desk import Desk
from mortiser.core.spans import SpanMap
from mortiser.core.words import Cue, Word


def retime_near(desk: Desk, cue: Cue) -> None:
    """Retime a changed cue and its two neighbours, from what lies two cues around it."""
    before, after = desk.around(cue, 3)
    run = [*before, cue, *after]
    at = len(before)
    fresh = retime(run, desk.spans(cue.piece_id))
    for index in range(max(0, at - 2), min(len(run), at + 3)):
        if fresh[index] != run[index]:
            desk.save_cue(fresh[index])


def retime_run(desk: Desk, piece_id: int, cues: Sequence[Cue], at_us: int) -> None:
    """Retime changed neighbouring cues and those beside them; none are left, those around a moment."""
    if cues:
        for cue in cues:
            retime_near(desk, desk.cue(cue.id))
        return
    everything = desk.cues(piece_id)
    beside = [cue for cue in everything if cue.start_us <= at_us][-1:]
    beside += [cue for cue in everything if cue.start_us > at_us][:1]
    for cue in beside:
        retime_near(desk, cue)


def retime_all(desk: Desk, piece_id: int) -> None:
    """Retime every cue of a piece."""
    cues = desk.cues(piece_id)
    for old, new in zip(cues, retime(cues, desk.spans(piece_id)), strict=True):
        if old != new:
            desk.save_cue(new)


def untimed_cue(piece_id: int, words: Sequence[Word], spans: SpanMap) -> Cue:
    """An unsaved cue with its words' own times, to be retimed."""
    start = spans.to_piece(words[0].start_us)
    end = max(spans.to_piece(words[-1].end_us), start + SHORTEST_SHOWN_US)
    return Cue(piece_id, tuple(words), start, end)
