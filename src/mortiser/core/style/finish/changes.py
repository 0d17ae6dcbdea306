"""Changes to a finish: values by their dotted path, as in ``{"shadow.blur": 0.2}``."""

from __future__ import annotations

import json
from collections.abc import Mapping
from functools import lru_cache
from typing import Any, TypeVar

from pydantic import JsonValue, ValidationError

from mortiser.core.common.errors import BadInput
from mortiser.core.style.finish.model import Accent, Finish
from mortiser.core.style.finish.motions import Emphasis, Loop
from mortiser.core.style.finish.parts import Companion, Plank, Plate, Shadow, WordPlate
from mortiser.core.style.finish.stored import said

Changes = Mapping[str, JsonValue]
UNTOUCHED = {"name", "version", "about"}
"""What a change of the look never sets."""
MADE_WHEN_SET: dict[str, Any] = {
    "shadow": Shadow(),
    "plate": Plate(colour=(20, 20, 22, 200)),
    "plank": Plank(colour=(178, 58, 42, 255)),
}
"""Parts a finish may lack: setting something in one makes it."""
V = TypeVar("V", Finish, Accent)
PLAIN = Accent(name="Own")
ACCENT_PARTS: dict[str, Any] = {
    "plate": WordPlate(colour=(28, 58, 74, 255)),
    "companion": Companion(emoji="⭐"),
    "emphasis": Emphasis(kind="grow"),
    "loop": Loop(kind="sway"),
}
"""The same for accents."""


def changed(finish: Finish, changes: Changes) -> Finish:
    """The finish with some values set. Raises BadInput when a path or a value cannot be."""
    if not changes:
        return finish
    return _with(finish, changes, "how captions look", MADE_WHEN_SET)


def dressed(finish: Finish, look: str) -> Finish:
    """The finish with a stored look (see look_text) over it.

    A part of a look that this finish has no place for (an accent it lacks) does nothing.
    """
    return _dressed(finish, look) if look else finish


@lru_cache(maxsize=512)
def _dressed(finish: Finish, look: str) -> Finish:
    changes = look_of(look)
    try:
        return changed(finish, changes)
    except BadInput:
        result = finish
        for path, value in sorted(changes.items()):
            try:
                result = changed(result, {path: value})
            except BadInput:
                continue
        return result


def worn(accent: Accent | None, own: str) -> Accent | None:
    """A word's accent with what the word has of its own over it; None for a plain word."""
    return _worn(accent, own) if own else accent


@lru_cache(maxsize=2048)
def _worn(accent: Accent | None, own: str) -> Accent | None:
    changes = look_of(own)
    try:
        return changed_accent(accent, changes)
    except BadInput:
        return accent


def changed_accent(accent: Accent | None, changes: Changes) -> Accent:
    """An accent (a plain word's where None) with some values set. Raises BadInput."""
    return _with(accent or PLAIN, changes, "how a word looks", ACCENT_PARTS)


def look_text(changes: Changes) -> str:
    """Changes as they are stored with a caption; empty for none."""
    return json.dumps(dict(sorted(changes.items()))) if changes else ""


def look_of(text: str) -> dict[str, JsonValue]:
    """The changes that a stored look stands for."""
    found: dict[str, JsonValue] = json.loads(text) if text else {}
    return found


def _with(value: V, changes: Changes, what: str, parts: Mapping[str, Any]) -> V:
    whole = value.model_dump(mode="json")
    for path, one in sorted(changes.items()):
        if path.split(".")[0] in UNTOUCHED:
            raise BadInput(f"“{path}” is not part of {what}.")
        _set(whole, path, one, parts)
    try:
        return type(value).model_validate_json(json.dumps(whole))
    except ValidationError as error:
        raise BadInput(f"That cannot be set: {said(error)}") from error


def _set(whole: dict[str, Any], path: str, value: JsonValue, parts: Mapping[str, Any]) -> None:
    *way, last = path.split(".")
    at: Any = whole
    for number, step in enumerate(way):
        below = _get(at, step, path)
        if below is None:
            below = _made(".".join(way[: number + 1]), path, parts)
            at[step] = below
        at = below
    _get(at, last, path)
    at[int(last) if isinstance(at, list) else last] = value


def _get(at: Any, step: str, path: str) -> Any:
    if isinstance(at, dict) and step in at:
        return at[step]
    if isinstance(at, list) and step.isdecimal() and int(step) < len(at):
        return at[int(step)]
    raise BadInput(f"There is no “{path}” in this finish.")


def _made(part: str, path: str, parts: Mapping[str, Any]) -> dict[str, Any]:
    made = parts.get(part)
    if made is None and part.startswith("accents."):
        made = ACCENT_PARTS.get(part.rsplit(".", 1)[-1])
    if made is None:
        raise BadInput(f"There is no “{path}” in this finish.")
    value: dict[str, Any] = made.model_dump(mode="json")
    return value
