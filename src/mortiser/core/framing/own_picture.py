"""A picture of the user's own, as pieces know it."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from mortiser.core.common.limits import Micros
from mortiser.core.style.finish.parts import Value

Digest = Annotated[str, Field(pattern=r"^[0-9a-f]{32}$")]
MOST_SIDE = 2_048
"""Pictures are kept with sides of at most so many pixels."""


class OwnPicture(Value):
    """A picture by what is in it, so that copies and undo need not know where it lies."""

    digest: Digest
    name: str = Field(default="", max_length=120)
    width: int = Field(ge=1, le=MOST_SIDE)
    height: int = Field(ge=1, le=MOST_SIDE)
    lasts_us: Micros = Field(
        default=0,
        description="How long it moves until it begins again; 0 of one that stands still.",
    )
    through: bool = Field(default=False, description="Whether some of it can be seen through.")
