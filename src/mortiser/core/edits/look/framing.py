"""Edits of how a piece's picture lies in one of its shapes."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.limits import Id, Ids, Micros
from mortiser.core.editing.timeline import Clip
from mortiser.core.edits.base import counted
from mortiser.core.edits.cutting.saying import clips_saying, stretches_of, stretches_said
from mortiser.core.edits.look.shapes import ShapeEdit, change_shape, first_picture, shape_of
from mortiser.core.edits.session import EditSession
from mortiser.core.framing.clip_framing import framing_of
from mortiser.core.framing.moving import proposed_moves
from mortiser.core.framing.placing import panned
from mortiser.core.framing.shape import (
    MOST_STRETCHES,
    Chosen,
    Fit,
    Follow,
    Framed,
    Framing,
    Move,
    Seat,
    Shape,
    Way,
    Who,
)
from mortiser.core.framing.subject import LOOK_US


class FramingChanges(BaseModel):
    """What is set of a framing; the rest stays."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    fit: Fit | None = None
    zoom: float | None = Field(default=None, ge=0.2, le=8)
    x: float | None = Field(default=None, ge=0, le=1)
    y: float | None = Field(default=None, ge=0, le=1)
    quarters: int | None = Field(default=None, ge=0, le=3)
    turn: float | None = Field(default=None, ge=-45, le=45)
    mirror: bool | None = None
    follow: Follow | None = None
    px: float | None = Field(default=None, ge=0, le=1)
    py: float | None = Field(default=None, ge=0, le=1)
    who: Who | None = None
    chosen: Chosen | Literal["largest"] | None = Field(
        default=None, description="What to follow in its source; “largest” forgets what was chosen."
    )
    seat: Seat | None = Field(default=None, description="Where somebody who speaks is seen.")

    def on(self, framing: Framing) -> Framing:
        """A framing with what is set."""
        found = framing.model_copy(update=self._plain)
        if isinstance(self.chosen, Chosen):
            found = found.choosing(self.chosen)
        elif self.chosen == "largest":
            found = found.model_copy(update={"chosen": (), "who": "face"})
        return found.seating(self.seat) if self.seat else found

    @property
    def _plain(self) -> dict[str, object]:
        return self.model_dump(exclude_none=True, exclude={"chosen", "seat"})

    @property
    def name(self) -> str:
        """What is set, in a word."""
        names = {
            "x": "place",
            "y": "place",
            "px": "place",
            "py": "place",
            "quarters": "quarter turn",
            "chosen": "choice of a face",
            "seat": "seat of a speaker",
            "who": "choice of a face",
        }
        found = next(iter(self.model_dump(exclude_none=True)), "framing")
        return names.get(found, found)


class FrameClips(ShapeEdit):
    """Lay the picture in the frame otherwise: of the clips that say these captions, or (with none) of the
    whole piece but for clips that have a framing of their own."""

    kind: Literal["frame_clips"] = "frame_clips"
    cue_ids: Ids = Field(default=[])
    changes: FramingChanges

    def label(self, session: EditSession) -> str:
        return f"{self.changes.name} of {_scope(session, self, 'picture')}"

    def apply(self, session: EditSession) -> None:
        _reframe(session, self, lambda framing, _: self.changes.on(framing))


class PanClips(ShapeEdit):
    """Move the picture across the frame, by shares of its width and height: of the clips that say these
    captions, or (with none) of the whole piece."""

    kind: Literal["pan_clips"] = "pan_clips"
    cue_ids: Ids = Field(default=[])
    by_x: float = Field(ge=-4, le=4)
    by_y: float = Field(ge=-4, le=4)

    def label(self, session: EditSession) -> str:
        return f"place of {_scope(session, self, 'picture')}"

    def apply(self, session: EditSession) -> None:
        size = shape_of(session, self).size

        def moved(framing: Framing, clips: Sequence[Clip]) -> Framing:
            picture = first_picture(session, clips)
            if picture is None:
                raise BadInput("There is no picture to be moved.")
            return panned(framing, picture, size, self.by_x, self.by_y)

        _reframe(session, self, moved)


