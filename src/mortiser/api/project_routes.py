"""Projects: list, read, bring in, copy, remove, edit, follow."""

from __future__ import annotations

import asyncio
import shutil
import uuid
from collections.abc import AsyncIterator
from pathlib import Path
from typing import Annotated

from fastapi import Query, Request
from fastapi.responses import StreamingResponse
from starlette.concurrency import run_in_threadpool
from starlette.requests import ClientDisconnect

from mortiser.api import schemas
from mortiser.api.bodies import in_time, small_body
from mortiser.api.routing import routes
from mortiser.api.shop import OpenShop
from mortiser.core.edits.settings import ChangeFinish, SetFinish
from mortiser.core.errors import BadInput, MortiserError, NoSpace, Stale, TooLarge
from mortiser.core.limits import Id
from mortiser.core.words import tokens
from mortiser.formats.decoding import CHOICES, decode
from mortiser.formats.registry import read, reader_of
from mortiser.jobs.bringing_in import bring_in, copy_project, hear_again, translated_copy
from mortiser.jobs.preparing import playable
from mortiser.store import deliveries, editing, finishes, jobs, journal, projects, transcript
from mortiser.wiring import Shop, recognisable

SHOWN_FIRST = 6
"""How many captions and notes of a file are shown before it is taken in."""
MOST_PAST = 100
"""How many edits are listed to go back to."""
router = routes("/api/projects", "projects")
PULSE_S = 0.3
KEEP_ALIVE_PULSES = 40


@router.get("")
def list_projects(shop: OpenShop) -> list[schemas.ProjectCard]:
    """All projects, last changed first."""
    return [schemas.ProjectCard.of(row) for row in projects.list_projects(shop.database)]


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
) -> schemas.Created:
    """Bring in a recording: the body is the file, streamed to disk; a project is made of it."""
    if choices.transcribe:
        await run_in_threadpool(recognisable, choices.language, shop.settings)
    file = await _receive(request, shop)
    made = await run_in_threadpool(
        bring_in, shop.database, shop.workspace, file, name, hearing=choices.hearing()
    )
    await run_in_threadpool(shop.queue.submit, *made.jobs)
    return schemas.Created(project_id=made.project_id)


async def _receive(request: Request, shop: OpenShop) -> Path:
    limit = shop.settings.largest_upload
    length = request.headers.get("content-length", "")
    stated = int(length) if length.isdecimal() and len(length) < 20 else 0
    if stated > limit:
        raise TooLarge(_too_large(limit))
    shop.workspace.need(stated, shop.settings.spare_disk)
    file = shop.workspace.new_upload()
    received = 0
    try:
        with file.open("wb") as out:
            async for part in request.stream():
                received += len(part)
                if received > limit:
                    raise TooLarge(_too_large(limit))
                await run_in_threadpool(out.write, part)
        if not received:
            raise BadInput("That file is empty. Choose another one.")
    except ClientDisconnect as gone:
        file.unlink(missing_ok=True)
        raise MortiserError("The upload was stopped; nothing was kept.") from gone
    except OSError as error:
        file.unlink(missing_ok=True)
        raise NoSpace(
            "The disk is full. Nothing was stored; free some space and try again."
        ) from error
    except BaseException:
        file.unlink(missing_ok=True)
        raise
    return file


def _too_large(limit: int) -> str:
    return (
        f"The file is larger than {limit / 1024**3:.3g} GiB, the most that is taken. "
        "Set MORTISER_LARGEST_UPLOAD (bytes) to take more."
    )


@router.get("/{project_id}")
def read_project(project_id: Id, shop: OpenShop) -> schemas.ProjectView:
    """A project with everything the page shows, of one moment."""
    with shop.database.snapshot() as db:
        project = projects.project_row(db, project_id)
        pieces = projects.pieces(db, project_id)
        undo, redo = journal.labels(db, project_id)
        cues = [cue for piece in pieces for cue in projects.piece_cues(db, piece.id)]
        # A server that was ended may have left typed words behind.
        shop.typed_words.look_over(project_id, cues)
        return schemas.ProjectView(
            id=project_id,
            name=project["name"],
            revision=project["revision"],
            sources=[schemas.SourceView.of(r) for r in projects.source_rows(db, project_id)],
            pieces=[schemas.PieceView.of(piece) for piece in pieces],
            cues=[schemas.CueView.of(cue) for cue in cues],
            history=schemas.HistoryView(undo=undo, redo=redo),
            jobs=[schemas.JobView.of(row) for row in jobs.recent(db, project_id)],
            deliveries=schemas.DeliveryView.of_project(db, project_id),
        )


