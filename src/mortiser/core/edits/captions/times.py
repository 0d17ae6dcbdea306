"""Edits of caption times: pin an edge, move captions, let them follow the words again."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from typing import Literal

from pydantic import Field

from mortiser.core.captions.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Ids, Micros, Shift
from mortiser.core.common.time import SECOND, parse_entry
from mortiser.core.edits.base import BaseEdit, chosen, counted
from mortiser.core.edits.retiming import retime_each, retime_near
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.carry import spread
from mortiser.core.transcript.words import Cue

TOUCH_US = 1_000
"""Captions this near one another touch."""


class SetCueTimes(BaseEdit):
    """Pin a caption's start, end or both, in piece time (µs).

    ``together`` takes the edge of a touching neighbour along, ``ripple`` all captions behind it.
    """

    kind: Literal["set_cue_times"] = "set_cue_times"
    cue_id: Id
    start_us: Micros | None = None
    end_us: Micros | None = None
    together: bool = False
    ripple: bool = False

    def label(self, session: EditSession) -> str:
        if self.start_us is None:
            return "set caption end"
        return "set caption start" if self.end_us is None else "set caption times"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        start = cue.start_us if self.start_us is None else self.start_us
        end = cue.end_us if self.end_us is None else self.end_us
        if end - start < SHORTEST_SHOWN_US:
            raise BadInput("A caption must end after it starts, by at least 0.04 s.")
        if self.ripple:
            by = end - cue.end_us if self.end_us is not None else start - cue.start_us
            behind = _behind(session, cue)
            for later in behind:
                session.save_cue(_moved(session, later, by))
        elif self.together:
            self._take_neighbours(session, cue, start, end)
        self._check_neighbours(session, cue, start, end)
        self._push(session, cue, start, end)
        pinned = replace(
            cue,
            start_us=start,
            end_us=end,
            start_pinned=cue.start_pinned or self.start_us is not None,
            end_pinned=cue.end_pinned or self.end_us is not None,
        )
        retime_near(session, session.save_cue(with_own_words(session, pinned)))

    def _take_neighbours(self, session: EditSession, cue: Cue, start: int, end: int) -> None:
        before, after = session.around(cue, 1)
        if self.start_us is not None and before:
            one = before[0]
            if abs(one.end_us - cue.start_us) <= TOUCH_US:
                if start - one.start_us < SHORTEST_SHOWN_US:
                    raise BadInput("That would leave no time for the caption in front.")
                session.save_cue(replace(one, end_us=start, end_pinned=True))
        if self.end_us is not None and after:
            one = after[0]
            if abs(one.start_us - cue.end_us) <= TOUCH_US:
                if one.end_us - end < SHORTEST_SHOWN_US:
                    raise BadInput("That would leave no time for the next caption.")
                session.save_cue(replace(one, start_us=end, start_pinned=True))

    def _push(self, session: EditSession, cue: Cue, start: int, end: int) -> None:
        """Pinned edges of neighbours give way too, as this is done by hand."""
        before, after = session.around(cue, 1)
        if self.start_us is not None and before and before[0].end_us > start:
            session.save_cue(replace(before[0], end_us=start))
        if self.end_us is not None and after and after[0].start_us < end:
            session.save_cue(replace(after[0], start_us=end))

    def _check_neighbours(self, session: EditSession, cue: Cue, start: int, end: int) -> None:
        before, after = session.around(cue, 1)
        if self.start_us is not None and before and start < before[0].start_us + SHORTEST_SHOWN_US:
            raise BadInput("That start lies before the caption in front. Move that one first.")
        if self.end_us is not None:
            if after and end > after[0].end_us - SHORTEST_SHOWN_US:
                raise BadInput("That end lies beyond the next caption. Move that one first.")
            if end > session.timeline(cue.piece_id).duration_us:
                raise BadInput("That end lies beyond the end of the recording.")


class TypeCueTime(BaseEdit):
    """Pin an edge of a caption to a time as somebody typed it (see core.common.time.parse_entry)."""

    kind: Literal["type_cue_time"] = "type_cue_time"
    cue_id: Id
    edge: Literal["start", "end"]
    text: str = Field(max_length=40)

    def label(self, session: EditSession) -> str:
        return f"set caption {self.edge}"

    def apply(self, session: EditSession) -> None:
        cue = session.cue(self.cue_id)
        now = cue.start_us if self.edge == "start" else cue.end_us
        at = parse_entry(self.text, now, session.frames(cue.piece_id).length_us)
        if self.edge == "start":
            SetCueTimes(cue_id=self.cue_id, start_us=at).apply(session)
        else:
            SetCueTimes(cue_id=self.cue_id, end_us=at).apply(session)


class MoveCues(BaseEdit):
    """Show captions earlier or later than their words; their times are pinned.

    ``ripple`` takes all captions behind the first one along.
    """

    kind: Literal["move_cues"] = "move_cues"
    cue_ids: Ids = Field(min_length=1)
    by_us: Shift
    ripple: bool = False

    def label(self, session: EditSession) -> str:
        way = "later" if self.by_us > 0 else "earlier"
        return f"{counted(chosen(session, self.cue_ids))} {abs(self.by_us) / SECOND:.2f} s {way}"

    def apply(self, session: EditSession) -> None:
        cues = chosen(session, self.cue_ids)
        if self.ripple:
            cues = [cues[0], *_behind(session, cues[0])]
        moved = [_moved(session, cue, self.by_us) for cue in cues]
        fresh = {cue.id: cue for cue in moved}
        for cue in cues:
            before, after = session.around(cue, 1)
            now = fresh[cue.id]
            for one in after:
                if one.id not in fresh and now.end_us > one.end_us - SHORTEST_SHOWN_US:
                    raise BadInput("That would cover the next caption. Move that one too.")
            for one in before:
                if one.id not in fresh and now.start_us < one.start_us + SHORTEST_SHOWN_US:
                    raise BadInput("That would cover the caption in front. Move that one too.")
        for cue in moved:
            session.save_cue(cue)
        retime_each(session, cues)


class CloseGaps(BaseEdit):
    """Let captions stay until the next one comes, where that is not further off than ``most_us``.

    What the pace leaves of a closed gap is left; the ends are pinned.
    """

    kind: Literal["close_gaps"] = "close_gaps"
    cue_ids: Ids = Field(min_length=1)
    most_us: Micros = 3 * SECOND

    def label(self, session: EditSession) -> str:
        return "close gaps"

    def apply(self, session: EditSession) -> None:
        piece_id = session.cue(self.cue_ids[0]).piece_id
        pace, frames = session.pace(piece_id), session.frames(piece_id)
        left = frames.last(pace.gap_frames)
        wanted = set(self.cue_ids)
        closed = [
            replace(cue, end_us=after.start_us - left, end_pinned=True)
            for cue, after in pairwise(session.cues(piece_id))
            if cue.id in wanted and left < after.start_us - cue.end_us <= self.most_us
        ]
        if not closed:
            raise BadInput("There is no gap to close behind these captions.")
        for cue in closed:
            session.save_cue(cue)


class UnpinCues(BaseEdit):
    """Let the times of captions follow their words again."""

    kind: Literal["unpin_cues"] = "unpin_cues"
    cue_ids: Ids = Field(min_length=1)

    def label(self, session: EditSession) -> str:
        cues = chosen(session, self.cue_ids)
        return "unpin caption times" if len(cues) == 1 else f"unpin {counted(cues)}"

    def apply(self, session: EditSession) -> None:
        cues = chosen(session, self.cue_ids)
        for cue in cues:
            session.save_cue(cue.unpinned())
        retime_each(session, cues)


def with_own_words(session: EditSession, cue: Cue) -> Cue:
    """A caption whose words were typed by hand and have no sound: they go where it goes.

    Their times are spread over the caption's, as far as its neighbours' words leave room.
    """
    if any(word.aligned or word.origin != "typed" for word in cue.words):
        return cue
    left, right = session.word_room(cue)
    start = min(max(cue.start_us, left), right)
    end = max(start, min(cue.end_us, right))
    times = spread([word.text for word in cue.words], start, end)
    return cue.with_words(
        tuple(
            replace(word, start_us=at.start_us, end_us=at.end_us)
            for word, at in zip(cue.words, times, strict=True)
        )
    )


def _behind(session: EditSession, cue: Cue) -> list[Cue]:
    """All captions of the piece behind one."""
    cues = session.cues(cue.piece_id)
    at = next(index for index, one in enumerate(cues) if one.id == cue.id)
    return cues[at + 1 :]


def _moved(session: EditSession, cue: Cue, by_us: int) -> Cue:
    """A caption at other times, pinned. Raises BadInput where the piece has no such times."""
    start, end = cue.start_us + by_us, cue.end_us + by_us
    if start < 0 or end > session.timeline(cue.piece_id).duration_us:
        raise BadInput("A caption would lie outside the recording. Move by less.")
    moved = replace(cue, start_us=start, end_us=end, start_pinned=True, end_pinned=True)
    return with_own_words(session, moved)
