"""The speakers job: who says what in a recording, as one edit that can be undone."""

from __future__ import annotations

from mortiser.core.edits.speakers import NameSpeakers
from mortiser.jobs.preparing import counted
from mortiser.jobs.runner import Parts, Task
from mortiser.media.sound import stream_sound
from mortiser.store import editing, projects, transcript


def find_speakers(parts: Parts, task: Task) -> None:
    """Name the speakers of a source's words; nothing is done where one person speaks alone."""
    db = parts.database.connection
    source = projects.source_row(db, task.payload["source_id"])
    words = transcript.source_words(db, source["id"])
    path = parts.workspace.path(source["path"])
    sound = counted(stream_sound(path, source["audio_track"]), source["duration_us"], task)
    found = parts.speakers().find(sound, words)
    if len(set(found)) < 2:
        return
    names: dict[str, list[int]] = {}
    for word, number in zip(words, found, strict=True):
        names.setdefault(f"Speaker {number + 1}", []).append(word.id)
    edit = NameSpeakers(piece_id=task.payload["piece_id"], names=names)
    editing.apply_now(parts.database, source["project_id"], edit)
