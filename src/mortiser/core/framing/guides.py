"""Guides: where feeds and players put their own buttons and texts over a picture.

They are drawn over the preview and used by checks, and never reach any output. Areas are shares of the
frame's width and height.
"""

from __future__ import annotations

import json
from typing import Annotated, Literal

from pydantic import Field, TypeAdapter

from mortiser.core.common.stored import Stored
from mortiser.core.style.finish.parts import Value

Share = Annotated[float, Field(ge=0, le=1)]
ShapeWord = Literal["tall", "portrait", "square", "wide"]
MOST_GUIDES = 40


class Area(Value):
    """A box that is covered, and what covers it."""

    x: Share
    y: Share
    width: Share
    height: Share
    about: str = Field(min_length=1, max_length=40)


class Guide(Value):
    """What covers a shape where it is shown."""

    name: str = Field(min_length=1, max_length=60)
    shape: ShapeWord
    areas: tuple[Area, ...] = Field(max_length=12)


Guides = tuple[Guide, ...]
_GUIDES: TypeAdapter[Guides] = TypeAdapter(Guides)


def _area(about: str, x: float, y: float, width: float, height: float) -> Area:
    return Area(x=x, y=y, width=width, height=height, about=about)


GUIDES: Guides = (
    Guide(
        name="Short-video feed",
        shape="tall",
        areas=(
            _area("tabs", 0, 0, 1, 0.075),
            _area("buttons", 0.845, 0.44, 0.155, 0.38),
            _area("name and text", 0, 0.82, 1, 0.18),
        ),
    ),
    Guide(
        name="Story",
        shape="tall",
        areas=(
            _area("name", 0, 0, 1, 0.125),
            _area("reply field", 0, 0.875, 1, 0.125),
        ),
    ),
    Guide(
        name="Grid post",
        shape="portrait",
        areas=(
            _area("cut off in the grid", 0, 0, 1, 0.1),
            _area("cut off in the grid", 0, 0.9, 1, 0.1),
        ),
    ),
    Guide(name="Grid post", shape="square", areas=(_area("mark", 0.88, 0, 0.12, 0.12),)),
    Guide(
        name="Wide player",
        shape="wide",
        areas=(
            _area("title", 0, 0, 1, 0.11),
            _area("controls", 0, 0.87, 1, 0.13),
        ),
    ),
)
"""Those that there are at the beginning."""


STORED: Stored[Guides] = Stored(Guides, first=json.loads)
