"""What the work of jobs is done with."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field

from mortiser.core.captions.grouping import Ruler
from mortiser.core.style.finish.model import Finish
from mortiser.core.transcript.sounding import Sounds
from mortiser.core.transcript.words import Word
from mortiser.jobs.workspace import Workspace
from mortiser.library.base import Library
from mortiser.speech.protocols import (
    Aligner,
    LanguageFinder,
    Recogniser,
    SecondPass,
    SpeakerFinder,
    Translator,
)


@dataclass(frozen=True)
class Tools:
    """Files, engines, and libraries to fetch from by their names, but no database. Engines are made when needed:
    they hold models in memory.

    ``recogniser`` and ``aligner`` make one for a language, by its code; ``judge`` one that listens for some names
    and is given a function that writes words as the glossary has them; ``ruler`` one for a finish in a frame.
    """

    workspace: Workspace
    recogniser: Callable[[str], Recogniser]
    languages: Callable[[], LanguageFinder]
    translator: Callable[[str], Translator]
    aligner: Callable[[str], Aligner]
    judge: Callable[[Sequence[str], Callable[[Sequence[Word]], list[Word]]], SecondPass]
    sounds: Callable[[], Sounds]
    speakers: Callable[[], SpeakerFinder]
    ruler: Callable[[Finish, tuple[int, int]], Ruler]
    libraries: Mapping[str, Library] = field(default_factory=dict)
