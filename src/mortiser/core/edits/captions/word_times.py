"""Edits of a single word's times: when it lights up, when it is over."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import model_validator

from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Micros, Shift
from mortiser.core.common.time import MILLISECOND
from mortiser.core.edits.base import BaseEdit, short, word_of
from mortiser.core.edits.retiming import retime_near
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Shown

LEAST_US = 20 * MILLISECOND
"""What is left of a word at least."""
TOUCH_US = 2 * MILLISECOND


class MoveWordEdge(BaseEdit):
    """Move a word's start or end (piece µs), to a moment or by an amount.

    A neighbour that touches the edge goes with it; one in the way gives way, down to 20 ms.
    """

    kind: Literal["move_word_edge"] = "move_word_edge"
    cue_id: Id
    word_id: Id
    edge: Literal["start", "end"] = "start"
    to_us: Micros | None = None
    by_us: Shift | None = None

    @model_validator(mode="after")
    def _one_of_both(self) -> MoveWordEdge:
        if (self.to_us is None) == (self.by_us is None):
            raise ValueError("Say either where to or by how much.")
        return self

    def label(self, session: EditSession) -> str:
        word = word_of(session.cue(self.cue_id), self.word_id)
        return f"move {self.edge} of “{short(word.text)}”"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        word = word_of(cue, self.word_id)
        old = word.start_us if self.edge == "start" else word.end_us
        wanted = self.to_us if self.to_us is not None else old + (self.by_us or 0)
        beside = _beside(session, cue, word, self.edge)
        at = _within(wanted, word, beside, self.edge)
        if at == old:
            raise BadInput("There is no room to move this edge further.")
        if self.edge == "start":
            _save(session, cue, replace(word, start_us=at, aligned=True))
            if beside and (beside[1].end_us > at or abs(beside[1].end_us - old) <= TOUCH_US):
                _save(session, beside[0], replace(beside[1], end_us=at))
        else:
            _save(session, cue, replace(word, end_us=at, aligned=True))
            if beside and (beside[1].start_us < at or abs(beside[1].start_us - old) <= TOUCH_US):
                _save(session, beside[0], replace(beside[1], start_us=at))
        retime_near(session, session.cue(cue.id))


def _within(wanted: int, word: Shown, beside: tuple[Cue, Shown] | None, edge: str) -> int:
    """The moment nearest to the wanted one that leaves both words some time."""
    if edge == "start":
        low = min(beside[1].start_us + LEAST_US, word.start_us) if beside else 0
        return min(max(wanted, low), max(word.end_us - LEAST_US, word.start_us))
    high = max(beside[1].end_us - LEAST_US, word.end_us) if beside else wanted
    return max(min(wanted, high), min(word.start_us + LEAST_US, word.end_us))


def _beside(session: EditSession, cue: Cue, word: Shown, edge: str) -> tuple[Cue, Shown] | None:
    """The word before (start) or after (end) a word, and the caption it is in.

    Captions may stand in another order than their words, where times were pinned: there is none then.
    """
    before, after = session.around(cue, 1)
    run = [(one, each) for one in (*before, cue, *after) for each in one.words]
    at = run.index((cue, word))
    if edge == "start":
        return run[at - 1] if at and run[at - 1][1].start_us <= word.start_us else None
    return run[at + 1] if at + 1 < len(run) and run[at + 1][1].end_us >= word.end_us else None


def _save(session: EditSession, cue: Cue, word: Shown) -> None:
    now = session.cue(cue.id)
    session.save_cue(now.with_words(tuple(word if w.id == word.id else w for w in now.words)))
