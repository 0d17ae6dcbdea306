"""The doubt job: hear a recording once more, vote on its words, and say how sure each one is."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from mortiser.core.project.job_payloads import DoubtPayload, PiecePayload
from mortiser.core.transcript.words import Word
from mortiser.jobs.glossary import Speller
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.sounds import sound_of
from mortiser.jobs.source_input import SourceInput, read_source
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.media.sound import clip, stream_sound
from mortiser.speech.protocols import Samples, Verdict
from mortiser.speech.second_hearing import heard_again
from mortiser.store import transcript
from mortiser.store.settling import Replacement, settle

JUDGED = "en"


@dataclass(frozen=True)
class Judged:
    """A verdict on some words, and whether its changes are to be made or only its doubts noted."""

    run: Sequence[Word]
    verdict: Verdict
    settle: bool


def doubt(tools: Tools, task: Task, given: SourceInput) -> Iterator[Judged]:
    """Judge all words of a source, stretch by stretch, so that what comes of it shows while it goes
    on. A corrected word never changes, nor does any word of a caption that was edited."""
    source, words = given.source, given.words
    about = task.about(DoubtPayload)
    if about.piece_id and about.speakers:
        task.follow("speakers", PiecePayload(source_id=source.id, piece_id=about.piece_id))
    if source.language != JUDGED or not words:
        return
    start = min(about.from_us or 0, words[0].start_us)
    end = about.to_us or source.duration_us
    heard = sound_of(tools.workspace, source)
    sound = clip(stream_sound(heard.path, heard.track), start, end)
    speller = Speller(given.spellings, tools.sounds())
    for verdict, run, reached in second_look(tools, speller, sound, words, start):
        yield Judged(run, verdict, settle=about.piece_id is not None)
        task.progress((reached - start) / max(1, end - start))


def second_look(
    tools: Tools,
    speller: Speller,
    sound: Iterable[Samples],
    words: Sequence[Word],
    start_us: int,
) -> Iterator[tuple[Verdict, list[Word], int]]:
    """Hear sound that begins at a moment again, with the names of the glossary in mind: (verdict, the
    words it is on, the moment reached)."""
    judge = tools.judge(speller.spellings.names, speller.write)
    for run, verdict, reached in heard_again(sound, words, judge, start_us):
        yield verdict, run, reached


def keep_verdict(context: JobContext, given: SourceInput, judged: Judged) -> None:
    """Note doubts, and make changes: the last one first, so that what stands before one is as it
    was read."""
    run, verdict = judged.run, judged.verdict
    speller = context.glossary.now()
    transcript.judge_words(context.database, speller.suggest(verdict.words))
    if judged.settle and verdict.changes:
        settle(
            context.database,
            given.source.id,
            [
                Replacement(
                    run[change.first : change.end],
                    speller.suggest(speller.write(change.words)),
                    run[change.first - 1] if change.first else None,
                )
                for change in reversed(verdict.changes)
            ],
        )


DOUBT = Kind(read_source, doubt, keep_verdict)
