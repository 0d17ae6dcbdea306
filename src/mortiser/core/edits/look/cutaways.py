"""Edits of what covers the talk's picture while words are said."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.assembly.cutaway import (
    FASTEST,
    MOST_CUTAWAYS,
    SLOWEST,
    Cutaway,
    CutawayPlace,
    Drift,
    OwnSound,
    PictureSeen,
    RecordingSeen,
    Seen,
)
from mortiser.core.assembly.transition import Transition
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.limits import Id, Ids, Micros
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.cutting.saying import stretch_said
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.shape import Fit, FramedStretch, Framing, Share, Zoom


class AddCutaway(BaseEdit):
    """Let something be seen while captions, or single words of one recording, are said."""

    kind: Literal["add_cutaway"] = "add_cutaway"
    piece_id: Id
    cue_ids: Ids = Field(default=[], description="What is said meanwhile; or the words.")
    from_word: Id | None = None
    to_word: Id | None = None
    seen: Seen

    def label(self, session: EditSession) -> str:
        return f"cut away to {_called(session, self.seen)}"

    def apply(self, session: EditSession) -> None:
        _check(session, self.seen)
        was = session.settings(self.piece_id)
        if len(was.cutaways) >= MOST_CUTAWAYS:
            raise BadInput(f"A piece has {MOST_CUTAWAYS} cutaways at most. Take one away first.")
        number = max((one.id for one in was.cutaways), default=0) + 1
        # Of what can be seen through nothing is to be cut off: it has no frame to fill.
        through = isinstance(self.seen, PictureSeen) and self.seen.picture.through
        framing = Framing(fit="whole" if through else "fill")
        made = Cutaway(id=number, during=self._during(session), seen=self.seen, framing=framing)
        session.save_settings(self.piece_id, replace(was, cutaways=(*was.cutaways, made)))

    def _during(self, session: EditSession) -> FramedStretch:
        if self.from_word is not None:
            return _from_to(session, self.piece_id, self.from_word, self.to_word or self.from_word)
        if not self.cue_ids:
            raise BadInput("Choose the words that it is seen over first.")
        return stretch_said(session, self.piece_id, self.cue_ids)


FREE = ("place", "comes", "goes")
"""What a cutaway can do without."""
LIES = ("fit", "zoom", "x", "y")
"""What is set of how it lies in the frame."""


class CutawayChanges(BaseModel):
    """What is set of a cutaway; the rest stays."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    seen: Seen | None = None
    speed: float | None = Field(default=None, ge=SLOWEST, le=FASTEST)
    from_us: Micros | None = Field(
        default=None, description="The moment of the recording that is seen first."
    )
    fit: Fit | None = None
    zoom: Zoom | None = None
    x: Share | None = None
    y: Share | None = None
    drift: Drift | None = None
    sound: OwnSound | None = None
    place: CutawayPlace | None = Field(
        default=None, description="Where it is a picture in the picture; none where it covers all."
    )
    opacity: float | None = Field(default=None, ge=0.05, le=1)
    comes: Transition | None = Field(default=None, description="None comes at once.")
    goes: Transition | None = Field(default=None, description="None goes at once.")

    @property
    def freely(self) -> dict[str, object]:
        """What was set that may be None."""
        return {name: getattr(self, name) for name in FREE if name in self.model_fields_set}


class OfCutaway(BaseEdit):
    """An edit of one cutaway of a piece."""

    piece_id: Id
    cutaway_id: Id


