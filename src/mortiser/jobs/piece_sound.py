"""The sound of a piece as it plays: that of its clips, one behind another."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from mortiser.core.edits.text.laying import LayCaptions
from mortiser.core.project.job_payloads import PiecePayload
from mortiser.core.project.piece import Piece
from mortiser.core.project.source import Source
from mortiser.core.transcript.words import Shown
from mortiser.jobs.broker import LeasedJob
from mortiser.jobs.kind import JobContext
from mortiser.jobs.sounds import sound_of
from mortiser.jobs.workspace import Workspace
from mortiser.media.sound import Samples, clip, read_sound, stream_sound
from mortiser.store import editing, projects, revisions, transcript
from mortiser.store.glossary import Spellings, spellings


@dataclass(frozen=True)
class PieceInput:
    """What a job is given that lays words over a piece: it at a revision of its project, its
    recordings, the words said in it."""

    piece: Piece
    revision: int
    sources: Sequence[Source]
    words: Sequence[Shown]
    spellings: Spellings


def read_piece(context: JobContext, taken: LeasedJob) -> PieceInput:
    """The piece that a job is for. Raises NotFound."""
    db = context.database.connection
    piece = projects.piece(db, taken.about(PiecePayload).piece_id)
    rows = projects.read_sources(db, piece.project_id)
    revision = revisions.newest(db, piece.project_id)
    return PieceInput(piece, revision, rows, transcript.piece_words(db, piece), spellings(db))


def keep_captions(context: JobContext, given: PieceInput, edit: LayCaptions) -> None:
    """Lay captions over the piece as it is by now, as one edit."""
    editing.lay_now(
        context.database, given.piece.project_id, edit, was=given.piece, revision=given.revision
    )


class PieceSound:
    """Sound by the time of the piece, and the language spoken in it."""

    def __init__(self, workspace: Workspace, piece: Piece, sources: Sequence[Source]) -> None:
        self._timeline = piece.timeline
        self._sources = {row.id: row for row in sources}
        self._workspace = workspace
        self.language = self._sources[piece.source_id].language
        self.duration_us = piece.timeline.duration_us

    def read(self, from_us: int, to_us: int) -> Samples:
        """The samples of a stretch."""
        found = []
        for part in self._timeline.slice(from_us, to_us):
            heard = sound_of(self._workspace, self._sources[part.clip.source_id])
            stretch = part.clip.start_us, part.clip.end_us
            found.append(read_sound(heard.path, *stretch, heard.track))
        return np.concatenate(found) if found else np.zeros(0, np.float32)

    def stream(self, from_us: int, to_us: int) -> Iterator[Samples]:
        """The samples of a stretch, block by block."""
        for part in self._timeline.slice(from_us, to_us):
            heard = sound_of(self._workspace, self._sources[part.clip.source_id])
            yield from clip(
                stream_sound(heard.path, heard.track), part.clip.start_us, part.clip.end_us
            )
