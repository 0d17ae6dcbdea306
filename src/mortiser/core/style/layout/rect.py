"""The rectangle: of letters, lines, captions, and of what a moment may touch."""

from __future__ import annotations

from typing import NamedTuple


class Rect(NamedTuple):
    """Edges in frame pixels (or a word's own), y down."""

    left: float
    top: float
    right: float
    bottom: float

    @classmethod
    def sized(cls, left: float, top: float, width: float, height: float) -> Rect:
        """One of a size."""
        return cls(left, top, left + width, top + height)

    @property
    def width(self) -> float:
        """From edge to edge across."""
        return self.right - self.left

    @property
    def height(self) -> float:
        """From edge to edge down."""
        return self.bottom - self.top

    @property
    def middle(self) -> tuple[float, float]:
        """Its centre."""
        return (self.left + self.right) / 2, (self.top + self.bottom) / 2

    def around(self, other: Rect) -> Rect:
        """The smallest one around both."""
        return Rect(
            min(self.left, other.left),
            min(self.top, other.top),
            max(self.right, other.right),
            max(self.bottom, other.bottom),
        )

    def grown(self, across: float, down: float) -> Rect:
        """One larger by so much at each side."""
        return Rect(self.left - across, self.top - down, self.right + across, self.bottom + down)

    def moved(self, dx: float, dy: float) -> Rect:
        """The same somewhere else."""
        return Rect(self.left + dx, self.top + dy, self.right + dx, self.bottom + dy)
