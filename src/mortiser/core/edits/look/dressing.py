"""Dress single captions and words: what they have in place of the finish's settings."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, JsonValue

from mortiser.core.common.errors import NotFound
from mortiser.core.common.limits import Id, Ids, Name
from mortiser.core.edits.base import BaseEdit, chosen, counted, save_changed, short, words_of
from mortiser.core.edits.look.settings import setting_name
from mortiser.core.edits.session import CaptionSession, EditSession
from mortiser.core.style.finish.changes import changed, changed_accent, look_of, look_text
from mortiser.core.style.finish.model import Finish
from mortiser.core.transcript.words import Cue, Shown


class DressCues(BaseEdit):
    """Set some values of how these captions look, by dotted paths; the rest stays the finish's."""

    kind: Literal["dress_cues"] = "dress_cues"
    cue_ids: Ids = Field(min_length=1)
    changes: dict[str, JsonValue] = Field(min_length=1, max_length=60)

    def label(self, session: EditSession) -> str:
        what = setting_name(next(iter(self.changes)))
        return f"{what} of {counted(chosen(session, self.cue_ids))}"

    def apply(self, session: EditSession) -> None:
        cues = chosen(session, self.cue_ids)
        finish = session.settings(cues[0].piece_id).finish
        fresh = {look: _over(finish, look, self.changes) for look in {cue.look for cue in cues}}
        put_on(session, cues, [fresh[cue.look] for cue in cues])


def _over(finish: Finish, look: str, changes: dict[str, JsonValue]) -> str:
    """A stored look with changes over it, without what is as in the finish."""
    whole = look_of(look) | changes
    changed(finish, whole)
    same = {path for path in whole if changed(finish, {path: whole[path]}) == finish}
    return look_text({path: value for path, value in whole.items() if path not in same})


class OneLook(BaseModel):
    """Settings for one caption, by dotted paths."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    cue_id: Id
    changes: dict[str, JsonValue] = Field(min_length=1, max_length=60)


class DressEach(BaseEdit):
    """Set values of several captions, each its own; those that are gone are passed over."""

    kind: Literal["dress_each"] = "dress_each"
    looks: list[OneLook] = Field(min_length=1, max_length=20_000)

    def label(self, session: EditSession) -> str:
        what = setting_name(next(iter(self.looks[0].changes)))
        return f"{what} of {counted(self.looks)}"

    def apply(self, session: EditSession) -> None:
        changes = {one.cue_id: one.changes for one in self.looks}
        cues = session.some(changes)
        if not cues:
            raise NotFound("Those captions are gone. The page shows the newest state.")
        finishes = {
            piece_id: session.settings(piece_id).finish
            for piece_id in {cue.piece_id for cue in cues}
        }
        # Many have the same look and get the same changes.
        over: dict[tuple[int, str, str], str] = {}
        looks: list[str] = []
        for cue in cues:
            wanted = changes[cue.id]
            key = cue.piece_id, cue.look, repr(wanted)
            if key not in over:
                over[key] = _over(finishes[cue.piece_id], cue.look, wanted)
            looks.append(over[key])
        put_on(session, cues, looks)


class UndressCues(BaseEdit):
    """Go back to the finish: in some settings (dotted paths) of these captions, or in all."""

    kind: Literal["undress_cues"] = "undress_cues"
    cue_ids: Ids = Field(min_length=1)
    paths: list[Name] = Field(
        default=[], max_length=200, description="Everything, the words' own too, where empty."
    )

    def label(self, session: EditSession) -> str:
        return f"back to finish: {counted(chosen(session, self.cue_ids))}"

    def apply(self, session: EditSession) -> None:
        cues = chosen(session, self.cue_ids)
        if self.paths:
            looks = [look_of(cue.look) for cue in cues]
            left = [{p: v for p, v in look.items() if p not in self.paths} for look in looks]
            put_on(session, cues, list(map(look_text, left)))
            return
        bare = [
            cue.with_words(tuple(replace(word, look="", own="") for word in cue.words))
            for cue in cues
        ]
        save_changed(session, cues, bare)


class CopyLook(BaseEdit):
    """Give other captions what one caption has in place of the finish's settings."""

    kind: Literal["copy_look"] = "copy_look"
    from_cue_id: Id
    cue_ids: Ids = Field(min_length=1)

    def label(self, session: EditSession) -> str:
        return f"copy look to {counted(chosen(session, self.cue_ids))}"

    def apply(self, session: EditSession) -> None:
        look = session.cue(self.from_cue_id).look
        cues = chosen(session, self.cue_ids)
        put_on(session, cues, [look] * len(cues))


class DressWords(BaseEdit):
    """Set some values of how single words look (those an accent has), by dotted paths.

    Null takes a value back.
    """

    kind: Literal["dress_words"] = "dress_words"
    cue_ids: Ids = Field(min_length=1)
    word_ids: Ids = Field(min_length=1)
    changes: dict[str, JsonValue] = Field(min_length=1, max_length=40)

    def label(self, session: EditSession) -> str:
        words = words_of(chosen(session, self.cue_ids), self.word_ids)
        what = f"“{short(words[0].text)}”" if len(words) == 1 else f"{len(words)} words"
        return f"{setting_name(next(iter(self.changes)))} of {what}"

    def apply(self, session: EditSession) -> None:
        cues = chosen(session, self.cue_ids)
        wanted = set(words_of(cues, self.word_ids))
        finish = session.settings(cues[0].piece_id).finish

        def dressed(word: Shown) -> Shown:
            if word not in wanted:
                return word
            own = look_of(word.own) | self.changes
            own = {path: value for path, value in own.items() if value is not None}
            changed_accent(finish.accent(word.accent), own)
            return replace(word, own=look_text(own))

        fresh = [cue.with_words(tuple(map(dressed, cue.words))) for cue in cues]
        save_changed(session, cues, fresh)


def put_on(session: CaptionSession, cues: Sequence[Cue], looks: Sequence[str]) -> None:
    """Give captions a look each."""
    fresh = [
        cue.with_words(tuple(replace(word, look=look) for word in cue.words))
        for cue, look in zip(cues, looks, strict=True)
    ]
    save_changed(session, cues, fresh)
