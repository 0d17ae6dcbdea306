"""One step of the work ahead of the next: the order stays, an error comes at its place."""

import subprocess
import sys
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


def test_threads_that_ask_at_once_for_the_quick_engine_all_get_it() -> None:
    ask = (
        "from concurrent.futures import ThreadPoolExecutor\n"
        "import sys; sys.setswitchinterval(1e-6)\n"
        "from mortiser.speech.moonshine import MoonshineRecogniser\n"
        "with ThreadPoolExecutor(6) as threads:\n"
        "    made = [threads.submit(MoonshineRecogniser) for _ in range(6)]\n"
        "    print(len([one.result().name for one in made]))\n"
    )
    done = subprocess.run([sys.executable, "-c", ask], capture_output=True, text=True, check=False)
    assert (done.stdout, done.returncode) == ("6\n", 0), done.stderr
