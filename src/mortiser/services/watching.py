"""A watched folder: recordings put there are captioned and delivered into another."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path

from mortiser.core.common.errors import BadInput, MortiserError, NoSpace, foreseen
from mortiser.disk.passing import passing

DONE, ASIDE = "done", "set aside"
UNFINISHED = {".part", ".partial", ".crdownload", ".download", ".tmp"}
"""How programs end the names of what they are still writing."""
SETTLED_S = 5.0
"""A file that has not changed for so long is whole."""
Make = Callable[[Path, Path], Sequence[Path]]
"""Caption a recording and put its files into a folder. Raises MortiserError."""


@dataclass(frozen=True)
class Watched:
    """What became of a recording: the folder of its files, or why there are none."""

    recording: Path
    made: Path | None
    reason: str = ""


@dataclass
class Watch:
    """Looks at a folder whenever it is told to. ``clock`` gives seconds."""

    folder: Path
    out: Path
    make: Make
    settled_s: float = SETTLED_S
    clock: Callable[[], float] = time.monotonic
    _seen: dict[Path, tuple[tuple[int, int], float]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for folder in (self.folder, self.out):
            if not folder.is_dir():
                raise BadInput(f"{folder}: the folder does not exist.")
        if self.folder.samefile(self.out):
            raise BadInput("Files must go into another folder than the one that is watched.")

    def look(self) -> list[Watched]:
        """Deal with all recordings that are whole, the oldest first. Raises NoSpace on a full disk: what was
        there stays."""
        return [self._deal(file) for file in self._whole()]

    def _whole(self) -> list[Path]:
        """The files that have not changed for long enough."""
        now = self.clock()
        files = {}
        for file in self.folder.iterdir():
            if file.name.startswith(".") or file.suffix.lower() in UNFINISHED:
                continue
            if file.is_symlink() or not file.is_file():
                continue
            about = file.stat()
            state = about.st_size, about.st_mtime_ns
            before = self._seen.get(file)
            files[file] = (state, before[1] if before and before[0] == state else now)
        self._seen = files
        whole = [
            (state[1], file)
            for file, (state, since) in files.items()
            if state[0] and now - since >= self.settled_s
        ]
        return [file for _, file in sorted(whole)]

    def _deal(self, recording: Path) -> Watched:
        try:
            with passing(self.out) as making:
                self.make(recording, making)
                made = _free(self.out / recording.stem)
                making.rename(made)
        except NoSpace:
            raise
        except (MortiserError, OSError) as error:
            told = foreseen(error)
            if isinstance(told, NoSpace):
                raise told from error
            return self._set_aside(recording, str(told or error))
        _move(recording, self.folder / DONE)
        return Watched(recording, made)

    def _set_aside(self, recording: Path, reason: str) -> Watched:
        put = _move(recording, self.folder / ASIDE)
        put.with_name(f"{put.name}.txt").write_text(f"{reason}\n", encoding="utf-8")
        return Watched(recording, None, reason)


def _move(file: Path, folder: Path) -> Path:
    folder.mkdir(exist_ok=True)
    return file.rename(_free(folder / file.name))


def _free(wanted: Path) -> Path:
    """A path that nothing has, as near to the wanted one as can be."""
    found, number = wanted, 2
    while found.exists():
        found = wanted.with_name(f"{wanted.stem} {number}{wanted.suffix}")
        number += 1
    return found
