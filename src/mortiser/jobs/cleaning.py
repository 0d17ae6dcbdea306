"""What a sudden end left behind, cleaned up at a start by the workspace's one owner.

Only what Mortiser itself has named and marked is touched, links are never followed, and what the
database knows is kept.
"""

from __future__ import annotations

import logging
import re
import shutil
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

from mortiser.core.project.job_payloads import ImportPayload
from mortiser.disk.passing import left_behind
from mortiser.jobs.workspace import UNKEPT, Workspace
from mortiser.store import deliveries, jobs, projects, retention
from mortiser.store.database import Database

log = logging.getLogger(__name__)
_HEX = re.compile(r"[0-9a-f]{32}")
_NUMBER = re.compile(r"[0-9]{1,18}")
_CAPTIONS = re.compile(r"captions-[0-9a-f]{32}")


def remove_delivery(database: Database, workspace: Workspace, delivery_id: int) -> None:
    """Remove a delivery with its files. Raises NotFound, and Conflict while one of them is being made."""
    deliveries.remove(database, delivery_id)
    folder = workspace.delivery(delivery_id)
    workspace.let_go(folder)
    _remove(folder)


def remove_old(database: Database, workspace: Workspace) -> None:
    """Remove the deliveries that the workspace's rule keeps no longer."""
    for delivery_id in retention.too_old(database.connection):
        remove_delivery(database, workspace, delivery_id)


def clean(database: Database, workspace: Workspace) -> None:
    """Remove half uploads, folders no project has, files half made, caption files taken in, deliveries that
    are kept no longer."""
    db = database.connection
    remove_old(database, workspace)
    for file in _real(workspace.root / "uploads", _HEX):
        if file.is_file():
            _remove(file)
    known = {workspace.path(path).parent for path in projects.source_paths(db)}
    for folder in _real(workspace.root / "sources", _HEX):
        if (folder / UNKEPT).exists():
            if folder in known:
                workspace.keep(folder)
            else:
                _remove(folder)
    for folder in _real(workspace.root / "deliveries", _NUMBER):
        if (folder / UNKEPT).exists():
            _remove(folder)
    for folder in (workspace.fonts, workspace.pictures):
        for file in _real(folder, None):
            if file.suffix == ".partial":
                _remove(file)
    for left in left_behind():
        _remove(left)
    wanted = {
        workspace.path(job.payload.file)
        for job in jobs.not_done(db, "import")
        if isinstance(job.payload, ImportPayload)
    }
    for folder in (*known, *_real(workspace.root / "deliveries", _NUMBER)):
        for file in _real(folder, None):
            captions = _CAPTIONS.fullmatch(file.name) and file not in wanted
            if captions or file.suffix == ".partial":
                _remove(file)


def _real(folder: Path, named: re.Pattern[str] | None) -> Iterator[Path]:
    """What lies in a folder that is no link, without links, of the names that are given here."""
    if folder.is_symlink() or not folder.is_dir():
        return
    for entry in list(folder.iterdir()):
        if not entry.is_symlink() and (named is None or named.fullmatch(entry.name)):
            yield entry


def _remove(path: Path) -> None:
    log.info("cleaning up %s", path)
    if path.is_dir():
        shutil.rmtree(path, ignore_errors=True)
        return
    with suppress(OSError):
        path.unlink()
