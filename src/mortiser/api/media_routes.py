"""Recordings for the page: the file to play, poster, frame times, segments."""

from __future__ import annotations

import sqlite3
from typing import Annotated

import numpy as np
from fastapi import Depends, Query, Response
from fastapi.responses import FileResponse

from mortiser.api.routing import routes
from mortiser.api.shop import OpenShop
from mortiser.core.errors import Conflict, NotFound
from mortiser.core.frame import even_size
from mortiser.core.limits import Id, Micros
from mortiser.jobs.preparing import playable
from mortiser.store import projects

router = routes("/api/sources/{source_id}", "sources")
Side = Annotated[int, Query(ge=2, le=2_160)]
"""Of a preview's picture, in pixels."""


def _source(source_id: Id, shop: OpenShop) -> sqlite3.Row:
    return projects.source_row(shop.database.connection, source_id)


Source = Annotated[sqlite3.Row, Depends(_source)]


@router.get("/media", response_class=FileResponse)
def media(source: Source, shop: OpenShop) -> FileResponse:
    """The recording, or its browser copy, with byte ranges."""
    kind = "video/mp4" if source["kind"] == "video" else "audio/mp4"
    if source["proxy_path"]:
        return FileResponse(shop.workspace.path(source["proxy_path"]), media_type="video/mp4")
    if not playable(source):
        raise Conflict("A copy that the browser can play is still being made.")
    return FileResponse(shop.workspace.path(source["path"]), media_type=kind)


@router.get("/poster", response_class=FileResponse)
def poster(source: Source, shop: OpenShop) -> FileResponse:
    """A still of the recording (JPEG)."""
    file = shop.workspace.beside(source["path"], "poster.jpg")
    if not file.exists():
        raise NotFound("This recording has no picture.")
    return FileResponse(file, media_type="image/jpeg")


@router.get("/frames", response_class=Response)
def frames(source: Source, shop: OpenShop) -> Response:
    """Presentation times of all frames in µs, as little-endian 64-bit floats."""
    times = np.load(shop.workspace.beside(source["path"], "frames.npy"))
    return Response(times.astype("<f8").tobytes(), media_type="application/octet-stream")


@router.get("/segments/{from_us}-{to_us}.mp4", response_class=FileResponse)
def segment(
    source: Source, from_us: Micros, to_us: Micros, width: Side, height: Side, shop: OpenShop
) -> FileResponse:
    """A stretch of the recording for the preview of cut pieces, two seconds at most."""
    file = shop.segments.file(source, (from_us, to_us), even_size(width, height))
    # A recording never changes: neither does a stretch of it.
    headers = {"Cache-Control": "private, max-age=86400, immutable"}
    return FileResponse(file, media_type="video/mp4", headers=headers)
