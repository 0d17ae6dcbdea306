"""Deliveries: planned, ordered, found again; sets of outputs."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from fastapi import Path
from fastapi.responses import FileResponse, StreamingResponse
from pydantic import BaseModel, Field

from mortiser.api.attachments import attachment
from mortiser.api.context import OpenContext
from mortiser.api.delivery_schemas import (
    DeliveryView,
    FileView,
    FormView,
    OutputSetBody,
    OutputSetView,
    PlannedView,
    QueuedView,
)
from mortiser.api.routing import routes
from mortiser.core.common.errors import Conflict, NotFound
from mortiser.core.common.limits import Id
from mortiser.core.delivery.estimate import Expected, corrected
from mortiser.core.delivery.format_limits import not_held
from mortiser.core.delivery.order import PieceStretch
from mortiser.core.framing.shape import MOST_SHAPES
from mortiser.core.project.output import OUTPUT_SETS, VIDEO_FORMS
from mortiser.jobs import cleaning
from mortiser.jobs.sounds import is_laid
from mortiser.outputs.zipped import zipped
from mortiser.store import deliveries, output_sets, projects, retention
from mortiser.wiring import AppContext

MOST_STRETCHES = 20
FileName = Annotated[str, Path(max_length=300)]
router = routes("/api", "deliveries")


class DeliverBody(BaseModel):
    shape_ids: list[Id] = Field(default=[], max_length=MOST_SHAPES)
    stretches: list[PieceStretch] = Field(default=[], max_length=MOST_STRETCHES)


class KeepingBody(BaseModel):
    days: int = Field(ge=0, le=3_650, description="0: until somebody removes them.")


@router.get("/forms")
def forms() -> list[FormView]:
    """The forms of video that there are."""
    return [
        FormView(
            form=form,
            name=facts.name,
            about=facts.about,
            sound=facts.sound,
            switchable=facts.switchable,
            sized=facts.sized,
            loops=facts.loops,
        )
        for form, facts in VIDEO_FORMS.items()
    ]


@router.get("/output-sets")
def list_sets(context: OpenContext) -> list[OutputSetView]:
    """The built-in sets of outputs, then the workspace's own."""
    built_in = [
        OutputSetView(id=None, name=one.name, about=one.about, outputs=list(one.outputs))
        for one in OUTPUT_SETS
    ]
    own = output_sets.saved(context.database.connection)
    return built_in + [
        OutputSetView(id=id_, name=name, outputs=list(outputs)) for id_, name, outputs in own
    ]


@router.post("/output-sets", status_code=201)
def save_set(body: OutputSetBody, context: OpenContext) -> OutputSetView:
    """Keep outputs under a name, in the place of those of that name."""
    made, name = output_sets.save(context.database, body.name, body.outputs)
    return OutputSetView(id=made, name=name, outputs=body.outputs)


@router.delete("/output-sets/{set_id}", status_code=204)
def remove_set(set_id: Id, context: OpenContext) -> None:
    """Forget a saved set; pieces that have its outputs keep them."""
    output_sets.remove(context.database, set_id)


@router.post("/pieces/{piece_id}/planned")
def planned(
    piece_id: Id, context: OpenContext, body: DeliverBody | None = None
) -> list[PlannedView]:
    """The files that a delivery would have now, with how large they will be and how long they take."""
    body = body or DeliverBody()
    with context.database.snapshot() as db:
        today = datetime.now().astimezone().date()
        order, parts = deliveries.planned(db, piece_id, today, body.shape_ids, body.stretches)
        found = []
        for part in parts:
            thought = Expected(part.size, part.seconds)
            come = corrected(thought, deliveries.came_to(db, part.output.form))
            found.append(
                PlannedView(
                    output=part.output,
                    name=part.name,
                    size=come.size,
                    seconds=come.seconds,
                    not_held=not_held(part.output, order.piece, order.cues),
                )
            )
        return found


@router.post("/pieces/{piece_id}/deliveries", status_code=201)
def deliver(piece_id: Id, context: OpenContext, body: DeliverBody | None = None) -> DeliveryView:
    """Start a delivery of the piece as it is now, in some of its shapes or in all of them, of all of it or of
    some stretches."""
    db = context.database.connection
    delivery_id, made = ordered(context, piece_id, body or DeliverBody())
    context.queue.submit(*made)
    return DeliveryView.of(deliveries.files_of(db, delivery_id))


