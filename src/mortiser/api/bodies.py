"""Request bodies that are files."""

from __future__ import annotations

from fastapi import Request

from mortiser.core.errors import BadInput, TooLarge
from mortiser.formats.decoding import LARGEST


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
        raise BadInput("That file is empty.")
    return bytes(data)
