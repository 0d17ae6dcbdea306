"""Openings and closings: a recording put before or behind all else of a piece, and taken away again."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.limits import Id, Micros
from mortiser.core.editing.timeline import Clip
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.cutting.recaptioning import caption_all, follow_cut
from mortiser.core.edits.session import EditSession

Role = Literal["opening", "closing"]


class PutFilm(BaseEdit):
    """Play a recording, or a stretch of it, before all else of a piece or behind it."""

    kind: Literal["put_film"] = "put_film"
    piece_id: Id
    source_id: Id
    role: Role
    from_us: Micros = 0
    to_us: Micros | None = Field(default=None, description="To its end where None.")

    def label(self, session: EditSession) -> str:
        how = "open" if self.role == "opening" else "close"
        return f"{how} with {short(session.source_name(self.source_id))}"

    def apply(self, session: EditSession) -> None:
        length = session.source_length(self.source_id)
        end = length if self.to_us is None else min(length, self.to_us)
        if self.from_us >= end:
            raise BadInput(f"{session.source_name(self.source_id)} has nothing at that moment.")
        frames = session.frames(self.piece_id)
        if frames.rate:
            # Whole frames, so that what comes behind it stays on its own.
            count = max(1, int((end - self.from_us) / frames.length_us + 0.01))
            end = min(end, self.from_us + frames.last(count))
        clips = session.timeline(self.piece_id).clips
        put = Clip(self.source_id, self.from_us, end)
        session.set_clips(self.piece_id, [put, *clips] if self.role == "opening" else [*clips, put])
        caption_all(session, self.piece_id)


class TakeFilmAway(BaseEdit):
    """Take away all that a piece plays of something that was put into it."""

    kind: Literal["take_film_away"] = "take_film_away"
    piece_id: Id
    strand_id: Id

    def label(self, session: EditSession) -> str:
        found = [one for one in session.strands(self.piece_id) if one.id == self.strand_id]
        name = session.source_name(found[0].source_id) if found else "it"
        return f"take {short(name)} out of the piece"

    def apply(self, session: EditSession) -> None:
        before = session.timeline(self.piece_id)
        left = [clip for clip in before.clips if clip.strand_id != self.strand_id]
        if len(left) == len(before.clips):
            raise NotFound(
                "The piece does not play that any more. The page shows the newest state."
            )
        if not left:
            raise BadInput("That would leave nothing of the piece. Put something else in first.")
        follow_cut(session, self.piece_id, before, left)
