"""Bring a recording in: look what it is, keep it, make a project of it, start the work."""

from __future__ import annotations

import json
import os
import shutil
from collections.abc import Callable
from dataclasses import dataclass, replace
from pathlib import Path, PurePath

import numpy as np

from mortiser import disk
from mortiser.core.captions.pace import PaceName
from mortiser.core.common.errors import BadInput, Conflict
from mortiser.core.common.time import SECOND
from mortiser.core.library.found import STORED as CREDIT
from mortiser.core.library.found import Credit
from mortiser.core.project.job_payloads import (
    HearingPayload,
    MicrophonePayload,
    PiecePayload,
    SourcePayload,
)
from mortiser.jobs.workspace import UNKEPT, Workspace
from mortiser.media.picture import save_poster
from mortiser.media.probe import Probe, probe
from mortiser.media.rebase import begins_late, from_zero
from mortiser.media.silence import is_silent, with_silence
from mortiser.store import copying, jobs, projects, transcript
from mortiser.store.copying import Copied
from mortiser.store.database import Database
from mortiser.store.projects import NewSource


@dataclass(frozen=True)
class Hearing:
    """What is to be heard: language, sound track (from 0), range (µs), or nothing at all."""

    language: str = "en"
    audio_track: int = 0
    from_us: int | None = None
    to_us: int | None = None
    wanted: bool = True

    def check(self, audio_tracks: int, duration_us: int) -> None:
        """Raise BadInput for a track or a range that a recording does not have."""
        if self.audio_track >= audio_tracks:
            raise BadInput(
                f"There is no sound track {self.audio_track + 1}: the recording has {audio_tracks}."
            )
        start, end = self.from_us or 0, duration_us if self.to_us is None else self.to_us
        if start >= min(end, duration_us):
            raise BadInput("That range has no length, or lies behind the end of the recording.")


@dataclass(frozen=True)
class BroughtIn:
    """Ids of what was made; ``jobs`` are queued and to be handed out."""

    project_id: int
    source_id: int
    piece_id: int | None
    """None of what is there to be seen over the talk."""
    jobs: tuple[int, ...]


def bring_in(
    database: Database,
    workspace: Workspace,
    file: Path,
    name: str,
    *,
    finish: str | None = None,
    pace: PaceName = "quick",
    hearing: Hearing = Hearing(),
    project_id: int | None = None,
    credit: Credit | None = None,
) -> BroughtIn:
    """Take over ``file`` (it is moved) as a new project called after ``name``, or as another recording
    of a project, with a piece of its own. A film without sound has none, and what was fetched from a library and
    has a ``credit``: they are there to be seen over the talk.

    Raises BadMedia when it is no recording; then nothing is left behind, ``file`` included.
    """
    try:
        silent = project_id is not None and is_silent(file)
        if silent:
            _anew(file, with_silence)
            hearing = replace(hearing, wanted=False, audio_track=0)
        _begin_at_zero(file)
        facts = probe(file)
        hearing.check(facts.audio_tracks, facts.duration_us)
        folder = workspace.new_source()
    except BaseException:
        file.unlink(missing_ok=True)
        raise
    try:
        kept = folder / "recording"
        shutil.move(file, kept)
        _keep_pictures(facts, kept)
        disk.sync_folder(folder)
        source = replace(
            _new_source(facts, workspace.relative(kept), kept.stat().st_size, name),
            language=hearing.language,
            audio_track=hearing.audio_track,
            credit=CREDIT.write(credit) if credit else "",
        )
        ids: tuple[int, int, int | None]
        if project_id is None:
            ids = projects.create_project(database, title(name), source, pace=pace, finish=finish)
        elif silent or credit:
            ids = project_id, projects.add_film(database, project_id, source), None
        else:
            ids = project_id, *projects.add_source(database, project_id, title(name), source)
        workspace.keep(folder)
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
    project, source_id, piece_id = ids
    queued = [jobs.add(database, project, "prepare", SourcePayload(source_id=source_id))]
    if piece_id is None:
        return BroughtIn(project, source_id, None, tuple(queued))
    if project_id is not None and facts.kind == "audio" and _waits(database, project_id):
        # It may be the sound of a video, which is heard instead then; else it is heard itself.
        about = MicrophonePayload(
            sound_id=source_id,
            piece_id=piece_id,
            transcribe=hearing.wanted,
            from_us=hearing.from_us,
            to_us=hearing.to_us,
        )
        queued.append(jobs.add(database, project, "microphone", about))
    elif hearing.wanted:
        queued.insert(0, _transcribe(database, project, source_id, piece_id, hearing))
    return BroughtIn(project, source_id, piece_id, tuple(queued))


def _waits(database: Database, project_id: int) -> bool:
    """Whether a video of a project is heard by its own sound."""
    rows = projects.read_sources(database.connection, project_id)
    return any(row.kind == "video" and row.microphone is None for row in rows)


def _begin_at_zero(file: Path) -> None:
    """A recording whose clock starts late is written anew in its place."""
    if begins_late(file):
        _anew(file, from_zero)


def _anew(file: Path, write: Callable[[Path, Path], None]) -> None:
    """Write a file anew in its place."""
    anew = file.with_name(f"{file.name}.anew")
    try:
        write(file, anew)
        anew.replace(file)
    finally:
        anew.unlink(missing_ok=True)


