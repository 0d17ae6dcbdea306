"""The thumbnails job: look over a recording once, so that what is behind captions is known."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from mortiser import disk
from mortiser.core.editing.timeline import Timeline
from mortiser.core.project.source import Source
from mortiser.jobs.kind import Kind
from mortiser.jobs.source_input import SourceInput, keep_nothing, read_source
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.jobs.workspace import Workspace
from mortiser.media.thumbnails import PieceThumbnails, Thumbnails, make_thumbnails

FILE = "thumbnails.mkv"


def take_thumbnails(tools: Tools, task: Task, given: SourceInput) -> Iterator[None]:
    """Keep small pictures of a source that has a picture."""
    source = given.source
    file = tools.workspace.beside(source.path, FILE)
    if source.kind != "video" or file.exists():
        return
    partial = task.partial(file)
    recording = tools.workspace.path(source.path)
    try:
        make_thumbnails(recording, partial, source.duration_us, task.progress)
        task.still_wanted()
        disk.put(partial, file)
    finally:
        partial.unlink(missing_ok=True)
    yield from ()


THUMBNAILS = Kind(read_source, take_thumbnails, keep_nothing)


def thumbnails_of(
    workspace: Workspace, timeline: Timeline, sources: Sequence[Source]
) -> PieceThumbnails | None:
    """What was seen of a piece; None as long as nobody has looked at one of its pictures."""
    shown = {clip.source_id for clip in timeline.clips}
    files = {
        source.id: workspace.beside(source.path, FILE)
        for source in sources
        if source.id in shown and source.kind == "video"
    }
    if not all(file.exists() for file in files.values()):
        return None
    return PieceThumbnails(timeline, tuple((key, Thumbnails(file)) for key, file in files.items()))
