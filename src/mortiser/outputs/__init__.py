"""Kinds of delivered files, one a module. To add one: a class as in ``base``, named here."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from mortiser.core.delivery.order import Order, OrderedFile
from mortiser.outputs.base import Files, Maker, Told
from mortiser.outputs.captions import TextFiles
from mortiser.outputs.still import Stills
from mortiser.outputs.video import Videos

OUTPUTS: Mapping[str, Maker] = {
    "video": Videos(),
    "text": TextFiles(),
    "still": Stills(),
}
"""By the ``kind`` of an output."""
MADE_SHARE = 0.97
"""Of the progress; the rest is reading back."""


def make_file(
    order: Order, part: OrderedFile, out: Path, files: Files, progress: Callable[[float], None]
) -> Sequence[Told]:
    """Write a file of an order and read it back; what there is to tell of it. Raises MortiserError."""
    own, maker = order.of_part(part), OUTPUTS[part.output.kind]
    told = maker.make(own, part, out, files, lambda done: progress(MADE_SHARE * done))
    maker.verify(own, part, out, files)
    return told
