"""Edits of all places of a word, of all that somebody says, and the way back from them."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field, JsonValue

from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id
from mortiser.core.edits.base import BaseEdit, each_word, short
from mortiser.core.edits.look.settings import setting_name
from mortiser.core.edits.session import EditSession
from mortiser.core.style.finish.changes import changed, changed_accent, look_of, look_text
from mortiser.core.style.finish.model import MOST_ACCENTS
from mortiser.core.transcript.words import Shown, word_key


class MarkEverywhere(BaseEdit):
    """Mark a word with an accent wherever it occurs, now and when it comes again; 0 takes it back."""

    kind: Literal["mark_everywhere"] = "mark_everywhere"
    piece_id: Id
    text: str = Field(min_length=1, max_length=200)
    accent: int = Field(ge=0, le=MOST_ACCENTS)

    def label(self, session: EditSession) -> str:
        return f"{'mark' if self.accent else 'unmark'} “{short(self.text)}” everywhere"

    def apply(self, session: EditSession) -> None:
        key = word_key(self.text)
        each_word(
            session,
            self.piece_id,
            lambda w: replace(w, accent=self.accent) if word_key(w.text) == key else w,
        )
        was = session.settings(self.piece_id)
        now = replace(was, standing=was.standing.with_mark(self.text, self.accent))
        session.save_settings(self.piece_id, now)


class DressEverywhere(BaseEdit):
    """Set some values of how a word looks wherever it occurs, now and when it comes again.

    Null takes a value back.
    """

    kind: Literal["dress_everywhere"] = "dress_everywhere"
    piece_id: Id
    text: str = Field(min_length=1, max_length=200)
    changes: dict[str, JsonValue] = Field(min_length=1, max_length=40)

    def label(self, session: EditSession) -> str:
        what = setting_name(next(iter(self.changes)))
        return f"{what} of “{short(self.text)}” everywhere"

    def apply(self, session: EditSession) -> None:
        key = word_key(self.text)
        finish = session.settings(self.piece_id).finish

        def dressed(word: Shown) -> Shown:
            if word_key(word.text) != key:
                return word
            look = _over(word.own, self.changes)
            changed_accent(finish.accent(word.accent), look)
            return replace(word, own=look_text(look))

        each_word(session, self.piece_id, dressed)
        standing = session.settings(self.piece_id).standing
        kept = look_text(_over(standing.own.get(key, ""), self.changes))
        session.save_settings(
            self.piece_id,
            replace(session.settings(self.piece_id), standing=standing.with_own(self.text, kept)),
        )


class DressSpeaker(BaseEdit):
    """Set some values of how all that somebody says looks, by dotted paths; null takes one back."""

    kind: Literal["dress_speaker"] = "dress_speaker"
    piece_id: Id
    name: str = Field(min_length=1, max_length=80)
    changes: dict[str, JsonValue] = Field(min_length=1, max_length=60)

    def label(self, session: EditSession) -> str:
        return f"{setting_name(next(iter(self.changes)))} of {short(self.name)}"

    def apply(self, session: EditSession) -> None:
        standing = session.settings(self.piece_id).standing
        look = _over(standing.speakers.get(self.name, ""), self.changes)
        finish = session.settings(self.piece_id).finish
        plain = {path: value for path, value in look.items() if value is not None}
        changed(finish, plain)
        session.save_settings(
            self.piece_id,
            replace(
                session.settings(self.piece_id),
                standing=standing.with_speaker(self.name, look_text(plain)),
            ),
        )


class TakeBack(BaseEdit):
    """Take back, in the whole piece, all marks, all of one word's marks and looks, or all looks that
    captions, words and speakers have of their own."""

    kind: Literal["take_back"] = "take_back"
    piece_id: Id
    what: Literal["marks", "word", "overrides"]
    text: str = Field(default="", max_length=200, description="Which word.")

    def label(self, session: EditSession) -> str:
        if self.what == "word":
            return f"take back all of “{short(self.text)}”"
        return "take back all marks" if self.what == "marks" else "take back all overrides"

    def apply(self, session: EditSession) -> None:
        standing = session.settings(self.piece_id).standing
        match self.what:
            case "marks":
                found = each_word(session, self.piece_id, lambda w: replace(w, accent=0))
                left = standing.model_copy(update={"marks": {}})
            case "overrides":
                found = each_word(session, self.piece_id, lambda w: replace(w, look="", own=""))
                left = standing.model_copy(update={"own": {}, "speakers": {}})
            case "word":
                key = word_key(self.text)
                found = each_word(
                    session,
                    self.piece_id,
                    lambda w: replace(w, accent=0, own="") if word_key(w.text) == key else w,
                )
                left = standing.with_mark(self.text, 0).with_own(self.text, "")
        if not found and left == standing:
            raise BadInput("There is nothing of that kind to take back.")
        session.save_settings(
            self.piece_id, replace(session.settings(self.piece_id), standing=left)
        )


def _over(look: str, changes: dict[str, JsonValue]) -> dict[str, JsonValue]:
    """A stored look with changes over it; what is null is taken back."""
    whole = look_of(look) | changes
    gone = [path for path, value in changes.items() if value is None]
    return {
        path: value
        for path, value in whole.items()
        if value is not None and not any(path.startswith(f"{one}.") for one in gone)
    }
