"""The speakers job: who says what in a recording, as one edit that can be undone."""

from __future__ import annotations

from collections.abc import Iterator

from mortiser.core.edits.text.speakers import NameSpeakers
from mortiser.core.project.job_payloads import PiecePayload
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.preparing import counted
from mortiser.jobs.sounds import sound_of
from mortiser.jobs.source_input import SourceInput, read_source
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.media.sound import stream_sound
from mortiser.store import editing


def find_speakers(tools: Tools, task: Task, given: SourceInput) -> Iterator[NameSpeakers]:
    """Name the speakers of a source's words; nothing is done where one person speaks alone."""
    source, words = given.source, given.words
    heard = sound_of(tools.workspace, source)
    sound = counted(stream_sound(heard.path, heard.track), source.duration_us, task)
    found = tools.speakers().find(sound, words)
    if len(set(found)) < 2:
        return
    names: dict[str, list[int]] = {}
    for word, number in zip(words, found, strict=True):
        names.setdefault(f"Speaker {number + 1}", []).append(word.id)
    yield NameSpeakers(piece_id=task.about(PiecePayload).piece_id, names=names)


def keep_names(context: JobContext, given: SourceInput, edit: NameSpeakers) -> None:
    """Name the speakers, as one edit."""
    editing.apply_now(context.database, given.source.project_id, edit)


SPEAKERS = Kind(read_source, find_speakers, keep_names)
