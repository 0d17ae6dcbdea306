"""Edits of captions as runs of words: add, delete, split, join, move a word over, break a line."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.captions.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Behind, Id, Ids, Micros
from mortiser.core.common.time import MILLISECOND, SECOND
from mortiser.core.edits.base import BaseEdit, chosen, counted, seamed, short
from mortiser.core.edits.retiming import retime_each, retime_near
from mortiser.core.edits.session import CaptionSession, EditSession
from mortiser.core.transcript.carry import spread
from mortiser.core.transcript.words import Cue, shown, tokens

ADDED_US = 2 * SECOND
LEAST_ROOM_US = 300 * MILLISECOND


class AddCue(BaseEdit):
    """Put a caption of one's own where nobody speaks; its times are pinned."""

    kind: Literal["add_cue"] = "add_cue"
    piece_id: Id
    at_us: Micros
    text: str = Field(max_length=2_000)

    def label(self, session: EditSession) -> str:
        return f"add “{short(self.text)}”"

    def apply(self, session: EditSession) -> None:
        texts = tokens(self.text)
        if not texts:
            raise BadInput("A caption needs at least one word.")
        timeline = session.timeline(self.piece_id)
        end = min(timeline.duration_us, self.at_us + ADDED_US)
        for cue in session.cues(self.piece_id):
            first, last = cue.words[0].start_us, cue.words[-1].end_us
            if min(first, cue.start_us) <= self.at_us < last or (
                cue.end_pinned and cue.start_us <= self.at_us < cue.end_us
            ):
                raise BadInput("There is a caption here. Split it, or go to where nobody speaks.")
            if cue.start_us > self.at_us:
                end = min(end, cue.start_us)
                break
        if end - self.at_us < LEAST_ROOM_US:
            raise BadInput("There is no room for a caption here: go 0.3 s or more before the next.")
        words = tuple(map(shown, spread(texts, self.at_us, end)))
        added = Cue(self.piece_id, words, self.at_us, end, True, True)
        retime_near(session, session.save_cue(added))


class DeleteCues(BaseEdit):
    """Take captions away; their words stay in the source."""

    kind: Literal["delete_cues"] = "delete_cues"
    cue_ids: Ids = Field(min_length=1)

    def label(self, session: EditSession) -> str:
        cues = chosen(session, self.cue_ids)
        return f"delete “{short(cues[0].text)}”" if len(cues) == 1 else f"delete {counted(cues)}"

    def apply(self, session: EditSession) -> None:
        cues = chosen(session, self.cue_ids)
        near: dict[int, Cue] = {}
        for cue in cues:
            before, after = session.around(cue, 1)
            near |= {one.id: one for one in (*before, *after)}
            near.pop(cue.id, None)
            session.delete_cues([cue])
        retime_each(session, list(near.values()))


class SplitCue(BaseEdit):
    """Break a caption in two before one of its words; regrouping keeps the break."""

    kind: Literal["split_cue"] = "split_cue"
    cue_id: Id
    before_word: Behind = Field(description="Index of the word that starts the second half.")

    def label(self, session: EditSession) -> str:
        return "split caption"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        if self.before_word >= len(cue.words):
            raise BadInput("Put the caret between two words to split the caption there.")
        head, tail = cue.words[: self.before_word], cue.words[self.before_word :]
        middle = min(
            max(tail[0].start_us, cue.start_us + SHORTEST_SHOWN_US), cue.end_us - SHORTEST_SHOWN_US
        )
        if not cue.start_us < middle < cue.end_us:
            raise BadInput("This caption is too short in time to split.")
        words = seamed(head, "break")
        first = session.save_cue(replace(cue, words=words, end_us=middle, end_pinned=False))
        second = Cue(cue.piece_id, tail, middle, cue.end_us, end_pinned=cue.end_pinned)
        session.save_cue(second)
        retime_near(session, first)


