"""A stand-in for a clip library: the service that library.service asks, over a few files that ship with it.

It can be told to misbehave (``PUT /faults``), as real ones do now and then.
"""

from __future__ import annotations

import json
import threading
import time
from collections import deque
from collections.abc import Iterator
from importlib.resources import files
from pathlib import Path
from typing import Annotated, Any

import uvicorn
from fastapi import FastAPI, Header, HTTPException, Query, Response
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field

from mortiser.core.common.stems import stems
from mortiser.services.serving import address_of, listening

MEDIA = Path(str(files("mortiser.standins") / "media"))
BLOCK = 16 * 1024


class Faults(BaseModel):
    """How it misbehaves."""

    slow_s: float = Field(default=0, ge=0, le=60, description="Before each answer.")
    fail: int = Field(default=0, ge=0, description="So many of the next answers are errors.")
    cut_off: int = Field(
        default=0, ge=0, description="Bytes after which files break off; 0 for never."
    )
    a_minute: int = Field(default=0, ge=0, description="How often it may be asked; 0 for no limit.")
    lie: float = Field(default=1, gt=0, description="Times the true size is told.")
    gone: list[str] = Field(default=[], description="What is listed but not there.")
    garbled: bool = Field(default=False, description="Whether lists cannot be read.")


def shelf() -> FastAPI:
    """The service."""
    app = FastAPI(title="Lantern Lane Shelf", openapi_url=None)
    state = _State()

    @app.put("/faults")
    def misbehave(faults: Faults) -> Faults:
        state.faults = faults
        state.asked.clear()
        return faults

    @app.get("/items")
    def items(
        text: str = "",
        kinds: str = "",
        page: Annotated[int, Query(ge=0)] = 0,
        size: Annotated[int, Query(ge=1, le=100)] = 24,
    ) -> Response:
        state.behave()
        if state.faults.garbled:
            return Response(b'{"items": [{"id"', media_type="application/json")
        found = _matching(text, [kind for kind in kinds.split(",") if kind])
        end = (page + 1) * size
        told = [state.told(one) for one in found[page * size : end]]
        body = {"items": told, "next": page + 1 if end < len(found) else None}
        return Response(json.dumps(body), media_type="application/json")

    @app.get("/items/{ref}")
    def item(ref: str) -> dict[str, Any]:
        state.behave()
        return state.told(_item(ref))

    @app.get("/items/{ref}/small")
    def small(ref: str) -> Response:
        state.behave()
        file = MEDIA / f"{_item(ref)['id']}.small.jpg"
        if not file.exists():
            raise HTTPException(404)
        return Response(file.read_bytes(), media_type="image/jpeg")

    @app.get("/items/{ref}/file")
    def contents(ref: str, wanted: Annotated[str, Header(alias="Range")] = "") -> StreamingResponse:
        state.behave()
        if ref in state.faults.gone:
            raise HTTPException(410)
        data = (MEDIA / str(_item(ref)["file"])).read_bytes()
        begin = int(wanted.removeprefix("bytes=").split("-")[0]) if wanted else 0
        headers = {"Content-Length": str(len(data) - begin), "Accept-Ranges": "bytes"}
        if begin:
            headers["Content-Range"] = f"bytes {begin}-{len(data) - 1}/{len(data)}"
        return StreamingResponse(
            state.sent(data[begin:]), status_code=206 if begin else 200, headers=headers
        )

    return app


class _State:
    """What it was told, and when it was asked."""

    def __init__(self) -> None:
        self.faults = Faults()
        self.asked: deque[float] = deque()
        self._guard = threading.Lock()

    def behave(self) -> None:
        """Answer, or not, as it was told."""
        faults = self.faults
        time.sleep(faults.slow_s)
        with self._guard:
            if faults.fail:
                self.faults = faults.model_copy(update={"fail": faults.fail - 1})
                raise HTTPException(500)
            now = time.monotonic()
            while self.asked and now - self.asked[0] > 60:
                self.asked.popleft()
            if faults.a_minute and len(self.asked) >= faults.a_minute:
                wait = 60 - (now - self.asked[0])
                raise HTTPException(429, headers={"Retry-After": f"{wait:.0f}"})
            self.asked.append(now)

    def told(self, one: dict[str, Any]) -> dict[str, Any]:
        """What is said of a thing."""
        said = {key: value for key, value in one.items() if key != "file"}
        return {**said, "bytes": round(int(one["bytes"]) * self.faults.lie)}

    def sent(self, data: bytes) -> Iterator[bytes]:
        """A file, broken off where that was told."""
        end = self.faults.cut_off or len(data)
        for at in range(0, min(end, len(data)), BLOCK):
            yield data[at : min(at + BLOCK, end)]
        if end < len(data):
            raise ConnectionResetError


def _catalogue() -> list[dict[str, Any]]:
    listed: list[dict[str, Any]] = json.loads((MEDIA / "catalogue.json").read_text("utf-8"))
    return listed


def _item(ref: str) -> dict[str, Any]:
    for one in _catalogue():
        if one["id"] == ref:
            return one
    raise HTTPException(404)


def _matching(text: str, kinds: list[str]) -> list[dict[str, Any]]:
    """By how many words of the text a thing is named or tagged with."""
    asked = {word for word in stems(text) if len(word) > 2}
    scored = [
        (len(asked & set(stems(f"{one['title']} {' '.join(one['tags'])}"))), one)
        for one in _catalogue()
        if not kinds or one["kind"] in kinds
    ]
    return [one for score, one in sorted(scored, key=lambda pair: -pair[0]) if score or not asked]


class ShelfServer:
    """The service on a port of its own, in a thread of this process."""

    def __init__(self, port: int = 0) -> None:
        self._listener = listening("127.0.0.1", port)
        self.address = address_of(self._listener)
        config = uvicorn.Config(shelf(), log_level="critical", timeout_graceful_shutdown=1)
        self._server = uvicorn.Server(config)
        self._thread = threading.Thread(
            target=self._server.run, args=([self._listener],), daemon=True
        )
        self._thread.start()
        while not self._server.started and self._thread.is_alive():
            time.sleep(0.01)

    def close(self) -> None:
        """Stop answering."""
        self._server.should_exit = True
        self._thread.join(10)
        self._listener.close()
