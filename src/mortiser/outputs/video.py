"""The video with its captions in the picture."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from mortiser.core.order import Order
from mortiser.core.time import SECOND
from mortiser.media.probe import probe
from mortiser.outputs.base import Files, Unlike
from mortiser.outputs.programmes import painted, programme_of
from mortiser.render.burn import burn

SLACK_US = SECOND // 4
"""Sound comes in blocks, and a recording's own tracks end apart."""


class BurnedIn:
    """MP4, H.264."""

    def plan(self, order: Order) -> str:
        """See Output."""
        return f"{order.stem}.mp4"

    def make(
        self, order: Order, out: Path, files: Files, progress: Callable[[float], None]
    ) -> None:
        """See Output."""
        shown = painted(order.piece, order.cues)
        burn(programme_of(order.piece, shown, order.sources, files), out, progress)

    def verify(self, order: Order, made: Path) -> None:
        """The file has the frame that was ordered, sound, and the piece's length."""
        programme = programme_of(order.piece, (), order.sources, lambda _: made)
        facts = probe(made)
        name = self.plan(order)
        if (facts.width, facts.height) != programme.size:
            raise Unlike(name, f"its picture is {facts.width} × {facts.height} pixels")
        if abs(facts.duration_us - programme.timeline.duration_us) > SLACK_US:
            raise Unlike(name, f"it lasts {facts.duration_us / SECOND:.2f} s")
