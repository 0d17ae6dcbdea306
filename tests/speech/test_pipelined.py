"""One step of the work ahead of the next: the order stays, an error comes at its place."""

import threading
from collections.abc import Iterator

import pytest

from mortiser.speech.pipelined import one_ahead


def test_what_comes_next_is_made_while_the_last_is_used() -> None:
    begun = [threading.Event() for _ in range(4)]

    def make(number: int) -> int:
        begun[number].set()
        return number * number

    for number, square in one_ahead(range(4), make):
        assert square == number * number
        if number < 3:
            assert begun[number + 1].wait(10), "nobody waits for this one to be used"


def test_nothing_more_is_read_than_one_ahead() -> None:
    read: list[int] = []

    def items() -> Iterator[int]:
        for number in range(9):
            read.append(number)
            yield number

    used = one_ahead(items(), str)
    assert next(used) == (0, "0")
    assert read == [0, 1]
    assert list(used) == [(number, str(number)) for number in range(1, 9)]
    assert list(one_ahead([], str)) == []


def test_an_error_comes_behind_what_was_made_before_it() -> None:
    def make(number: int) -> int:
        return 6 // (2 - number)

    used = one_ahead(range(5), make)
    assert [next(used)[1], next(used)[1]] == [3, 6]
    with pytest.raises(ZeroDivisionError):
        next(used)


def test_whoever_stops_early_leaves_no_thread_behind() -> None:
    before = threading.active_count()
    used = one_ahead(range(100), str)
    next(used)
    used.close()
    assert threading.active_count() == before
