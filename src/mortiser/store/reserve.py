"""Room set aside on the disk, given up when the disk is full.

Ends of jobs, cancels and removals have to be noted then too, and the database grows by noting.
"""

from __future__ import annotations

import os
import shutil
from contextlib import suppress
from pathlib import Path

SIZE = 16 * 1024**2


class Reserve:
    """A file of ``size`` bytes beside the database."""

    def __init__(self, folder: Path, size: int = SIZE) -> None:
        self._file = folder / "reserve"
        self._size = size

    def keep(self) -> None:
        """Set the room aside, where it is not and the disk has twice as much."""
        with suppress(OSError):
            if self._file.exists() or shutil.disk_usage(self._file.parent).free < 2 * self._size:
                return
            partial = self._file.with_suffix(".partial")
            try:
                with partial.open("wb") as out:
                    os.posix_fallocate(out.fileno(), 0, self._size)
                partial.rename(self._file)
            finally:
                partial.unlink(missing_ok=True)

    def give_up(self) -> bool:
        """Free the room; whether there was any."""
        try:
            self._file.unlink()
        except OSError:
            return False
        return True
