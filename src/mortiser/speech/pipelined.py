"""One step of the work a stretch ahead of the next."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from typing import TypeVar

Item = TypeVar("Item")
Made = TypeVar("Made")


def one_ahead(items: Iterable[Item], make: Callable[[Item], Made]) -> Iterator[tuple[Item, Made]]:
    """Each item with what is made of it, by a thread that makes the next one meanwhile.

    Engines hold no lock of Python's while they work, and none of them keeps all cores busy.
    """
    with ThreadPoolExecutor(1) as thread:
        last: tuple[Item, Future[Made]] | None = None
        for item in items:
            here = item, thread.submit(make, item)
            if last is not None:
                yield last[0], last[1].result()
            last = here
        if last is not None:
            yield last[0], last[1].result()
