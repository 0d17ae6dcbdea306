"""Every edit as one value. To add one: write the class with ``label`` and ``apply``, add it to Edit.

``apply`` reads and changes the project through the desk, and nothing else. A refusal is a
MortiserError; the store rolls the whole transaction back, so nothing is half done.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from dataclasses import replace
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter

from mortiser.core import finding
from mortiser.core.carry import carry
from mortiser.core.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.retiming import retime_all, retime_near, untimed_cue
from mortiser.core.errors import BadInput, NotFound
from mortiser.core.finish.builtin import FINISHES
from mortiser.core.grouping import GROUPINGS, GroupName, group
from mortiser.core.time import parse_timecode
from mortiser.core.words import Cue, Word, tokens, word_key


class _Edit(BaseModel, ABC):
    model_config = ConfigDict(frozen=True, extra="forbid")

    @abstractmethod
    def label(self, desk: Desk) -> str:
        """What an undo will take back, in a few words."""

    @abstractmethod
    def apply(self, desk: Desk) -> None:
        """Carry the edit out."""


class RetypeCue(_Edit):
    """Correct the text of a caption; the words that stay keep their times."""

    kind: Literal["retype_cue"] = "retype_cue"
    cue_id: int
    text: str = Field(max_length=2_000)

    def label(self, desk: Desk) -> str:
        before = {word_key(w.text) for w in desk.cue(self.cue_id).words}
        fresh = [t for t in tokens(self.text) if word_key(t) not in before]
        return f"retype “{fresh[0]}”" if fresh else "retype caption"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        words = carry(cue.words, self.text, desk.word_room(cue))
        if not words:
            raise BadInput("A caption needs at least one word. To take it away, delete it.")
        kept = {word.id for word in words}
        desk.delete_words([word.id for word in cue.words if word.id not in kept])
        retime_near(desk, desk.save_cue(cue.with_words(tuple(words))))


class ReplaceWord(_Edit):
    """Put another text in the place of one word; an empty one takes the word out."""

    kind: Literal["replace_word"] = "replace_word"
    cue_id: int
    word_id: int
    text: str = Field(max_length=200)

    def label(self, desk: Desk) -> str:
        fresh = " ".join(tokens(self.text))
        if fresh:
            return f"retype “{fresh}”"
        return f"take out “{_word_of(desk.cue(self.cue_id), self.word_id).text}”"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        _word_of(cue, self.word_id)
        if len(cue.words) == 1 and not tokens(self.text):
            DeleteCue(cue_id=self.cue_id).apply(desk)
            desk.delete_words([self.word_id])
            return
        texts = [self.text if w.id == self.word_id else w.text for w in cue.words]
        RetypeCue(cue_id=self.cue_id, text=" ".join(texts)).apply(desk)


class AcceptWord(_Edit):
    """Say that a doubtful word is right as it was heard."""

    kind: Literal["accept_word"] = "accept_word"
    cue_id: int
    word_id: int

    def label(self, desk: Desk) -> str:
        return f"accept “{_word_of(desk.cue(self.cue_id), self.word_id).text}”"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        word = replace(_word_of(cue, self.word_id), confidence=1.0, alternatives=())
        words = tuple(word if w.id == self.word_id else w for w in cue.words)
        desk.save_cue(cue.with_words(words))


class ReplaceText(_Edit):
    """Put another text in one or all places of a text in the piece."""

    kind: Literal["replace_text"] = "replace_text"
    piece_id: int
    find: str = Field(min_length=1, max_length=200)
    text: str = Field(max_length=200)
    whole_words: bool = False
    match_case: bool = False
    only: int | None = Field(
        default=None, ge=0, description="Which place, counted from 0; all if left out."
    )

    def label(self, desk: Desk) -> str:
        return f"replace “{_short(self.find)}”"

    def apply(self, desk: Desk) -> None:
        cues = desk.cues(self.piece_id)
        places = finding.find(
            cues, self.find, whole_words=self.whole_words, match_case=self.match_case
        )
        if self.only is not None:
            places = places[self.only : self.only + 1]
        if not places:
            raise BadInput(f"“{self.find}” is not in the captions any more.")
        for cue, text in finding.replaced_texts(cues, places, self.text).values():
            if text:
                RetypeCue(cue_id=cue.id, text=text).apply(desk)
            else:
                DeleteCue(cue_id=cue.id).apply(desk)
                desk.delete_words([word.id for word in cue.words])


class SetCueTimes(_Edit):
    """Pin a caption's start, end or both, in piece time (µs)."""

    kind: Literal["set_cue_times"] = "set_cue_times"
    cue_id: int
    start_us: int | None = Field(default=None, ge=0)
    end_us: int | None = Field(default=None, ge=0)

    def label(self, desk: Desk) -> str:
        if self.start_us is None:
            return "set caption end"
        return "set caption start" if self.end_us is None else "set caption times"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        start = cue.start_us if self.start_us is None else self.start_us
        end = cue.end_us if self.end_us is None else self.end_us
        if end - start < SHORTEST_SHOWN_US:
            raise BadInput("A caption must end after it starts, by at least 0.04 s.")
        self._check_neighbours(desk, cue, start, end)
        pinned = replace(
            cue,
            start_us=start,
            end_us=end,
            start_pinned=cue.start_pinned or self.start_us is not None,
            end_pinned=cue.end_pinned or self.end_us is not None,
        )
        retime_near(desk, desk.save_cue(pinned))

    def _check_neighbours(self, desk: Desk, cue: Cue, start: int, end: int) -> None:
        before, after = desk.around(cue, 1)
        if self.start_us is not None and before and start < before[0].start_us + SHORTEST_SHOWN_US:
            raise BadInput("That start lies before the caption in front. Move that one first.")
        if self.end_us is not None:
            if after and end > after[0].end_us:
                raise BadInput("That end lies beyond the next caption. Move that one first.")
            if end > desk.spans(cue.piece_id).duration_us:
                raise BadInput("That end lies beyond the end of the recording.")


