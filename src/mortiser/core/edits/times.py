"""Edits of caption times: pin an edge, let it follow the words again."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.retiming import retime_near
from mortiser.core.errors import BadInput
from mortiser.core.time import parse_timecode
from mortiser.core.words import Cue


class SetCueTimes(BaseEdit):
    """Pin a caption's start, end or both, in piece time (µs)."""

    kind: Literal["set_cue_times"] = "set_cue_times"
    cue_id: int
    start_us: int | None = Field(default=None, ge=0)
    end_us: int | None = Field(default=None, ge=0)

    def label(self, desk: Desk) -> str:
        if self.start_us is None:
            return "set caption end"
        return "set caption start" if self.end_us is None else "set caption times"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        start = cue.start_us if self.start_us is None else self.start_us
        end = cue.end_us if self.end_us is None else self.end_us
        if end - start < SHORTEST_SHOWN_US:
            raise BadInput("A caption must end after it starts, by at least 0.04 s.")
        self._check_neighbours(desk, cue, start, end)
        pinned = replace(
            cue,
            start_us=start,
            end_us=end,
            start_pinned=cue.start_pinned or self.start_us is not None,
            end_pinned=cue.end_pinned or self.end_us is not None,
        )
        retime_near(desk, desk.save_cue(pinned))

    def _check_neighbours(self, desk: Desk, cue: Cue, start: int, end: int) -> None:
        before, after = desk.around(cue, 1)
        if self.start_us is not None and before and start < before[0].start_us + SHORTEST_SHOWN_US:
            raise BadInput("That start lies before the caption in front. Move that one first.")
        if self.end_us is not None:
            if after and end > after[0].end_us:
                raise BadInput("That end lies beyond the next caption. Move that one first.")
            if end > desk.spans(cue.piece_id).duration_us:
                raise BadInput("That end lies beyond the end of the recording.")


class TypeCueTime(BaseEdit):
    """Pin an edge of a caption to a time as somebody typed it (``1:02.500``, ``62.5``)."""

    kind: Literal["type_cue_time"] = "type_cue_time"
    cue_id: int
    edge: Literal["start", "end"]
    text: str = Field(max_length=40)

    def label(self, desk: Desk) -> str:
        return f"set caption {self.edge}"

    def apply(self, desk: Desk) -> None:
        at = parse_timecode(self.text)
        if self.edge == "start":
            SetCueTimes(cue_id=self.cue_id, start_us=at).apply(desk)
        else:
            SetCueTimes(cue_id=self.cue_id, end_us=at).apply(desk)


class UnpinCue(BaseEdit):
    """Let a caption's times follow its words again."""

    kind: Literal["unpin_cue"] = "unpin_cue"
    cue_id: int

    def label(self, desk: Desk) -> str:
        return "unpin caption times"

    def apply(self, desk: Desk) -> None:
        cue = replace(desk.cue(self.cue_id), start_pinned=False, end_pinned=False)
        retime_near(desk, desk.save_cue(cue))
