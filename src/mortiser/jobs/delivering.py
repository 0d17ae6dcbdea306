"""The deliver job: all files of an order, under their names when they are complete and read back."""

from __future__ import annotations

import re
import shutil
from contextlib import suppress
from functools import partial

from mortiser.core.errors import Conflict
from mortiser.jobs.runner import Parts, Task
from mortiser.outputs import OUTPUTS
from mortiser.store import deliveries
from mortiser.store.deliveries import DeliveredFile

LONGEST_STEM = 180
"""Bytes: file systems take 255 for a name."""
FIRST_SHARE = 0.98
"""Of the progress: the first output is the one that takes long."""


def deliver(parts: Parts, task: Task) -> None:
    """Make all files of a delivery; nothing of it shows before it is whole."""
    delivery = deliveries.of_job(parts.database.connection, task.job_id)
    order = deliveries.ordered(delivery)
    if order is None:
        raise Conflict("What was ordered is not known any more. Deliver the piece again.")
    folder = parts.workspace.delivery(delivery["id"])
    making = task.partial(folder / "files")
    making.mkdir()
    outputs = {kind: OUTPUTS[kind] for kind in order.outputs}
    names = {kind: output.plan(order) for kind, output in outputs.items()}
    try:
        for index, (kind, output) in enumerate(outputs.items()):
            made = making / names[kind]
            first, last = (FIRST_SHARE if at else 0.0 for at in (index, index + 1))
            told = partial(_told, task, first, last - first)
            output.make(order, made, parts.workspace.path, told)
            output.verify(order, made)
        task.still_wanted()
        for name in names.values():
            (making / name).rename(folder / name)
    finally:
        shutil.rmtree(making, ignore_errors=True)
        with suppress(OSError):
            folder.rmdir()  # Only where nothing was made.
    files = [
        DeliveredFile(kind, name, (folder / name).stat().st_size) for kind, name in names.items()
    ]
    deliveries.set_files(parts.database, delivery["id"], files)


def _told(task: Task, first: float, share: float, part: float) -> None:
    task.progress(first + share * part)


def file_stem(name: str) -> str:
    """A project's name as the start of a file name that every system takes."""
    kept = re.sub(r"[^\w\- ]+", "", name).strip()[:80].strip()
    stem = re.sub(r"\s+", "-", kept)
    while len(stem.encode()) > LONGEST_STEM:
        stem = stem[:-1]
    return stem or "piece"