class TypeCueTime(_Edit):
    """Pin an edge of a caption to a time as somebody typed it (``1:02.500``, ``62.5``)."""

    kind: Literal["type_cue_time"] = "type_cue_time"
    cue_id: int
    edge: Literal["start", "end"]
    text: str = Field(max_length=40)

    def label(self, desk: Desk) -> str:
        return f"set caption {self.edge}"

    def apply(self, desk: Desk) -> None:
        at = parse_timecode(self.text)
        if self.edge == "start":
            SetCueTimes(cue_id=self.cue_id, start_us=at).apply(desk)
        else:
            SetCueTimes(cue_id=self.cue_id, end_us=at).apply(desk)


class UnpinCue(_Edit):
    """Let a caption's times follow its words again."""

    kind: Literal["unpin_cue"] = "unpin_cue"
    cue_id: int

    def label(self, desk: Desk) -> str:
        return "unpin caption times"

    def apply(self, desk: Desk) -> None:
        cue = replace(desk.cue(self.cue_id), start_pinned=False, end_pinned=False)
        retime_near(desk, desk.save_cue(cue))


class DeleteCue(_Edit):
    """Take a caption away; its words stay in the source."""

    kind: Literal["delete_cue"] = "delete_cue"
    cue_id: int

    def label(self, desk: Desk) -> str:
        return f"delete “{_short(desk.cue(self.cue_id).text)}”"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        before, after = desk.around(cue, 1)
        desk.delete_cue(cue)
        for neighbour in (*before, *after):
            retime_near(desk, neighbour)


