"""Edits around the glossary: what it changes in captions that are there, and what is put back."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Ids
from mortiser.core.edits.base import BaseEdit, each_word, short, word_of
from mortiser.core.edits.projection import rewrite
from mortiser.core.edits.retiming import retime_near
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.runs import retype_run
from mortiser.core.transcript.glossary import Respelling, reworded
from mortiser.core.transcript.words import Cue, Shown, tokens


class Rewording(BaseModel):
    """Neighbouring words that are to read otherwise."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    word_ids: Ids = Field(min_length=1)
    text: str = Field(min_length=1, max_length=200)


class ApplyGlossary(BaseEdit):
    """Write heard words as the glossary says; what was heard stays beside them."""

    kind: Literal["apply_glossary"] = "apply_glossary"
    piece_id: Id
    changes: list[Rewording]

    def concerns(self) -> None:
        return None

    def label(self, session: EditSession) -> str:
        if len(self.changes) == 1:
            return f"glossary: “{short(self.changes[0].text)}”"
        return f"glossary: {len(self.changes)} changes"

    def apply(self, session: EditSession) -> None:
        cues = session.cues(self.piece_id)
        words = [word for cue in cues for word in cue.words]
        owners = [cue for cue in cues for _ in cue.words]
        place = {word.id: index for index, word in enumerate(words)}
        changes: list[Respelling] = []
        for wanted in self.changes:
            at = [place.get(word_id, -1) for word_id in wanted.word_ids]
            if at != list(range(at[0], at[0] + len(at))) or at[0] < 0:
                raise BadInput("Those words do not stand together any more.")
            changes.append(Respelling(at[0], at[-1], wanted.text))
        changes.sort(key=lambda change: change.first)
        touched: dict[int, list[Shown]] = {}
        for change in changes:
            for owner in owners[change.first : change.last + 1]:
                touched[owner.id] = []
        for word, owner in _with_owners(words, owners, changes):
            if owner.id in touched:
                touched[owner.id].append(word)
        old = [cue for cue in cues if cue.id in touched]
        fresh = [cue.with_words(tuple(touched[cue.id])) for cue in old if touched[cue.id]]
        for cue in rewrite(session, old, fresh):
            retime_near(session, session.cue(cue.id))


class RefuseGlossary(BaseEdit):
    """Put back what was heard in the place of what the glossary wrote; it is not asked again."""

    kind: Literal["refuse_glossary"] = "refuse_glossary"
    cue_id: Id
    word_id: Id

    def label(self, session: EditSession) -> str:
        heard = word_of(session.cue(self.cue_id), self.word_id).heard_as
        return f"put back “{short(heard or '')}”"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        word = word_of(cue, self.word_id)
        if not word.heard_as:
            raise BadInput("The glossary has not changed that word.")
        cues, run = changed_run(session, cue, word)
        ids = {w.id for w in run}
        lines: list[str] = []
        for each in cues:
            texts = [word.heard_as if w.id == word.id else w.text for w in each.words
                     if w.id == word.id or w.id not in ids]  # fmt: skip
            lines.append(" ".join(texts))
        before = cue.words.index(word)
        retype_run(session, cues, lines)
        saved = session.cue(self.cue_id)
        count = len(tokens(word.heard_as))
        settled = [
            replace(w, heard_as=None, origin="typed") if before <= index < before + count else w
            for index, w in enumerate(saved.words)
        ]
        session.save_cue(saved.with_words(tuple(settled)))
        session.note_correction(word.heard_as, word.heard_as)


class KeepGlossary(BaseEdit):
    """Agree to all that the glossary wrote in the piece."""

    kind: Literal["keep_glossary"] = "keep_glossary"
    piece_id: Id

    def label(self, session: EditSession) -> str:
        return "keep what the glossary wrote"

    def apply(self, session: EditSession) -> None:
        each_word(
            session,
            self.piece_id,
            lambda w: w if w.heard_as is None else replace(w, heard_as=None),
        )


def changed_run(session: EditSession, cue: Cue, word: Shown) -> tuple[list[Cue], list[Shown]]:
    """The words of one change of the glossary, and the captions they are in (two at most)."""
    _, after = session.around(cue, 1)
    run = [word]
    cues = [cue]
    at = cue.words.index(word) + 1
    for each, words in ((cue, cue.words[at:]), *((c, c.words) for c in after)):
        for other in words:
            if other.heard_as != "":
                return cues, run
            run.append(other)
            if each not in cues:
                cues.append(each)
    return cues, run


def _with_owners(
    words: list[Shown], owners: list[Cue], changes: list[Respelling]
) -> list[tuple[Shown, Cue]]:
    """The reworded words, each with the caption it goes into."""
    into: list[Cue] = []
    at = 0
    for change in changes:
        into += owners[at : change.first]
        count, old = len(tokens(change.text)), change.last - change.first + 1
        same = owners[change.first : change.last + 1]
        into += same if count == old else [owners[change.first]] * count
        at = change.last + 1
    into += owners[at:]
    return list(zip(reworded(words, changes), into, strict=True))
