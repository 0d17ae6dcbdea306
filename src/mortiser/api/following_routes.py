"""What changes by itself in a project, as it happens."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator

from fastapi import Request
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from mortiser.api import schemas
from mortiser.api.delivery_schemas import DeliveryView
from mortiser.api.routing import routes
from mortiser.api.shop import OpenShop
from mortiser.core.common.errors import MortiserError
from mortiser.core.common.limits import Id
from mortiser.store import jobs, projects, transcript

router = routes("/api/projects", "projects")
PULSE_S = 0.3
KEEP_ALIVE_PULSES = 40


class Pulse(BaseModel):
    """The state that changes by itself: sent whenever it did."""

    revision: int
    heard: int = Field(description="Words so far; when it grows, new captions can be fetched.")
    sources: list[schemas.SourceView]
    disk_full: bool = Field(description="Whether work waits until there is room on the disk.")
    jobs: list[schemas.JobView]
    deliveries: list[DeliveryView]


@router.get("/{project_id}/pulse")
def read_pulse(project_id: Id, shop: OpenShop) -> Pulse:
    """What changes by itself, now."""
    with shop.database.snapshot() as db:
        project = projects.project_row(db, project_id)
        sources = projects.source_rows(db, project_id)
        heard = sum(transcript.word_count(db, source["id"]) for source in sources)
        return Pulse(
            revision=project["revision"],
            heard=heard,
            sources=[schemas.SourceView.of(source, shop.workspace) for source in sources],
            disk_full=shop.workspace.full(),
            jobs=[schemas.JobView.of(row) for row in jobs.recent(db, project_id)],
            deliveries=DeliveryView.of_project(db, project_id),
        )


@router.get("/{project_id}/events", response_class=StreamingResponse)
async def follow(project_id: Id, request: Request, shop: OpenShop) -> StreamingResponse:
    """Server-sent events: a Pulse whenever it changed."""
    await run_in_threadpool(read_pulse, project_id, shop)
    return StreamingResponse(_pulses(project_id, request, shop), media_type="text/event-stream")


async def _pulses(project_id: Id, request: Request, shop: OpenShop) -> AsyncIterator[str]:
    sent, quiet = "", 0
    while not await request.is_disconnected():
        try:
            pulse = await run_in_threadpool(read_pulse, project_id, shop)
        except MortiserError:
            return
        text = pulse.model_dump_json()
        quiet = 0 if text != sent else quiet + 1
        if text != sent:
            sent = text
            yield f"event: pulse\ndata: {text}\n\n"
        elif quiet % KEEP_ALIVE_PULSES == 0:
            yield ": still here\n\n"
        await asyncio.sleep(PULSE_S)
