"""A cover frame."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from pathlib import Path

from mortiser.core.delivery.order import Order, OrderedFile
from mortiser.core.project.output import StillFile
from mortiser.outputs.base import Files, Told, Unlike
from mortiser.outputs.plans import painted, plan_of
from mortiser.render.still import still

BEGINS = {"jpeg": b"\xff\xd8\xff", "png": b"\x89PNG\r\n\x1a\n"}


class Stills:
    """The picture at a moment of the piece, as JPEG or PNG."""

    def make(
        self,
        order: Order,
        part: OrderedFile,
        out: Path,
        files: Files,
        progress: Callable[[float], None],
    ) -> Sequence[Told]:
        """See Maker."""
        wanted = part.output
        assert isinstance(wanted, StillFile)
        piece = order.piece.in_shape()
        shown = painted(piece, order.cues) if wanted.captions else []
        plan = plan_of(piece, shown, order.sources, files, layers=wanted.layers)
        first = part.stretch.start_us if part.stretch else 0
        last = (part.stretch.end_us if part.stretch else piece.timeline.duration_us) - 1
        out.write_bytes(still(plan, max(first, min(last, wanted.at_us)), wanted.form))
        return ()

    def verify(self, order: Order, part: OrderedFile, made: Path, files: Files) -> None:
        """The file begins as its form does, and is whole."""
        wanted = part.output
        assert isinstance(wanted, StillFile)
        data = made.read_bytes()
        ends = data.endswith(b"\xff\xd9") or b"IEND" in data[-12:]
        if not data.startswith(BEGINS[wanted.form]) or not ends:
            raise Unlike(part.name, "it is no picture")
