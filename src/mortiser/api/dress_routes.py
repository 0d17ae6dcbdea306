"""What captions are dressed with: finishes, emoji, fonts; and a still of any moment."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path, Response
from pydantic import BaseModel

from mortiser.core.errors import BadInput
from mortiser.core.finish.builtin import FINISHES
from mortiser.core.finish.model import Finish
from mortiser.emoji import LARGEST_SIDE, emoji_png

router = APIRouter(prefix="/api", tags=["dress"])
FOR_EVER = {"Cache-Control": "public, max-age=31536000, immutable"}


class FinishView(BaseModel):
    id: int | None
    finish: Finish


@router.get("/finishes")
def finishes() -> list[FinishView]:
    """The built-in finishes."""
    return [FinishView(id=None, finish=finish) for finish in FINISHES.values()]


@router.get("/emoji/{code}/{side}.png", response_class=Response)
def emoji_picture(code: str, side: Annotated[int, Path(ge=1, le=LARGEST_SIDE)]) -> Response:
    """The picture of an emoji: its code points in hexadecimal, and its side in pixels."""
    try:
        emoji = "".join(chr(int(part, 16)) for part in code.split("-"))
    except (ValueError, OverflowError) as error:
        raise BadInput(
            f"“{code}” is no emoji: write its code points as 1f9f5 or 270b-1f3fd."
        ) from error
    return Response(emoji_png(emoji, side), media_type="image/png", headers=FOR_EVER)
