"""How the picture of a piece lies in one of its shapes, clip by clip."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.schemas import JobView, OneShape
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Micros
from mortiser.core.editing.timeline import Clip
from mortiser.core.framing.clip_framing import framing_of
from mortiser.core.framing.following import followed, nearest, place_at
from mortiser.core.framing.placing import Size, from_frame, lying
from mortiser.core.framing.shape import Chosen, Framing, Way
from mortiser.core.framing.subject import LOOK_US
from mortiser.core.project.job_payloads import FollowPayload, SourcePayload
from mortiser.core.project.piece import ShapedPiece
from mortiser.core.style.layout.rect import Rect
from mortiser.store import jobs, projects, subjects

router = routes("/api", "framing")


class FramedClipView(BaseModel):
    at_us: int
    duration_us: int
    framing: Framing
    own: bool = Field(description="Whether it is framed otherwise than the piece.")


class MoveView(BaseModel):
    at_us: int = Field(description="Where it begins in the piece.")
    duration_us: int
    source_id: int
    start_us: int = Field(description="Where it begins in its source: what it is known by.")
    way: Way
    zoom: float


class PathPoint(BaseModel):
    at_us: int
    x: float = Field(description="Across the picture, 0 to 1.")
    y: float


class HoldView(PathPoint):
    point: Chosen = Field(description="What it is known by.")


class FramedClipsView(BaseModel):
    clips: list[FramedClipView]
    moves: list[MoveView]
    path: list[PathPoint] = Field(description="Where what is followed lies, a few a second.")
    holds: list[HoldView] = Field(description="Where somebody said it to be.")
    faces: bool = Field(description="Whether faces are known in one of the recordings.")


@router.post("/pieces/{piece_id}/faces", status_code=201)
def look_for_faces(piece_id: Id, context: OpenContext) -> list[JobView]:
    """Look for faces in the piece's recordings where nobody has yet; answers the jobs that do."""
    with context.database.transaction() as db:
        piece = projects.piece(db, piece_id)
        known = subjects.looked_for(db, piece.project_id)
        known |= {
            job.payload.source_id
            for job in jobs.of_project(db, piece.project_id)
            if job.kind == "faces" and job.status != "done" and job.payload.source_id
        }
        wanted = {clip.source_id for clip in piece.timeline.clips} & piece.facts.pictures.keys()
        made = [
            jobs.add_in(db, piece.project_id, "faces", SourcePayload(source_id=source_id))
            for source_id in sorted(wanted - known)
        ]
    for job_id in made:
        context.queue.submit(job_id)
    return [JobView.of(jobs.get(context.database.connection, job_id)) for job_id in made]


class FaceView(BaseModel):
    """A face in the frame; its edges in shares of the frame's sides."""

    left: float
    top: float
    width: float
    height: float
    point: Chosen = Field(description="What it is chosen by.")
    followed: bool
    speaker: str = Field(description="Who sits there, where somebody said so.")


Part = Annotated[float, Query(ge=-1, le=2)]


@router.get("/pieces/{piece_id}/faces")
def faces(
    piece_id: Id, context: OpenContext, at_us: Micros, shape_id: OneShape = None
) -> list[FaceView]:
    """The faces (and boxes that are followed) that can be chosen at a moment of the piece."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        known = subjects.of_sources(db, {clip.source_id for clip in piece.timeline.clips})
    moment = _Moment.of(piece, at_us)
    if moment is None:
        return []
    tracks = known.get(moment.source_id, ())
    framing = framing_of(piece.shape, moment.clip)
    turns = piece.facts.turns.get(moment.source_id, ())
    mine = followed(framing, tracks, moment.clip, turns) if framing.follow != "off" else None
    look = moment.source_us / LOOK_US
    here = place_at(mine, look) if mine else None
    seats = {
        id(nearest(tracks, seat)): seat.speaker
        for seat in framing.seats
        if seat.source_id == moment.source_id
    }
    found = []
    for track in tracks:
        if not track.looks[0] - 1 <= look <= track.looks[-1] + 1:
            continue
        x, y = place_at(track, look)
        left, top, right, low = moment.box(x, y, track.faces[0].width, track.faces[0].height)
        found.append(
            FaceView(
                left=left,
                top=top,
                width=right - left,
                height=low - top,
                point=moment.chosen(x, y),
                followed=here is not None and math.dist(here, (x, y)) < SAME,
                speaker=seats.get(id(track), ""),
            )
        )
    return found


@router.get("/pieces/{piece_id}/picture-point")
def picture_point(
    piece_id: Id, context: OpenContext, at_us: Micros, x: Part, y: Part, shape_id: OneShape = None
) -> Chosen:
    """The point of a source's picture that lies at a point of the frame (shares of its sides)."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
    return _moment(piece, at_us).at(x, y)


class BoxBody(BaseModel):
    """A box drawn over the frame at a moment of the piece; its edges in shares of the frame's sides."""

    shape_id: Id | None = None
    at_us: Micros
    left: float = Field(ge=-1, le=2)
    top: float = Field(ge=-1, le=2)
    width: float = Field(gt=0, le=3)
    height: float = Field(gt=0, le=3)


class FollowedView(BaseModel):
    point: Chosen = Field(description="What it is chosen by.")
    job: JobView


