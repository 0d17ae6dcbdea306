"""Deliver pieces from the command line: the same orders and outputs as the application's, in this process."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from datetime import datetime
from functools import partial
from pathlib import Path

from mortiser import disk
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.delivery.order import Order, OrderedFile
from mortiser.core.framing.shape import shape_word
from mortiser.core.project.jig import JIGS, Jig, read_jig
from mortiser.core.project.output import Output, Outputs, built_in, each_once
from mortiser.disk.passing import passing
from mortiser.outputs import make_file
from mortiser.outputs.base import Files
from mortiser.settings import Settings
from mortiser.store import deliveries, jigs, output_sets, projects
from mortiser.wiring import AppContext, open_context

Tell = Callable[[str, float], None]
"""Which file is being made, and how far it is (0 to 1)."""


def make_files(
    order: Order, parts: Sequence[OrderedFile], out: Path, files: Files, tell: Tell
) -> Iterator[Path]:
    """Make the files of an order in a folder, each under its name once it is complete and read back; files of
    the same names are replaced. Raises MortiserError."""
    if not out.is_dir():
        raise BadInput(f"{out}: the folder does not exist.")
    for part in parts:
        with passing(out) as making:
            made = making / f"made.{part.output.ending}"
            make_file(order, part, made, files, partial(tell, part.name))
            disk.put(made, out / part.name)
        tell(part.name, 1.0)
        yield out / part.name


def deliver(
    settings: Settings,
    names: Sequence[str],
    out: Path,
    tell: Tell,
    *,
    piece: str | None = None,
    shapes: Sequence[str] = (),
    sets: Sequence[str] = (),
) -> Iterator[Path]:
    """Make the files of projects, by their names or numbers: of all their pieces or of one, in all shapes or in
    some, as the pieces say or as sets of outputs do. Raises MortiserError."""
    context = _opened(settings)
    db = context.database.connection
    outputs = each_once([one for name in sets for one in output_sets.named(db, name)])
    orders = [
        order
        for name in names
        for order in _orders(context, _project(context, name), piece, shapes, outputs)
    ]
    for order, parts in orders:
        yield from make_files(order, parts, out, context.workspace.path, tell)


def _opened(settings: Settings) -> AppContext:
    if not (settings.workspace / "mortiser.db").is_file():
        raise BadInput(f"{settings.workspace} is no workspace. Name one with --workspace.")
    return open_context(settings)


def _project(context: AppContext, name: str) -> int:
    every = projects.list_projects(context.database)
    found = [one.id for one in every if name in (one.name, str(one.id))]
    if not found:
        known = ", ".join(f"{one.id} {one.name}" for one in every[:20]) or "none"
        raise NotFound(f"There is no project “{name}”. There are: {known}.")
    if len(found) > 1:
        numbers = ", ".join(map(str, found))
        raise BadInput(f"Several projects are called “{name}”. Say which by its number: {numbers}.")
    return int(found[0])


def _orders(
    context: AppContext,
    project_id: int,
    wanted: str | None,
    shapes: Sequence[str],
    outputs: Outputs,
) -> Iterator[tuple[Order, list[OrderedFile]]]:
    db = context.database.connection
    pieces = projects.pieces(db, project_id)
    found = [one for one in pieces if wanted in (None, one.settings.name, str(one.id))]
    if not found:
        known = ", ".join(f"{one.id} {one.settings.name}" for one in pieces)
        raise NotFound(f"There is no piece “{wanted}”. There are: {known}.")
    for piece in found:
        if not projects.piece_cues(db, piece.id):
            raise BadInput(f"The piece “{piece.settings.name}” has no captions yet.")
        ids = [
            one.id for one in piece.settings.shapes if not shapes or shape_word(*one.size) in shapes
        ]
        if not ids:
            known = ", ".join(shape_word(*one.size) for one in piece.settings.shapes)
            raise NotFound(
                f"The piece “{piece.settings.name}” is not in that shape. It is: {known}."
            )
        today = datetime.now().astimezone().date()
        yield deliveries.planned(db, piece.id, today, ids, (), outputs)


def jig_and_outputs(
    jig: str | None, sets: Sequence[str], workspace: Path | None
) -> tuple[Jig | None, Outputs]:
    """A jig, by its name or its file, and the outputs of sets, built in or those of a workspace. Raises
    BadInput."""
    context = _opened(Settings(workspace=workspace)) if workspace else None
    own = [one for _, one in jigs.saved(context.database.connection)] if context else []
    found = None
    if jig is not None:
        found = next((one for one in (*own, *JIGS) if one.name.casefold() == jig.casefold()), None)
        if found is None and Path(jig).is_file():
            found = read_jig(Path(jig).read_bytes())
        if found is None:
            known = ", ".join(one.name for one in (*own, *JIGS))
            raise BadInput(
                f"There is no jig “{jig}”, and no file of that name. There are: {known}."
            )
    outputs: list[Output] = []
    for name in sets:
        if context:
            outputs += output_sets.named(context.database.connection, name)
        else:
            outputs += built_in(name)
    return found, each_once(outputs)
