"""Deliveries that were ordered, and the files that are made of them."""

from __future__ import annotations

from dataclasses import dataclass

from mortiser.core.delivery.order import OrderedFile
from mortiser.core.project.job import Job


@dataclass(frozen=True)
class Delivery:
    """What was ordered of a piece at a revision of its project; the piece may be gone."""

    id: int
    project_id: int
    piece_id: int | None
    stem: str
    """The beginning of its files' names."""
    revision: int
    created_us: int


@dataclass(frozen=True)
class DeliveredFile:
    """A file of a delivery with the job that makes it; ``size`` (bytes) is 0 until it is whole."""

    id: int
    delivery: Delivery
    project: str
    """The name of its project."""
    kind: str
    """The ending of its name."""
    name: str
    size: int
    part: OrderedFile | None
    """What it is; not known of those of older versions."""
    job: Job

    @property
    def frames(self) -> int:
        """How many it has, more or less; 0 of what has none."""
        return self.part.frames if self.part else 0

    def speed(self, now_us: int) -> float | None:
        """Frames made a second, while it is made."""
        gained, spent = self.job.gained(now_us) or (0.0, 0.0)
        made = gained * self.frames
        return made / spent if spent > 0 and made > 0 else None
