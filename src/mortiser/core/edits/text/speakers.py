"""Edits of who speaks: found, renamed, merged, given to other words, shown."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.captions.cue_timing import untimed_cue
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Ids, Name
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.retiming import CONTEXT, retime_run
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Shown

MOST_LETTERS = 40


class NameSpeakers(BaseEdit):
    """Say who speaks many words at once, by word id; captions are parted where the speaker changes."""

    kind: Literal["name_speakers"] = "name_speakers"
    piece_id: Id
    names: dict[str, list[int]]

    def label(self, session: EditSession) -> str:
        return f"find {len(self.names)} speakers"

    def apply(self, session: EditSession) -> None:
        speaks = {word_id: name for name, ids in self.names.items() for word_id in ids}
        for cue in session.cues(self.piece_id):
            _say_who(session, cue, [speaks.get(word.id, word.speaker) for word in cue.words])


class SetSpeaker(BaseEdit):
    """Say who speaks in some captions; nobody, where the name is empty."""

    kind: Literal["set_speaker"] = "set_speaker"
    cue_ids: Ids = Field(min_length=1)
    name: str = Field(max_length=200)

    def label(self, session: EditSession) -> str:
        return f"speaker {short(name)}" if (name := _name(self.name)) else "no speaker"

    def apply(self, session: EditSession) -> None:
        name = _name(self.name)
        for cue_id in self.cue_ids:
            cue = session.cue(cue_id)
            _say_who(session, cue, [name] * len(cue.words))


class RenameSpeaker(BaseEdit):
    """Give a speaker another name; one that is taken makes them one speaker."""

    kind: Literal["rename_speaker"] = "rename_speaker"
    piece_id: Id
    old: Name
    new: str = Field(max_length=200)

    def label(self, session: EditSession) -> str:
        return f"speaker {short(_name(self.new) or '')}"

    def apply(self, session: EditSession) -> None:
        new = _name(self.new)
        if new is None:
            raise BadInput("A speaker needs a name.")
        cues = [
            c for c in session.cues(self.piece_id) if any(w.speaker == self.old for w in c.words)
        ]
        if not cues:
            raise BadInput(f"Nobody called “{self.old}” speaks here any more.")
        for cue in cues:
            _say_who(session, cue, [new if w.speaker == self.old else w.speaker for w in cue.words])


class ShowSpeakers(BaseEdit):
    """Put the speakers' names into captions and files, or leave them out."""

    kind: Literal["show_speakers"] = "show_speakers"
    piece_id: Id
    shown: bool

    def label(self, session: EditSession) -> str:
        return "show speakers" if self.shown else "hide speakers"

    def apply(self, session: EditSession) -> None:
        session.save_settings(
            self.piece_id, replace(session.settings(self.piece_id), show_speakers=self.shown)
        )


def _name(text: str) -> str | None:
    name = " ".join(text.split())
    if len(name) > MOST_LETTERS:
        raise BadInput(f"A speaker's name has {MOST_LETTERS} letters at most.")
    return name or None


def _say_who(session: EditSession, cue: Cue, names: Sequence[str | None]) -> None:
    """Set the speakers of a caption's words; it is parted where another one begins."""
    words = [replace(w, speaker=name) for w, name in zip(cue.words, names, strict=True)]
    if words == list(cue.words):
        return
    runs: list[list[Shown]] = []
    for word in words:
        if runs and runs[-1][-1].speaker == word.speaker:
            runs[-1].append(word)
        else:
            runs.append([word])
    if len(runs) == 1:
        session.save_cue(cue.with_words(tuple(words)))
        return
    before, after = session.around(cue, CONTEXT)
    first = replace(untimed_cue(cue.piece_id, runs[0]), id=cue.id)
    if cue.start_pinned:
        first = replace(first, start_us=min(cue.start_us, first.end_us - 1), start_pinned=True)
    saved = [session.save_cue(first)]
    saved += [session.save_cue(untimed_cue(cue.piece_id, run)) for run in runs[1:]]
    retime_run(session, before, saved, after)