@router.get("/{project_id}/history")
def past_edits(project_id: Id, shop: OpenShop) -> schemas.PastView:
    """The edits that were made, newest first, and those taken back."""
    with shop.database.snapshot() as db:
        projects.project_row(db, project_id)
        undone, done = journal.past(db, project_id, MOST_PAST)
    return schemas.PastView(undone=undone, done=done)


@router.delete("/{project_id}", status_code=204)
def delete_project(project_id: Id, shop: OpenShop) -> None:
    """Remove a project with its recordings and deliveries; its jobs stop."""
    db = shop.database.connection
    folders = [
        shop.workspace.path(row["path"]).parent for row in projects.source_rows(db, project_id)
    ]
    folders += [shop.workspace.delivery(row["id"]) for row in deliveries.of_project(db, project_id)]
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
def duplicate_project(project_id: Id, shop: OpenShop) -> schemas.Created:
    """Copy a project; the recordings, which never change, are shared on disk where possible."""
    copied = copy_project(shop.database, shop.workspace, project_id)
    shop.queue.submit(*copied.jobs)
    return schemas.Created(project_id=copied.project_id)


@router.post("/{project_id}/translation", status_code=201)
def translate_project(project_id: Id, shop: OpenShop) -> schemas.Created:
    """Make a copy of a project with English captions of what is said in another language."""
    copy, job_id = translated_copy(shop.database, shop.workspace, project_id)
    shop.queue.submit(job_id)
    return schemas.Created(project_id=copy)


@router.post("/{project_id}/edits")
def apply_edit(project_id: Id, request: schemas.EditRequest, shop: OpenShop) -> schemas.EditAnswer:
    """Make one edit against a revision; the answer has only what changed."""
    made = editing.apply(
        shop.database, project_id, request.base_revision, request.edit, goes_on=request.goes_on
    )
    if isinstance(request.edit, SetFinish | ChangeFinish):
        piece = projects.piece(shop.database.connection, request.edit.piece_id)
        finishes.note_used(shop.database, piece.finish)
    return schemas.EditAnswer.of(shop.typed_words.follow(project_id, made))


@router.get("/{project_id}/changes")
def catch_up(project_id: Id, shop: OpenShop, since: Id) -> schemas.EditAnswer:
    """All that was changed after a revision, as it is now. What is too long ago is stale."""
    found = editing.catch_up(shop.database, project_id, since)
    if found is None:
        raise Stale("Too much has changed since. The whole project is being loaded.")
    return schemas.EditAnswer.of(found)


@router.post("/{project_id}/undo")
def undo(project_id: Id, request: schemas.StepRequest, shop: OpenShop) -> schemas.EditAnswer:
    """Take the newest edit back."""
    made = editing.undo(shop.database, project_id, request.base_revision)
    return schemas.EditAnswer.of(shop.typed_words.follow(project_id, made))


@router.post("/{project_id}/redo")
def redo(project_id: Id, request: schemas.StepRequest, shop: OpenShop) -> schemas.EditAnswer:
    """Make the last undone edit again."""
    made = editing.redo(shop.database, project_id, request.base_revision)
    return schemas.EditAnswer.of(shop.typed_words.follow(project_id, made))


@router.post("/{project_id}/hear", status_code=201)
def hear(project_id: Id, choices: schemas.HearingChoices, shop: OpenShop) -> schemas.JobView:
    """Hear the recording, or a range of it, again with other choices."""
    recognisable(choices.language, shop.settings)
    first, *others = hear_again(shop.database, project_id, choices.hearing())
    shop.queue.submit(*others)
    return _queued(shop, first)


ChosenEncoding = Annotated[str | None, Query(max_length=20)]


