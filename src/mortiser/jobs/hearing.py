"""The transcribe job: words and captions appear line by line."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from mortiser.core.time import SECOND
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.runner import Parts, Task
from mortiser.media.sound import RATE, Samples, stream_sound
from mortiser.speech.transcribe import TimedLine, transcribe
from mortiser.store import projects


def hear(parts: Parts, task: Task) -> None:
    """Transcribe a source into its piece; a job that was cut off goes on behind its last word."""
    source_id, piece_id = task.payload["source_id"], task.payload["piece_id"]
    source = projects.source_row(parts.database.connection, source_id)
    known = projects.source_words(parts.database.connection, source_id)
    from_us = max((word.end_us for word in known), default=0)
    duration_s = source["duration_us"] / SECOND
    sound = skip(stream_sound(parts.workspace.path(source["path"])), from_us)
    glossary = GlossaryBench(parts)
    for item in transcribe(sound, parts.recogniser(), parts.aligner()):
        if isinstance(item, TimedLine):
            words = [
                replace(w, start_us=w.start_us + from_us, end_us=w.end_us + from_us)
                for w in item.words
            ]
            projects.append_line(parts.database, piece_id, glossary.write(words))
            task.progress(words[-1].end_us / source["duration_us"])
        else:
            task.progress((item + from_us / SECOND) / duration_s)
    task.follow("speakers", {"source_id": source_id, "piece_id": piece_id})
    task.follow("doubt", {"source_id": source_id})


def skip(sound: Iterable[Samples], from_us: int) -> Iterator[Samples]:
    """The sound from a moment (µs) on."""
    left = from_us * RATE // SECOND
    for samples in sound:
        if left >= len(samples):
            left -= len(samples)
            continue
        yield samples[left:]
        left = 0
