"""How routes reach the open workspace."""

from typing import Annotated, cast

from fastapi import Depends, Request

from mortiser.wiring import AppContext


def shop_of(request: Request) -> AppContext:
    """The workspace this server serves."""
    return cast(AppContext, request.app.state.context)


OpenContext = Annotated[AppContext, Depends(shop_of)]
