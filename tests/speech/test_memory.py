"""Memory is shared between threads and goes back to the system, where its C library can."""

import ctypes
import subprocess
import sys
from pathlib import Path
from types import SimpleNamespace

import pytest

from mortiser.speech.memory import HEAPS, give_back, share_heaps

THREADS = """
import ctypes, sys, threading
from mortiser.speech.memory import share_heaps

share_heaps()
libc = ctypes.CDLL(None)
gate = threading.Barrier(9)

def take():
    libc.malloc(1000)
    gate.wait()

threads = [threading.Thread(target=take) for _ in range(8)]
for thread in threads:
    thread.start()
gate.wait()
libc.fopen.restype = ctypes.c_void_p
told = ctypes.c_void_p(libc.fopen(sys.argv[1].encode(), b"w"))
libc.malloc_info(0, told)
libc.fclose(told)
"""


def test_the_library_is_asked_where_it_can(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[int] = []
    libraries = iter([SimpleNamespace(malloc_trim=asked.append), SimpleNamespace()])
    monkeypatch.setattr(ctypes, "CDLL", lambda name: next(libraries))
    give_back()
    give_back()
    assert asked == [0]


@pytest.mark.skipif(not hasattr(ctypes.CDLL(None), "malloc_info"), reason="needs glibc")
def test_threads_share_their_heaps(tmp_path: Path) -> None:
    told = tmp_path / "heaps.xml"
    subprocess.run([sys.executable, "-c", THREADS, str(told)], check=True)
    assert 1 <= told.read_text().count("<heap nr=") <= HEAPS


def test_a_library_without_heaps_is_left_alone(monkeypatch: pytest.MonkeyPatch) -> None:
    asked: list[object] = []
    library = SimpleNamespace()
    monkeypatch.setattr(ctypes, "CDLL", lambda name: asked.append(name) or library)
    share_heaps()
    assert asked == [None]
