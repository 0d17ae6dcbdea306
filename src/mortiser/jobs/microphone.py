"""The microphone job: find the recording that a sound belongs to, and lay the sound under it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from mortiser import disk
from mortiser.core.editing.matching import SoundMatch, match
from mortiser.core.editing.microphone import Microphone
from mortiser.core.edits.cutting.microphone import UseMicrophone
from mortiser.core.project.job_payloads import HearingPayload, MicrophonePayload
from mortiser.core.project.source import Source
from mortiser.jobs.broker import LeasedJob
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.preparing import make_peaks
from mortiser.jobs.sounds import is_laid
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.jobs.workspace import Workspace
from mortiser.media.laid_sound import lay
from mortiser.media.sound import Samples, stream_sound
from mortiser.store import editing, jobs, journal, projects, transcript
from mortiser.store.database import Database

LAYING_SHARE = 0.5


@dataclass(frozen=True)
class MicrophoneInput:
    """The sound, the recordings it may belong to, the piece of each (by its source) that has been heard by
    its own sound, and whether somebody has worked on the captions since."""

    sound: Source
    recordings: Sequence[Source]
    heard: Mapping[int, int]
    edited: bool


def read_sounds(context: JobContext, taken: LeasedJob) -> MicrophoneInput:
    """The sound that a job is for, and what else is in its project. Raises NotFound."""
    db = context.database.connection
    about = taken.about(MicrophonePayload)
    sound = projects.read_source(db, about.sound_id)
    rows = projects.read_sources(db, sound.project_id)
    others = [row for row in rows if row.id != sound.id and about.source_id in (None, row.id)]
    edited = journal.touched(db, sound.project_id).rows
    heard = _heard_in(context, sound.project_id)
    return MicrophoneInput(sound, others, heard, "cue" in edited or "word" in edited)


def _heard_in(context: JobContext, project_id: int) -> dict[int, int]:
    """The piece of each source that has been heard, or is being heard now."""
    db = context.database.connection
    running = jobs.under_way(db, project_id, "transcribe", begun=True)
    hearing = {job.payload.source_id for job in running}
    pieces = {piece.source_id: piece.id for piece in projects.pieces(db, project_id)}
    return {
        source_id: piece_id
        for source_id, piece_id in pieces.items()
        if source_id in hearing or transcript.word_count(db, source_id)
    }


def find_recording(tools: Tools, task: Task, given: MicrophoneInput) -> Iterator[UseMicrophone]:
    """Lay the sound under the recording it belongs to; where that is known, only that."""
    sound, about = given.sound, task.about(MicrophonePayload)
    if about.again:
        # It may have been dropped since: then there is nothing to lay.
        for row in given.recordings:
            known = row.microphone
            if known is not None and known.sound_id == sound.id:
                _lay(tools, task, row, sound, known)
        return
    here = _heard(tools, sound)
    found: list[tuple[SoundMatch, Source]] = []
    for number, row in enumerate(given.recordings):
        if row.kind == "video" and row.microphone is None:
            found.append((match(_heard(tools, row), here), row))
        task.progress(LAYING_SHARE * (number + 1) / len(given.recordings))
    likeliest = max(found, key=lambda one: one[0].sure, default=None)
    if likeliest is None or not likeliest[0].belongs:
        task.note(_refused(sound, likeliest[0] if likeliest else None))
        if about.transcribe and about.piece_id is not None:
            hearing = HearingPayload(
                source_id=sound.id,
                piece_id=about.piece_id,
                from_us=about.from_us,
                to_us=about.to_us,
            )
            task.follow("transcribe", hearing)
        return
    best, row = likeliest
    microphone = Microphone(sound.id, best.offset_us, round(best.drift_ppm, 3), best.sure)
    _lay(tools, task, row, sound, microphone)
    yield UseMicrophone(
        source_id=row.id,
        sound_id=sound.id,
        offset_us=microphone.offset_us,
        drift_ppm=microphone.drift_ppm,
        sure=best.sure,
        piece_id=about.piece_id,
    )
    if about.transcribe:
        _hear_again(task, given, row)


def _hear_again(task: Task, given: MicrophoneInput, row: Source) -> None:
    """The words of a recording come from the better sound, as long as nobody has worked on them."""
    piece_id = given.heard.get(row.id)
    if piece_id is None:
        return
    if given.edited:
        task.note(
            f"The captions were worked on: the words of {row.name} stay those of its own sound. "
            "Hear it again in Gather to take them from the microphone."
        )
        return
    hearing = HearingPayload(
        source_id=row.id, piece_id=piece_id, again=True, from_us=0, to_us=row.duration_us
    )
    task.follow("transcribe", hearing)


def _refused(sound: Source, best: SoundMatch | None) -> str:
    name = sound.name
    if best is None:
        return f"{name} stays a recording of its own: there is no video without a microphone yet."
    return (
        f"{name} stays a recording of its own: what it says is not heard in any video of this project "
        f"({round(best.sure * 100)} % of the places compared agree; half of them have to)."
    )


def _lay(tools: Tools, task: Task, row: Source, sound: Source, microphone: Microphone) -> None:
    workspace = tools.workspace
    file = workspace.beside(row.path, microphone.file_name)
    if not file.exists():
        part = task.partial(file)
        try:
            lay(
                workspace.path(sound.path),
                part,
                microphone.offset_us,
                microphone.drift_ppm,
                row.duration_us,
                lambda done: task.progress(LAYING_SHARE * (1 + done)),
            )
            task.still_wanted()
            # The peaks first: whoever finds the sound finds them too.
            make_peaks(workspace, task, row, microphone.key, stream_sound(part))
            disk.put(part, file)
        finally:
            part.unlink(missing_ok=True)


def _heard(tools: Tools, source: Source) -> Samples:
    blocks = list(stream_sound(tools.workspace.path(source.path), source.audio_track))
    return np.concatenate(blocks) if blocks else np.zeros(0, np.float32)


def keep_microphone(context: JobContext, given: MicrophoneInput, edit: UseMicrophone) -> None:
    """Hear the sound from now on, as an edit."""
    editing.apply_now(context.database, given.sound.project_id, edit)


MICROPHONE = Kind(read_sounds, find_recording, keep_microphone)


def lay_missing(database: Database, workspace: Workspace, project_id: int) -> list[int]:
    """Queue the laying of sounds that are to be heard and are not laid: they were moved, or belong to a
    copied project. The ids of the jobs."""
    db = database.connection
    rows = [row for row in projects.read_sources(db, project_id) if not is_laid(workspace, row)]
    if not rows:
        return []
    under_way = {job.payload.source_id for job in jobs.under_way(db, project_id, "microphone")}
    return [
        jobs.add(database, project_id, "microphone", _again(row, row.microphone))
        for row in rows
        if row.microphone and row.id not in under_way
    ]


def _again(row: Source, microphone: Microphone) -> MicrophonePayload:
    return MicrophonePayload(sound_id=microphone.sound_id, source_id=row.id, again=True)
