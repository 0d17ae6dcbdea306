"""The deliver job: all files of an order, under their names when they are complete and read back."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from functools import partial

from mortiser.core.errors import Conflict
from mortiser.core.order import Order
from mortiser.core.output_kinds import PICTURED
from mortiser.jobs.broker import Taken
from mortiser.jobs.kind import Home, Kind
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.outputs import OUTPUTS
from mortiser.store import deliveries
from mortiser.store.deliveries import DeliveredFile

LONGEST_STEM = 180
"""Bytes: file systems take 255 for a name."""
LONG_SHARE = 0.98
"""Of the progress: what shows a picture takes long."""


@dataclass(frozen=True)
class Ordered:
    """A delivery to make, by its id, and what was ordered."""

    id: int
    order: Order


def read_order(home: Home, taken: Taken) -> Ordered:
    """What a job is to deliver. Raises Conflict, NotFound."""
    delivery = deliveries.of_job(home.database.connection, taken.lease.job_id)
    order = deliveries.ordered(delivery)
    if order is None:
        raise Conflict("What was ordered is not known any more. Deliver the piece again.")
    return Ordered(delivery["id"], order)


def deliver(tools: Tools, task: Task, given: Ordered) -> Iterator[Sequence[DeliveredFile]]:
    """Make all files of a delivery; nothing of it shows before it is whole."""
    order = given.order
    folder = tools.workspace.delivery(given.id)
    making = task.partial(folder / "files")
    making.mkdir()
    parts = order.parts()
    files = [DeliveredFile(kind, OUTPUTS[kind].plan(part), 0) for kind, part in parts]
    long = LONG_SHARE / max(1, sum(kind in PICTURED for kind, _ in parts))
    done = 0.0
    try:
        for (kind, part), file in zip(parts, files, strict=True):
            made, output = making / file.name, OUTPUTS[kind]
            share = long if kind in PICTURED else 0.0
            output.make(part, made, tools.workspace.path, partial(_told, task, done, share))
            output.verify(part, made)
            done += share
        task.still_wanted()
        for name in (file.name for file in files):
            (making / name).rename(folder / name)
    finally:
        shutil.rmtree(making, ignore_errors=True)
        with suppress(OSError):
            folder.rmdir()  # Only where nothing was made.
    yield [replace(file, size=(folder / file.name).stat().st_size) for file in files]


def keep_files(home: Home, given: Ordered, files: Sequence[DeliveredFile]) -> None:
    """Note the files that were made."""
    deliveries.set_files(home.database, given.id, files)


DELIVER = Kind(read_order, deliver, keep_files)


def _told(task: Task, first: float, share: float, part: float) -> None:
    task.progress(first + share * part)


def file_stem(name: str) -> str:
    """A project's name as the start of a file name that every system takes."""
    kept = re.sub(r"[^\w\- ]+", "", name).strip()[:80].strip()
    stem = re.sub(r"\s+", "-", kept)
    while len(stem.encode()) > LONGEST_STEM:
        stem = stem[:-1]
    return stem or "piece"
