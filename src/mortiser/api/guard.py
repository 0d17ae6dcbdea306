"""Who may talk to the server, and what its answers allow a browser to do with them.

The page itself may be opened from anywhere; everything else is for the page alone. Beyond this
machine, whoever wants in has to be paired.
"""

from __future__ import annotations

import re
from collections.abc import Collection
from urllib.parse import urlsplit

import anyio
from fastapi.responses import HTMLResponse
from starlette.datastructures import MutableHeaders
from starlette.requests import ClientDisconnect, Request
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from mortiser.api.errors import problem
from mortiser.api.pairing import PAIR_PATH, Pairing, pairing_page

LOCAL = frozenset({"127.0.0.1", "localhost", "::1"})
_RANGE = re.compile(rb"bytes=\s*(?:\d+-\d*|-\d+)(?:\s*,\s*(?:\d+-\d*|-\d+))*\s*")
SILENT_S = 10.0
"""How long a request may stop in the middle of its body."""
HEADERS = {
    # Styles within elements are how menus and dialogs are placed.
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data: blob:; "
    "media-src 'self' blob:; style-src 'self' 'unsafe-inline'; object-src 'none'; "
    "base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
    "X-Frame-Options": "DENY",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}


class Guard:
    """Refuses forged hosts, other sites and strangers; puts the headers on every answer.

    ``names`` are the host names the server answers to besides the address it was reached at.
    """

    def __init__(self, app: ASGIApp, names: Collection[str], pairing: Pairing | None) -> None:
        self._app = app
        self._names = {name.lower() for name in names}
        self._pairing = pairing

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass on what is ours."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(HEADERS)
            await send(message)

        # A range that is none is passed over (RFC 9110, 14.2).
        scope["headers"] = [
            (name, value)
            for name, value in scope["headers"]
            if name != b"range" or _RANGE.fullmatch(value)
        ]
        refusal = self._refusal(Request(scope))
        await (refusal or self._app)(scope, _Arriving(receive), with_headers)

    def _refusal(self, request: Request) -> Response | None:
        if not self._ours(request) or _from_elsewhere(request):
            return problem(403, "foreign", "Only pages of this Mortiser may ask for that.")
        if any(ch < " " or ch == "\x7f" for ch in request.url.path):
            return problem(400, "bad_input", "That address holds signs that are no letters.")
        if self._pairing is None or request.url.path == PAIR_PATH:
            return None
        if self._pairing.browser(request):
            return None
        if _wants_page(request):
            return HTMLResponse(pairing_page(), status_code=401)
        return problem(401, "not_paired", "Open the page of this Mortiser and type the code first.")

    def _ours(self, request: Request) -> bool:
        """Whether the request names this server (else a foreign name was led here)."""
        stated = request.headers.get("host", "")
        try:
            parts = urlsplit(f"//{stated}")
            host = parts.hostname if parts.port is None or parts.port >= 0 else None
            origin = request.headers.get("origin")
            foreign = origin is not None and urlsplit(origin).netloc != stated
        except ValueError:
            return False
        reached = (request.scope.get("server") or ("",))[0]
        return not foreign and bool(host) and (host in self._names or host == reached)


class _Arriving:
    """What a request sends, for as long as it sends it: a body that stops half way is given up."""

    def __init__(self, receive: Receive) -> None:
        self._receive = receive
        self._whole = False

    async def __call__(self) -> Message:
        """The next part. Raises ClientDisconnect where none comes for SILENT_S."""
        if self._whole:
            return await self._receive()
        try:
            with anyio.fail_after(SILENT_S):
                message = await self._receive()
        except TimeoutError as error:
            raise ClientDisconnect from error
        self._whole = not message.get("more_body", False)
        return message


def _from_elsewhere(request: Request) -> bool:
    """Whether another site's page asks, as browsers say (Fetch Metadata); opening the page is fine."""
    site = request.headers.get("sec-fetch-site", "none")
    return site not in ("same-origin", "none") and not _wants_page(request)


def _wants_page(request: Request) -> bool:
    """Whether a browser goes to the page, as against a part of it or an answer."""
    path = request.url.path
    if request.method not in ("GET", "HEAD") or path.startswith(("/api/", "/assets/")):
        return False
    return request.headers.get("sec-fetch-dest", "document") == "document"
