"""The sound of a piece as it plays: that of its clips, one behind another."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from mortiser.core.piece import Piece
from mortiser.jobs.runner import Parts
from mortiser.media.sound import Samples, clip, read_sound, stream_sound
from mortiser.store import projects


class PieceSound:
    """Sound by the time of the piece, and the language spoken in it."""

    def __init__(self, parts: Parts, piece: Piece) -> None:
        self._timeline = piece.timeline
        rows = projects.source_rows(parts.database.connection, piece.project_id)
        self._sources = {row["id"]: row for row in rows}
        self._workspace = parts.workspace
        self.language: str = self._sources[piece.source_id]["language"]
        self.duration_us = piece.timeline.duration_us

    def read(self, from_us: int, to_us: int) -> Samples:
        """The samples of a stretch."""
        found = []
        for part in self._timeline.slice(from_us, to_us):
            source = self._sources[part.clip.source_id]
            path = self._workspace.path(source["path"])
            track = source["audio_track"]
            found.append(read_sound(path, part.clip.start_us, part.clip.end_us, track))
        return np.concatenate(found) if found else np.zeros(0, np.float32)

    def stream(self, from_us: int, to_us: int) -> Iterator[Samples]:
        """The samples of a stretch, block by block."""
        for part in self._timeline.slice(from_us, to_us):
            source = self._sources[part.clip.source_id]
            path = self._workspace.path(source["path"])
            sound = stream_sound(path, source["audio_track"])
            yield from clip(sound, part.clip.start_us, part.clip.end_us)