class SplitCue(_Edit):
    """Break a caption in two before one of its words."""

    kind: Literal["split_cue"] = "split_cue"
    cue_id: int
    before_word: int = Field(ge=1, description="Index of the word that starts the second half.")

    def label(self, desk: Desk) -> str:
        return "split caption"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        if self.before_word >= len(cue.words):
            raise BadInput("Put the caret between two words to split the caption there.")
        head, tail = cue.words[: self.before_word], cue.words[self.before_word :]
        middle = desk.spans(cue.piece_id).to_piece(tail[0].start_us)
        middle = min(max(middle, cue.start_us + SHORTEST_SHOWN_US), cue.end_us - SHORTEST_SHOWN_US)
        if not cue.start_us < middle < cue.end_us:
            raise BadInput("This caption is too short in time to split.")
        first = desk.save_cue(replace(cue, words=head, end_us=middle, end_pinned=False))
        second = Cue(cue.piece_id, tail, middle, cue.end_us, end_pinned=cue.end_pinned)
        desk.save_cue(second)
        retime_near(desk, first)


class JoinCue(_Edit):
    """Join a caption to the one before it."""

    kind: Literal["join_cue"] = "join_cue"
    cue_id: int

    def label(self, desk: Desk) -> str:
        return "join captions"

    def apply(self, desk: Desk) -> None:
        cue = desk.cue(self.cue_id)
        before, _ = desk.around(cue, 1)
        if not before:
            raise BadInput("There is no caption before this one to join it to.")
        first = before[0]
        desk.delete_cue(cue)
        joined = replace(
            first, words=first.words + cue.words, end_us=cue.end_us, end_pinned=cue.end_pinned
        )
        retime_near(desk, desk.save_cue(joined))


class Regroup(_Edit):
    """Group all words of the piece into captions anew."""

    kind: Literal["regroup"] = "regroup"
    piece_id: int
    grouping: GroupName

    def label(self, desk: Desk) -> str:
        return f"regroup as {self.grouping}"

    def apply(self, desk: Desk) -> None:
        shown = [word for cue in desk.cues(self.piece_id) for word in cue.words]
        for cue in desk.cues(self.piece_id):
            desk.delete_cue(cue)
        for start, end in group(shown, GROUPINGS[self.grouping]):
            desk.save_cue(untimed_cue(self.piece_id, shown[start:end], desk.spans(self.piece_id)))
        desk.set_grouping(self.piece_id, self.grouping)
        retime_all(desk, self.piece_id)


class SetFinish(_Edit):
    """Give the whole piece another finish."""

    kind: Literal["set_finish"] = "set_finish"
    piece_id: int
    finish: str

    def label(self, desk: Desk) -> str:
        return f"finish {self.finish}"

    def apply(self, desk: Desk) -> None:
        if self.finish not in FINISHES:
            raise BadInput(f"There is no finish “{self.finish}”. Try {', '.join(FINISHES)}.")
        desk.set_finish(self.piece_id, self.finish)


class RenameProject(_Edit):
    """Give the project another name."""

    kind: Literal["rename_project"] = "rename_project"
    name: str = Field(min_length=1, max_length=120)

    def label(self, desk: Desk) -> str:
        return "rename project"

    def apply(self, desk: Desk) -> None:
        if not self.name.strip():
            raise BadInput("A project needs a name.")
        desk.rename_project(self.name.strip())


Edit = Annotated[
    RetypeCue
    | ReplaceWord
    | AcceptWord
    | ReplaceText
    | SetCueTimes
    | TypeCueTime
    | UnpinCue
    | DeleteCue
    | SplitCue
    | JoinCue
    | Regroup
    | SetFinish
    | RenameProject,
    Field(discriminator="kind"),
]
EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)


def _word_of(cue: Cue, word_id: int) -> Word:
    found = next((word for word in cue.words if word.id == word_id), None)
    if found is None:
        raise NotFound("That word is not there any more. The page shows the newest state.")
    return found


def _short(text: str) -> str:
    return text if len(text) <= 24 else text[:23].rstrip() + "…"
