"""Names of files that are downloaded."""

from __future__ import annotations

import unicodedata
from urllib.parse import quote


def attachment(name: str) -> dict[str, str]:
    """The header that makes an answer a file of this name (RFC 6266, letters by RFC 8187).

    What reads only the older form gets the name in ASCII.
    """
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode()
    plain = "".join(ch for ch in plain if ch.isprintable() and ch not in '"\\')
    encoded = quote(name, safe="", errors="replace")
    return {"Content-Disposition": f"attachment; filename=\"{plain}\"; filename*=UTF-8''{encoded}"}
