"""Cutaways: pictures that cover the talk's while some words are said; the talk goes on. Values, checked when made."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Annotated, Literal

from pydantic import Field

from mortiser.core.common.limits import Micros
from mortiser.core.common.stored import Stored
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import MOST_ID, FramedStretch, Framing, OfSource
from mortiser.core.style.finish.parts import Value

MOST_CUTAWAYS = 200
"""In a piece."""
SLOWEST, FASTEST = 0.25, 4.0
"""How fast what is seen can play."""


class RecordingSeen(OfSource):
    """A recording of the project, from a moment of it (µs) on."""

    kind: Literal["recording"] = "recording"
    from_us: Micros = 0


class PictureSeen(Value):
    """A picture of the user's own."""

    kind: Literal["picture"] = "picture"
    picture: OwnPicture


Seen = Annotated[RecordingSeen | PictureSeen, Field(discriminator="kind")]


class Cutaway(Value):
    """What is ``seen`` while words of a source are said, those in the stretch ``during``.

    It goes and moves with these words. ``speed`` is how fast a recording plays, its own sound is off.
    """

    id: int = Field(ge=1, le=MOST_ID)
    during: FramedStretch
    seen: Seen
    framing: Framing = Framing(fit="fill")
    speed: float = Field(default=1.0, ge=SLOWEST, le=FASTEST)

    def of_copies(self, sources: Mapping[int, int]) -> Cutaway:
        """The same for copies of the sources, by their ids."""
        seen = self.seen.of_copy(sources) if isinstance(self.seen, RecordingSeen) else self.seen
        return self.model_copy(update={"during": self.during.of_copy(sources), "seen": seen})

    def is_of(self, source_id: int) -> bool:
        """Whether it lies on a source or shows it."""
        shown = isinstance(self.seen, RecordingSeen) and self.seen.source_id == source_id
        return shown or self.during.source_id == source_id


Cutaways = tuple[Cutaway, ...]


def without_source(cutaways: Cutaways, source_id: int) -> Cutaways:
    """Cutaways that neither lie on a source nor show it."""
    return tuple(one for one in cutaways if not one.is_of(source_id))


STORED: Stored[Cutaways] = Stored(Cutaways, first=lambda text: json.loads(text) if text else [])
