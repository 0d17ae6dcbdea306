"""What is left of a workspace after a power cut: what it was at the start, and what was synced since."""

from __future__ import annotations

import shutil
import subprocess
from pathlib import Path

SOURCE = Path(__file__).with_name("synced.c")


class Disk:
    """Watches processes that get its ``environment`` write below ``root``, which is all on the disk now."""

    def __init__(self, root: Path, folder: Path) -> None:
        self._root, self._kept, self._first = root, folder / "kept", folder / "first"
        library = folder / "synced.so"
        subprocess.run(["cc", "-shared", "-fPIC", "-O1", "-o", library, SOURCE, "-ldl"], check=True)
        for name in ("files", "folders"):
            (self._kept / name).mkdir(parents=True)
        shutil.copytree(root, self._first)
        # Files that are there already are known by what they are.
        self._inodes = {
            path.stat().st_ino: self._first / path.relative_to(root) for path in root.rglob("*")
        }
        self.environment = {"LD_PRELOAD": str(library), "SYNCED_ONLY": str(self._kept)}

    def after_a_cut(self, into: Path) -> Path:
        """Write what is on the disk to a folder that is not there yet."""
        shutil.rmtree(into, ignore_errors=True)
        self._write(self._root.stat().st_ino, self._first, into)
        return into

    def _write(self, inode: int, was: Path | None, into: Path) -> None:
        """A folder: the names it had when it was last synced, else those of the start."""
        into.mkdir()
        names = self._kept / "folders" / str(inode)
        if names.exists():
            entries = [line.split(" ", 1) for line in names.read_text().splitlines()]
            found = [(int(number), name) for number, name in entries]
        elif was is not None:
            by_first = {path: number for number, path in self._inodes.items()}
            found = [(by_first[path], path.name) for path in was.iterdir() if path in by_first]
        else:
            found = []
        for number, name in found:
            before = self._inodes.get(number)
            synced = self._kept / "files" / str(number)
            if (self._kept / "folders" / str(number)).exists() or (before and before.is_dir()):
                self._write(number, before, into / name)
            elif synced.exists():
                shutil.copyfile(synced, into / name)
            elif before is not None:
                shutil.copyfile(before, into / name)
            else:
                # Its name is there, its contents never were written.
                (into / name).touch()
