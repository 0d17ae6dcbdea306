"""Taking a recording out of a project: its passages leave every piece, and an undo brings all of it back."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from mortiser.core.assembly.cutaway import without_source
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.cutting.recaptioning import follow_cut
from mortiser.core.edits.session import EditSession


@dataclass(frozen=True)
class PieceLoss:
    """What a piece loses with a recording: so much of its length (µs), so many cutaways; ``whole`` where nothing
    else is in it, so that it goes too."""

    piece_id: int
    name: str
    lost_us: int
    whole: bool
    cutaways: int = 0


def losses(session: EditSession, source_id: int) -> list[PieceLoss]:
    """What the pieces would lose that play or show something of a recording, or could."""
    found = []
    for piece_id in session.piece_ids():
        settings = session.settings(piece_id)
        gone = len(settings.cutaways) - len(without_source(settings.cutaways, source_id))
        plays = any(strand.source_id == source_id for strand in session.strands(piece_id))
        if not plays and not gone:
            continue
        clips = session.timeline(piece_id).clips
        lost = sum(clip.length_us for clip in clips if clip.source_id == source_id)
        whole = all(clip.source_id == source_id for clip in clips)
        found.append(PieceLoss(piece_id, settings.name, lost, whole, gone))
    return found


class RemoveRecording(BaseEdit):
    """Take a recording out of the project, with what pieces play of it. Pieces that play nothing else go."""

    kind: Literal["remove_recording"] = "remove_recording"
    source_id: Id

    def label(self, session: EditSession) -> str:
        return f"remove {short(session.source_name(self.source_id))}"

    def concerns(self) -> frozenset[int] | None:
        return None

    def apply(self, session: EditSession) -> None:
        session.source_name(self.source_id)
        if session.source_ids() == [self.source_id]:
            raise BadInput("A project has a recording at least. Delete the project instead.")
        found = losses(session, self.source_id)
        if sum(loss.whole for loss in found) == len(session.piece_ids()):
            raise BadInput(
                "Nothing would be left in any piece. Put something of another recording into one first."
            )
        for loss in found:
            if loss.whole:
                session.delete_piece(loss.piece_id)
                continue
            before = session.timeline(loss.piece_id)
            left = [clip for clip in before.clips if clip.source_id != self.source_id]
            if len(left) < len(before.clips):
                follow_cut(session, loss.piece_id, before, left)
        for piece_id in session.piece_ids():
            was = session.settings(piece_id)
            left_seen = without_source(was.cutaways, self.source_id)
            now = replace(
                was,
                cutaways=left_seen,
                joins=was.joins.without_source(self.source_id),
                grades=was.grades.without_source(self.source_id),
            )
            session.save_settings(piece_id, now)
        for other in session.source_ids():
            heard = session.microphone(other)
            if heard is not None and heard.sound_id == self.source_id:
                session.set_microphone(other, None)
        session.remove_source(self.source_id)
