"""The faces job: look for faces in a recording once, so that frames can keep them in the picture."""

from __future__ import annotations

from collections.abc import Iterator

from mortiser.core.framing.subject import Tracks, joined
from mortiser.jobs.draft import to_look_at
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.source_input import SourceInput, read_source
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.media.faces import look_for_faces
from mortiser.store import subjects


def find_faces(tools: Tools, task: Task, given: SourceInput) -> Iterator[Tracks]:
    """Look over a source that has a picture."""
    source = given.source
    if source.kind != "video":
        return
    path = to_look_at(tools.workspace, source)
    looks = look_for_faces(path, source.duration_us, task.progress)
    yield joined(looks)


def keep_faces(context: JobContext, given: SourceInput, found: Tracks) -> None:
    """Note where faces are."""
    subjects.keep(context.database, given.source.id, found)


FACES = Kind(read_source, find_faces, keep_faces)
