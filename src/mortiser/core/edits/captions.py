"""Edits of captions as runs of words: delete, split, join, regroup."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.retiming import retime_all, retime_near, untimed_cue
from mortiser.core.errors import BadInput
from mortiser.core.grouping import GROUPINGS, GroupName, group
from mortiser.core.words import Cue


class DeleteCue(BaseEdit):
    """Take a caption away; its words stay in the source."""

    kind: Literal["delete_cue"] = "delete_cue"
    cue_id: int

    def label(self, desk: Desk) -> str:
        return f"delete “{short(desk.cue(self.cue_id).text)}”"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        before, after = desk.around(cue, 1)
        desk.delete_cue(cue)
        for neighbour in (*before, *after):
            retime_near(desk, neighbour)


class SplitCue(BaseEdit):
    """Break a caption in two before one of its words."""

    kind: Literal["split_cue"] = "split_cue"
    cue_id: int
    before_word: int = Field(ge=1, description="Index of the word that starts the second half.")

    def label(self, desk: Desk) -> str:
        return "split caption"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        if self.before_word >= len(cue.words):
            raise BadInput("Put the caret between two words to split the caption there.")
        head, tail = cue.words[: self.before_word], cue.words[self.before_word :]
        middle = desk.spans(cue.piece_id).to_piece(tail[0].start_us)
        middle = min(max(middle, cue.start_us + SHORTEST_SHOWN_US), cue.end_us - SHORTEST_SHOWN_US)
        if not cue.start_us < middle < cue.end_us:
            raise BadInput("This caption is too short in time to split.")
        first = desk.save_cue(replace(cue, words=head, end_us=middle, end_pinned=False))
        second = Cue(cue.piece_id, tail, middle, cue.end_us, end_pinned=cue.end_pinned)
        desk.save_cue(second)
        retime_near(desk, first)


class JoinCue(BaseEdit):
    """Join a caption to the one before it."""

    kind: Literal["join_cue"] = "join_cue"
    cue_id: int

    def label(self, desk: Desk) -> str:
        return "join captions"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        before, _ = desk.around(cue, 1)
        if not before:
            raise BadInput("There is no caption before this one to join it to.")
        first = before[0]
        desk.delete_cue(cue)
        joined = replace(
            first, words=first.words + cue.words, end_us=cue.end_us, end_pinned=cue.end_pinned
        )
        retime_near(desk, desk.save_cue(joined))


class Regroup(BaseEdit):
    """Group all words of the piece into captions anew."""

    kind: Literal["regroup"] = "regroup"
    piece_id: int
    grouping: GroupName

    def label(self, desk: Desk) -> str:
        return f"regroup as {self.grouping}"

    def apply(self, desk: Desk) -> None:
        shown = [word for cue in desk.cues(self.piece_id) for word in cue.words]
        for cue in desk.cues(self.piece_id):
            desk.delete_cue(cue)
        for start, end in group(shown, GROUPINGS[self.grouping]):
            desk.save_cue(untimed_cue(self.piece_id, shown[start:end], desk.spans(self.piece_id)))
        desk.set_grouping(self.piece_id, self.grouping)
        retime_all(desk, self.piece_id)
