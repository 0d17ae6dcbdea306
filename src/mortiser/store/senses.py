"""What desks know beyond the database, where it is at hand."""

from __future__ import annotations

import sqlite3
from collections.abc import Callable
from dataclasses import dataclass

from mortiser.core.cutting import Loudness
from mortiser.core.finish.model import Finish
from mortiser.core.grouping import Ruler


@dataclass(frozen=True)
class Senses:
    """How wide words are in a finish, in a frame of (width, height); how loud a source (its row) is."""

    ruler: Callable[[Finish, tuple[int, int]], Ruler] | None = None
    loudness: Callable[[sqlite3.Row], Loudness] | None = None


NO_SENSES = Senses()
