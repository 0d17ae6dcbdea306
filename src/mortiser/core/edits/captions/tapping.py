"""Times tapped by hand while listening, for singing and noise that nothing can be aligned to."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Literal

from pydantic import Field, field_validator

from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Micros
from mortiser.core.common.time import MILLISECOND
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.retiming import retime_all
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Shown, spoken_weight

LEAST_APART_US = 40 * MILLISECOND
LETTER_US = 75 * MILLISECOND
"""How long a sung letter is taken to last where no later tap says better."""


class TapTimes(BaseEdit):
    """Start the captions (or words) from one on at the moments tapped, less the delay of the hand.

    Words inside a caption share its time by their length. What comes after the last tap moves only
    as far as it must.
    """

    kind: Literal["tap_times"] = "tap_times"
    first_cue: Id
    unit: Literal["caption", "word"]
    taps_us: list[Micros] = Field(min_length=1, max_length=20_000)
    delay_us: int = Field(ge=-500_000, le=1_000_000)

    @field_validator("taps_us")
    @classmethod
    def _in_order(cls, taps: list[int]) -> list[int]:
        if any(b - a < LEAST_APART_US for a, b in pairwise(taps)):
            raise ValueError("Taps follow one another by at least 0.04 s.")
        return taps

    def concerns(self) -> None:
        return None

    def label(self, session: EditSession) -> str:
        count = len(self.taps_us)
        return f"tap {count} {self.unit}{'s' if count > 1 else ''}"

    def apply(self, session: EditSession) -> None:
        first = session.cue(self.first_cue)
        cues = session.cues(first.piece_id)
        at = next(index for index, cue in enumerate(cues) if cue.id == first.id)
        starts = [max(0, tap - self.delay_us) for tap in self.taps_us]
        before, rest = cues[:at], cues[at:]
        if before and starts[0] <= before[-1].words[-1].start_us:
            raise BadInput(
                "The first tap lies before the caption in front. Begin with that one, or tap later."
            )
        words = [word for cue in rest for word in cue.words]
        heads = _heads(rest) if self.unit == "caption" else list(range(len(words)))
        if len(starts) > len(heads):
            raise BadInput(f"There are {len(starts)} taps for {len(heads)} {self.unit}s.")
        timed = _timed(words, heads[: len(starts)], starts, [*heads[len(starts) :], len(words)][0])
        _save(session, rest, timed)
        if before:
            _end_by(session, before[-1], starts[0])
        retime_all(session, first.piece_id)


def _heads(cues: Sequence[Cue]) -> list[int]:
    """Where each caption's first word stands among all words."""
    heads: list[int] = []
    at = 0
    for cue in cues:
        heads.append(at)
        at += len(cue.words)
    return heads


def _timed(
    words: Sequence[Shown], heads: Sequence[int], starts: Sequence[int], stop: int
) -> list[Shown]:
    """All words with times: runs that begin at a tap, then those behind, moved if they must."""
    result: list[Shown] = []
    for index, head in enumerate(heads):
        end = heads[index + 1] if index + 1 < len(heads) else stop
        run = words[head:end]
        weights = [spoken_weight(word.text) for word in run]
        length = sum(weights) * LETTER_US
        if index + 1 < len(heads):
            length = min(length, starts[index + 1] - starts[index])
        at, done = starts[index], 0
        for word, weight in zip(run, weights, strict=True):
            begin = at + length * done // sum(weights)
            done += weight
            finish = at + length * done // sum(weights)
            tapped = word is run[0]
            result.append(
                replace(word, start_us=begin, end_us=finish, origin="tapped", aligned=tapped,
                        confidence=None, alternatives=())
            )  # fmt: skip
    for word in words[stop:]:
        start = max(word.start_us, result[-1].end_us)
        result.append(replace(word, start_us=start, end_us=max(word.end_us, start)))
    return result


def _save(session: EditSession, cues: Sequence[Cue], words: Sequence[Shown]) -> None:
    at = 0
    for cue in cues:
        mine = tuple(words[at : at + len(cue.words)])
        at += len(mine)
        if mine != cue.words:
            start = mine[0].start_us
            end = max(mine[-1].end_us, start + LEAST_APART_US)
            session.save_cue(Cue(cue.piece_id, mine, start, end, id=cue.id))


def _end_by(session: EditSession, cue: Cue, at_us: int) -> None:
    """Words of the caption in front end where the first tap begins."""
    words = [replace(w, end_us=max(w.start_us, min(w.end_us, at_us))) for w in cue.words]
    if words != list(cue.words):
        session.save_cue(cue.with_words(tuple(words)))
