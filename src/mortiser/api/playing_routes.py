"""How a piece plays: the segments of its preview, its frames, the peaks of its sound."""

from __future__ import annotations

from typing import Annotated

from fastapi import Query, Response
from pydantic import BaseModel, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.schemas import OneShape
from mortiser.core.common.limits import Id, Micros
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.jobs.preparing import peaks_files, peaks_of
from mortiser.jobs.sounds import sound_of
from mortiser.media.peaks import piece_peaks
from mortiser.store import projects

router = routes("/api", "playing")
MOST_PEAKS = 4_000


class PartView(BaseModel):
    at_us: int
    duration_us: int
    url: str = Field(description="Its segment: fragmented MP4 that begins at zero.")


class StreamView(BaseModel):
    """What a cut piece is played as: segments one behind another."""

    kind: str = Field(description="The media type of all segments.")
    parts: list[PartView]


class PeaksView(BaseModel):
    start_us: int
    step_us: int = Field(description="0 as long as the peaks of a recording are being made.")
    peaks: list[int] = Field(description="Loudest sample of each step, 0 to 255.")


@router.get("/pieces/{piece_id}/stream")
def stream(piece_id: Id, context: OpenContext, shape_id: OneShape = None) -> StreamView:
    """The segments that a piece is played as."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id).in_shape(shape_id)
        sources = {row.id: row for row in projects.read_sources(db, piece.project_id)}
    width, height = context.segments.size(piece)
    heard = {key: sound_of(context.workspace, row).key for key, row in sources.items()}
    return StreamView(
        kind=context.segments.kind,
        parts=[
            PartView(
                at_us=part.at_us,
                duration_us=part.end_us - part.start_us,
                url=f"/api/sources/{part.source_id}/segments/{part.start_us}-{part.end_us}.mp4"
                f"?width={width}&height={height}&sound={heard[part.source_id]}"
                f"&piece_id={piece_id}&shape_id={piece.shape.id}&framing={look.digest}",
            )
            for part, look in context.segments.stream(piece)
        ],
    )


@router.get("/pieces/{piece_id}/frames", response_class=Response)
def piece_frames(piece_id: Id, context: OpenContext) -> Response:
    """Presentation times of all frames of the piece in µs, as little-endian 64-bit floats."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        rates = {row.id: row.frame_rate for row in projects.read_sources(db, piece.project_id)}
    times = context.segments.frame_times(piece, rates)
    return Response(times.astype("<f8").tobytes(), media_type="application/octet-stream")


@router.get("/pieces/{piece_id}/peaks")
def peaks(
    piece_id: Id,
    context: OpenContext,
    from_us: Micros,
    to_us: Annotated[Micros, Query(gt=0)],
    most: Annotated[int, Query(gt=0, le=MOST_PEAKS)] = 1_000,
) -> PeaksView:
    """Sound peaks of a stretch of the piece in at most ``most`` steps (more only at the coarsest
    level)."""
    with context.database.snapshot() as db:
        piece = projects.piece(db, piece_id)
        rows = projects.read_sources(db, piece.project_id)
    files = peaks_files(context.workspace, piece, rows)
    if not all(file.exists() for file in files.values()):
        return PeaksView(start_us=from_us, step_us=0, peaks=[])
    start_us, step_us, found = piece_peaks(files, piece.timeline, from_us, to_us, most)
    return PeaksView(start_us=start_us, step_us=step_us, peaks=found.tolist())


@router.get("/sources/{source_id}/peaks")
def source_peaks(
    source_id: Id,
    context: OpenContext,
    from_us: Micros,
    to_us: Annotated[Micros, Query(gt=0)],
    most: Annotated[int, Query(gt=0, le=MOST_PEAKS)] = 1_000,
    own: Annotated[
        bool, Query(description="Of its own sound, whatever is heard in its stead.")
    ] = False,
) -> PeaksView:
    """Sound peaks of a stretch of a recording, whatever of it is kept."""
    source = projects.read_source(context.database.connection, source_id)
    file = peaks_of(context.workspace, source, own=own)
    if not file.exists():
        return PeaksView(start_us=from_us, step_us=0, peaks=[])
    whole = Timeline([Clip(source_id, 0, source.duration_us)])
    start_us, step_us, found = piece_peaks({source_id: file}, whole, from_us, to_us, most)
    return PeaksView(start_us=start_us, step_us=step_us, peaks=found.tolist())
