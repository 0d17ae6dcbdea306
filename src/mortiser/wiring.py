"""The only place that joins the parts."""

from __future__ import annotations

from dataclasses import dataclass

from mortiser.core.errors import BadInput
from mortiser.core.layout.ruler import LetterRuler
from mortiser.fonts import font_book, use_own_fonts
from mortiser.jobs.aligning import TypedWordAligner
from mortiser.jobs.delivering import deliver
from mortiser.jobs.doubting import doubt
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.importing import follow_script, import_captions
from mortiser.jobs.preparing import prepare
from mortiser.jobs.queue import Queue
from mortiser.jobs.runner import Handler, Parts
from mortiser.jobs.segments import Segments
from mortiser.jobs.speaking import find_speakers
from mortiser.jobs.thumbnails import take_thumbnails
from mortiser.jobs.transcribing import hear
from mortiser.jobs.translating import translate
from mortiser.jobs.workspace import Workspace
from mortiser.media.opening import limit_pixels
from mortiser.paint.legibility import faint_captions
from mortiser.render.still import still
from mortiser.settings import Settings
from mortiser.speech.engines import (
    Engine,
    aligner_for,
    engines,
    language_finder,
    recogniser_for,
    second_for,
    translator_from,
    unknown,
)
from mortiser.speech.languages import FIND_OUT
from mortiser.speech.models import ModelPlace
from mortiser.speech.second_hearing import SecondHearing
from mortiser.speech.sounds import DictionarySounds
from mortiser.speech.speakers import SpectralSpeakers
from mortiser.store.database import Database

HANDLERS: dict[str, Handler] = {
    "transcribe": hear,
    "prepare": prepare,
    "import": import_captions,
    "script": follow_script,
    "translate": translate,
    "speakers": find_speakers,
    "doubt": doubt,
    "deliver": deliver,
    "thumbnails": take_thumbnails,
}


@dataclass(frozen=True)
class Shop:
    """A workspace, open for work."""

    settings: Settings
    parts: Parts
    queue: Queue
    typed_words: TypedWordAligner
    glossary: GlossaryBench
    segments: Segments

    @property
    def database(self) -> Database:
        """The workspace's database."""
        return self.parts.database

    @property
    def workspace(self) -> Workspace:
        """The workspace's folders."""
        return self.parts.workspace


still_picture = still
hard_to_read = faint_captions


def model_place(settings: Settings) -> ModelPlace:
    """Where the multilingual engine's model is looked for."""
    return ModelPlace(
        settings.model_cache, settings.model_folder, settings.speech_model, settings.fetch_model
    )


def known_engines(settings: Settings) -> list[Engine]:
    """The speech engines on this machine."""
    return engines(model_place(settings))


def recognisable(language: str, settings: Settings) -> None:
    """Raise BadInput where no engine knows the language."""
    known = {code for engine in known_engines(settings) for code in engine.languages}
    if language not in known | {FIND_OUT}:
        raise BadInput(unknown(language, model_place(settings)))


def open_shop(settings: Settings, *, inline_jobs: bool = False) -> Shop:
    """Open (or make) the workspace of the settings."""
    workspace = Workspace(settings.workspace)
    use_own_fonts(workspace.fonts)
    limit_pixels(settings.most_pixels)
    place = model_place(settings)
    parts = Parts(
        Database(
            workspace.database,
            lambda finish, size: LetterRuler(finish, size, font_book()),
            settings.undo_steps,
        ),
        workspace,
        lambda language: recogniser_for(language, place),
        lambda: language_finder(place),
        lambda language: translator_from(language, place),
        lambda language: aligner_for(language, place),
        lambda names, write: SecondHearing(second_for("en", names, place), write),
        DictionarySounds,
        SpectralSpeakers,
    )
    return Shop(
        settings,
        parts,
        Queue(parts, HANDLERS, inline=inline_jobs),
        TypedWordAligner(parts),
        GlossaryBench(parts),
        Segments(workspace),
    )
