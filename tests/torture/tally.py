"""What was tried and what failed."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager


class Tally:
    """Counts tries of one kind; a try that raises has failed and the next one goes on."""

    def __init__(self, name: str) -> None:
        self.name = name
        self.tried = 0
        self.failures: list[str] = []
        self.facts: dict[str, str] = {}
        self._began = time.monotonic()

    @contextmanager
    def trying(self, what: str) -> Iterator[None]:
        """Count one try."""
        self.tried += 1
        try:
            yield
        except Exception as error:
            self.failures.append(f"{what}: {type(error).__name__}: {str(error)[:300]}")
            print(f"  {self.failures[-1]}", flush=True)

    def __str__(self) -> str:
        seconds = time.monotonic() - self._began
        facts = "".join(f", {name} {value}" for name, value in self.facts.items())
        lines = [
            f"{self.name}: {self.tried} tried, {len(self.failures)} failed{facts} ({seconds:.0f} s)"
        ]
        return "\n".join([*lines, *(f"  {failure}" for failure in self.failures)])