@router.post("/pieces/{piece_id}/box", status_code=201)
def follow_box(piece_id: Id, box: BoxBody, context: OpenContext) -> FollowedView:
    """Follow what is in a box drawn by hand; answers the job that does."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(box.shape_id)
    moment = _moment(piece, box.at_us)
    first = moment.at(box.left, box.top)
    last = moment.at(box.left + box.width, box.top + box.height)
    width, height = abs(last.x - first.x), abs(last.y - first.y)
    point = moment.chosen((first.x + last.x) / 2, (first.y + last.y) / 2)
    about = FollowPayload(
        source_id=moment.source_id,
        at_us=moment.source_us,
        box=(point.x, point.y, width, height),
        from_us=moment.clip.start_us,
        to_us=moment.clip.end_us,
    )
    job_id = jobs.add(context.database, piece.project_id, "follow", about)
    context.queue.submit(job_id)
    return FollowedView(point=point, job=JobView.of(jobs.get(context.database.connection, job_id)))


SAME = 0.02
"""Two places that are nearer than this (shares of the picture) are of one face."""


@dataclass(frozen=True)
class _Moment:
    """The picture that shows at a moment of a piece, and how it lies in the frame."""

    clip: Clip
    source_us: int
    framing: Framing
    picture: Size
    frame: Size

    @classmethod
    def of(cls, piece: ShapedPiece, at_us: int) -> _Moment | None:
        """None where there is no picture."""
        placed = piece.timeline.playing(at_us)
        picture = piece.facts.pictures.get(placed.clip.source_id)
        if picture is None:
            return None
        source_us = placed.to_source(at_us)
        framing = piece.framings[piece.timeline.placed.index(placed)].at(source_us)
        return cls(placed.clip, source_us, framing, picture, piece.size)

    @property
    def source_id(self) -> int:
        return self.clip.source_id

    def at(self, x: float, y: float) -> Chosen:
        """What lies at a point of the frame."""
        return self.chosen(*from_frame(self.framing, self.picture, self.frame, x, y))

    def chosen(self, x: float, y: float) -> Chosen:
        """A point of the picture, as far as it reaches."""
        x, y = (min(1.0, max(0.0, value)) for value in (x, y))
        return Chosen(source_id=self.source_id, at_us=self.source_us, x=x, y=y)

    def box(self, x: float, y: float, width: float, height: float) -> Rect:
        """Where a part of the picture lies, in shares of the frame."""
        left, top, right, low = lying(
            self.framing, self.picture, self.frame, (x, y), (width, height)
        )
        wide, high = self.frame
        return Rect(left / wide, top / high, right / wide, low / high)


def _moment(piece: ShapedPiece, at_us: int) -> _Moment:
    found = _Moment.of(piece, at_us)
    if found is None:
        raise BadInput("There is no picture at that moment.")
    return found


def _path(piece: ShapedPiece) -> Iterator[PathPoint]:
    """Where what is followed lies in the picture, look by look."""
    for placed, framing in zip(piece.timeline.placed, piece.framings, strict=True):
        clip = placed.clip
        if framing.lies is not None:
            for at_us in (placed.at_us, placed.at_us + clip.length_us - 1):
                yield PathPoint(at_us=at_us, x=framing.lies[0], y=framing.lies[1])
        if framing.path is None:
            continue
        first, last = clip.start_us // LOOK_US + 1, clip.end_us // LOOK_US
        moments = [clip.start_us, *(look * LOOK_US for look in range(first, last + 1))]
        for at_us in moments:
            if at_us < clip.end_us:
                x, y = framing.path.at(at_us)
                yield PathPoint(at_us=placed.to_piece(at_us), x=round(x, 4), y=round(y, 4))


@router.get("/pieces/{piece_id}/framing")
def clips(piece_id: Id, context: OpenContext, shape_id: OneShape = None) -> FramedClipsView:
    """The clips of a piece with their framing, and the moves over them, in play order."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
    shape = piece.shape
    found: list[MoveView] = []
    for placed in piece.timeline.placed:
        clip = placed.clip
        for move in shape.moves:
            start, end = max(move.start_us, clip.start_us), min(move.end_us, clip.end_us)
            if move.source_id == clip.source_id and start < end:
                at_us = placed.to_piece(start)
                found.append(
                    MoveView(
                        at_us=at_us,
                        duration_us=end - start,
                        source_id=move.source_id,
                        start_us=move.start_us,
                        way=move.way,
                        zoom=move.zoom,
                    )
                )
    return FramedClipsView(
        clips=[
            FramedClipView(
                at_us=placed.at_us,
                duration_us=placed.clip.length_us,
                framing=framing_of(shape, placed.clip),
                own=framing_of(shape, placed.clip) != shape.framing,
            )
            for placed in piece.timeline.placed
        ],
        moves=found,
        path=list(_path(piece)),
        holds=[
            HoldView(at_us=placed.to_piece(one.at_us), x=one.x, y=one.y, point=one)
            for placed in piece.timeline.placed
            for one in shape.holds
            if one.source_id == placed.clip.source_id
            and placed.clip.start_us <= one.at_us < placed.clip.end_us
        ],
        faces=any(piece.facts.subjects.values()),
    )
