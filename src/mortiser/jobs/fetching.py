"""The fetch job: bring a film or a picture in from a library, and have it seen where that was asked for."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import PurePath

from mortiser.apart import done_apart
from mortiser.core.assembly.cutaway import PictureSeen, RecordingSeen, Seen
from mortiser.core.common.errors import BadInput, Conflict, MortiserError, NotFound
from mortiser.core.edits.look.cutaways import AddCutaway
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.library.found import Credit, Found
from mortiser.core.project.job_payloads import FetchPayload
from mortiser.jobs.broker import LeasedJob
from mortiser.jobs.ingest import Hearing, bring_in
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.own_things import own_ref
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.pictures import keep
from mortiser.pictures.checking import checked
from mortiser.store import editing, jobs, pictures, projects

OWN = "own"
"""The name of the workspace's own library."""
NOT_HEARD = Hearing(wanted=False)
USUAL_ENDING = ".mp4"
"""Of a film whose library does not say another one."""


@dataclass(frozen=True)
class FetchInput:
    """What is to be fetched into a project, and what of it is there already."""

    project_id: int
    about: FetchPayload
    here: Seen | None


@dataclass(frozen=True)
class Fetched:
    """What came: a picture as it is kept, or the file of a film."""

    found: Found
    picture: OwnPicture | None
    file: str | None
    """Where it lies in the workspace."""


def read_wanted(context: JobContext, taken: LeasedJob) -> FetchInput:
    """What is to be fetched."""
    db = context.database.connection
    about = taken.about(FetchPayload)
    project_id = jobs.get(db, taken.lease.job_id).project_id
    wanted = about.library, about.ref
    here: Seen | None = None
    for source in projects.read_sources(db, project_id):
        if wanted in _places(own_ref(source), source.credit):
            here = here or RecordingSeen(source_id=source.id)
    for picture, credit in pictures.credited(db):
        if wanted in _places(picture.digest, credit):
            here = here or PictureSeen(picture=picture)
    return FetchInput(project_id, about, here)


def _places(own: str, credit: Credit | None) -> tuple[tuple[str, str], ...]:
    """Where a thing that is here can be found: in the workspace's library, and where it was fetched."""
    return (OWN, own), *((credit.place,) if credit else ())


def fetch(tools: Tools, task: Task, given: FetchInput) -> Iterator[Fetched | None]:
    """Fetch it, unless it is there."""
    if given.here is not None:
        yield None
        return
    about = given.about
    library = tools.libraries.get(about.library)
    if library is None:
        raise NotFound("That library is not set up any more. Search in another one.")
    file = tools.workspace.new_upload()
    try:
        found = library.fetch(about.ref, file, task.progress)
        task.still_wanted()
        picture = None
        if found.kind == "picture":
            drawn = done_apart(checked, file.read_bytes())
            keep(drawn)
            picture = drawn.named(found.name)
        elif found.kind != "film":
            raise BadInput("That is only heard. Choose a film or a picture.")
        yield Fetched(found, picture, None if picture else tools.workspace.relative(file))
    finally:
        file.unlink(missing_ok=True)


def keep_fetched(context: JobContext, given: FetchInput, fetched: Fetched | None) -> None:
    """Note what came, and whose it is; let it be seen over the captions it was fetched for."""
    seen = given.here if fetched is None else _kept(context, given, fetched)
    about = given.about
    if seen is None or about.piece_id is None or not about.cue_ids:
        return
    edit = AddCutaway(piece_id=about.piece_id, cue_ids=list(about.cue_ids), seen=seen)
    try:
        editing.apply_now(context.database, given.project_id, edit)
    except MortiserError as error:
        raise Conflict(
            f"{about.name or 'It'} is in the project now, but the captions it was fetched for are not there any "
            "more. Choose others in Frame, Cuts."
        ) from error


def _kept(context: JobContext, given: FetchInput, fetched: Fetched) -> Seen:
    found = fetched.found
    credit = Credit(
        library=given.about.library,
        ref=found.ref,
        maker=found.maker,
        licence=found.licence,
        tags=found.tags,
    )
    if fetched.picture is not None:
        pictures.keep(context.database, fetched.picture, credit)
        return PictureSeen(picture=fetched.picture)
    assert fetched.file is not None
    made = bring_in(
        context.database,
        context.workspace,
        context.workspace.path(fetched.file),
        f"{found.name}{PurePath(found.ref).suffix or USUAL_ENDING}",
        hearing=NOT_HEARD,
        project_id=given.project_id,
        credit=credit,
    )
    return RecordingSeen(source_id=made.source_id)


FETCH = Kind(read_wanted, fetch, keep_fetched)
