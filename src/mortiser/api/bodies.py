"""Request bodies that are files: taken in within limits, read outside the event loop."""

from __future__ import annotations

from collections.abc import Callable
from typing import TypeVar

import anyio
import anyio.to_thread
from fastapi import Request

from mortiser.core.errors import BadInput, TooLarge
from mortiser.formats.decoding import LARGEST

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
