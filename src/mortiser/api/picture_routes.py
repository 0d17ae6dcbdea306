"""Pictures of the user's own: brought in once, chosen again, given in any size."""

from __future__ import annotations

from typing import Annotated

from fastapi import Path, Query, Request, Response

from mortiser.apart import done_apart
from mortiser.api.bodies import in_time, small_body
from mortiser.api.context import OpenContext
from mortiser.api.dress_routes import FOR_EVER
from mortiser.api.routing import routes
from mortiser.core.framing.own_picture import Digest, OwnPicture
from mortiser.pictures import keep, sized_png
from mortiser.pictures.checking import LARGEST, checked
from mortiser.store import pictures

router = routes("/api/pictures", "pictures")
LARGEST_SIDE = 4_096
Side = Annotated[int, Path(ge=1, le=LARGEST_SIDE)]


@router.get("")
def list_pictures(context: OpenContext) -> list[OwnPicture]:
    """The pictures brought in last, the newest first."""
    return pictures.newest(context.database.connection)


@router.post("", status_code=201)
async def add_picture(
    request: Request, context: OpenContext, name: Annotated[str, Query(max_length=120)] = ""
) -> OwnPicture:
    """Bring in a PNG, JPEG, WebP, GIF or SVG file; it is read once and drawn as pixels."""
    data = await small_body(request, LARGEST)

    def taken_in() -> OwnPicture:
        found = done_apart(checked, data)
        keep(found)
        known = found.named(name.strip())
        pictures.keep(context.database, known)
        return known

    return await in_time(taken_in)


@router.get("/{digest}/{width}x{height}.png", response_class=Response)
def picture(digest: Digest, width: Side, height: Side) -> Response:
    """A picture in so many pixels."""
    return Response(sized_png(digest, width, height), media_type="image/png", headers=FOR_EVER)