class FrameBack(ShapeEdit):
    """Frame clips as the whole piece is: those that say these captions, or (with none) all of them."""

    kind: Literal["frame_back"] = "frame_back"
    cue_ids: Ids = Field(default=[])

    def label(self, session: EditSession) -> str:
        return f"{_scope(session, self, 'all clips')} back to the piece's framing"

    def apply(self, session: EditSession) -> None:
        left: tuple[Framed, ...] = ()
        if self.cue_ids:
            clips = clips_saying(session, self.piece_id, self.cue_ids)
            left = _with_framed(shape_of(session, self), clips, [])
        change_shape(session, self, {"framed": left})


class CopyFraming(ShapeEdit):
    """Frame clips that say some captions as the clip that says another one."""

    kind: Literal["copy_framing"] = "copy_framing"
    from_cue_id: Id
    cue_ids: Ids = Field(min_length=1)

    def label(self, session: EditSession) -> str:
        return f"copy framing to {_scope(session, self, '')}"

    def apply(self, session: EditSession) -> None:
        (like, *_) = clips_saying(session, self.piece_id, [self.from_cue_id])
        framing = framing_of(shape_of(session, self), like)
        _reframe(session, self, lambda *_: framing)


class AlternateFramings(ShapeEdit):
    """Show every other clip nearer, by this factor; 1 shows all alike."""

    kind: Literal["alternate_framings"] = "alternate_framings"
    zoom: float = Field(ge=1, le=2)

    def label(self, session: EditSession) -> str:
        return "every other clip nearer" if self.zoom > 1 else "all clips alike"

    def apply(self, session: EditSession) -> None:
        change_shape(session, self, {"alternate": self.zoom})


class AddMove(ShapeEdit):
    """Move in or out over what these captions say, or over these words of them."""

    kind: Literal["add_move"] = "add_move"
    cue_ids: Ids = Field(min_length=1)
    word_ids: Ids = Field(default=[])
    way: Way = "in"
    zoom: float = Field(default=1.15, ge=1.01, le=3)

    def label(self, session: EditSession) -> str:
        return {"in": "slow move in", "out": "slow move out", "quick": "quick move in"}[self.way]

    def apply(self, session: EditSession) -> None:
        shape = shape_of(session, self)
        said = stretches_said(session, self.piece_id, self.cue_ids, self.word_ids)
        fresh = [
            Move(source_id=clip.source_id, start_us=start, end_us=end, zoom=self.zoom, way=self.way)
            for clip, (start, end) in said.items()
        ]
        kept = [one for one in shape.moves if not any(_meet(one, move) for move in fresh)]
        _set_moves(session, self, [*kept, *fresh])


class MoveOver(ShapeEdit):
    """Let the picture move over the whole piece, as its words suggest (core.framing.moving)."""

    kind: Literal["move_over"] = "move_over"
    zoom: float = Field(default=1.15, ge=1.01, le=3)

    def label(self, session: EditSession) -> str:
        return "moves over the whole piece"

    def apply(self, session: EditSession) -> None:
        kept = shape_of(session, self).moves
        timeline = session.timeline(self.piece_id)
        words = [word for cue in session.cues(self.piece_id) for word in cue.words]
        fresh = [
            Move(source_id=clip.source_id, start_us=start, end_us=end, zoom=self.zoom, way=one.way)
            for one in proposed_moves(words)
            for clip, (start, end) in stretches_of(timeline, one.words).items()
        ]
        fresh = [move for move in fresh if not any(_meet(one, move) for one in kept)]
        if not fresh:
            raise BadInput(
                "There is no sentence left that is long enough for a slow move, and no marked word for a "
                "quick one."
            )
        _set_moves(session, self, [*kept, *fresh])


def _set_moves(session: EditSession, edit: ShapeEdit, moves: Sequence[Move]) -> None:
    if len(moves) > MOST_STRETCHES:
        raise BadInput("That is more moves than a piece can have. Take some away first.")
    ordered = sorted(moves, key=lambda one: (one.source_id, one.start_us))
    change_shape(session, edit, {"moves": tuple(ordered)})


