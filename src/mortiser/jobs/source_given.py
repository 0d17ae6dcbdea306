"""What a job is given that is about one recording."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from mortiser.core.transcript.words import Word
from mortiser.jobs.broker import Taken
from mortiser.jobs.kind import Home
from mortiser.store import projects, transcript
from mortiser.store.glossary import Spellings, spellings
from mortiser.store.projects import SourceRow


@dataclass(frozen=True)
class SourceGiven:
    """A recording, its words, and how names are spelled."""

    source: SourceRow
    words: Sequence[Word]
    spellings: Spellings


def read_source(home: Home, taken: Taken) -> SourceGiven:
    """The recording that a job is for. Raises NotFound."""
    db = home.database.connection
    source = projects.source_row(db, taken.payload["source_id"])
    return SourceGiven(source, transcript.source_words(db, source["id"]), spellings(db))


def keep_nothing(home: Home, given: SourceGiven, result: None) -> None:
    """Of work whose files are all there is to it."""