@router.post(
    "/captions/preview",
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def preview_captions(
    request: Request, encoding: ChosenEncoding = None
) -> schemas.CaptionFileView:
    """What a caption file would bring: its first captions in the encoding guessed or chosen."""
    data = await small_body(request)
    return await in_time(lambda: _preview(data, encoding))


def _preview(data: bytes, encoding: str | None) -> schemas.CaptionFileView:
    text, guessed = decode(data, encoding)
    timed = reader_of(text) is not None
    reading = read(text) if timed else None
    return schemas.CaptionFileView(
        encoding=encoding or guessed or "utf-8",
        encodings=list(CHOICES),
        guessed=guessed is not None,
        count=len(reading.captions) if reading else len([x for x in text.split("\n") if x.strip()]),
        timed=timed,
        first=(
            [
                schemas.FileCaptionView(start_us=one.start_us, text=" / ".join(one.lines))
                for one in reading.captions[:SHOWN_FIRST]
            ]
            if reading
            else [
                schemas.FileCaptionView(start_us=None, text=line.strip()[:200])
                for line in text.split("\n")
                if line.strip()
            ][:SHOWN_FIRST]
        ),
        notes=[note.text for note in reading.notes[:SHOWN_FIRST]] if reading else [],
    )


@router.post(
    "/{project_id}/captions",
    status_code=201,
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def import_captions(
    project_id: Id, request: Request, shop: OpenShop, encoding: ChosenEncoding = None
) -> schemas.JobView:
    """Take captions from a file (SRT, WebVTT, ASS); a text without times is taken as a script."""
    data = await small_body(request)
    return await in_time(lambda: _take_in(project_id, data, encoding, shop))


def _take_in(project_id: Id, data: bytes, encoding: str | None, shop: Shop) -> schemas.JobView:
    text, _ = decode(data, encoding)
    if reader_of(text) is None:
        return _follow_script(project_id, text, shop)
    read(text)
    return _import(project_id, data, encoding, shop)


@router.post("/{project_id}/script", status_code=201)
def follow_script(project_id: Id, script: schemas.ScriptBody, shop: OpenShop) -> schemas.JobView:
    """Lay a script or lyrics over the recording, a line a caption."""
    return _follow_script(project_id, script.text, shop)


def _follow_script(project_id: Id, text: str, shop: Shop) -> schemas.JobView:
    if not tokens(text):
        raise BadInput("That text has no words.")
    piece = projects.first_piece(shop.database.connection, project_id)
    payload = {"source_id": piece.source_id, "piece_id": piece.id, "text": text}
    return _queued(shop, jobs.add(shop.database, project_id, "script", payload))


def _import(project_id: Id, data: bytes, encoding: str | None, shop: Shop) -> schemas.JobView:
    db = shop.database.connection
    piece = projects.first_piece(db, project_id)
    source = projects.source_row(db, piece.source_id)
    file = shop.workspace.beside(source["path"], f"captions-{uuid.uuid4().hex}")
    file.write_bytes(data)
    payload = {
        "source_id": piece.source_id,
        "piece_id": piece.id,
        "file": shop.workspace.relative(file),
        "encoding": encoding,
    }
    return _queued(shop, jobs.add(shop.database, project_id, "import", payload))


def _queued(shop: Shop, job_id: Id) -> schemas.JobView:
    shop.queue.submit(job_id)
    return schemas.JobView.of(jobs.get(shop.database.connection, job_id))


@router.get("/{project_id}/pulse")
def read_pulse(project_id: Id, shop: OpenShop) -> schemas.Pulse:
    """What changes by itself, now."""
    with shop.database.snapshot() as db:
        project = projects.project_row(db, project_id)
        sources = projects.source_rows(db, project_id)
        heard = transcript.word_count(db, sources[0]["id"])
        return schemas.Pulse(
            revision=project["revision"],
            heard=heard,
            language=sources[0]["language"],
            playable=playable(sources[0]),
            disk_full=shop.workspace.full(),
            jobs=[schemas.JobView.of(row) for row in jobs.recent(db, project_id)],
            deliveries=schemas.DeliveryView.of_project(db, project_id),
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
