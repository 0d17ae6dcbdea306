"""Projects: list, read, bring in, copy, remove, edit, follow."""

from __future__ import annotations

import shutil
import sqlite3
from typing import Annotated, Literal

from fastapi import Query, Request
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from mortiser.api import schemas
from mortiser.api.bodies import received
from mortiser.api.delivery_schemas import DeliveryView
from mortiser.api.routing import routes
from mortiser.api.shop import OpenShop
from mortiser.core.common.errors import NotFound
from mortiser.core.common.limits import Id
from mortiser.jobs.bringing_in import BroughtIn, bring_in, copy_project, translated_copy
from mortiser.store import deliveries, jobs, journal, projects
from mortiser.wiring import Shop, recognisable

router = routes("/api/projects", "projects")


class Created(BaseModel):
    project_id: int


class MatchRequest(BaseModel):
    sound_id: Id


class Added(BaseModel):
    source_id: int
    piece_id: int


class ProjectCard(BaseModel):
    id: int
    name: str
    revision: int
    changed_us: int
    duration_us: int
    kind: Literal["video", "audio"]
    source_id: int
    cue_count: int
    hearing: schemas.JobStatus | None

    @classmethod
    def of(cls, row: sqlite3.Row) -> ProjectCard:
        return cls(**{name: row[name] for name in cls.model_fields})


class ProjectView(BaseModel):
    id: int
    name: str
    revision: int
    sources: list[schemas.SourceView]
    pieces: list[schemas.PieceView]
    cues: list[schemas.CueView] = Field(description="Captions, piece by piece, in time order.")
    history: schemas.HistoryView
    jobs: list[schemas.JobView]
    deliveries: list[DeliveryView]


@router.get("")
def list_projects(shop: OpenShop) -> list[ProjectCard]:
    """All projects, last changed first."""
    return [ProjectCard.of(row) for row in projects.list_projects(shop.database)]


@router.post(
    "",
    status_code=201,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def bring_in_recording(
    request: Request,
    name: Annotated[str, Query(max_length=1_000)],
    shop: OpenShop,
    choices: Annotated[schemas.HearingChoices, Query()],
) -> Created:
    """Bring in a recording: the body is the file, streamed to disk; a project is made of it."""
    made = await _taken_in(request, shop, name, choices)
    return Created(project_id=made.project_id)


@router.post(
    "/{project_id}/recordings",
    status_code=201,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def add_recording(
    project_id: Id,
    request: Request,
    name: Annotated[str, Query(max_length=1_000)],
    shop: OpenShop,
    choices: Annotated[schemas.HearingChoices, Query()],
) -> Added:
    """Bring another recording into a project; a piece of the project is made of it."""
    await run_in_threadpool(_known, shop, project_id)
    made = await _taken_in(request, shop, name, choices, project_id)
    return Added(source_id=made.source_id, piece_id=made.piece_id)


def _known(shop: Shop, project_id: int) -> None:
    projects.project_row(shop.database.connection, project_id)


async def _taken_in(
    request: Request,
    shop: Shop,
    name: str,
    choices: schemas.HearingChoices,
    project_id: int | None = None,
) -> BroughtIn:
    if choices.transcribe:
        await run_in_threadpool(recognisable, choices.language, shop.settings)
    file = await received(request, shop)
    made = await run_in_threadpool(
        bring_in,
        shop.database,
        shop.workspace,
        file,
        name,
        hearing=choices.hearing(),
        project_id=project_id,
    )
    await run_in_threadpool(shop.queue.submit, *made.jobs)
    return made


@router.post("/{project_id}/microphone", status_code=202)
def match_microphone(project_id: Id, request: MatchRequest, shop: OpenShop) -> None:
    """Look for the recording that a sound belongs to; it is heard in that one's stead then."""
    db = shop.database.connection
    source = projects.source_row(db, request.sound_id)
    if source["project_id"] != project_id:
        raise NotFound("That recording is not part of this project.")
    about = {"sound_id": request.sound_id}
    shop.queue.submit(jobs.add(shop.database, project_id, "microphone", about))


@router.get("/{project_id}")
def read_project(project_id: Id, shop: OpenShop) -> ProjectView:
    """A project with everything the page shows, of one moment."""
    shop.lay_sounds(project_id)
    with shop.database.snapshot() as db:
        project = projects.project_row(db, project_id)
        pieces = projects.pieces(db, project_id)
        undo, redo = journal.labels(db, project_id)
        cues = [cue for piece in pieces for cue in projects.piece_cues(db, piece.id)]
        # A server that was ended may have left typed words behind.
        shop.typed_words.look_over(project_id, cues)
        return ProjectView(
            id=project_id,
            name=project["name"],
            revision=project["revision"],
            sources=[
                schemas.SourceView.of(row, shop.workspace)
                for row in projects.source_rows(db, project_id)
            ],
            pieces=[schemas.PieceView.of(piece) for piece in pieces],
            cues=[schemas.CueView.of(cue) for cue in cues],
            history=schemas.HistoryView(undo=undo, redo=redo),
            jobs=[schemas.JobView.of(row) for row in jobs.recent(db, project_id)],
            deliveries=DeliveryView.of_project(db, project_id),
        )


@router.delete("/{project_id}", status_code=204)
def delete_project(project_id: Id, shop: OpenShop) -> None:
    """Remove a project with its recordings and deliveries; its jobs stop."""
    db = shop.database.connection
    folders = [
        shop.workspace.path(row["path"]).parent for row in projects.source_rows(db, project_id)
    ]
    folders += [shop.workspace.delivery(one) for one in deliveries.ids(db, project_id)]
    for folder in folders:
        shop.workspace.let_go(folder)
    try:
        projects.delete_project(shop.database, project_id)
    except BaseException:
        for folder in folders:
            shop.workspace.keep(folder)
        raise
    for folder in folders:
        shutil.rmtree(folder, ignore_errors=True)


@router.post("/{project_id}/duplicate", status_code=201)
def duplicate_project(project_id: Id, shop: OpenShop) -> Created:
    """Copy a project; the recordings, which never change, are shared on disk where possible."""
    copied = copy_project(shop.database, shop.workspace, project_id)
    shop.queue.submit(*copied.jobs)
    return Created(project_id=copied.project_id)


@router.post("/{project_id}/translation", status_code=201)
def translate_project(project_id: Id, shop: OpenShop) -> Created:
    """Make a copy of a project with English captions of what is said in another language."""
    copy, job_id = translated_copy(shop.database, shop.workspace, project_id)
    shop.queue.submit(job_id)
    return Created(project_id=copy)
