"""Whether captions can be read on their picture, and what would help."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query
from pydantic import BaseModel, ConfigDict, Field, JsonValue

from mortiser.api import schemas
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.schemas import OneShape
from mortiser.core.common.limits import Id, Micros
from mortiser.core.framing.frame import even_size
from mortiser.core.project.job_payloads import SourcePayload
from mortiser.core.style.legibility import Way
from mortiser.fonts import font_book
from mortiser.jobs.thumbnails import thumbnails_of
from mortiser.store import jobs, projects
from mortiser.wiring import faint_captions, glances

router = routes("/api", "legibility")


class RemedyView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    way: Way
    changes: dict[str, JsonValue] = Field(description="Settings of the caption, by dotted paths.")
    contrast: float = Field(description="What the caption has then, to 1.")


class FaintView(BaseModel):
    model_config = ConfigDict(from_attributes=True)

    cue_id: Id
    at_us: int
    word: str = Field(description="The word that stands out least.")
    contrast: float = Field(description="Of its letters against what is around them, to 1.")
    remedies: list[RemedyView]


class LegibilityView(BaseModel):
    seen: bool = Field(description="Whether the recording has been looked over yet.")
    faint: list[FaintView]


@router.get("/pieces/{piece_id}/legibility")
def legibility(
    piece_id: Id,
    context: OpenContext,
    from_us: Micros,
    to_us: Annotated[Micros, Query(gt=0)],
    shape_id: OneShape = None,
) -> LegibilityView:
    """The captions that begin in a window and are hard to read on what is behind them."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        found = projects.shown_cues(db, piece, from_us, to_us)
        said = projects.piece_cues(db, piece_id) if piece.layers_follow_captions else []
        sources = projects.read_sources(db, piece.project_id)
    thumbnails = thumbnails_of(context.workspace, piece.timeline, sources)
    if thumbnails is None:
        return LegibilityView(seen=False, faint=[])
    begin = [cue for cue in found if cue.start_us >= from_us]
    size = even_size(*piece.size)
    behind = glances(piece, thumbnails, said, font_book())
    faint = faint_captions(begin, piece.worn, size, behind, font_book())
    return LegibilityView(seen=True, faint=[FaintView.model_validate(one) for one in faint])


@router.post("/pieces/{piece_id}/thumbnails", status_code=201)
def look_over(piece_id: Id, context: OpenContext) -> schemas.JobView:
    """Look the recording over, so that legibility can be told; answers the job that does."""
    db = context.database.connection
    piece = projects.piece(db, piece_id)
    known = jobs.under_way(db, piece.project_id, "thumbnails")
    if known:
        return schemas.JobView.of(known[-1])
    payload = SourcePayload(source_id=piece.source_id)
    job_id = jobs.add(context.database, piece.project_id, "thumbnails", payload)
    context.queue.submit(job_id)
    return schemas.JobView.of(jobs.get(db, job_id))
