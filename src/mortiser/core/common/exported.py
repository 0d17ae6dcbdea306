"""Files of ours that people take from one workspace to another: JSON that says what it is, and its version."""

from __future__ import annotations

import json
from typing import Any

from mortiser.core.common.errors import BadInput


def write(value: dict[str, Any]) -> str:
    """The text of a file."""
    return json.dumps(value, ensure_ascii=False, indent=1) + "\n"


def read(data: bytes, what: str) -> Any:
    """What a file's JSON stands for; ``what`` such files are, as in "Finishes". Raises BadInput."""
    try:
        return json.loads(data.decode("utf-8-sig"))
    except (UnicodeDecodeError, ValueError, RecursionError) as error:
        raise BadInput(f"That file is no JSON. {what} are files that Mortiser exported.") from error


def need_version(value: dict[str, Any], newest: int) -> None:
    """Raises BadInput for a file of a later version than is known."""
    if not isinstance(value.get("version"), int) or value["version"] > newest:
        raise BadInput("That file was written by a newer Mortiser. Update this one to read it.")
