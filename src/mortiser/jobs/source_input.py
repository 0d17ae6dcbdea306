"""What a job is given that is about one recording."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from mortiser.core.project.job_payloads import SourcePayload
from mortiser.core.project.source import Source
from mortiser.core.transcript.words import Word
from mortiser.jobs.broker import LeasedJob
from mortiser.jobs.kind import JobContext
from mortiser.store import projects, transcript
from mortiser.store.glossary import Spellings, spellings


@dataclass(frozen=True)
class SourceInput:
    """A recording, its words, and how names are spelled."""

    source: Source
    words: Sequence[Word]
    spellings: Spellings


def read_source(context: JobContext, taken: LeasedJob) -> SourceInput:
    """The recording that a job is for. Raises NotFound."""
    db = context.database.connection
    source = projects.read_source(db, taken.about(SourcePayload).source_id)
    return SourceInput(source, transcript.source_words(db, source.id), spellings(db))


def keep_nothing(context: JobContext, given: SourceInput, result: None) -> None:
    """Of work whose files are all there is to it."""
