"""A finish as it is stored with a piece, and as a file: JSON of one or of a set."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from pydantic import ValidationError

from mortiser.core.common import exported
from mortiser.core.common.errors import BadInput
from mortiser.core.common.stored import Stored
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.model import Finish

FORMAT = "mortiser-finishes"
MOST_IN_FILE = 200


def _first(text: str) -> Any:
    return FINISHES[text].model_dump(mode="json") if text in FINISHES else json.loads(text)


STORED: Stored[Finish] = Stored(Finish, first=_first)
"""A piece keeps the finish it was dressed with, whatever becomes of the built-in one of its name. Texts of before
versions are the name of a built-in one, or a finish."""


def write_finishes(finishes: Sequence[Finish]) -> str:
    """Finishes as a file: ``{"format": "mortiser-finishes", "version": 1, "finishes": [...]}``."""
    values = [finish.model_dump(mode="json", exclude_defaults=False) for finish in finishes]
    return exported.write({"format": FORMAT, "version": STORED.version, "finishes": values})


def read_finishes(data: bytes) -> list[Finish]:
    """The finishes of a file, or of a bare finish. Raises BadInput saying what is wrong where."""
    value = exported.read(data, "Finishes")
    if isinstance(value, dict) and value.get("format") == FORMAT:
        exported.need_version(value, STORED.version)
        version, found = value["version"], value.get("finishes")
    else:
        version, found = STORED.version, [value]
    if not isinstance(found, list) or not found or len(found) > MOST_IN_FILE:
        raise BadInput(f"That file holds no finishes, or more than {MOST_IN_FILE}.")
    return [_checked(item, version, number) for number, item in enumerate(found, start=1)]


def _checked(value: Any, version: int, number: int) -> Finish:
    try:
        return STORED.of(version, value)
    except ValidationError as error:
        raise BadInput(f"Finish {number} of that file: {said(error)}") from error


def said(error: ValidationError) -> str:
    """The first fault of a value in words: where it is and what is wrong."""
    first = error.errors(include_url=False)[0]
    where = ".".join(str(part) for part in first["loc"] if not _is_branch(part)) or "it"
    message = first["msg"][:1].lower() + first["msg"][1:]
    return f"“{where}”: {message}."


def _is_branch(part: int | str) -> bool:
    """Whether a step of a fault's place only names the branch of a union that was tried."""
    return isinstance(part, str) and (part.startswith("tuple[") or part == "Gradient")
