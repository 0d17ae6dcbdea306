"""Tables of killed processes are found again, those of living ones are let be."""

import os
import subprocess
import sys
from pathlib import Path

import pytest

from mortiser.media import tones


def test_what_killed_processes_left_is_found(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("tempfile.tempdir", str(tmp_path))
    ended = subprocess.Popen([sys.executable, "-c", ""])
    ended.wait()
    left = tmp_path / f"{tones.PREFIX}{ended.pid}-abc"
    living = tmp_path / f"{tones.PREFIX}{os.getpid()}-abc"
    other = tmp_path / f"{tones.PREFIX}notes"
    for folder in (left, living, other):
        folder.mkdir()
    (tmp_path / f"{tones.PREFIX}1-link").symlink_to(other)
    assert tones.left_behind() == [left]
