"""Words brought in: heard again, from caption files, from scripts."""

from __future__ import annotations

import uuid
from typing import Annotated

from fastapi import Query, Request
from pydantic import BaseModel, Field

from mortiser import disk
from mortiser.apart import done_apart
from mortiser.api import schemas
from mortiser.api.bodies import in_time, small_body
from mortiser.api.context import OpenContext
from mortiser.api.routing import routes
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id
from mortiser.core.project.file_groups import grouped
from mortiser.core.project.job_payloads import ImportPayload, ScriptPayload
from mortiser.core.transcript.words import tokens
from mortiser.formats.decoding import CHOICES, decode
from mortiser.formats.registry import read, reader_of
from mortiser.jobs.ingest import hear_again
from mortiser.store import jobs, projects
from mortiser.wiring import AppContext, recognisable

router = routes("/api/projects", "projects")
MOST_FILES = 1_000
"""So many come at once."""
SHOWN_FIRST = 6
"""How many captions and notes of a file are shown before it is taken in."""


class FileCaptionView(BaseModel):
    start_us: int | None
    text: str


class CaptionFileView(BaseModel):
    encoding: str
    encodings: list[str] = Field(description="Those to choose from.")
    guessed: bool = Field(description="Whether the file does not say its encoding.")
    count: int
    timed: bool = Field(description="Whether it has times; else it is taken as a script.")
    first: list[FileCaptionView]
    notes: list[str]


OfPiece = Annotated[Id | None, Query(description="The piece that is meant; the oldest if none.")]
Where = tuple[int, int | None]
"""A project, and the piece of it that is meant."""


class ScriptBody(BaseModel):
    text: str = Field(max_length=400_000)
    verses: bool = Field(default=False, description="A verse a caption, in place of a line.")


class FileNames(BaseModel):
    names: list[Annotated[str, Field(max_length=1_000)]] = Field(max_length=MOST_FILES)


class RecordingFilesView(BaseModel):
    """A recording and what comes with it, by their places in the list of names."""

    file: int
    words: int | None
    sounds: list[int]
    cover: int | None


class FileGroupsView(BaseModel):
    recordings: list[RecordingFilesView]
    lonely: list[int] = Field(description="What belongs to no recording.")


@router.post("/file-groups")
def group(files: FileNames) -> FileGroupsView:
    """Which files that come together belong together."""
    return FileGroupsView.model_validate(grouped(files.names), from_attributes=True)


@router.post("/{project_id}/hear", status_code=201)
def hear(
    project_id: Id, choices: schemas.HearingChoices, context: OpenContext, piece_id: OfPiece = None
) -> schemas.JobView:
    """Hear the recording, or a range of it, again with other choices."""
    recognisable(choices.language, context.settings)
    first, *others = hear_again(context.database, project_id, choices.hearing(), piece_id)
    context.queue.submit(*others)
    return _queued(context, first)


ChosenEncoding = Annotated[str | None, Query(max_length=20)]


@router.post(
    "/captions/preview",
    openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}},
)
async def preview_captions(request: Request, encoding: ChosenEncoding = None) -> CaptionFileView:
    """What a caption file would bring: its first captions in the encoding guessed or chosen."""
    data = await small_body(request)
    return await in_time(lambda: _preview(data, encoding))


def _preview(data: bytes, encoding: str | None) -> CaptionFileView:
    text, guessed = decode(data, encoding)
    timed = reader_of(text) is not None
    reading = done_apart(read, text) if timed else None
    return CaptionFileView(
        encoding=encoding or guessed or "utf-8",
        encodings=list(CHOICES),
        guessed=guessed is not None,
        count=len(reading.captions) if reading else len([x for x in text.split("\n") if x.strip()]),
        timed=timed,
        first=(
            [
                FileCaptionView(start_us=one.start_us, text=" / ".join(one.lines))
                for one in reading.captions[:SHOWN_FIRST]
            ]
            if reading
            else [
                FileCaptionView(start_us=None, text=line.strip()[:200])
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
    project_id: Id,
    request: Request,
    context: OpenContext,
    encoding: ChosenEncoding = None,
    piece_id: OfPiece = None,
) -> schemas.JobView:
    """Take captions from a file (SRT, WebVTT, ASS); a text without times is taken as a script."""
    data = await small_body(request)
    return await in_time(lambda: _take_in((project_id, piece_id), data, encoding, context))


def _take_in(
    where: Where, data: bytes, encoding: str | None, context: AppContext
) -> schemas.JobView:
    text, _ = decode(data, encoding)
    if reader_of(text) is None:
        return _follow_script(where, text, context)
    done_apart(read, text)
    return _import(where, data, encoding, context)


@router.post("/{project_id}/script", status_code=201)
def follow_script(
    project_id: Id, script: ScriptBody, context: OpenContext, piece_id: OfPiece = None
) -> schemas.JobView:
    """Lay a script or lyrics over the recording, a line or a verse a caption."""
    return _follow_script((project_id, piece_id), script.text, context, verses=script.verses)


def _follow_script(
    where: Where, text: str, context: AppContext, *, verses: bool = False
) -> schemas.JobView:
    if not tokens(text):
        raise BadInput("That text has no words.")
    piece = projects.chosen_piece(context.database.connection, *where)
    payload = ScriptPayload(source_id=piece.source_id, piece_id=piece.id, text=text, verses=verses)
    return _queued(context, jobs.add(context.database, piece.project_id, "script", payload))


def _import(
    where: Where, data: bytes, encoding: str | None, context: AppContext
) -> schemas.JobView:
    db = context.database.connection
    piece = projects.chosen_piece(db, *where)
    source = projects.read_source(db, piece.source_id)
    file = context.workspace.beside(source.path, f"captions-{uuid.uuid4().hex}")
    disk.write(file, data)
    payload = ImportPayload(
        source_id=piece.source_id,
        piece_id=piece.id,
        file=context.workspace.relative(file),
        encoding=encoding,
    )
    return _queued(context, jobs.add(context.database, piece.project_id, "import", payload))


def _queued(context: AppContext, job_id: Id) -> schemas.JobView:
    context.queue.submit(job_id)
    return schemas.JobView.of(jobs.get(context.database.connection, job_id))
