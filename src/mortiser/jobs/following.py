"""The follow job: follow what is in a box drawn by hand."""

from __future__ import annotations

from collections.abc import Iterator

from mortiser.core.framing.subject import Track
from mortiser.core.project.job_payloads import FollowPayload
from mortiser.jobs.draft import to_look_at
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.source_input import SourceInput, read_source
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.media.following import follow_box
from mortiser.store import subjects


def follow(tools: Tools, task: Task, given: SourceInput) -> Iterator[Track]:
    """Follow the box of a job's payload over the stretch it names."""
    source, about = given.source, task.about(FollowPayload)
    path = to_look_at(tools.workspace, source)
    stretch = about.from_us, about.to_us
    yield follow_box(path, about.at_us, about.box, stretch, task.progress)


def keep_track(context: JobContext, given: SourceInput, found: Track) -> None:
    """Note where it is."""
    subjects.add(context.database, given.source.id, found)


FOLLOW = Kind(read_source, follow, keep_track)
