"""What a library has. Values, checked when made: a library may say anything."""

from __future__ import annotations

import json
from typing import Annotated, Literal

from pydantic import Field

from mortiser.core.common.limits import Count, Micros
from mortiser.core.common.stored import Stored
from mortiser.core.style.finish.parts import Value

FoundKind = Literal["film", "picture", "sound", "music"]
PAGE = 24
"""So many are found at once."""
MOST_BYTES = 2 * 1024**3
"""Nothing larger is fetched."""
Said = Annotated[str, Field(max_length=120)]
Tags = Annotated[tuple[Annotated[str, Field(max_length=60)], ...], Field(max_length=40)]
Ref = Annotated[str, Field(min_length=1, max_length=400)]
Side = Annotated[int, Field(ge=0, le=32_768)]


class Found(Value):
    """One thing a library has: ``ref`` is what the library calls it by. A length (µs), sides (pixels) and a size
    that are not known, or that it does not have, are 0."""

    ref: Ref
    name: Said
    kind: FoundKind
    length_us: Micros = 0
    width: Side = 0
    height: Side = 0
    size_bytes: int = Field(default=0, ge=0, le=2**53)
    maker: Said = ""
    licence: Said = ""
    tags: Tags = ()


class FoundPage(Value):
    """A page of what was found, the likeliest first, and the number of the next page, if there is one."""

    found: Annotated[tuple[Found, ...], Field(max_length=PAGE)]
    next_page: Count | None = None


class Credit(Value):
    """Where something was fetched, whose it is, and on which terms."""

    library: Said
    ref: Ref
    maker: Said = ""
    licence: Said = ""
    tags: Tags = ()

    @property
    def place(self) -> tuple[str, str]:
        """The library, and what it calls the thing by."""
        return self.library, self.ref

    def line(self, name: str) -> str:
        """What is to be said of it beside a video that shows it."""
        by = f" by {self.maker}" if self.maker else ""
        terms = f" ({self.licence})" if self.licence else ""
        return f"{name}{by}{terms}"


STORED: Stored[Credit | None] = Stored(
    Credit | None, first=lambda text: json.loads(text) if text else None
)
