"""A folder of the user's own as a library: found by the names of files and of the folders they lie in."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from pathlib import Path

from mortiser.core.common.errors import NotFound, OutOfReach
from mortiser.core.library.found import Found, FoundKind, FoundPage
from mortiser.core.library.matching import matching, page_of
from mortiser.library.base import Progress
from mortiser.library.looking import looked_at, small_of
from mortiser.library.passing_on import passed_on

ENDINGS: dict[str, FoundKind] = {
    **dict.fromkeys((".mp4", ".mov", ".mkv", ".webm", ".m4v"), "film"),
    **dict.fromkeys((".png", ".jpg", ".jpeg", ".webp", ".gif", ".svg"), "picture"),
    **dict.fromkeys((".wav", ".mp3", ".m4a", ".ogg", ".flac", ".opus"), "sound"),
}
MOST_FILES = 20_000
"""Of a folder; what lies beyond is not looked at."""


class FolderLibrary:
    """See Library. What is in a folder called music is music. Links that lead out of the folder are passed over."""

    title = "Your folder"

    def __init__(self, folder: Path) -> None:
        self._folder = folder.resolve()

    def search(self, text: str, kinds: Collection[FoundKind], page: int) -> FoundPage:
        """See Library. Lengths and sides are looked up for what is on the page alone."""
        if not self._folder.is_dir():
            raise OutOfReach(
                f"The folder {self._folder} is not there. Connect the drive, or set another one."
            )
        shown = page_of(matching(self._all(), text, kinds), page)
        return shown.model_copy(
            update={"found": tuple(looked_at(one, self._path(one.ref)) for one in shown.found)}
        )

    def small(self, ref: str) -> bytes:
        """See Library."""
        path = self._path(ref)
        return small_of(self._named(path).kind, path)

    def fetch(self, ref: str, into: Path, progress: Progress) -> Found:
        """See Library."""
        path = self._path(ref)
        try:
            passed_on(path, into, progress)
        except FileNotFoundError as error:
            raise NotFound("That file is not in your folder any more. Search again.") from error
        return looked_at(self._named(path), path)

    def _all(self) -> Iterator[Found]:
        for number, path in enumerate(self._folder.rglob("*")):
            if number >= MOST_FILES:
                return
            if path.suffix.lower() in ENDINGS and self._holds(path):
                yield self._named(path)

    def _holds(self, path: Path) -> bool:
        return path.is_file() and path.resolve().is_relative_to(self._folder)

    def _path(self, ref: str) -> Path:
        path = self._folder / ref
        if path.suffix.lower() not in ENDINGS or not self._holds(path):
            raise NotFound("That file is not in your folder any more. Search again.")
        return path

    def _named(self, path: Path) -> Found:
        within = path.relative_to(self._folder)
        folders = within.parts[:-1]
        kind = ENDINGS[path.suffix.lower()]
        if kind == "sound" and any("music" in one.casefold() for one in folders):
            kind = "music"
        return Found(
            ref=str(within)[:400],
            name=path.stem.replace("_", " ")[:120] or path.name[:120],
            kind=kind,
            size_bytes=path.stat().st_size,
            tags=tuple(one[:60] for one in folders[:40]),
        )
