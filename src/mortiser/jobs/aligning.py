"""Put the typed words of one caption on their sound, right after the edit that typed them."""

from __future__ import annotations

import threading

from mortiser.core.edits.desk import Desk
from mortiser.core.edits.retiming import retime_near
from mortiser.core.errors import NotFound
from mortiser.core.realign import needs_sound, realigned
from mortiser.core.time import SECOND
from mortiser.core.words import Cue
from mortiser.jobs.piece_sound import PieceSound
from mortiser.jobs.runner import Parts
from mortiser.speech.seams import Aligner, WordTime
from mortiser.store import editing, projects
from mortiser.store.editing import Outcome
from mortiser.store.rows import load_cues

MARGIN_US = 250_000


class TypedWordAligner:
    """Keeps an aligner ready for the language used last; one caption at a time."""

    def __init__(self, parts: Parts) -> None:
        self._parts = parts
        self._lock = threading.Lock()
        self._aligner: Aligner | None = None
        self._language = ""

    def align(self, project_id: int, base_revision: int, cue_id: int) -> Outcome:
        """Align the typed words of a caption as a part of the newest edit.

        Raises Stale when the project has moved on since ``base_revision``.
        """
        with self._parts.database.snapshot() as db:
            cues = load_cues(db, "cue.id = ?", (cue_id,))
            if not cues:
                raise NotFound("That caption is not there any more.")
            piece = projects.piece(db, cues[0].piece_id)
        found = self._find(cues[0], PieceSound(self._parts, piece))

        def change(desk: Desk) -> None:
            cue = desk.cue(cue_id)
            words = realigned(cue.words, found, desk.word_room(cue))
            if words != list(cue.words):
                retime_near(desk, desk.save_cue(cue.with_words(tuple(words))))

        return editing.amend(self._parts.database, project_id, base_revision, change)

    def _find(self, cue: Cue, sound: PieceSound) -> list[tuple[int, int] | None]:
        if not needs_sound(cue.words):
            return [None] * len(cue.words)
        start = max(0, cue.words[0].start_us - MARGIN_US)
        end = min(sound.duration_us, cue.words[-1].end_us + MARGIN_US)
        samples = sound.read(start, end)
        with self._lock:
            if self._aligner is None or self._language != sound.language:
                self._language = sound.language
                self._aligner = self._parts.aligner(self._language)
            times = self._aligner.align([word.text for word in cue.words], samples)
        return [_piece_time(time, start) if time else None for time in times]


def _piece_time(time: WordTime, offset_us: int) -> tuple[int, int]:
    return offset_us + round(time.start_s * SECOND), offset_us + round(time.end_s * SECOND)
