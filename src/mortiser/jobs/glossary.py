"""The glossary at work: on lines as they are heard, on captions that are there, on doubts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mortiser.core.doubt import doubtful
from mortiser.core.edits.glossary import ApplyGlossary, Rewording
from mortiser.core.glossary import Entry, Glossary, reworded, worth_an_entry
from mortiser.core.words import Word
from mortiser.jobs.runner import Parts
from mortiser.store import editing, glossary, projects
from mortiser.store.editing import Outcome
from mortiser.store.glossary import Offer

MOST_ALTERNATIVES = 3
MOST_NAMES = 40
"""An engine listens for no more words than go into its prompt."""


class GlossaryBench:
    """Reads the entries anew whenever they changed."""

    def __init__(self, parts: Parts) -> None:
        self._parts = parts
        self._sounds = parts.sounds()
        self._state: tuple[list[Entry], list[str]] = ([], [])
        self._glossary = Glossary((), self._sounds)

    def write(self, words: Sequence[Word]) -> list[Word]:
        """Freshly heard words as the glossary has them."""
        return reworded(words, self._now().changes(words))

    def suggest(self, words: Sequence[Word]) -> list[Word]:
        """The words, doubtful ones with the entry that they may stand for as first alternative."""
        book = self._now()
        result: list[Word] = []
        for word in words:
            like = book.like(word.text) if doubtful(word) else None
            if like is not None and like != word.text:
                others = (like, *(text for text in word.alternatives if text != like))
                word = replace(word, alternatives=others[:MOST_ALTERNATIVES])
            result.append(word)
        return result

    def names(self) -> list[str]:
        """What to listen for: how the entries are written, the newest first, not too many."""
        self._now()
        return [entry.written for entry in reversed(self._state[0])][:MOST_NAMES]

    def apply(self, project_id: int, base_revision: int) -> tuple[int, Outcome | None]:
        """Make the changes in a project's captions as one edit; how many, and what became of it."""
        with self._parts.database.snapshot() as db:
            piece = projects.first_piece(db, project_id)
            cues = projects.piece_cues(db, piece.id)
        words = [word for cue in cues for word in cue.words]
        changes = [
            Rewording(
                word_ids=[word.id for word in words[change.first : change.last + 1]],
                text=change.text,
            )
            for change in self._now().changes(words)
        ]
        if not changes:
            return 0, None
        edit = ApplyGlossary(piece_id=piece.id, changes=changes)
        return len(changes), editing.apply(self._parts.database, project_id, base_revision, edit)

    def offers(self) -> list[Offer]:
        """Corrections made again that look like something misheard."""
        return [
            offer
            for offer in glossary.offers(self._parts.database.connection)
            if worth_an_entry(offer.heard, offer.written, self._sounds)
        ]

    def _now(self) -> Glossary:
        db = self._parts.database.connection
        state = glossary.entries(db), glossary.refused(db)
        if state != self._state:
            self._state = state
            self._glossary = Glossary(state[0], self._sounds, state[1])
        return self._glossary
