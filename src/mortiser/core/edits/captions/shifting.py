"""Edits that move words together with their captions: for files that come late, or drift."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Sequence
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.captions.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Ids
from mortiser.core.common.time import SECOND, parse_entry
from mortiser.core.edits.base import BaseEdit, chosen, counted, save_changed
from mortiser.core.edits.retiming import retime_of
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue

LEAST_SCALE, MOST_SCALE = 0.5, 2.0


class ShiftCues(BaseEdit):
    """Move captions and their words in time, by an amount as somebody types it (+0.2, -3f).

    ``onward`` takes everything behind the first of them along.
    """

    kind: Literal["shift_cues"] = "shift_cues"
    cue_ids: Ids = Field(min_length=1)
    by: str = Field(max_length=40)
    onward: bool = False

    def label(self, session: EditSession) -> str:
        return f"shift {counted(self._cues(session))} by {self.by.strip()}"

    def apply(self, session: EditSession) -> None:
        cues = self._cues(session)
        frame = session.frames(cues[0].piece_id).length_us
        text = self.by.strip()
        by = parse_entry(text, 0, frame, below_zero=True)
        if by == 0:
            raise BadInput(
                "Say by how much: +0.2 is a fifth of a second later, -3f three frames earlier."
            )
        _map_times(session, cues, lambda at: at + by)

    def _cues(self, session: EditSession) -> list[Cue]:
        cues = chosen(session, self.cue_ids)
        if not self.onward:
            return cues
        order = session.cues(cues[0].piece_id)
        return order[next(i for i, cue in enumerate(order) if cue.id == cues[0].id) :]


class Anchor(BaseModel):
    """A caption and when it should start, as somebody types it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    cue_id: Id
    starts: str = Field(max_length=40)


class StretchCues(BaseEdit):
    """Stretch the captions and words between two of them so that these start where they should.

    What lies outside stays as it is, or moves along with the caption next to it.
    """

    kind: Literal["stretch_cues"] = "stretch_cues"
    first: Anchor
    second: Anchor
    outside: Literal["stay", "move"] = "move"

    def label(self, session: EditSession) -> str:
        return "stretch between two captions"

    def apply(self, session: EditSession) -> None:
        anchors: list[tuple[int, int, Cue]] = []
        piece_id = session.cue(self.first.cue_id).piece_id
        frame = session.frames(piece_id).length_us
        for anchor in (self.first, self.second):
            cue = session.cue(anchor.cue_id)
            was = cue.words[0].start_us
            anchors.append((was, parse_entry(anchor.starts, was, frame), cue))
        (from_a, to_a, first), (from_b, to_b, last) = sorted(anchors, key=lambda one: one[0])
        if from_a == from_b:
            raise BadInput("Choose two different captions to stretch between.")
        scale = (to_b - to_a) / (from_b - from_a)
        if not LEAST_SCALE <= scale <= MOST_SCALE:
            raise BadInput(
                "These two would squeeze or stretch time by more than a half. Check both times."
            )

        def new(at: int) -> int:
            if at < from_a:
                return at + to_a - from_a
            # The last caption moves as a whole: it is what starts there that was anchored.
            return at + to_b - from_b if at >= from_b else to_a + round((at - from_a) * scale)

        order = session.cues(piece_id)
        if self.outside == "stay":
            ids = [cue.id for cue in order]
            order = order[ids.index(first.id) : ids.index(last.id) + 1]
        _map_times(session, order, new)


def _map_times(session: EditSession, cues: Sequence[Cue], new: Callable[[int], int]) -> None:
    """Give words and pinned edges new times. Raises BadInput when they would pass others."""
    piece_id = cues[0].piece_id
    duration = session.timeline(piece_id).duration_us
    moved: dict[int, Cue] = {}
    for cue in cues:
        words = []
        for word in cue.words:
            start, end = new(word.start_us), new(word.end_us)
            if start < 0 or end > duration:
                raise BadInput(
                    f"“{word.text}” would lie outside the recording. Use a smaller amount."
                )
            words.append(word.at(start, end))
        start = new(cue.start_us) if cue.start_pinned else words[0].start_us
        end = new(cue.end_us) if cue.end_pinned else words[-1].end_us
        start = max(0, start)
        end = max(min(end, duration), start + SHORTEST_SHOWN_US)
        moved[cue.id] = cue.with_words(tuple(words)).at(start, end)
    stored = session.cues(piece_id)
    order = [moved.get(cue.id, cue) for cue in stored]
    for one, after in itertools.pairwise(order):
        if (one.id in moved) == (after.id in moved):
            continue
        room = after.words[0].start_us - one.words[-1].end_us
        if room < 0:
            near = one if one.id not in moved else after
            raise BadInput(
                f"That would run {-room / SECOND:.2f} s into “{near.text[:30]}”. "
                "Use a smaller amount, or shift everything from here on."
            )
    save_changed(session, stored, retime_of(session, order))
