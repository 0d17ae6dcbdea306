"""Folders for the time of one piece of work. Those of processes that were killed are known by their names."""

from __future__ import annotations

import os
import platform
import re
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

_HERE = re.sub(r"[^\w.]", "_", platform.node()) or "here"
_NAME = re.compile(rf"\.?mortiser-{re.escape(_HERE)}-(\d+)-\w+")
"""The machine's name is in it: several may work in one folder, and their processes have the same numbers."""


def new_folder(where: Path | None = None) -> Path:
    """A new folder in a place, hidden there, or (None) where the system keeps what passes; what killed
    processes have left in that place goes."""
    for left in left_behind(where):
        shutil.rmtree(left, ignore_errors=True)
    hidden = "" if where is None else "."
    return Path(tempfile.mkdtemp(prefix=f"{hidden}mortiser-{_HERE}-{os.getpid()}-", dir=where))


@contextmanager
def passing(where: Path | None = None) -> Iterator[Path]:
    """A new folder that is gone afterwards with all that is in it."""
    folder = new_folder(where)
    try:
        yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def left_behind(where: Path | None = None) -> list[Path]:
    """Folders in a place whose processes are not there any more."""
    found = []
    for folder in (where or Path(tempfile.gettempdir())).glob("*mortiser-*"):
        named = _NAME.fullmatch(folder.name)
        mine = named and not folder.is_symlink() and folder.stat().st_uid == os.getuid()
        if named and mine and not Path(f"/proc/{named.group(1)}").exists():
            found.append(folder)
    return found
