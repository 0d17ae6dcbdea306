"""Memory that is free goes back to the system, where its C library can."""

import ctypes
from types import SimpleNamespace

import pytest

from mortiser.speech.memory import give_back


def test_the_library_is_asked_where_it_can(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[int] = []
    libraries = iter([SimpleNamespace(malloc_trim=asked.append), SimpleNamespace()])
    monkeypatch.setattr(ctypes, "CDLL", lambda name: next(libraries))
    give_back()
    give_back()
    assert asked == [0]
