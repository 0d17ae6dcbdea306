"""Folders of killed processes are found again and go; those of living ones, and of others, are let be."""

import os
import platform
import subprocess
import sys
from pathlib import Path

import pytest

from mortiser.disk.passing import left_behind, new_folder, passing


@pytest.fixture
def ended() -> int:
    """The number of a process that is over."""
    process = subprocess.Popen([sys.executable, "-c", ""])
    process.wait()
    return process.pid


def test_it_is_gone_afterwards(tmp_path: Path) -> None:
    def fails() -> None:
        with passing(tmp_path) as folder:
            (folder / "half").write_bytes(b"x")
            assert folder.name.startswith(".")
            raise KeyError

    with pytest.raises(KeyError):
        fails()
    assert list(tmp_path.iterdir()) == []


def test_what_killed_processes_left_is_found(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, ended: int
) -> None:
    monkeypatch.setattr("tempfile.tempdir", str(tmp_path))
    living = new_folder()
    left = tmp_path / living.name.replace(f"-{os.getpid()}-", f"-{ended}-")
    elsewhere = tmp_path / living.name.replace(platform.node(), "another").replace(
        f"-{os.getpid()}-", f"-{ended}-"
    )
    other = tmp_path / "mortiser-notes"
    for folder in (left, elsewhere, other):
        folder.mkdir()
    (tmp_path / living.name.replace(f"-{os.getpid()}-", "-1-")).symlink_to(other)
    assert left_behind() == [left]


def test_the_next_one_in_a_place_takes_them_away(tmp_path: Path, ended: int) -> None:
    left = tmp_path / new_folder(tmp_path).name.replace(f"-{os.getpid()}-", f"-{ended}-")
    left.mkdir()
    (left / "made.mp4").write_bytes(b"half")
    with passing(tmp_path):
        assert not left.exists()
