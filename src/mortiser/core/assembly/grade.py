"""Grades: how bright, how colourful and how clear a picture looks. Values, checked when made."""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Annotated

from pydantic import Field

from mortiser.core.common.limits import Id
from mortiser.core.common.stored import Stored
from mortiser.core.style.finish.parts import Value

Amount = Annotated[float, Field(ge=-1, le=1)]
"""0 changes nothing."""
Strength = Annotated[float, Field(ge=0, le=1)]
MOST_GRADED = 200


class Grade(Value):
    """What is made of a picture; as it stands by default, nothing.

    ``exposure`` is in stops, ``shadows`` and ``lights`` lift or lower the dark and the bright parts alone, ``warmth``
    goes from blue to orange, ``tint`` from green to magenta. ``grain``, ``vignette`` and ``softness`` are put on
    after that.
    """

    exposure: float = Field(default=0.0, ge=-2, le=2)
    contrast: Amount = 0.0
    shadows: Amount = 0.0
    lights: Amount = 0.0
    saturation: Amount = 0.0
    warmth: Amount = 0.0
    tint: Amount = 0.0
    grain: Strength = 0.0
    vignette: Strength = 0.0
    softness: Strength = 0.0

    @property
    def plain(self) -> bool:
        """Whether it changes nothing."""
        return self == PLAIN


PLAIN = Grade()


class GradedSource(Value):
    """The grade of one recording."""

    source_id: Id
    grade: Grade


class Grades(Value):
    """How the pictures of a piece look: each recording's, and on top of that the whole picture."""

    whole: Grade = PLAIN
    sources: tuple[GradedSource, ...] = Field(default=(), max_length=MOST_GRADED)

    @property
    def plain(self) -> bool:
        """Whether they change nothing."""
        return self.whole.plain and all(one.grade.plain for one in self.sources)

    def of(self, source_id: int) -> Grade:
        """A recording's."""
        found = (one.grade for one in self.sources if one.source_id == source_id)
        return next(found, PLAIN)

    def with_source(self, source_id: int, grade: Grade) -> Grades:
        """The same with another grade for a recording."""
        left = self.without_source(source_id).sources
        more = () if grade.plain else (GradedSource(source_id=source_id, grade=grade),)
        return self.model_copy(update={"sources": (*left, *more)})

    def without_source(self, source_id: int) -> Grades:
        """The same without what is about a source."""
        left = tuple(one for one in self.sources if one.source_id != source_id)
        return self.model_copy(update={"sources": left})

    def of_copies(self, sources: Mapping[int, int]) -> Grades:
        """The same for copies of the sources, by their ids."""
        copied = tuple(
            GradedSource(source_id=sources.get(one.source_id, one.source_id), grade=one.grade)
            for one in self.sources
        )
        return self.model_copy(update={"sources": copied})


STORED: Stored[Grades] = Stored(Grades, first=lambda text: json.loads(text) if text else {})

GRADES: Mapping[str, Grade] = {
    "Window light": Grade(exposure=0.25, shadows=0.2, lights=-0.1, warmth=-0.08),
    "Workbench lamp": Grade(
        contrast=0.12, shadows=-0.1, warmth=0.3, saturation=0.05, vignette=0.35
    ),
    "Varnish": Grade(contrast=0.25, saturation=0.25, lights=0.1),
    "Old catalogue": Grade(
        contrast=-0.2, shadows=0.3, saturation=-0.35, warmth=0.22, grain=0.35, softness=0.15
    ),
    "Graphite": Grade(contrast=0.3, saturation=-1.0, grain=0.15),
    "Frosty morning": Grade(exposure=0.1, contrast=0.08, warmth=-0.32, saturation=-0.15),
}
"""Grades of our own, by name."""
