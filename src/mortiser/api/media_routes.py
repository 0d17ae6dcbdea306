"""Recordings for the page: the file to play, poster, frame times, segments."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

import numpy as np
from fastapi import Depends, Query, Request, Response
from fastapi.responses import FileResponse
from starlette.concurrency import run_in_threadpool

from mortiser.api.bodies import received
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.assembly.assembled import PartLook
from mortiser.core.common.errors import Conflict, NotFound
from mortiser.core.common.limits import Id, Micros, Name
from mortiser.core.framing.frame import even_size
from mortiser.core.project.source import Source
from mortiser.jobs.ingest import bring_back
from mortiser.jobs.preparing import playable
from mortiser.store import projects
from mortiser.wiring import AppContext

router = routes("/api/sources/{source_id}", "sources")
Side = Annotated[int, Query(ge=2, le=2_160)]
"""Of a preview's picture, in pixels."""


def _source(source_id: Id, context: OpenContext) -> Source:
    return projects.read_source(context.database.connection, source_id)


@dataclass
class FramingAsked:
    """What is seen of a segment: as of a stretch of a piece in a shape, told by its digest."""

    piece_id: Id | None = None
    shape_id: Id | None = None
    framing: Name = ""

    def of(
        self, context: AppContext, source_id: int, stretch: tuple[int, int]
    ) -> tuple[PartLook, list[Source]]:
        """What is seen, and the recordings that are seen in place of its own. Raises NotFound where the piece
        has no such stretch any more."""
        if self.piece_id is None:
            return PartLook(), []
        with context.database.snapshot() as db:
            piece = projects.piece(db, self.piece_id).in_shape(self.shape_id)
            found = context.segments.look(piece, source_id, stretch, self.framing)
            if found is None:
                raise NotFound("This part of the piece is another by now. Load the page anew.")
            return found, [projects.read_source(db, one) for one in sorted(found.source_ids)]


OfPath = Annotated[Source, Depends(_source)]


@router.get("/media", response_class=FileResponse)
def media(source: OfPath, context: OpenContext) -> FileResponse:
    """The recording, or its browser copy, with byte ranges."""
    kind = "video/mp4" if source.kind == "video" else "audio/mp4"
    if source.proxy_path:
        return FileResponse(context.workspace.path(source.proxy_path), media_type="video/mp4")
    if not playable(source):
        raise Conflict("A copy that the browser can play is still being made.")
    file = context.workspace.path(source.path)
    file.stat()  # Said in its own words where it is missing.
    return FileResponse(file, media_type=kind)


@router.post(
    "/recording",
    status_code=204,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def bring_recording_back(source: OfPath, request: Request, context: OpenContext) -> None:
    """Bring a recording in again whose file is missing: the body is the file."""
    file = await received(request, context)
    job = await run_in_threadpool(bring_back, context.database, context.workspace, source.id, file)
    await run_in_threadpool(context.queue.submit, job)


@router.get("/poster", response_class=FileResponse)
def poster(source: OfPath, context: OpenContext) -> FileResponse:
    """A still of the recording (JPEG)."""
    file = context.workspace.beside(source.path, "poster.jpg")
    if not file.exists():
        raise NotFound("This recording has no picture.")
    return FileResponse(file, media_type="image/jpeg")


@router.get("/frames", response_class=Response)
def frames(source: OfPath, context: OpenContext) -> Response:
    """Presentation times of all frames in µs, as little-endian 64-bit floats."""
    times = np.load(context.workspace.beside(source.path, "frames.npy"))
    return Response(times.astype("<f8").tobytes(), media_type="application/octet-stream")


@router.get("/segments/{from_us}-{to_us}.mp4", response_class=FileResponse)
def segment(
    source: OfPath,
    from_us: Micros,
    to_us: Micros,
    width: Side,
    height: Side,
    context: OpenContext,
    asked: Annotated[FramingAsked, Depends()],
) -> FileResponse:
    """A stretch of the recording for the preview of a piece, two seconds at most."""
    stretch = from_us, to_us
    look, seen = asked.of(context, source.id, stretch)
    file = context.segments.file(source, stretch, even_size(width, height), look, seen)
    # A recording never changes: neither does a stretch of it.
    headers = {"Cache-Control": "private, max-age=86400, immutable"}
    return FileResponse(file, media_type="video/mp4", headers=headers)
