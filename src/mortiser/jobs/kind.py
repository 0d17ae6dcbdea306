"""A kind of job: what it needs to know, what is done, and what is kept of it.

The server reads and keeps; the work between has values alone, so that it can be done by a process
that has no database.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Generic, TypeVar

from mortiser.jobs.broker import LeasedJob
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.jobs.workspace import Workspace
from mortiser.store.database import Database

JobInput = TypeVar("JobInput")
Result = TypeVar("Result")


@dataclass(frozen=True)
class JobContext:
    """Where values are read and results kept."""

    database: Database
    glossary: GlossaryBench
    workspace: Workspace


@dataclass(frozen=True)
class Kind(Generic[JobInput, Result]):
    """``read`` gives what the work needs to know, ``work`` gives results while it goes on, and
    ``keep`` keeps each of them before the work goes on."""

    read: Callable[[JobContext, LeasedJob], JobInput]
    work: Callable[[Tools, Task, JobInput], Iterable[Result]]
    keep: Callable[[JobContext, JobInput, Result], None]
