"""Where things lie on disk. Paths in the database are relative to the workspace."""

from __future__ import annotations

import shutil
import uuid
from pathlib import Path

from mortiser.core.errors import NoSpace


class Workspace:
    """A folder with the database, the recordings and the deliveries."""

    def __init__(self, root: Path) -> None:
        self.root = root.resolve()
        for folder in ("sources", "deliveries", "uploads"):
            (self.root / folder).mkdir(parents=True, exist_ok=True)

    @property
    def database(self) -> Path:
        """The database file."""
        return self.root / "mortiser.db"

    @property
    def queue(self) -> Path:
        """The job queue's file."""
        return self.root / "queue.db"

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
        folder.mkdir()
        return folder

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
        folder.mkdir(exist_ok=True)
        return folder

    def need(self, size: int, spare: int) -> None:
        """Raise NoSpace unless ``size`` bytes fit and ``spare`` are left over."""
        free = shutil.disk_usage(self.root).free
        if free - size < spare:
            raise NoSpace(
                f"The disk has {free / 1e9:.1f} GB free, too little for this. "
                "Nothing was stored; free some space and try again."
            )

    def clear_uploads(self) -> None:
        """Throw away what an interrupted upload left."""
        for leftover in (self.root / "uploads").iterdir():
            leftover.unlink(missing_ok=True)
