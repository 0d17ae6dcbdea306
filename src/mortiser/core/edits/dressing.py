"""Dress single captions and words: what they have in place of the finish's settings."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, JsonValue

from mortiser.core.edits.base import BaseEdit, chosen, counted, short, words_of
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.settings import setting_name
from mortiser.core.errors import NotFound
from mortiser.core.finish.changes import changed, changed_accent, look_of, look_text
from mortiser.core.finish.model import Finish
from mortiser.core.limits import Id, Ids, Name
from mortiser.core.words import Cue, Shown


class DressCues(BaseEdit):
    """Set some values of how these captions look, by dotted paths; the rest stays the finish's."""

    kind: Literal["dress_cues"] = "dress_cues"
    cue_ids: Ids = Field(min_length=1)
    changes: dict[str, JsonValue] = Field(min_length=1, max_length=60)

    def label(self, desk: Desk) -> str:
        what = setting_name(next(iter(self.changes)))
        return f"{what} of {counted(chosen(desk, self.cue_ids))}"

    def apply(self, desk: Desk) -> None:
        cues = chosen(desk, self.cue_ids)
        finish = desk.finish(cues[0].piece_id)
        fresh = {look: _over(finish, look, self.changes) for look in {cue.look for cue in cues}}
        for cue in cues:
            _put_on(desk, cue, fresh[cue.look])


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

    def label(self, desk: Desk) -> str:
        what = setting_name(next(iter(self.looks[0].changes)))
        return f"{what} of {counted(self.looks)}"

    def apply(self, desk: Desk) -> None:
        done = 0
        for one in self.looks:
            with suppress(NotFound):
                DressCues(cue_ids=[one.cue_id], changes=one.changes).apply(desk)
                done += 1
        if not done:
            raise NotFound("Those captions are gone. The page shows the newest state.")


class UndressCues(BaseEdit):
    """Go back to the finish: in some settings (dotted paths) of these captions, or in all."""

    kind: Literal["undress_cues"] = "undress_cues"
    cue_ids: Ids = Field(min_length=1)
    paths: list[Name] = Field(
        default=[], max_length=200, description="Everything, the words' own too, where empty."
    )

    def label(self, desk: Desk) -> str:
        return f"back to finish: {counted(chosen(desk, self.cue_ids))}"

    def apply(self, desk: Desk) -> None:
        for cue in chosen(desk, self.cue_ids):
            if not self.paths:
                words = tuple(replace(word, look="", own="") for word in cue.words)
                _save(desk, cue, words)
            else:
                look = {p: v for p, v in look_of(cue.look).items() if p not in self.paths}
                _put_on(desk, cue, look_text(look))


class CopyLook(BaseEdit):
    """Give other captions what one caption has in place of the finish's settings."""

    kind: Literal["copy_look"] = "copy_look"
    from_cue_id: Id
    cue_ids: Ids = Field(min_length=1)

    def label(self, desk: Desk) -> str:
        return f"copy look to {counted(chosen(desk, self.cue_ids))}"

    def apply(self, desk: Desk) -> None:
        look = desk.cue(self.from_cue_id).look
        for cue in chosen(desk, self.cue_ids):
            _put_on(desk, cue, look)


class DressWords(BaseEdit):
    """Set some values of how single words look (those an accent has), by dotted paths.

    Null takes a value back.
    """

    kind: Literal["dress_words"] = "dress_words"
    cue_ids: Ids = Field(min_length=1)
    word_ids: Ids = Field(min_length=1)
    changes: dict[str, JsonValue] = Field(min_length=1, max_length=40)

    def label(self, desk: Desk) -> str:
        words = words_of(chosen(desk, self.cue_ids), self.word_ids)
        what = f"“{short(words[0].text)}”" if len(words) == 1 else f"{len(words)} words"
        return f"{setting_name(next(iter(self.changes)))} of {what}"

    def apply(self, desk: Desk) -> None:
        cues = chosen(desk, self.cue_ids)
        wanted = set(words_of(cues, self.word_ids))
        finish = desk.finish(cues[0].piece_id)
        for cue in cues:
            words = []
            for word in cue.words:
                if word in wanted:
                    own = look_of(word.own) | self.changes
                    own = {path: value for path, value in own.items() if value is not None}
                    changed_accent(finish.accent(word.accent), own)
                    word = replace(word, own=look_text(own))
                words.append(word)
            _save(desk, cue, tuple(words))


def _put_on(desk: Desk, cue: Cue, look: str) -> None:
    _save(desk, cue, tuple(replace(word, look=look) for word in cue.words))


def _save(desk: Desk, cue: Cue, words: tuple[Shown, ...]) -> None:
    if words != cue.words:
        desk.save_cue(cue.with_words(words))