class ChangeCutaway(OfCutaway):
    """Set what is seen, how fast and from when on, and how it lies in the frame."""

    kind: Literal["change_cutaway"] = "change_cutaway"
    changes: CutawayChanges

    def label(self, session: EditSession) -> str:
        what = {
            "seen": "choice",
            "speed": "speed",
            "from_us": "part",
            "place": "place",
            "opacity": "opacity",
            "drift": "move",
            "sound": "sound",
            "comes": "beginning",
            "goes": "end",
        }
        first = next((name for name in what if name in self.changes.model_fields_set), "")
        return f"{what.get(first, 'framing')} of {_named(session, self)}"

    def apply(self, session: EditSession) -> None:
        was, given = _cutaway(session, self), self.changes.model_dump(exclude_none=True)
        seen = self.changes.seen or was.seen
        _check(session, seen)
        if "from_us" in given:
            if not isinstance(seen, RecordingSeen):
                raise BadInput("A picture has no moments to choose from.")
            from_us = min(given["from_us"], session.source_length(seen.source_id) - 1)
            seen = seen.model_copy(update={"from_us": from_us})
        if given.get("sound", "off") != "off" and not isinstance(seen, RecordingSeen):
            raise BadInput("A picture has no sound.")
        lies: dict[str, object] = {name: given[name] for name in LIES if name in given}
        now = was.model_copy(
            update={
                "seen": seen,
                "framing": was.framing.model_copy(update=lies),
                "speed": given.get("speed", was.speed),
                "sound": given.get("sound", was.sound),
                "drift": given.get("drift", was.drift),
                "opacity": given.get("opacity", was.opacity),
                **self.changes.freely,
            }
        )
        _put(session, self, now)


class MoveCutaway(OfCutaway):
    """Have a cutaway seen from a word on, or up to the end of one; the other end stays where it is."""

    kind: Literal["move_cutaway"] = "move_cutaway"
    from_word: Id | None = None
    to_word: Id | None = None

    def label(self, session: EditSession) -> str:
        return f"when {_named(session, self)} is seen"

    def apply(self, session: EditSession) -> None:
        was = _cutaway(session, self)
        first, last = (
            None if word_id is None else session.said(word_id)
            for word_id in (self.from_word, self.to_word)
        )
        if any(word and word.source_id != was.during.source_id for word in (first, last)):
            raise BadInput("Choose a word of the same recording.")
        start = first.start_us if first else was.during.start_us
        end = last.end_us if last else was.during.end_us
        if start >= end:
            raise BadInput(
                "A cutaway ends behind where it begins. Choose a word that is said later."
            )
        during = was.during.model_copy(update={"start_us": start, "end_us": end})
        _put(session, self, was.model_copy(update={"during": during}))


class DropCutaway(OfCutaway):
    """Take a cutaway away: the talk's picture is seen again."""

    kind: Literal["drop_cutaway"] = "drop_cutaway"

    def label(self, session: EditSession) -> str:
        return f"take {_named(session, self)} away"

    def apply(self, session: EditSession) -> None:
        gone, was = _cutaway(session, self), session.settings(self.piece_id)
        left = tuple(one for one in was.cutaways if one.id != gone.id)
        session.save_settings(self.piece_id, replace(was, cutaways=left))


def _from_to(session: EditSession, piece_id: int, first: int, last: int) -> FramedStretch:
    words = sorted((session.said(first), session.said(last)), key=lambda word: word.start_us)
    (source_id, *others) = {word.source_id for word in words}
    played = {clip.source_id for clip in session.timeline(piece_id).clips}
    if others or source_id not in played:
        raise BadInput("Choose words of one recording of this piece.")
    return FramedStretch(
        source_id=source_id, start_us=words[0].start_us, end_us=max(word.end_us for word in words)
    )


def _check(session: EditSession, seen: Seen) -> None:
    if not isinstance(seen, RecordingSeen):
        return
    if session.picture(seen.source_id) is None:
        raise BadInput(
            f"{session.source_name(seen.source_id)} has no picture. Choose another recording."
        )
    if seen.from_us >= session.source_length(seen.source_id):
        raise BadInput(f"{session.source_name(seen.source_id)} is not that long.")


def _cutaway(session: EditSession, edit: OfCutaway) -> Cutaway:
    for one in session.settings(edit.piece_id).cutaways:
        if one.id == edit.cutaway_id:
            return one
    raise NotFound("That cutaway is not there any more. The page shows the newest state.")


def _put(session: EditSession, edit: OfCutaway, now: Cutaway) -> None:
    was = session.settings(edit.piece_id)
    cutaways = tuple(now if one.id == now.id else one for one in was.cutaways)
    session.save_settings(edit.piece_id, replace(was, cutaways=cutaways))


def _called(session: EditSession, seen: Seen) -> str:
    name = (
        seen.picture.name or "a picture"
        if isinstance(seen, PictureSeen)
        else session.source_name(seen.source_id)
    )
    return short(name)


def _named(session: EditSession, edit: OfCutaway) -> str:
    return f"the cutaway to {_called(session, _cutaway(session, edit).seen)}"
