"""What desks know beyond the database, where it is at hand."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from mortiser.core.captions.grouping import Ruler
from mortiser.core.editing.cutting import Loudness
from mortiser.core.project.source import Source
from mortiser.core.style.finish.model import Finish


@dataclass(frozen=True)
class MediaServices:
    """How wide words are in a finish, in a frame of (width, height); how loud a source is."""

    ruler: Callable[[Finish, tuple[int, int]], Ruler] | None = None
    loudness: Callable[[Source], Loudness] | None = None


NO_SERVICES = MediaServices()
