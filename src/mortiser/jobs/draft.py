"""The draft job: a small copy of a recording's picture that can be entered anywhere at once.

Segments of the preview are made from it, some four times as fast; nothing else is.
"""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from mortiser import disk
from mortiser.core.project.source import Source
from mortiser.jobs.kind import Kind
from mortiser.jobs.source_input import SourceInput, keep_nothing, read_source
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.jobs.workspace import Workspace
from mortiser.media.forms import h264
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, of_one
from mortiser.render.segments import preview_size

FORM = h264(crf=20, preset="superfast", key_every=12)


def make_draft(tools: Tools, task: Task, given: SourceInput) -> Iterator[None]:
    """Make the draft of a source that has a picture, unless it is there."""
    source = given.source
    file = draft_of(tools.workspace, source)
    if source.kind != "video" or file.exists():
        return
    path = tools.workspace.path(source.path)
    recording = Recording(path, source.duration_us, source.audio_track)
    size = preview_size((source.width, source.height))
    partial = task.partial(file)
    try:
        burn(of_one(recording, size), partial, task.progress, FORM)
        task.still_wanted()
        disk.put(partial, file)
    finally:
        partial.unlink(missing_ok=True)
    yield None


def to_look_at(workspace: Workspace, source: Source) -> Path:
    """What a source's picture is looked over in: its draft, or itself as long as there is none."""
    draft = draft_of(workspace, source)
    return draft if draft.exists() else workspace.path(source.path)


def draft_of(workspace: Workspace, source: Source) -> Path:
    """Where the draft of a source lies, once it is made."""
    return workspace.beside(source.path, "draft.mp4")


DRAFT = Kind(read_source, make_draft, keep_nothing)
