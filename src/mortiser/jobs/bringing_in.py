"""Bring a recording in: look what it is, keep it, make a project of it, start the work."""

from __future__ import annotations

import shutil
from dataclasses import dataclass
from pathlib import Path, PurePath

import numpy as np

from mortiser.core.grouping import GroupName
from mortiser.jobs.workspace import Workspace
from mortiser.media.picture import save_poster
from mortiser.media.probe import Probe, probe
from mortiser.store import jobs, projects
from mortiser.store.database import Database
from mortiser.store.projects import NewSource


@dataclass(frozen=True)
class BroughtIn:
    """Ids of what was made; ``jobs`` are queued and to be handed out."""

    project_id: int
    source_id: int
    piece_id: int
    jobs: tuple[int, ...]


def bring_in(
    database: Database,
    workspace: Workspace,
    file: Path,
    name: str,
    *,
    finish: str | None = None,
    grouping: GroupName = "quick",
) -> BroughtIn:
    """Take over ``file`` (it is moved) as a new project called after ``name``.

    Raises BadMedia when it is no recording; then nothing is left behind, ``file`` included.
    """
    try:
        facts = probe(file)
        folder = workspace.new_source()
    except BaseException:
        file.unlink(missing_ok=True)
        raise
    try:
        kept = folder / "recording"
        shutil.move(file, kept)
        _keep_pictures(facts, kept)
        source = _new_source(facts, workspace.relative(kept), kept.stat().st_size, name)
        look = {"finish": finish} if finish else {}
        ids = projects.create_project(database, title(name), source, grouping=grouping, **look)
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
    project_id, source_id, piece_id = ids
    hearing = {"source_id": source_id, "piece_id": piece_id}
    queued = (
        jobs.add(database, project_id, "transcribe", hearing),
        jobs.add(database, project_id, "prepare", {"source_id": source_id}),
    )
    return BroughtIn(project_id, source_id, piece_id, queued)


def title(name: str) -> str:
    """A project's first name: the file's, without ending and with spaces for underscores."""
    plain = PurePath(name.replace("\\", "/")).stem.replace("_", " ").strip()
    return plain[:120] or "Untitled"


def _keep_pictures(facts: Probe, kept: Path) -> None:
    np.save(kept.parent / "frames.npy", np.asarray(facts.frame_pts_us, np.int64))
    if facts.kind == "video":
        save_poster(kept, kept.parent / "poster.jpg", facts.duration_us / 1e6 * 0.15)


def _new_source(facts: Probe, path: str, size: int, name: str) -> NewSource:
    return NewSource(
        name=PurePath(name.replace("\\", "/")).name,
        path=path,
        kind=facts.kind,
        size_bytes=size,
        duration_us=facts.duration_us,
        width=facts.width,
        height=facts.height,
        rotation=facts.rotation,
        frame_count=len(facts.frame_pts_us),
        frame_rate=facts.frame_rate,
        variable_rate=facts.variable_rate,
        audio_tracks=facts.audio_tracks,
        video_codec=facts.video_codec,
        audio_codec=facts.audio_codec,
        playable=facts.playable,
    )
