"""Only this machine's own pages may talk to the server."""

from __future__ import annotations

from urllib.parse import urlsplit

from starlette.requests import Request
from starlette.types import ASGIApp, Receive, Scope, Send

from mortiser.api.errors import problem

LOCAL = {"127.0.0.1", "localhost", "::1"}


class LocalOnly:
    """Refuses foreign Host headers (name rebinding) and requests that other sites' pages send."""

    def __init__(self, app: ASGIApp, also: str) -> None:
        self._app = app
        self._hosts = LOCAL | {also}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass on what is ours."""
        if scope["type"] == "http":
            request = Request(scope)
            host = urlsplit(f"//{request.headers.get('host', '')}").hostname
            origin = request.headers.get("origin")
            foreign = origin is not None and urlsplit(origin).netloc != request.headers.get("host")
            if host not in self._hosts or foreign:
                refusal = problem(403, "foreign", "Only pages of this Mortiser may ask for that.")
                await refusal(scope, receive, send)
                return
        await self._app(scope, receive, send)
