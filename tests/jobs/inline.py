"""What tests of jobs do in a workspace."""

import shutil
from dataclasses import replace
from pathlib import Path

from mortiser.jobs.ingest import bring_in
from mortiser.jobs.kind import JobContext
from mortiser.jobs.runner import Kinds
from mortiser.jobs.sqlite_broker import SqliteBroker
from mortiser.store import jobs
from mortiser.wiring import KINDS, AppContext


def take_in(context: AppContext, recording: Path):
    copy = context.workspace.new_upload()
    shutil.copyfile(recording, copy)
    return bring_in(context.database, context.workspace, copy, recording.name)


def broker(context: AppContext, kinds: Kinds = KINDS) -> SqliteBroker:
    return SqliteBroker(JobContext(context.database, context.glossary, context.workspace), kinds)


def row(context: AppContext, job: int):
    return jobs.get(context.database.connection, job)


def working(name: str, work) -> Kinds:
    """The kinds of job, one of which does something else."""
    return {**KINDS, name: replace(KINDS[name], work=lambda _, task, given: work(task) or ())}


def run(context: AppContext, job: int, **works) -> list[int]:
    kinds = KINDS
    for name, work in works.items():
        kinds = working(name, work)
    return context.run(job, kinds)
