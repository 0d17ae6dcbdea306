"""What changes by itself in a project, as it happens."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator

from fastapi import Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from mortiser.api import schemas
from mortiser.api.context import OpenContext
from mortiser.api.delivery_schemas import DeliveryView
from mortiser.api.routing import routes
from mortiser.core.common.errors import MortiserError
from mortiser.core.common.limits import Id
from mortiser.store import jobs, projects, transcript

router = routes("/api/projects", "projects")
PULSE_S = 0.3
KEEP_ALIVE_PULSES = 40
LOOK_AGAIN_PULSES = 10


class ProjectStatus(BaseModel):
    """The state that changes by itself: sent whenever it did."""

    revision: int
    heard: int = Field(description="Words so far; when it grows, new captions can be fetched.")
    sources: list[schemas.SourceView]
    disk_full: bool = Field(description="Whether work waits until there is room on the disk.")
    jobs: list[schemas.JobView]
    deliveries: list[DeliveryView]


@router.get("/{project_id}/status")
def read_status(project_id: Id, context: OpenContext) -> ProjectStatus:
    """What changes by itself, now."""
    with context.database.snapshot() as db:
        project = projects.read_project(db, project_id)
        sources = projects.read_sources(db, project_id)
        heard = sum(transcript.word_count(db, source.id) for source in sources)
        return ProjectStatus(
            revision=project.revision,
            heard=heard,
            sources=[schemas.SourceView.of(source, context.workspace) for source in sources],
            disk_full=context.workspace.full(),
            jobs=[schemas.JobView.of(row) for row in jobs.recent(db, project_id)],
            deliveries=DeliveryView.of_project(db, project_id),
        )


@router.get("/{project_id}/events", response_class=StreamingResponse)
async def follow(project_id: Id, request: Request, context: OpenContext) -> StreamingResponse:
    """Server-sent events: a ProjectStatus whenever it changed."""
    await run_in_threadpool(read_status, project_id, context)
    return StreamingResponse(
        _statuses(project_id, request, context), media_type="text/event-stream"
    )


async def _statuses(project_id: Id, request: Request, context: OpenContext) -> AsyncIterator[str]:
    """Events of a project. It is read where the database has changed, and now and then: whether files
    are there and the disk has room, no row says."""
    sent, quiet, known = "", 0, -1
    with context.database.watch() as version:
        while not await request.is_disconnected():
            now = version()
            text = sent
            if now != known or (quiet and quiet % LOOK_AGAIN_PULSES == 0):
                known = now
                try:
                    status = await run_in_threadpool(read_status, project_id, context)
                except MortiserError:
                    return
                text = status.model_dump_json()
            quiet = 0 if text != sent else quiet + 1
            if text != sent:
                sent = text
                yield f"event: status\ndata: {text}\n\n"
            elif quiet % KEEP_ALIVE_PULSES == 0:
                yield ": still here\n\n"
            await asyncio.sleep(PULSE_S)
