"""How routes reach the open workspace."""

from typing import Annotated, cast

from fastapi import Depends, Request

from mortiser.wiring import Shop


def shop_of(request: Request) -> Shop:
    """The workspace this server serves."""
    return cast(Shop, request.app.state.shop)


OpenShop = Annotated[Shop, Depends(shop_of)]