@router.post("/projects/{project_id}/deliveries", status_code=201)
def deliver_project(project_id: Id, context: OpenContext) -> list[DeliveryView]:
    """Start a delivery of each piece of a project that has captions."""
    db = context.database.connection
    found = [one for one in projects.pieces(db, project_id) if projects.piece_cues(db, one.id)]
    if not found:
        raise Conflict("There are no captions to deliver yet. Wait for the first words.")
    made: list[DeliveryView] = []
    for piece in found:
        delivery_id, jobs = ordered(context, piece.id, DeliverBody())
        context.queue.submit(*jobs)
        made.append(DeliveryView.of(deliveries.files_of(db, delivery_id)))
    return made


def ordered(context: AppContext, piece_id: int, body: DeliverBody) -> tuple[int, list[int]]:
    """An order that can be made: its id and those of its jobs. Raises Conflict, NoSpace, BadInput."""
    db = context.database.connection
    piece = projects.piece(db, piece_id)
    if not projects.window_cues(db, piece_id, 0, piece.timeline.duration_us + 1):
        raise Conflict("There are no captions to deliver yet. Wait for the first words.")
    shown = {clip.source_id for clip in piece.timeline.clips}
    for row in projects.read_sources(db, piece.project_id):
        if row.id in shown and not is_laid(context.workspace, row):
            raise Conflict(
                "The microphone's sound is being laid under the picture. Deliver in a moment."
            )
    cleaning.remove_old(context.database, context.workspace)
    return deliveries.order(
        context.database,
        piece_id,
        datetime.now().astimezone().date(),
        body.shape_ids,
        body.stretches,
        lambda size: context.workspace.need(size, context.settings.spare_disk),
    )


@router.get("/queue")
def queue(context: OpenContext) -> list[QueuedView]:
    """The files of all projects that are being made or wait, in the order they are made in."""
    with context.database.snapshot() as db:
        files = deliveries.waiting(db)
    return [
        QueuedView(
            project_id=file.delivery.project_id,
            project=file.project,
            delivery_id=file.delivery.id,
            file=FileView.of(file),
        )
        for file in files
    ]


@router.get("/deliveries/{delivery_id}/files/{name}", response_class=FileResponse)
def delivered_file(
    delivery_id: Id, name: FileName, context: OpenContext, inline: bool = False
) -> FileResponse:
    """A complete file of a delivery, to be kept or (``inline``) to be played."""
    db = context.database.connection
    deliveries.get(db, delivery_id)
    made = {one.name for one in deliveries.files_of(db, delivery_id) if one.size}
    file = context.workspace.delivery(delivery_id) / name
    if name not in made or not file.exists():
        raise NotFound("That file is not there. Deliver the piece again.")
    kind = "inline" if inline else "attachment"
    return FileResponse(file, filename=name, content_disposition_type=kind)


@router.get("/deliveries/{delivery_id}/all.zip", response_class=StreamingResponse)
def all_files(delivery_id: Id, context: OpenContext) -> StreamingResponse:
    """All files of a delivery that are made as one ZIP, made while it is sent."""
    db = context.database.connection
    delivery = deliveries.get(db, delivery_id)
    folder = context.workspace.delivery(delivery_id)
    made = [folder / one.name for one in deliveries.files_of(db, delivery_id) if one.size]
    if not made or not all(file.exists() for file in made):
        raise NotFound("Those files are not there. Deliver the piece again.")
    headers = attachment(f"{delivery.stem}.zip")
    return StreamingResponse(zipped(made), media_type="application/zip", headers=headers)


@router.delete("/deliveries/{delivery_id}", status_code=204)
def remove_delivery(delivery_id: Id, context: OpenContext) -> None:
    """Remove a delivery with its files."""
    cleaning.remove_delivery(context.database, context.workspace, delivery_id)


@router.get("/keeping")
def keeping_rule(context: OpenContext) -> KeepingBody:
    """For how long delivered files are kept."""
    return KeepingBody(days=retention.keep_days(context.database.connection))


@router.put("/keeping")
def set_keeping_rule(body: KeepingBody, context: OpenContext) -> KeepingBody:
    """Say for how long delivered files are kept; what is older goes at once."""
    retention.set_keep_days(context.database, body.days)
    cleaning.remove_old(context.database, context.workspace)
    return body
