"""A kind of job: what it needs to know, what is done, and what is kept of it.

The server reads and keeps; the work between has values alone, so that it can be done by a process
that has no database.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Generic, TypeVar

from mortiser.jobs.broker import Taken
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.store.database import Database

Given = TypeVar("Given")
Result = TypeVar("Result")


@dataclass(frozen=True)
class Home:
    """Where values are read and results kept."""

    database: Database
    glossary: GlossaryBench


@dataclass(frozen=True)
class Kind(Generic[Given, Result]):
    """``read`` gives what the work needs to know, ``work`` gives results while it goes on, and
    ``keep`` keeps each of them before the work goes on."""

    read: Callable[[Home, Taken], Given]
    work: Callable[[Tools, Task, Given], Iterable[Result]]
    keep: Callable[[Home, Given, Result], None]
