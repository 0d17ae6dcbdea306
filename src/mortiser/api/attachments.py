"""Names of files that are downloaded."""

from __future__ import annotations

import re
from urllib.parse import quote

_PLAIN = re.compile(r"[A-Za-z0-9._-]+")


def attachment(name: str) -> dict[str, str]:
    """The header that makes an answer a file of this name (RFC 6266), in any letters (RFC 8187)."""
    if _PLAIN.fullmatch(name):
        return {"Content-Disposition": f'attachment; filename="{name}"'}
    return {"Content-Disposition": f"attachment; filename*=UTF-8''{quote(name, safe='')}"}
