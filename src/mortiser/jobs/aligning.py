"""Put typed words on their sound, soon after the edit that typed them; nothing waits for it."""

from __future__ import annotations

import logging
import threading
from collections.abc import Sequence
from functools import partial
from queue import SimpleQueue

from mortiser.core.common.errors import Conflict, MortiserError, NotFound
from mortiser.core.common.time import SECOND
from mortiser.core.edits.retiming import retime_near
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.realign import realigned
from mortiser.core.transcript.words import Cue, Shown
from mortiser.jobs.piece_sound import PieceSound
from mortiser.jobs.tools import Tools
from mortiser.speech.protocols import Aligner, WordTime
from mortiser.store import editing, projects
from mortiser.store.database import Database
from mortiser.store.editing import Outcome

MARGIN_US = 250_000
MOST_TRIED = 20_000
log = logging.getLogger(__name__)


class TypedWordAligner:
    """A thread of its own with an aligner ready for the language used last.

    What it finds is added to the newest edit, so that one undo takes both back.
    """

    def __init__(self, database: Database, tools: Tools) -> None:
        self._database = database
        self._tools = tools
        self._waiting: SimpleQueue[tuple[int, int] | threading.Event] = SimpleQueue()
        self._thread: threading.Thread | None = None
        self._start = threading.Lock()
        self._tried: dict[tuple[int, str], None] = {}
        """Words that were looked for, the oldest first: what was not found is not looked for again."""
        self._aligner: Aligner | None = None
        self._language = ""

    def follow(self, project_id: int, outcome: Outcome) -> Outcome:
        """Look for the typed words of an edit's captions; the same outcome."""
        self.look_over(project_id, outcome.cues)
        return outcome

    def look_over(self, project_id: int, cues: Sequence[Cue]) -> None:
        """Look for the typed words of captions that were not looked for yet."""
        for cue in cues:
            if self._to_find(cue):
                self._waiting.put((project_id, cue.id))
                self._begin()

    def settle(self) -> None:
        """Wait until all that is to be found has been looked for."""
        done = threading.Event()
        self._waiting.put(done)
        self._begin()
        done.wait()

    def _to_find(self, cue: Cue) -> bool:
        if cue.start_pinned and cue.end_pinned and not any(word.aligned for word in cue.words):
            return False  # Put where nobody speaks.
        return any(key not in self._tried for key in _unplaced(cue.words))

    def _begin(self) -> None:
        with self._start:
            if self._thread is None:
                self._thread = threading.Thread(target=self._run, name="aligner", daemon=True)
                self._thread.start()

    def _run(self) -> None:
        while True:
            wanted = self._waiting.get()
            if isinstance(wanted, threading.Event):
                wanted.set()
                continue
            try:
                self._align(*wanted)
            except (Conflict, NotFound):
                pass  # Undone, or gone: there is nothing to find any more.
            except MortiserError as error:
                log.warning("typed words were not put on their sound: %s", error)
            except Exception:  # The next caption is looked for all the same.
                log.exception("typed words were not put on their sound")

    def _align(self, project_id: int, cue_id: int) -> None:
        with self._database.snapshot() as db:
            cue = projects.cue(db, cue_id)
            piece = projects.piece(db, cue.piece_id)
            sources = projects.read_sources(db, project_id)
        if not self._to_find(cue):
            return
        self._note(cue.words)
        found = self._find(cue, PieceSound(self._tools.workspace, piece, sources))
        change = partial(_put, cue, found)
        editing.amend(self._database, project_id, change)

    def _note(self, words: Sequence[Shown]) -> None:
        self._tried |= dict.fromkeys(_unplaced(words))
        for key in list(self._tried)[: max(0, len(self._tried) - MOST_TRIED)]:
            del self._tried[key]

    def _find(self, cue: Cue, sound: PieceSound) -> list[tuple[int, int] | None]:
        start = max(0, cue.words[0].start_us - MARGIN_US)
        end = min(sound.duration_us, cue.words[-1].end_us + MARGIN_US)
        samples = sound.read(start, end)
        if self._aligner is None or self._language != sound.language:
            self._language = sound.language
            self._aligner = self._tools.aligner(self._language)
        times = self._aligner.align([word.text for word in cue.words], samples)
        return [_piece_time(time, start) if time else None for time in times]


def _unplaced(words: Sequence[Shown]) -> list[tuple[int, str]]:
    return [(word.id, word.text) for word in words if not word.aligned]


def _put(heard: Cue, found: Sequence[tuple[int, int] | None], session: EditSession) -> None:
    """Give a caption's words the times they were found at, unless it has other words by now."""
    cue = session.cue(heard.id)
    if [(w.id, w.text) for w in cue.words] != [(w.id, w.text) for w in heard.words]:
        return
    words = realigned(cue.words, found, session.word_room(cue))
    if words != list(cue.words):
        retime_near(session, session.save_cue(cue.with_words(tuple(words))))


def _piece_time(time: WordTime, offset_us: int) -> tuple[int, int]:
    return offset_us + round(time.start_s * SECOND), offset_us + round(time.end_s * SECOND)
