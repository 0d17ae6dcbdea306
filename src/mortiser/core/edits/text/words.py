"""Edits of words: retype, replace, accept."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Count, Id
from mortiser.core.edits.base import BaseEdit, each_word, short, word_of
from mortiser.core.edits.projection import Rewritten, erase, rewrite, rewrite_each
from mortiser.core.edits.retiming import retime_each, retime_near
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript import search
from mortiser.core.transcript.carry import carry
from mortiser.core.transcript.doubt import doubtful
from mortiser.core.transcript.glossary import corrections
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import Cue, tokens, word_key


class RetypeCue(BaseEdit):
    """Correct the text of a caption; the words that stay keep their times."""

    kind: Literal["retype_cue"] = "retype_cue"
    cue_id: Id
    text: str = Field(max_length=2_000)

    def label(self, session: EditSession) -> str:
        before = {word_key(w.text) for w in session.cue(self.cue_id).words}
        fresh = [t for t in tokens(self.text) if word_key(t) not in before]
        return f"retype “{fresh[0]}”" if fresh else "retype caption"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        words = carry(cue.words, self.text, session.word_room(cue))
        if not words:
            raise BadInput("A caption needs at least one word. To take it away, delete it.")
        for heard, written in corrections(cue.words, self.text):
            session.note_correction(heard, written)
        (saved,) = rewrite(session, [cue], [cue.with_words(tuple(words))])
        retime_near(session, saved)


class ReplaceWord(BaseEdit):
    """Put another text in the place of one word; an empty one takes the word out."""

    kind: Literal["replace_word"] = "replace_word"
    cue_id: Id
    word_id: Id
    text: str = Field(max_length=200)

    def label(self, session: EditSession) -> str:
        fresh = " ".join(tokens(self.text))
        if fresh:
            return f"retype “{fresh}”"
        return f"take out “{word_of(session.cue(self.cue_id), self.word_id).text}”"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        word_of(cue, self.word_id)
        if len(cue.words) == 1 and not tokens(self.text):
            erase(session, cue)
            return
        texts = [self.text if w.id == self.word_id else w.text for w in cue.words]
        RetypeCue(cue_id=self.cue_id, text=joined(texts)).apply(session)


class AcceptWord(BaseEdit):
    """Say that a word is right: as it was heard, or as the glossary wrote it."""

    kind: Literal["accept_word"] = "accept_word"
    cue_id: Id
    word_id: Id

    def label(self, session: EditSession) -> str:
        return f"accept “{word_of(session.cue(self.cue_id), self.word_id).text}”"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        at = cue.words.index(word_of(cue, self.word_id))
        words = list(cue.words)
        words[at] = replace(words[at], confidence=1.0, alternatives=(), heard_as=None)
        for index in range(at + 1, len(words)):
            if words[index].heard_as != "":
                break
            words[index] = replace(words[index], heard_as=None)
        session.save_cue(cue.with_words(tuple(words)))


class AcceptAll(BaseEdit):
    """Say that all words still in doubt are right as they were heard."""

    kind: Literal["accept_all"] = "accept_all"
    piece_id: Id

    def concerns(self) -> None:
        return None

    def label(self, session: EditSession) -> str:
        count = sum(doubtful(word) for cue in session.cues(self.piece_id) for word in cue.words)
        return f"keep {count} doubtful word{'' if count == 1 else 's'}"

    def apply(self, session: EditSession) -> None:
        each_word(
            session,
            self.piece_id,
            lambda w: replace(w, confidence=1.0, alternatives=()) if doubtful(w) else w,
        )


class ReplaceText(BaseEdit):
    """Put another text in one or all places of a text in the piece."""

    kind: Literal["replace_text"] = "replace_text"
    piece_id: Id
    find: str = Field(min_length=1, max_length=200)
    text: str = Field(max_length=200)
    whole_words: bool = False
    match_case: bool = False
    only: Count | None = Field(
        default=None, description="Which place, counted from 0; all if left out."
    )

    def concerns(self) -> None:
        return None

    def label(self, session: EditSession) -> str:
        return f"replace “{short(self.find)}”"

    def apply(self, session: EditSession) -> None:
        cues = session.cues(self.piece_id)
        places = search.find(
            cues, self.find, whole_words=self.whole_words, match_case=self.match_case
        )
        if self.only is not None:
            places = places[self.only : self.only + 1]
        if not places:
            raise BadInput(f"“{self.find}” is not in the captions any more.")
        _retype(session, list(search.replaced_texts(cues, places, self.text).values()))


def _retype(session: EditSession, texts: Sequence[tuple[Cue, str]]) -> None:
    """Give captions of a piece, in time order, other texts; those that get none go."""
    changes: list[Rewritten] = []
    again: list[tuple[Cue, str]] = []
    taken: set[int] = set()
    said_us = 0
    for cue, text in texts:
        ids = {word.id for word in cue.words}
        if ids & taken:
            # The same passage once more: it has the new words by then, or a part of them.
            again.append((cue, text))
            continue
        taken |= ids
        left, right = session.word_room(cue)
        # What the caption before has been given may lie in the room of this one.
        room = min(max(left, said_us), cue.words[0].start_us), right
        words = carry(cue.words, text, room)
        for heard, written in corrections(cue.words, text) if words else ():
            session.note_correction(heard, written)
        changes.append(([cue], [cue.with_words(tuple(words))] if words else []))
        said_us = words[-1].end_us if words else said_us
    beside = [
        near.id
        for (cue,), fresh in changes
        if not fresh
        for side in session.around(cue, 1)
        for near in side
    ]
    saved = rewrite_each(session, changes)
    kept = {cue.id for cue in saved}
    retime_each(session, [*saved, *(cue for cue in session.some(beside) if cue.id not in kept)])
    for cue, text in again:
        if not session.some([cue.id]):
            continue
        if text:
            RetypeCue(cue_id=cue.id, text=text).apply(session)
        else:
            erase(session, session.cue(cue.id))
