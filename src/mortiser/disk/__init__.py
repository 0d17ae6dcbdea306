"""Files that outlast a power cut: their contents and their names are on the disk before anybody is told of them."""

from __future__ import annotations

import os
import uuid
from pathlib import Path


def sync(path: Path) -> None:
    """Have a file's contents, or a folder's names, on the disk before this returns."""
    held = os.open(path, os.O_RDONLY)
    try:
        os.fsync(held)
    finally:
        os.close(held)


def sync_folder(folder: Path) -> None:
    """The same for a folder that is new, with all files in it."""
    for file in folder.iterdir():
        if file.is_file():
            sync(file)
    sync(folder)
    sync(folder.parent)


def put(made: Path, path: Path) -> None:
    """Give a file that is whole its name, in the place of what has it; it may come from another folder."""
    sync(made)
    made.replace(path)
    sync(path.parent)


def make_folder(folder: Path, mode: int = 0o777) -> None:
    """Make a folder where there is none."""
    if not folder.is_dir():
        folder.mkdir(mode=mode, exist_ok=True)
        sync(folder.parent)


def write(path: Path, data: bytes, mode: int = 0o666) -> None:
    """Write a file whole: under its name is either what was there before or all of the data."""
    make_folder(path.parent)
    partial = path.with_name(f"{path.stem}-{uuid.uuid4().hex}.partial")
    try:
        partial.touch(mode)
        partial.write_bytes(data)
        put(partial, path)
    finally:
        partial.unlink(missing_ok=True)
