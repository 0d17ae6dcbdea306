"""Libraries searched, and what they have brought into a project."""

from __future__ import annotations

from typing import Annotated

from fastapi import Path, Query, Response
from pydantic import BaseModel, Field

from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.api.schemas import JobView
from mortiser.core.common.errors import NotFound
from mortiser.core.common.limits import Id, Ids
from mortiser.core.library.found import FoundKind, FoundPage, Ref, Said
from mortiser.core.project.job_payloads import FetchPayload
from mortiser.library.base import Library
from mortiser.store import jobs, projects
from mortiser.wiring import AppContext

router = routes("/api", "library")
LibraryName = Annotated[str, Path(pattern="^[a-z]{1,20}$")]
HOUR = {"Cache-Control": "private, max-age=3600"}
PNG = b"\x89PNG"


class LibraryView(BaseModel):
    name: str
    title: str


class FetchBody(BaseModel):
    library: str = Field(pattern="^[a-z]{1,20}$")
    ref: Ref
    name: Said = Field(default="", description="What it is called, to speak of it.")
    piece_id: Id | None = None
    cue_ids: Ids = Field(default=[], description="The captions that it is to be seen over.")


@router.get("/libraries")
def list_libraries(context: OpenContext) -> list[LibraryView]:
    """The libraries that can be searched."""
    return [
        LibraryView(name=name, title=one.title) for name, one in context.tools.libraries.items()
    ]


@router.get("/libraries/{library}/items")
def search(
    library: LibraryName,
    context: OpenContext,
    text: Annotated[str, Query(max_length=400)] = "",
    kinds: Annotated[list[FoundKind], Query(max_length=4)] = [],  # noqa: B006  # FastAPI copies it
    page: Annotated[int, Query(ge=0, le=10_000)] = 0,
) -> FoundPage:
    """What a text asks for, the likeliest first; all there is for an empty text."""
    return _library(context, library).search(text, kinds, page)


@router.get("/libraries/{library}/small", response_class=Response)
def small(library: LibraryName, ref: Annotated[Ref, Query()], context: OpenContext) -> Response:
    """A small picture of a thing."""
    data = _library(context, library).small(ref)
    if not data:
        raise NotFound("There is no picture of that.")
    kind = "image/png" if data.startswith(PNG) else "image/jpeg"
    return Response(data, media_type=kind, headers=HOUR)


@router.post("/projects/{project_id}/fetched", status_code=201)
def fetch(project_id: Id, body: FetchBody, context: OpenContext) -> JobView:
    """Fetch a thing into a project; it is seen over captions as soon as it is there."""
    db = context.database.connection
    projects.read_project(db, project_id)
    _library(context, body.library)
    about = FetchPayload(
        library=body.library,
        ref=body.ref,
        name=body.name,
        piece_id=body.piece_id,
        cue_ids=tuple(body.cue_ids),
    )
    job_id = jobs.add(context.database, project_id, "fetch", about)
    context.queue.submit(job_id)
    return JobView.of(jobs.get(db, job_id))


def _library(context: AppContext, name: str) -> Library:
    found = context.tools.libraries.get(name)
    if found is None:
        raise NotFound("There is no such library. The page shows those there are.")
    return found
