"""The deliver job: one file of an order, under its name when it is complete and read back."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

from mortiser import disk
from mortiser.core.assembly.cutaway import PictureSeen
from mortiser.core.common.errors import BadInput, Conflict
from mortiser.core.delivery.order import Order, OrderedFile, OrderedSource
from mortiser.core.project.output import TextFile
from mortiser.jobs.broker import LeasedJob
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.outputs import make_file
from mortiser.store import deliveries, pictures, projects


@dataclass(frozen=True)
class Ordered:
    """A file to make: of which delivery, which of its files, what was ordered, and whom what is seen in it is to be
    credited to."""

    delivery_id: int
    file_id: int
    order: Order
    part: OrderedFile
    credits: tuple[str, ...] = ()


def read_order(context: JobContext, taken: LeasedJob) -> Ordered:
    """What a job is to deliver. Raises Conflict, NotFound."""
    db = context.database.connection
    file = deliveries.file_of_job(db, taken.lease.job_id)
    order = deliveries.order_of(db, file.delivery.id)
    if order is None or file.part is None:
        raise Conflict("What was ordered is not known any more. Deliver the piece again.")
    seen = not isinstance(file.part.output, TextFile)
    credited = _credits(context, order) if seen else ()
    return Ordered(file.delivery.id, file.id, order, file.part, credited)


def _credits(context: JobContext, order: Order) -> tuple[str, ...]:
    """What is to be said of what came from libraries."""
    db = context.database.connection
    used = {one.id for one in order.sources}
    shown = {one.seen.picture.digest for one in order.cutaways if isinstance(one.seen, PictureSeen)}
    recorded = [
        source.credit.line(source.name.rpartition(".")[0])
        for source in projects.read_sources(db, order.project_id)
        if source.id in used and source.credit
    ]
    drawn = [
        credit.line(picture.name)
        for picture, credit in pictures.credited(db)
        if credit and picture.digest in shown
    ]
    return (*recorded, *drawn)


def deliver(tools: Tools, task: Task, given: Ordered) -> Iterator[int]:
    """Make a file of a delivery; nothing of it shows before it is whole. Gives its size in bytes."""
    part, order = given.part, given.order
    folder = tools.workspace.delivery(given.delivery_id)
    # Its own ending, since what reads it back goes by that.
    making = task.partial(folder / f"file{given.file_id}")
    making.mkdir()
    made, files = making / f"made.{part.output.ending}", tools.workspace.path
    try:
        for source in order.sources:
            _check_recording(source, files(source.path))
        for one in make_file(order, part, made, files, task.progress):
            task.note(one.text, one.at_us)
        for line in given.credits:
            task.note(f"To be credited: {line}")
        task.still_wanted()
        disk.put(made, folder / part.name)
    finally:
        made.unlink(missing_ok=True)
        with suppress(OSError):
            making.rmdir()
            folder.rmdir()  # Only where nothing was made.
    yield (folder / part.name).stat().st_size


def _check_recording(source: OrderedSource, file: Path) -> None:
    """Raise BadInput where a recording is not what it was when it came in."""
    if not file.is_file():
        raise BadInput(
            f"The recording {source.name} is not where it was: {file}. Put it back, or bring it in again."
        )
    if source.size_bytes and file.stat().st_size != source.size_bytes:
        raise BadInput(
            f"The recording {source.name} has changed since it was brought in. Put it back as it was, or "
            "bring it in again."
        )


def keep_file(context: JobContext, given: Ordered, size: int) -> None:
    """Note the file that was made."""
    deliveries.set_made(context.database, given.file_id, size)


DELIVER = Kind(read_order, deliver, keep_file)