class DropMove(ShapeEdit):
    """Take the move away that begins at a moment of a source."""

    kind: Literal["drop_move"] = "drop_move"
    source_id: Id
    start_us: Micros

    def label(self, session: EditSession) -> str:
        return "take a move away"

    def apply(self, session: EditSession) -> None:
        moves = shape_of(session, self).moves
        left = tuple(
            m for m in moves if (m.source_id, m.start_us) != (self.source_id, self.start_us)
        )
        if len(left) == len(moves):
            raise NotFound("That move is not there any more. The page shows the newest state.")
        change_shape(session, self, {"moves": left})


class HoldFace(ShapeEdit):
    """Say where the face that is followed is at a moment of a source, in shares of its picture; it is
    followed there, and near it."""

    kind: Literal["hold_face"] = "hold_face"
    point: Chosen

    def label(self, session: EditSession) -> str:
        return "where the face is"

    def apply(self, session: EditSession) -> None:
        holds = _without(shape_of(session, self).holds, self.point.source_id, self.point.at_us)
        if len(holds) >= MOST_STRETCHES:
            raise BadInput("That is as often as it can be said. Take some away first.")
        change_shape(session, self, {"holds": (*holds, self.point)})


class LetFaceGo(ShapeEdit):
    """Take back what was said about where the face is at a moment of a source."""

    kind: Literal["let_face_go"] = "let_face_go"
    source_id: Id
    at_us: Micros

    def label(self, session: EditSession) -> str:
        return "take back where the face is"

    def apply(self, session: EditSession) -> None:
        holds = shape_of(session, self).holds
        left = _without(holds, self.source_id, self.at_us)
        if len(left) == len(holds):
            raise NotFound("That was taken back already. The page shows the newest state.")
        change_shape(session, self, {"holds": left})


def _without(holds: Sequence[Chosen], source_id: int, at_us: int) -> tuple[Chosen, ...]:
    """What was said about other moments."""
    look = at_us // LOOK_US
    return tuple(one for one in holds if one.source_id != source_id or one.at_us // LOOK_US != look)


def _scope(
    session: EditSession, edit: FrameClips | PanClips | FrameBack | CopyFraming, whole: str
) -> str:
    """What an edit is about, in words; ``whole`` where it names no captions."""
    if not edit.cue_ids:
        return whole
    return counted(clips_saying(session, edit.piece_id, edit.cue_ids), "clip")


def _reframe(
    session: EditSession,
    edit: FrameClips | PanClips | CopyFraming,
    change: Callable[[Framing, Sequence[Clip]], Framing],
) -> None:
    """Frame the clips that say an edit's captions otherwise, each from what it has; with no captions, what
    all clips have that have nothing of their own. ``change`` is told which clips it is for."""
    shape = shape_of(session, edit)
    if not edit.cue_ids:
        clips = session.timeline(edit.piece_id).clips
        change_shape(session, edit, {"framing": change(shape.framing, clips)})
        return
    said = clips_saying(session, edit.piece_id, edit.cue_ids)
    own = [_own(clip, change(framing_of(shape, clip), [clip])) for clip in said]
    change_shape(session, edit, {"framed": _with_framed(shape, said, own)})


def _own(clip: Clip, framing: Framing) -> Framed:
    return Framed(
        source_id=clip.source_id, start_us=clip.start_us, end_us=clip.end_us, framing=framing
    )


def _with_framed(
    shape: Shape, clips: Sequence[Clip], fresh: Sequence[Framed]
) -> tuple[Framed, ...]:
    """What is framed of its own, without what was decided about some clips, and with what is now."""
    # A longer stretch that other clips are left of too stays for those.
    kept = [one for one in shape.framed if not any(_is_for(one, clip) for clip in clips)]
    under = [
        _own(clip, shape.framing)
        for clip in clips
        if not fresh and any(one.holds(clip.source_id, clip.middle_us) for one in kept)
    ]
    if len(kept) + len(under) + len(fresh) > MOST_STRETCHES:
        raise BadInput(
            "That is more framings than a piece can have. Frame the whole piece instead."
        )
    return (*kept, *under, *fresh)


def _is_for(one: Framed, clip: Clip) -> bool:
    """Whether a decision is about nothing beyond a clip."""
    inside = clip.start_us <= one.start_us and one.end_us <= clip.end_us
    return one.source_id == clip.source_id and inside


def _meet(one: Move, other: Move) -> bool:
    together = one.start_us < other.end_us and other.start_us < one.end_us
    return one.source_id == other.source_id and together
