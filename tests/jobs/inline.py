"""What tests of jobs do in a workspace."""

import shutil
from dataclasses import replace
from pathlib import Path

from mortiser.jobs.bringing_in import bring_in
from mortiser.jobs.kind import Home
from mortiser.jobs.runner import Kinds
from mortiser.jobs.sqlite_broker import SqliteBroker
from mortiser.store import jobs
from mortiser.wiring import KINDS, Shop


def take_in(shop: Shop, recording: Path):
    copy = shop.workspace.new_upload()
    shutil.copyfile(recording, copy)
    return bring_in(shop.database, shop.workspace, copy, recording.name)


def broker(shop: Shop, kinds: Kinds = KINDS) -> SqliteBroker:
    return SqliteBroker(Home(shop.database, shop.glossary), kinds)


def row(shop: Shop, job: int):
    return jobs.get(shop.database.connection, job)


def working(name: str, work) -> Kinds:
    """The kinds of job, one of which does something else."""
    return {**KINDS, name: replace(KINDS[name], work=lambda _, task, given: work(task) or ())}


def run(shop: Shop, job: int, **works) -> list[int]:
    kinds = KINDS
    for name, work in works.items():
        kinds = working(name, work)
    return shop.run(job, kinds)
