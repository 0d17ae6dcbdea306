"""The glossary at work: on lines as they are heard, on captions that are there, on doubts."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from mortiser.core.edits.text.glossary import ApplyGlossary, Rewording
from mortiser.core.transcript.doubt import MOST_ALTERNATIVES, doubtful
from mortiser.core.transcript.glossary import Glossary, Respelling, reworded, worth_an_entry
from mortiser.core.transcript.sounding import Sounds
from mortiser.core.transcript.words import Word
from mortiser.store import editing, glossary, projects
from mortiser.store.database import Database
from mortiser.store.editing import Outcome
from mortiser.store.glossary import Offer, Spellings


class Speller:
    """Writes words by the entries of one moment."""

    def __init__(self, spellings: Spellings, sounds: Sounds) -> None:
        self.spellings = spellings
        self._glossary = Glossary(spellings.entries, sounds, spellings.refused)

    def changes(self, words: Sequence[Word]) -> list[Respelling]:
        """What the entries would have otherwise."""
        return self._glossary.changes(words)

    def write(self, words: Sequence[Word]) -> list[Word]:
        """Freshly heard words as the glossary has them."""
        return reworded(words, self._glossary.changes(words))

    def suggest(self, words: Sequence[Word]) -> list[Word]:
        """The words, doubtful ones with the entry that they may stand for as first alternative."""
        result: list[Word] = []
        for word in words:
            like = self._glossary.like(word.text) if doubtful(word) else None
            if like is not None and like != word.text:
                others = (like, *(text for text in word.alternatives if text != like))
                word = replace(word, alternatives=others[:MOST_ALTERNATIVES])
            result.append(word)
        return result


class GlossaryBench:
    """The workspace's glossary, read anew whenever it changed."""

    def __init__(self, database: Database, sounds: Sounds) -> None:
        self._database = database
        self._sounds = sounds
        self._speller = Speller(Spellings(), sounds)

    def now(self) -> Speller:
        """Writes words by the entries as they are now."""
        spellings = glossary.spellings(self._database.connection)
        if spellings != self._speller.spellings:
            self._speller = Speller(spellings, self._sounds)
        return self._speller

    def apply(
        self, project_id: int, base_revision: int, piece_id: int | None = None
    ) -> tuple[int, Outcome | None]:
        """Make the changes in a piece's captions as one edit; how many, and what became of it."""
        with self._database.snapshot() as db:
            piece = projects.chosen_piece(db, project_id, piece_id)
            cues = projects.piece_cues(db, piece.id)
        words = [word for cue in cues for word in cue.words]
        changes = [
            Rewording(
                word_ids=[word.id for word in words[change.first : change.last + 1]],
                text=change.text,
            )
            for change in self.now().changes(words)
        ]
        if not changes:
            return 0, None
        edit = ApplyGlossary(piece_id=piece.id, changes=changes)
        return len(changes), editing.apply(self._database, project_id, base_revision, edit)

    def offers(self, project_id: int | None = None) -> list[Offer]:
        """Corrections made again (or of a project, once) that look like something misheard."""
        return [
            offer
            for offer in glossary.offers(self._database.connection, project_id)
            if worth_an_entry(offer.heard, offer.written, self._sounds)
        ]
