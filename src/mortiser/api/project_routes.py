"""Projects: list, read, bring in, copy, remove, edit, follow."""

from __future__ import annotations

import shutil
from dataclasses import asdict
from typing import Annotated, Literal

from fastapi import Query, Request
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from mortiser.api import schemas
from mortiser.api.bodies import received
from mortiser.api.context import OpenContext
from mortiser.api.delivery_schemas import DeliveryView
from mortiser.api.routing import routes
from mortiser.core.common.errors import NotFound
from mortiser.core.common.limits import Count, Id
from mortiser.core.edits.cutting.removing import losses
from mortiser.core.project.job import JobStatus
from mortiser.core.project.job_payloads import MicrophonePayload
from mortiser.core.project.project import ListedProject
from mortiser.jobs.ingest import BroughtIn, bring_in, copy_project, translated_copy
from mortiser.store import deliveries, jobs, journal, projects
from mortiser.store.sql_session import SqlEditSession
from mortiser.wiring import AppContext, recognisable

router = routes("/api/projects", "projects")


class Created(BaseModel):
    project_id: int


class MatchRequest(BaseModel):
    sound_id: Id


class Added(BaseModel):
    source_id: int
    piece_id: int | None = Field(
        description="None of a film without sound: it is seen over others."
    )


class ProjectCard(BaseModel):
    id: int
    name: str
    revision: int
    changed_us: int
    duration_us: int
    kind: Literal["video", "audio"]
    source_id: int
    cue_count: int
    hearing: JobStatus | None

    @classmethod
    def of(cls, project: ListedProject) -> ProjectCard:
        return cls(**asdict(project))


class ProjectView(BaseModel):
    id: int
    name: str
    revision: int
    sources: list[schemas.SourceView]
    pieces: list[schemas.PieceView]
    cues: list[schemas.CueView] = Field(
        description="Captions, piece by piece, in time order; of one piece where one is asked for."
    )
    history: schemas.HistoryView
    jobs: list[schemas.JobView]
    deliveries: list[DeliveryView]


@router.get("")
def list_projects(context: OpenContext) -> list[ProjectCard]:
    """All projects, last changed first."""
    return [ProjectCard.of(row) for row in projects.list_projects(context.database)]


@router.post(
    "",
    status_code=201,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def bring_in_recording(
    request: Request,
    name: Annotated[str, Query(max_length=1_000)],
    context: OpenContext,
    choices: Annotated[schemas.HearingChoices, Query()],
) -> Created:
    """Bring in a recording: the body is the file, streamed to disk; a project is made of it."""
    made = await _taken_in(request, context, name, choices)
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
    context: OpenContext,
    choices: Annotated[schemas.HearingChoices, Query()],
) -> Added:
    """Bring another recording into a project; a piece of the project is made of it."""
    await run_in_threadpool(_known, context, project_id)
    made = await _taken_in(request, context, name, choices, project_id)
    return Added(source_id=made.source_id, piece_id=made.piece_id)


def _known(context: AppContext, project_id: int) -> None:
    projects.read_project(context.database.connection, project_id)


async def _taken_in(
    request: Request,
    context: AppContext,
    name: str,
    choices: schemas.HearingChoices,
    project_id: int | None = None,
) -> BroughtIn:
    if choices.transcribe:
        await run_in_threadpool(recognisable, choices.language, context.settings)
    file = await received(request, context)
    made = await run_in_threadpool(
        bring_in,
        context.database,
        context.workspace,
        file,
        name,
        hearing=choices.hearing(),
        project_id=project_id,
    )
    await run_in_threadpool(context.queue.submit, *made.jobs)
    return made


@router.post("/{project_id}/microphone", status_code=202)
def match_microphone(project_id: Id, request: MatchRequest, context: OpenContext) -> None:
    """Look for the recording that a sound belongs to; it is heard in that one's stead then."""
    db = context.database.connection
    source = projects.read_source(db, request.sound_id)
    if source.project_id != project_id:
        raise NotFound("That recording is not part of this project.")
    about = MicrophonePayload(sound_id=request.sound_id)
    context.queue.submit(jobs.add(context.database, project_id, "microphone", about))


@router.get("/{project_id}")
def read_project(
    project_id: Id,
    context: OpenContext,
    shown: Annotated[
        Count | None,
        Query(
            description="The piece whose captions are wanted alone; the first, for one not there."
        ),
    ] = None,
) -> ProjectView:
    """A project with everything the page shows, of one moment."""
    with context.database.snapshot() as db:
        project = projects.read_project(db, project_id)
        pieces = projects.pieces(db, project_id)
        undo, redo = journal.labels(db, project_id)
        wanted = pieces
        if shown is not None:
            wanted = [piece for piece in pieces if piece.id == shown] or pieces[:1]
        cues = [cue for piece in wanted for cue in projects.piece_cues(db, piece.id)]
        return ProjectView(
            id=project_id,
            name=project.name,
            revision=project.revision,
            sources=[
                schemas.SourceView.of(row, context.workspace)
                for row in projects.read_sources(db, project_id)
            ],
            pieces=[schemas.PieceView.of(piece) for piece in pieces],
            cues=[schemas.CueView.of(cue) for cue in cues],
            history=schemas.HistoryView(undo=undo, redo=redo),
            jobs=[schemas.JobView.of(row) for row in jobs.recent(db, project_id)],
            deliveries=DeliveryView.of_project(db, project_id),
        )


class PieceLossView(BaseModel):
    """What a piece loses with a recording."""

    piece_id: int
    name: str
    lost_us: int
    cutaways: int = Field(description="How many that lie on its words or show it.")
    whole: bool = Field(description="Whether nothing else is in it, so that it goes too.")


@router.get("/{project_id}/recordings/{source_id}/losses")
def what_goes_with(project_id: Id, source_id: Id, context: OpenContext) -> list[PieceLossView]:
    """What the pieces would lose with a recording that is taken out of the project."""
    with context.database.snapshot() as db:
        session = SqlEditSession(db, project_id)
        session.source_name(source_id)
        return [PieceLossView(**asdict(loss)) for loss in losses(session, source_id)]


@router.delete("/{project_id}", status_code=204)
def delete_project(project_id: Id, context: OpenContext) -> None:
    """Remove a project with its recordings and deliveries; its jobs stop."""
    db = context.database.connection
    folders = [context.workspace.path(one).parent for one in projects.paths_of(db, project_id)]
    folders += [context.workspace.delivery(one) for one in deliveries.ids(db, project_id)]
    for folder in folders:
        context.workspace.let_go(folder)
    try:
        projects.delete_project(context.database, project_id)
    except BaseException:
        for folder in folders:
            context.workspace.keep(folder)
        raise
    for folder in folders:
        shutil.rmtree(folder, ignore_errors=True)


@router.post("/{project_id}/duplicate", status_code=201)
def duplicate_project(project_id: Id, context: OpenContext) -> Created:
    """Copy a project; the recordings, which never change, are shared on disk where possible."""
    copied = copy_project(context.database, context.workspace, project_id)
    context.queue.submit(*copied.jobs)
    context.lay_sounds(copied.project_id)
    return Created(project_id=copied.project_id)


@router.post("/{project_id}/translation", status_code=201)
def translate_project(project_id: Id, context: OpenContext) -> Created:
    """Make a copy of a project with English captions of what is said in another language."""
    copy, job_id = translated_copy(context.database, context.workspace, project_id)
    context.queue.submit(job_id)
    context.lay_sounds(copy)
    return Created(project_id=copy)
