"""Routes whose large requests and answers are read and written outside the event loop.

Whatever holds the loop holds everybody: JSON of some size is parsed and made in a worker thread.
"""

from __future__ import annotations

import asyncio
import functools
import inspect
import json
import re
from collections.abc import Callable, Coroutine
from typing import Any, NoReturn, get_type_hints

from fastapi import APIRouter, FastAPI, HTTPException, Request, Response
from fastapi.routing import APIRoute
from pydantic import BaseModel, TypeAdapter
from starlette.concurrency import run_in_threadpool

from mortiser.core.common.errors import BadInput

LARGEST_JSON = 4 * 1024**2
"""Bytes of a request that is no file."""
SMALL = 16_384
"""A request of fewer bytes is handled in the server's own loop."""
_HALF = re.compile(rb"\\u[dD][89a-fA-F]")
"""Where half a character may be written in JSON."""


def routes(prefix: str, tag: str) -> APIRouter:
    """A router of the routes here."""
    return APIRouter(prefix=prefix, tags=[tag], route_class=ThreadedRoute)


def prepare_routes(app: FastAPI) -> None:
    """Have everything built that the framework builds when a router is first asked (0.1 s each)."""
    nowhere = {"type": "http", "method": "GET", "path": "/-", "root_path": "", "headers": []}
    for route in app.router.routes:
        route.matches(dict(nowhere))


class ThreadedRoute(APIRoute):
    """Parses large requests, and writes the answers of plain functions, in worker threads."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **named: Any) -> None:
        super().__init__(path, _written(endpoint, named.get("status_code")), **named)

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """The handler, given requests that are parsed as said."""
        handle = super().get_route_handler()

        async def handled(request: Request) -> Response:
            asked = _Request(request.scope, request.receive)
            if not self.body_field or len(await asked.body()) < SMALL:
                return await handle(asked)

            async def apart() -> Response:
                return await handle(asked)

            # Checking the values of a large request is the framework's, in whatever loop it runs.
            return await run_in_threadpool(asyncio.run, apart())

        return handled


class _Request(Request):
    async def body(self) -> bytes:
        """The bytes of a request that is no file; more than can be of use are not read."""
        if not hasattr(self, "_body"):
            data = bytearray()
            async for part in self.stream():
                data += part
                if len(data) > LARGEST_JSON:
                    raise HTTPException(413)
            self._body = bytes(data)
        return self._body

    async def json(self) -> Any:
        """The body's value (see parsed); faults are told as FastAPI lets them through."""
        if not hasattr(self, "_json"):
            body = await self.body()
            try:
                self._json = parsed(body)
            except BadInput as error:
                raise HTTPException(400, str(error)) from error
        return self._json


def parsed(body: bytes) -> Any:
    """The value of a JSON text. Raises JSONDecodeError, or BadInput for half characters, endless
    numbers and too deep a nesting."""
    try:
        value = json.loads(body, parse_constant=_refused)
    except RecursionError as error:
        raise BadInput("The request is nested too deeply.") from error
    if _HALF.search(body):
        try:
            json.dumps(value, ensure_ascii=False).encode()
        except UnicodeEncodeError as error:
            raise BadInput(
                "The request holds half a character (a surrogate without its other half). "
                "Type the text again."
            ) from error
    return value


def _refused(constant: str) -> NoReturn:
    raise BadInput(f"{constant} is no number that can be used here.")


def _written(endpoint: Callable[..., Any], status: int | None) -> Callable[..., Any]:
    """The same function, its model or list of models made JSON in the thread it runs in."""
    if inspect.iscoroutinefunction(endpoint):
        return endpoint
    answer: Any = get_type_hints(endpoint).get("return")
    if not _is_model(answer):
        return endpoint
    adapter: TypeAdapter[Any] = TypeAdapter(answer)

    @functools.wraps(endpoint)
    def written(*values: Any, **named: Any) -> Response:
        data = adapter.dump_json(endpoint(*values, **named))
        return Response(data, status or 200, media_type="application/json")

    return written


def _is_model(answer: Any) -> bool:
    arguments = getattr(answer, "__args__", ())
    models = [one for one in (answer, *arguments) if inspect.isclass(one)]
    return any(issubclass(one, BaseModel) for one in models)
