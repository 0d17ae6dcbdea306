"""How the picture of a piece lies in one of its shapes, clip by clip."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.schemas import JobView, OneShape
from mortiser.core.common.limits import Id, Micros
from mortiser.core.framing.clip_framing import framing_of
from mortiser.core.framing.shape import Chosen, Framing, Way
from mortiser.core.project.job_payloads import FollowPayload, SourcePayload
from mortiser.core.project.picture_moment import faces_at, followed_path, need_picture_at
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
    return [
        FaceView(
            left=one.box.left,
            top=one.box.top,
            width=one.box.width,
            height=one.box.height,
            point=one.point,
            followed=one.followed,
            speaker=one.speaker,
        )
        for one in faces_at(piece, known, at_us)
    ]


@router.get("/pieces/{piece_id}/picture-point")
def picture_point(
    piece_id: Id, context: OpenContext, at_us: Micros, x: Part, y: Part, shape_id: OneShape = None
) -> Chosen:
    """The point of a source's picture that lies at a point of the frame (shares of its sides)."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
    return need_picture_at(piece, at_us).at(x, y)


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
    moment = need_picture_at(piece, box.at_us)
    x, y, width, height = moment.drawn(box.left, box.top, box.width, box.height)
    about = FollowPayload(
        source_id=moment.source_id,
        at_us=moment.source_us,
        box=(x, y, width, height),
        from_us=moment.clip.start_us,
        to_us=moment.clip.end_us,
    )
    job_id = jobs.add(context.database, piece.project_id, "follow", about)
    context.queue.submit(job_id)
    return FollowedView(
        point=moment.chosen(x, y), job=JobView.of(jobs.get(context.database.connection, job_id))
    )


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
        path=[PathPoint(at_us=at, x=x, y=y) for at, x, y in followed_path(piece)],
        holds=[
            HoldView(at_us=placed.to_piece(one.at_us), x=one.x, y=one.y, point=one)
            for placed in piece.timeline.placed
            for one in shape.holds
            if one.source_id == placed.clip.source_id
            and placed.clip.start_us <= one.at_us < placed.clip.end_us
        ],
        faces=any(piece.facts.subjects.values()),
    )
