"""Where things lie on disk. Paths in the database are relative to the workspace."""

from __future__ import annotations

import fcntl
import os
import shutil
import uuid
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

from mortiser import disk
from mortiser.core.common.errors import Conflict, Damaged, NoSpace

FOLDERS = ("sources", "deliveries", "uploads")
UNKEPT = "unkept"
"""A file that marks a folder which no row of the database names yet, or any more."""
PRIVATE = 0o700
NEXT_TO_NOTHING = 20 * 1024**2
"""Bytes with which next to nothing can be done."""


class Workspace:
    """A folder with the database, the recordings and the deliveries.

    Nobody but its owner may look into it. Raises Damaged where it cannot be one.
    """

    def __init__(self, root: Path) -> None:
        try:
            self.root = root.resolve()
            for folder in (self.root, *(self.root / name for name in FOLDERS)):
                folder.mkdir(mode=PRIVATE, parents=True, exist_ok=True)
            writable = os.access(self.root, os.W_OK | os.X_OK)
        except (OSError, RuntimeError) as error:
            raise Damaged(
                _unusable(root, str(getattr(error, "strerror", None) or error))
            ) from error
        if not writable:
            raise Damaged(_unusable(root, "it cannot be written"))

    @contextmanager
    def owned(self, address: str) -> Iterator[None]:
        """Be the one server of the workspace; ``address`` is told to a second one.

        Raises Conflict where there is another.
        """
        held = os.open(self.root / "owner.lock", os.O_RDWR | os.O_CREAT, 0o600)
        try:
            try:
                fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError as error:
                other = os.read(held, 200).decode("utf-8", "replace").strip()
                raise Conflict(
                    f"Another Mortiser works in {self.root}"
                    + (f": open {other}" if other else "")
                    + ". Use that one, stop it first, or choose another folder with --workspace."
                ) from error
            self._make_private()
            with suppress(OSError):  # On a full disk a second server is told less.
                os.ftruncate(held, 0)
                os.pwrite(held, address.encode(), 0)
            yield
        finally:
            os.close(held)

    def _make_private(self) -> None:
        """Close what an earlier version left open to others; new files are private by the umask."""
        own = [self.root / name for name in FOLDERS]
        if self.database.exists():
            own.append(self.root)
        for folder in own:
            folder.chmod(PRIVATE)
        for file in (self.database, self.queue):
            with suppress(FileNotFoundError):
                file.chmod(PRIVATE & 0o666)

    @property
    def database(self) -> Path:
        """The database file."""
        return self.root / "mortiser.db"

    @property
    def queue(self) -> Path:
        """The job queue's file."""
        return self.root / "queue.db"

    @property
    def pictures(self) -> Path:
        """The user's own pictures."""
        return self.root / "pictures"

    @property
    def fonts(self) -> Path:
        """The user's own fonts."""
        return self.root / "fonts"

    def new_upload(self) -> Path:
        """A name for a file that is still arriving."""
        return self.root / "uploads" / uuid.uuid4().hex

    def new_source(self) -> Path:
        """A fresh folder for a recording and what is made from it."""
        folder = self.root / "sources" / uuid.uuid4().hex
        folder.mkdir(mode=PRIVATE)
        (folder / UNKEPT).touch()
        return folder

    def keep(self, folder: Path) -> None:
        """Note that the database knows of a folder."""
        (folder / UNKEPT).unlink(missing_ok=True)

    def let_go(self, folder: Path) -> None:
        """Note that the database is about to forget a folder, so that it is cleaned up for sure."""
        with suppress(OSError):
            (folder / UNKEPT).touch()

    def path(self, relative: str) -> Path:
        """A stored path made absolute."""
        return self.root / relative

    def relative(self, path: Path) -> str:
        """An absolute path as it is stored."""
        return str(path.relative_to(self.root))

    def beside(self, source_path: str, name: str) -> Path:
        """A file in a recording's folder: its peaks, poster, frame times or browser copy."""
        return self.path(source_path).parent / name

    def delivery(self, delivery_id: int) -> Path:
        """The folder of a delivery, made when first asked for."""
        folder = self.root / "deliveries" / str(delivery_id)
        disk.make_folder(folder, PRIVATE)
        return folder

    def full(self) -> bool:
        """Whether there is next to no room, so that work waits or fails."""
        return shutil.disk_usage(self.root).free < NEXT_TO_NOTHING

    def need(self, size: int, spare: int) -> None:
        """Raise NoSpace unless ``size`` bytes fit and ``spare`` are left over."""
        free = shutil.disk_usage(self.root).free
        if free - size < spare:
            raise NoSpace(
                f"The disk has {free / 1e9:.1f} GB free, too little for this. "
                "Nothing was stored; free some space and try again."
            )


def _unusable(root: Path, why: str) -> str:
    return f"{root} cannot be used as a workspace ({why}). Choose another with --workspace."