def copy_project(database: Database, workspace: Workspace, project_id: int) -> Copied:
    """Copy a project; the recordings, which never change, are shared on disk where possible.

    The jobs of the copy are still to be handed out.
    """
    paths: dict[str, str] = {}
    folders: list[Path] = []
    try:
        for source in projects.read_sources(database.connection, project_id):
            workspace.path(source.path).stat()  # Else it could not be copied.
            old = workspace.path(source.path).parent
            new = workspace.new_source()
            folders.append(new)
            for file in old.iterdir():
                # Folders hold what is made again when it is asked for.
                if file.is_dir() or file.suffix == ".partial" or file.name == UNKEPT:
                    continue
                try:
                    os.link(file, new / file.name)
                except OSError:
                    shutil.copy2(file, new / file.name)
                paths[workspace.relative(file)] = workspace.relative(new / file.name)
            disk.sync_folder(new)
        copy = copying.duplicate_project(database, project_id, paths)
    except BaseException:
        for folder in folders:
            shutil.rmtree(folder, ignore_errors=True)
        raise
    for folder in folders:
        workspace.keep(folder)
    return copy


def translated_copy(database: Database, workspace: Workspace, project_id: int) -> tuple[int, int]:
    """A copy of a project that gets English captions: its id, and that of the job.

    Raises BadInput where English is spoken already, Conflict while the recording is being heard.
    """
    db = database.connection
    source = projects.read_source(db, projects.chosen_piece(db, project_id).source_id)
    if source.language == "en":
        raise BadInput("English is spoken here: there is nothing to translate.")
    _not_being_heard(database, project_id, source.id)
    name = projects.read_project(db, project_id).name
    copy = copy_project(database, workspace, project_id).project_id
    projects.name_project(database, copy, f"{name} (English)")
    piece = projects.chosen_piece(db, copy)
    payload = PiecePayload(source_id=piece.source_id, piece_id=piece.id)
    return copy, jobs.add(database, copy, "translate", payload)


def _not_being_heard(database: Database, project_id: int, source_id: int) -> None:
    for job in jobs.under_way(database.connection, project_id, "transcribe"):
        if job.payload.source_id == source_id:
            raise Conflict("The recording is being heard. Wait until it is done, or stop it.")


def hear_again(
    database: Database, project_id: int, hearing: Hearing, piece_id: int | None = None
) -> list[int]:
    """Queue another hearing of a piece's recording, as chosen; the ids of its job and of what follows
    from the choice.

    Where there are words already, those in the range are replaced when all of it has been heard.
    Raises BadInput, or Conflict while a hearing is under way.
    """
    db = database.connection
    piece = projects.chosen_piece(db, project_id, piece_id)
    source = projects.read_source(db, piece.source_id)
    hearing.check(source.audio_tracks, source.duration_us)
    _not_being_heard(database, project_id, source.id)
    projects.choose_hearing(database, source.id, hearing.language, hearing.audio_track)
    again = transcript.word_count(db, source.id) > 0
    queued = [_transcribe(database, project_id, source.id, piece.id, hearing, again=again)]
    if hearing.audio_track != source.audio_track:
        queued.append(jobs.add(database, project_id, "prepare", SourcePayload(source_id=source.id)))
    return queued


def _transcribe(
    database: Database,
    project_id: int,
    source_id: int,
    piece_id: int,
    hearing: Hearing,
    *,
    again: bool = False,
) -> int:
    payload = HearingPayload(
        source_id=source_id,
        piece_id=piece_id,
        again=again,
        from_us=hearing.from_us,
        to_us=hearing.to_us,
    )
    return jobs.add(database, project_id, "transcribe", payload)


def title(name: str) -> str:
    """A project's first name: the file's, without ending and with spaces for underscores."""
    plain = PurePath(name.replace("\\", "/")).stem.replace("_", " ").strip()
    return plain[:120] or "Untitled"


def bring_back(database: Database, workspace: Workspace, source_id: int, file: Path) -> int:
    """Put a recording's file (it is moved) back where it was; the job that prepares it.

    Raises BadInput where it is another one; then ``file`` is gone and nothing has changed.
    """
    source = projects.read_source(database.connection, source_id)
    kept = workspace.path(source.path)
    try:
        _begin_at_zero(file)
        facts = probe(file)
        size, wanted = file.stat().st_size, source.size_bytes
        if size != wanted or facts.duration_us != source.duration_us:
            raise BadInput(
                f"That is another file than “{source.name}”: it has {size:,} bytes and lasts "
                f"{facts.duration_us / SECOND:.2f} s, the one that is missing had {wanted:,} and lasts "
                f"{source.duration_us / SECOND:.2f} s. Nothing was changed."
            )
        kept.parent.mkdir(exist_ok=True)
        shutil.move(file, kept)
    finally:
        file.unlink(missing_ok=True)
    _keep_pictures(facts, kept)
    disk.sync_folder(kept.parent)
    return jobs.add(database, source.project_id, "prepare", SourcePayload(source_id=source_id))


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
        track_names=json.dumps(facts.track_names),
        video_codec=facts.video_codec,
        audio_codec=facts.audio_codec,
        playable=facts.playable,
        first_frame_us=facts.first_frame_us,
    )
