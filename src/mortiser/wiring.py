"""The only place that joins the parts."""

from __future__ import annotations

from dataclasses import dataclass, field

from mortiser.core.common.errors import BadInput
from mortiser.core.editing.cutting import Loudness
from mortiser.core.edits.captions.fixing import Offers
from mortiser.core.project.source import Source
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.layout.ruler import LetterRuler
from mortiser.fonts import font_book, use_own_fonts
from mortiser.jobs.aligning import TypedWordAligner
from mortiser.jobs.delivering import DELIVER
from mortiser.jobs.doubting import DOUBT
from mortiser.jobs.draft import DRAFT
from mortiser.jobs.faces import FACES
from mortiser.jobs.fetching import FETCH, OWN
from mortiser.jobs.following import FOLLOW
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.importing import IMPORT, SCRIPT
from mortiser.jobs.kind import JobContext
from mortiser.jobs.microphone import MICROPHONE, lay_missing
from mortiser.jobs.own_things import own_things
from mortiser.jobs.preparing import PREPARE, peaks_of
from mortiser.jobs.queue import Queue
from mortiser.jobs.runner import Kinds, run
from mortiser.jobs.segments import Segments
from mortiser.jobs.speaking import SPEAKERS
from mortiser.jobs.sqlite_broker import SqliteBroker
from mortiser.jobs.thumbnails import THUMBNAILS
from mortiser.jobs.tools import Tools
from mortiser.jobs.transcribing import TRANSCRIBE
from mortiser.jobs.translating import TRANSLATE
from mortiser.jobs.workspace import Workspace
from mortiser.library.base import Library
from mortiser.library.folder import FolderLibrary
from mortiser.library.own import OwnLibrary
from mortiser.library.service import ServiceLibrary
from mortiser.media.opening import limit_pixels
from mortiser.media.peaks import loudness
from mortiser.paint.legibility import faint_captions as faint_captions
from mortiser.pictures import use_pictures
from mortiser.render.glances import glances as glances
from mortiser.render.sheets import grade_sheet as grade_sheet
from mortiser.render.sheets import transition_sheet as transition_sheet
from mortiser.render.still import still as still
from mortiser.settings import Settings
from mortiser.speech.engines import (
    Engine,
    aligner_for,
    engines,
    ensemble_for,
    language_finder,
    recogniser_for,
    translator_from,
    unknown,
)
from mortiser.speech.languages import FIND_OUT
from mortiser.speech.models import ModelPlace
from mortiser.speech.second_hearing import SecondHearing
from mortiser.speech.sound_alikes import sound_alikes as sound_alikes
from mortiser.speech.sounds import DictionarySounds
from mortiser.speech.speakers import SpectralSpeakers
from mortiser.store import projects, transcript
from mortiser.store.database import Database
from mortiser.store.media_services import MediaServices

KINDS: Kinds = {
    "transcribe": TRANSCRIBE,
    "prepare": PREPARE,
    "import": IMPORT,
    "script": SCRIPT,
    "translate": TRANSLATE,
    "speakers": SPEAKERS,
    "doubt": DOUBT,
    "deliver": DELIVER,
    "thumbnails": THUMBNAILS,
    "faces": FACES,
    "follow": FOLLOW,
    "microphone": MICROPHONE,
    "draft": DRAFT,
    "fetch": FETCH,
}


@dataclass(frozen=True)
class AppContext:
    """A workspace, open for work."""

    settings: Settings
    database: Database
    tools: Tools
    queue: Queue
    typed_words: TypedWordAligner
    glossary: GlossaryBench
    segments: Segments
    offers: Offers = field(default_factory=Offers)

    @property
    def workspace(self) -> Workspace:
        """The workspace's folders."""
        return self.tools.workspace

    def loudness(self, source: Source) -> Loudness:
        """How loud a source is; nothing as long as that is not known."""
        return loudness(peaks_of(self.workspace, source))

    def lay_sounds(self, project_id: int) -> None:
        """Have sounds laid under recordings that are to be heard and are not laid."""
        self.queue.submit(*lay_missing(self.database, self.workspace, project_id))

    def take_up(self) -> None:
        """Go on with what a server that was ended left behind: sounds not laid, typed words not on their sound."""
        db = self.database.connection
        for project_id in projects.with_microphones(db):
            self.lay_sounds(project_id)
        for project_id, cue in transcript.typed_cues(db):
            self.typed_words.look_over(project_id, [cue])

    def run(self, job_id: int, kinds: Kinds = KINDS) -> list[int]:
        """Do a job in this thread; the ids of the jobs that follow from it."""
        broker = SqliteBroker(JobContext(self.database, self.glossary, self.workspace), kinds)
        return run(broker, self.tools, kinds, job_id)


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


def open_context(settings: Settings, *, inline_jobs: bool = False) -> AppContext:
    """Open (or make) the workspace of the settings."""
    workspace = Workspace(settings.workspace)
    use_own_fonts(workspace.fonts)
    use_pictures(workspace.pictures)
    limit_pixels(settings.most_pixels)
    place = model_place(settings)
    database = Database(
        workspace.database,
        MediaServices(_ruler, lambda row: loudness(peaks_of(workspace, row))),
        settings.undo_steps,
    )
    tools = Tools(
        workspace,
        lambda language: recogniser_for(language, place),
        lambda: language_finder(place),
        lambda language: translator_from(language, place),
        lambda language: aligner_for(language, place),
        lambda names, write: SecondHearing(ensemble_for("en", names, place), write),
        DictionarySounds,
        SpectralSpeakers,
        _ruler,
        _libraries(settings, database, workspace),
    )
    glossary = GlossaryBench(database, DictionarySounds())
    return AppContext(
        settings,
        database,
        tools,
        Queue(
            SqliteBroker(JobContext(database, glossary, workspace), KINDS),
            tools,
            KINDS,
            inline=inline_jobs,
        ),
        TypedWordAligner(database, tools),
        glossary,
        Segments(workspace),
    )


def _libraries(settings: Settings, database: Database, workspace: Workspace) -> dict[str, Library]:
    """The libraries that can be searched, by their names."""
    found: dict[str, Library] = {OWN: OwnLibrary(lambda: own_things(database, workspace))}
    if settings.library_folder is not None:
        found["folder"] = FolderLibrary(settings.library_folder)
    if settings.library_service:
        found["service"] = ServiceLibrary(settings.library_service)
    return found


def _ruler(finish: Finish, size: tuple[int, int]) -> LetterRuler:
    return LetterRuler(finish, size, font_book())
