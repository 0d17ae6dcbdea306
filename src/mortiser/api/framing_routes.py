"""How the picture of a piece lies in one of its shapes, clip by clip."""

from __future__ import annotations

from pydantic import BaseModel, Field

from mortiser.api.routing import routes
from mortiser.api.schemas import JobView, OneShape
from mortiser.api.shop import OpenShop
from mortiser.core.clip_framing import framing_of
from mortiser.core.limits import Id
from mortiser.core.shape import Framing, Way
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


class FramedClipsView(BaseModel):
    clips: list[FramedClipView]
    moves: list[MoveView]
    faces: bool = Field(description="Whether faces are known in one of the recordings.")


@router.post("/pieces/{piece_id}/faces", status_code=201)
def look_for_faces(piece_id: Id, shop: OpenShop) -> list[JobView]:
    """Look for faces in the piece's recordings where nobody has yet; answers the jobs that do."""
    with shop.database.transaction() as db:
        piece = projects.piece(db, piece_id)
        known = subjects.looked_for(db, piece.project_id)
        for row in jobs.of_project(db, piece.project_id):
            if row["kind"] == "faces" and row["status"] != "done":
                known.add(jobs.payload_of(row)["source_id"])
        wanted = {clip.source_id for clip in piece.timeline.clips} & piece.pictures.keys()
        made = [
            jobs.add_in(db, piece.project_id, "faces", {"source_id": source_id})
            for source_id in sorted(wanted - known)
        ]
    for job_id in made:
        shop.queue.submit(job_id)
    return [JobView.of(jobs.get(shop.database.connection, job_id)) for job_id in made]


@router.get("/pieces/{piece_id}/framing")
def clips(piece_id: Id, shop: OpenShop, shape_id: OneShape = None) -> FramedClipsView:
    """The clips of a piece with their framing, and the moves over them, in play order."""
    with shop.database.snapshot() as db:
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
        faces=any(piece.subjects.values()),
    )
