"""The doubt job: go over a recording once more and say how sure each heard word is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from mortiser.core.time import SECOND
from mortiser.core.words import Word
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.runner import Parts, Task
from mortiser.media.sound import RATE, stream_sound
from mortiser.speech.seams import Samples
from mortiser.store import projects
from mortiser.store.projects import SourceRow

MARGIN_US = 150_000
PAUSE_US = 350_000
LONGEST_US = 9 * SECOND
BATCH = 60
JUDGED = "en"


def doubt(parts: Parts, task: Task) -> None:
    """Judge all words of a source, batch by batch, so that doubts show while it goes on."""
    source = projects.source_row(parts.database.connection, task.payload["source_id"])
    if source["language"] != JUDGED:
        return  # The second listening knows this language alone.
    words = projects.source_words(parts.database.connection, source["id"])
    judge = parts.judge()
    glossary = GlossaryBench(parts)
    ready: list[Word] = []
    for run, samples in _with_sound(words, parts, source):
        ready += glossary.suggest(judge.judge(run, samples))
        if len(ready) >= BATCH:
            projects.judge_words(parts.database, ready)
            ready = []
        task.progress(run[-1].end_us / source["duration_us"])
    projects.judge_words(parts.database, ready)


def stretches(words: Sequence[Word]) -> Iterator[list[Word]]:
    """The words in runs that end in a pause, or where they get long."""
    run: list[Word] = []
    for word in words:
        if run and (
            word.start_us - run[-1].end_us > PAUSE_US or word.end_us - run[0].start_us > LONGEST_US
        ):
            yield run
            run = []
        run.append(word)
    if run:
        yield run


def _with_sound(
    words: Sequence[Word], parts: Parts, source: SourceRow
) -> Iterator[tuple[list[Word], Samples]]:
    sound = stream_sound(parts.workspace.path(source["path"]), source["audio_track"])
    held, first = np.zeros(0, np.float32), 0
    for run in stretches(words):
        start = max(0, run[0].start_us - MARGIN_US) * RATE // SECOND
        end = (run[-1].end_us + MARGIN_US) * RATE // SECOND
        while first + len(held) < end:
            more = next(sound, None)
            if more is None:
                break
            held = np.concatenate([held, more])
        if start > first:
            held, first = held[start - first :], start
        yield run, held[: end - first]