class SplitAt(BaseEdit):
    """Break the caption that shows at a moment of the piece before the word nearest to it."""

    kind: Literal["split_at"] = "split_at"
    piece_id: Id
    at_us: Micros

    def concerns(self) -> None:
        return None

    def label(self, session: EditSession) -> str:
        return "split caption"

    def apply(self, session: EditSession) -> None:
        cue = session.showing(self.piece_id, self.at_us)
        if cue is None:
            raise BadInput("No caption shows here. Go to a moment inside one to split it.")
        if len(cue.words) == 1:
            raise BadInput("This caption is one word; there is nothing to split.")
        starts = [word.start_us for word in cue.words]
        nearest = min(range(1, len(starts)), key=lambda i: abs(starts[i] - self.at_us))
        SplitCue(cue_id=cue.id, before_word=nearest).apply(session)


class JoinCue(BaseEdit):
    """Join a caption to the one before or after it; regrouping keeps them together."""

    kind: Literal["join_cue"] = "join_cue"
    cue_id: Id
    to: Literal["before", "after"] = "before"

    def label(self, session: EditSession) -> str:
        return "join captions"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        before, after = session.around(cue, 1)
        if not (before if self.to == "before" else after):
            raise BadInput(f"There is no caption {self.to} this one to join it to.")
        first, second = (before[0], cue) if self.to == "before" else (cue, after[0])
        join(session, first, second)


class JoinCues(BaseEdit):
    """Make one caption of several that follow one another."""

    kind: Literal["join_cues"] = "join_cues"
    cue_ids: Ids = Field(min_length=2)

    def label(self, session: EditSession) -> str:
        return f"join {counted(chosen(session, self.cue_ids))}"

    def apply(self, session: EditSession) -> None:
        cues = chosen(session, self.cue_ids)
        order = [cue.id for cue in session.cues(cues[0].piece_id)]
        at = order.index(cues[0].id)
        if order[at : at + len(cues)] != [cue.id for cue in cues]:
            raise BadInput("Only captions that follow one another can be joined.")
        first = cues[0]
        for cue in cues[1:]:
            first = join(session, first, cue)


def join(session: CaptionSession, first: Cue, second: Cue) -> Cue:
    """Make one caption of two that follow one another; as it is stored."""
    session.delete_cues([second])
    joined = replace(
        first,
        words=seamed(first.words, "join") + second.words,
        end_us=max(first.end_us, second.end_us),
        end_pinned=second.end_pinned,
    )
    retime_near(session, session.save_cue(joined))
    return session.cue(first.id)


class MoveWord(BaseEdit):
    """Give a caption's first word to the caption before, or its last to the caption after."""

    kind: Literal["move_word"] = "move_word"
    cue_id: Id
    which: Literal["first", "last"]

    def label(self, session: EditSession) -> str:
        word = session.cue(self.cue_id).words[0 if self.which == "first" else -1]
        return f"move “{short(word.text)}”"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        before, after = session.around(cue, 1)
        side = "before" if self.which == "first" else "after"
        near = before if self.which == "first" else after
        if not near:
            raise BadInput(f"There is no caption {side} this one to move the word to.")
        if len(cue.words) == 1:
            join(session, *((near[0], cue) if self.which == "first" else (cue, near[0])))
            return
        # The edges that the word went over follow the words again.
        if self.which == "first":
            words = seamed(near[0].words, "free") + seamed(cue.words[:1], "break")
            taker = replace(near[0], words=words, end_pinned=False)
            giver = replace(cue, words=cue.words[1:], start_pinned=False)
        else:
            words = seamed(cue.words[-1:], "free") + near[0].words
            taker = replace(near[0], words=words, start_pinned=False)
            giver = replace(cue, words=seamed(cue.words[:-1], "break"), end_pinned=False)
        session.save_cue(taker)
        retime_near(session, session.save_cue(giver))


class BreakLine(BaseEdit):
    """End a line before one of a caption's words, or take such a break out again."""

    kind: Literal["break_line"] = "break_line"
    cue_id: Id
    before_word: Behind

    def label(self, session: EditSession) -> str:
        return "take line break out" if self._is_broken(session.cue(self.cue_id)) else "break line"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        if self.before_word >= len(cue.words):
            raise BadInput("Put the caret between two words to break the line there.")
        seam: Literal["free", "line"] = "free" if self._is_broken(cue) else "line"
        head = seamed(cue.words[: self.before_word], seam)
        session.save_cue(cue.with_words(head + cue.words[self.before_word :]))

    def _is_broken(self, cue: Cue) -> bool:
        return self.before_word <= len(cue.words) and cue.words[self.before_word - 1].seam == "line"
