"""Values as they are stored: whole, with a version, and brought up to today's form when they are read.

Whoever changes what a value means, or a default that older texts leave out, adds an upgrade: a function from
the JSON of one version to that of the next. Rows, the journal, and files that people keep are read alike.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import Any, Generic, TypeVar

from pydantic import TypeAdapter

from mortiser.core.common.errors import BadInput

T = TypeVar("T")
Upgrade = Callable[[Any], Any]
KEPT_READ = 256
"""So many texts of each form are kept as read: every edit reads them, few change them."""


class Stored(Generic[T]):
    """How values of a type are written and read.

    Texts of before versions (they are not an object with ``version`` and ``value``) go through ``first``,
    which gives their JSON in version 1; ``upgrades`` lead from version 1 to 2, from 2 to 3, and so on.
    """

    def __init__(
        self, type_: Any, first: Callable[[str], Any], upgrades: Sequence[Upgrade] = ()
    ) -> None:
        self._adapter: TypeAdapter[T] = TypeAdapter(type_)
        self._first = first
        self._upgrades = upgrades
        self._kept = lru_cache(KEPT_READ)(self._read)

    @property
    def version(self) -> int:
        """The version that is written."""
        return 1 + len(self._upgrades)

    def write(self, value: T) -> str:
        """The text of a value, with nothing left out."""
        whole = self._adapter.dump_json(value).decode()
        return f'{{"version":{self.version},"value":{whole}}}'

    def read(self, text: str) -> T:
        """The value of a text of any version. Raises BadInput for a version that is not known yet, ValueError
        for a text that cannot be read."""
        return self._kept(text)

    def _read(self, text: str) -> T:
        version, value = _parted(text)
        return self.of(version, value) if version else self.of(1, self._first(text))

    def of(self, version: int, value: Any) -> T:
        """The value whose JSON in a version is given. Raises BadInput, ValueError."""
        if version > self.version:
            raise BadInput("That was written by a newer Mortiser. Update this one to read it.")
        for upgrade in self._upgrades[version - 1 :]:
            value = upgrade(value)
        return self._adapter.validate_json(json.dumps(value))


def _parted(text: str) -> tuple[int, Any]:
    """The version of a text and its value; version 0 where it says none."""
    if not text.startswith('{"version":'):
        return 0, None
    found = json.loads(text)
    if set(found) != {"version", "value"} or not isinstance(found["version"], int):
        return 0, None
    return found["version"], found["value"]
