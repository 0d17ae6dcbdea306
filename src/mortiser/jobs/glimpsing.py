"""The glimpses job: look over a recording once, so that what is behind captions is known."""

from __future__ import annotations

from mortiser.jobs.runner import Parts, Task
from mortiser.jobs.workspace import Workspace
from mortiser.media.glimpses import Glimpses, make_glimpses
from mortiser.store import projects
from mortiser.store.projects import SourceRow

FILE = "glimpses.mkv"


def take_glimpses(parts: Parts, task: Task) -> None:
    """Keep small pictures of a source that has a picture."""
    source = projects.source_row(parts.database.connection, task.payload["source_id"])
    file = parts.workspace.beside(source["path"], FILE)
    if source["kind"] != "video" or file.exists():
        return
    partial = task.partial(file)
    recording = parts.workspace.path(source["path"])
    try:
        make_glimpses(recording, partial, source["duration_us"], task.progress)
        task.still_wanted()
        partial.rename(file)
    finally:
        partial.unlink(missing_ok=True)


def glimpses_of(workspace: Workspace, source: SourceRow) -> Glimpses | None:
    """What was seen of a source; None as long as nobody has looked."""
    file = workspace.beside(source["path"], FILE)
    return Glimpses(file) if file.exists() else None
