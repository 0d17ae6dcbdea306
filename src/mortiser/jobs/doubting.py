"""The doubt job: hear a recording once more, vote on its words, and say how sure each one is."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence

from mortiser.core.words import Word
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.runner import Parts, Task
from mortiser.media.sound import clip, stream_sound
from mortiser.speech.protocols import Samples, Verdict
from mortiser.speech.second_hearing import heard_again
from mortiser.store import projects, transcript
from mortiser.store.projects import SourceRow
from mortiser.store.settling import Replacement, settle

JUDGED = "en"


def doubt(parts: Parts, task: Task) -> None:
    """Judge all words of a source, stretch by stretch, so that what comes of it shows while it goes
    on. A corrected word never changes, nor does any word of a caption that was edited."""
    source = projects.source_row(parts.database.connection, task.payload["source_id"])
    if source["language"] == JUDGED:
        _judge(parts, task, source)
    if task.payload.get("piece_id") and task.payload.get("speakers"):
        about = {key: task.payload[key] for key in ("source_id", "piece_id")}
        task.follow("speakers", about)


def _judge(parts: Parts, task: Task, source: SourceRow) -> None:
    words = transcript.source_words(parts.database.connection, source["id"])
    if not words:
        return
    start = min(task.payload.get("from_us") or 0, words[0].start_us)
    end = task.payload.get("to_us") or source["duration_us"]
    glossary = GlossaryBench(parts)
    path = parts.workspace.path(source["path"])
    sound = clip(stream_sound(path, source["audio_track"]), start, end)
    for verdict, run, reached in second_look(parts, sound, words, start):
        transcript.judge_words(parts.database, glossary.suggest(verdict.words))
        if task.payload.get("piece_id") and verdict.changes:
            _settle(parts, source["id"], run, verdict, glossary)
        task.progress((reached - start) / max(1, end - start))


def second_look(
    parts: Parts, sound: Iterable[Samples], words: Sequence[Word], start_us: int
) -> Iterator[tuple[Verdict, list[Word], int]]:
    """Hear sound that begins at a moment again, with the names of the glossary in mind: (verdict, the
    words it is on, the moment reached)."""
    glossary = GlossaryBench(parts)
    judge = parts.judge(glossary.names(), glossary.write)
    for run, verdict, reached in heard_again(sound, words, judge, start_us):
        yield verdict, run, reached


def _settle(
    parts: Parts, source_id: int, run: Sequence[Word], verdict: Verdict, glossary: GlossaryBench
) -> None:
    """Make the changes, the last one first, so that what stands before one is as it was read."""
    settle(
        parts.database,
        source_id,
        [
            Replacement(
                run[change.first : change.end],
                glossary.suggest(glossary.write(change.words)),
                run[change.first - 1] if change.first else None,
            )
            for change in reversed(verdict.changes)
        ],
    )
