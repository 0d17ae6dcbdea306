"""Edits of the pace: how captions are grouped and timed, for the whole piece or some captions."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.captions.cue_timing import untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import Pace, RuleSet, pace_name, regroups
from mortiser.core.common.limits import Id, Ids
from mortiser.core.edits.base import BaseEdit, chosen, counted
from mortiser.core.edits.retiming import retime_all, retime_of
from mortiser.core.edits.session import CaptionSession, EditSession
from mortiser.core.transcript.words import Cue, Shown

SAID = {
    "words": "words a caption",
    "lines": "lines",
    "line_chars": "characters a line",
    "chars_per_s": "reading speed",
    "lead_us": "lead-in",
    "linger_us": "linger",
    "shortest_us": "shortest duration",
    "longest_us": "longest duration",
    "close_us": "gaps to close",
    "gap_frames": "gap",
    "snap": "snapping to frames",
}


class SetPace(BaseEdit):
    """Give the piece another pace: captions are grouped anew where that changes, and timed anew.

    Breaks and joins made by hand and captions with a pinned time stay.
    """

    kind: Literal["set_pace"] = "set_pace"
    piece_id: Id
    pace: Pace

    def label(self, session: EditSession) -> str:
        name = pace_name(self.pace)
        if name:
            return f"pace {name}"
        old = session.pace(self.piece_id)
        changed = [
            said for key, said in SAID.items() if getattr(old, key) != getattr(self.pace, key)
        ]
        return f"pace: {changed[0]}" if len(changed) == 1 else "change pace"

    def apply(self, session: EditSession) -> None:
        old = session.pace(self.piece_id)
        session.save_settings(
            self.piece_id, replace(session.settings(self.piece_id), pace=self.pace)
        )
        if regroups(old, self.pace):
            regroup(session, self.piece_id, self.pace, None, keep=True)
        else:
            retime_all(session, self.piece_id)


class SetFilePace(BaseEdit):
    """Give the piece's caption files a pace of their own, or (None) that of the picture."""

    kind: Literal["set_file_pace"] = "set_file_pace"
    piece_id: Id
    pace: Pace | None

    def label(self, session: EditSession) -> str:
        return "pace of caption files"

    def apply(self, session: EditSession) -> None:
        session.save_settings(
            self.piece_id, replace(session.settings(self.piece_id), file_pace=self.pace)
        )


class Regroup(BaseEdit):
    """Group the words of some captions, or of all, anew; the piece keeps its own pace.

    What was done by hand (breaks, joins, pinned times) stays where ``keep`` says so.
    """

    kind: Literal["regroup"] = "regroup"
    piece_id: Id
    pace: Pace | None = Field(default=None, description="The piece's own where left out.")
    cue_ids: Ids = Field(default=[], description="All captions where empty.")
    keep: bool = True

    def label(self, session: EditSession) -> str:
        some = f" {counted(chosen(session, self.cue_ids))}" if self.cue_ids else ""
        return f"regroup{some}" if self.keep else f"regroup{some} afresh"

    def apply(self, session: EditSession) -> None:
        some = {cue.id for cue in chosen(session, self.cue_ids)} if self.cue_ids else None
        pace = self.pace or session.pace(self.piece_id)
        regroup(session, self.piece_id, pace, some, keep=self.keep)


class CheckBy(BaseEdit):
    """Choose whose limits the checks go by."""

    kind: Literal["check_by"] = "check_by"
    piece_id: Id
    rules: RuleSet

    def label(self, session: EditSession) -> str:
        return f"check by {self.rules}"

    def apply(self, session: EditSession) -> None:
        session.save_settings(
            self.piece_id, replace(session.settings(self.piece_id), checked_by=self.rules)
        )


def regroup(
    session: CaptionSession, piece_id: int, pace: Pace, some: Collection[int] | None, *, keep: bool
) -> None:
    """Group the words of some (else all) captions anew and time the piece."""
    old = session.cues(piece_id)
    ruler = session.ruler(piece_id)
    fresh: list[Cue] = []
    run: list[Cue] = []

    def end_run() -> None:
        words = [word if keep else _loose(word) for cue in run for word in cue.words]
        owners = {(word.id, word.clip_id): cue for cue in run for word in cue.words}
        for start, end in group(words, pace, ruler):
            made = untimed_cue(piece_id, words[start:end])
            # A caption that keeps its first word stays itself, so that it stays selected.
            first = words[start].id, words[start].clip_id
            owner = owners.pop(first)
            same = (owner.words[0].id, owner.words[0].clip_id) == first
            fresh.append(replace(made, id=owner.id if same else 0))
        run.clear()

    for cue in old:
        if (some is not None and cue.id not in some) or (keep and cue.pinned):
            end_run()
            fresh.append(cue)
        else:
            run.append(cue)
    end_run()
    _settle(session, old, fresh)


def _settle(session: CaptionSession, old: Sequence[Cue], fresh: Sequence[Cue]) -> None:
    """Store what differs between two sets of captions of a piece, with their times worked out."""
    if not fresh:
        return
    timed = retime_of(session, fresh)
    known = {cue.id: cue for cue in old}
    kept = {cue.id for cue in timed}
    session.delete_cues([cue for cue in old if cue.id not in kept])
    session.save_cues([cue for cue in timed if known.get(cue.id) != cue])


def _loose(word: Shown) -> Shown:
    return replace(word, seam="free") if word.seam in ("break", "join") else word
