"""Request bodies that are files: taken in within limits, read outside the event loop."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

import anyio
import anyio.to_thread
from fastapi import Request
from fastapi.concurrency import run_in_threadpool
from starlette.requests import ClientDisconnect

from mortiser.core.common.errors import BadInput, NoSpace, TooLarge
from mortiser.formats.decoding import LARGEST
from mortiser.wiring import AppContext

T = TypeVar("T")
READ_S = 30.0
"""How long a file may take to read."""


async def in_time(read: Callable[[], T]) -> T:
    """What reading a file gives, done in a thread. Raises BadInput when it takes too long."""
    try:
        with anyio.fail_after(READ_S):
            return await anyio.to_thread.run_sync(read, abandon_on_cancel=True)
    except TimeoutError as error:
        raise BadInput(
            f"That file takes longer than {READ_S:.0f} seconds to read. Nothing was taken; "
            "make it smaller, or in parts."
        ) from error


async def small_body(request: Request, largest: int = LARGEST) -> bytes:
    """A small file's bytes. Raises TooLarge, or BadInput when it is empty."""
    data = bytearray()
    async for part in request.stream():
        data += part
        if len(data) > largest:
            raise TooLarge(
                f"That file is larger than {largest // 1_000_000} MB: it is none that can be read here."
            )
    if not data:
        raise BadInput("That file is empty. Choose another one.")
    return bytes(data)


async def received(request: Request, context: AppContext) -> Path:
    """A large file that a request brings, on the disk. Raises TooLarge, NoSpace or BadInput; nothing of it
    is left then."""
    limit = context.settings.largest_upload
    length = request.headers.get("content-length", "")
    stated = int(length) if length.isdecimal() and len(length) < 20 else 0
    if stated > limit:
        raise TooLarge(_too_large(limit))
    context.workspace.need(stated, context.settings.spare_disk)
    file = context.workspace.new_upload()
    received = 0
    try:
        with file.open("wb") as out:
            async for part in request.stream():
                received += len(part)
                if received > limit:
                    raise TooLarge(_too_large(limit))
                await run_in_threadpool(out.write, part)
        if not received:
            raise BadInput("That file is empty. Choose another one.")
    except ClientDisconnect as gone:
        file.unlink(missing_ok=True)
        raise BadInput("The upload stopped half way; nothing was kept. Send it again.") from gone
    except OSError as error:
        file.unlink(missing_ok=True)
        raise NoSpace(
            "The disk is full. Nothing was stored; free some space and try again."
        ) from error
    except BaseException:
        file.unlink(missing_ok=True)
        raise
    return file


def _too_large(limit: int) -> str:
    return (
        f"The file is larger than {limit / 1024**3:.3g} GiB, the most that is taken. "
        "Set MORTISER_LARGEST_UPLOAD (bytes) to take more."
    )
