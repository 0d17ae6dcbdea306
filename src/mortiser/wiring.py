"""The only place that joins the parts."""

from __future__ import annotations

from dataclasses import dataclass

from mortiser.jobs.aligning import TypedWordAligner
from mortiser.jobs.delivering import deliver
from mortiser.jobs.doubting import doubt
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.hearing import hear
from mortiser.jobs.preparing import prepare
from mortiser.jobs.queue import Queue
from mortiser.jobs.runner import Handler, Parts
from mortiser.jobs.speaking import find_speakers
from mortiser.jobs.workspace import Workspace
from mortiser.settings import Settings
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.second_hearing import SecondHearing
from mortiser.speech.sounds import DictionarySounds
from mortiser.speech.speakers import SpectralSpeakers
from mortiser.speech.sphinx import SphinxAligner
from mortiser.store.database import Database

HANDLERS: dict[str, Handler] = {
    "transcribe": hear,
    "prepare": prepare,
    "speakers": find_speakers,
    "doubt": doubt,
    "deliver": deliver,
}


@dataclass(frozen=True)
class Shop:
    """A workspace, open for work."""

    settings: Settings
    parts: Parts
    queue: Queue
    typed_words: TypedWordAligner
    glossary: GlossaryBench

    @property
    def database(self) -> Database:
        """The workspace's database."""
        return self.parts.database

    @property
    def workspace(self) -> Workspace:
        """The workspace's folders."""
        return self.parts.workspace


def open_shop(settings: Settings, *, inline_jobs: bool = False) -> Shop:
    """Open (or make) the workspace of the settings."""
    workspace = Workspace(settings.workspace)
    parts = Parts(
        Database(workspace.database),
        workspace,
        MoonshineRecogniser,
        SphinxAligner,
        SecondHearing,
        DictionarySounds,
        SpectralSpeakers,
    )
    return Shop(
        settings,
        parts,
        Queue(parts, HANDLERS, inline=inline_jobs),
        TypedWordAligner(parts),
        GlossaryBench(parts),
    )
