"""A workspace with the sample recordings, transcribed for real."""

from __future__ import annotations

import json
import shutil
from importlib.resources import as_file, files

from mortiser.core.captions.pace import PaceName
from mortiser.core.editing.removals import Wanted, removals
from mortiser.core.editing.talk import talk
from mortiser.core.edits.cutting.pieces import NewPiece
from mortiser.core.edits.cutting.trimming import CutStretches, Passage, StrandStretch
from mortiser.core.edits.look.jigs import ApplyJig
from mortiser.core.edits.look.layers import AddLayer
from mortiser.core.edits.look.shapes import AddShape
from mortiser.core.project.jig import SUNG
from mortiser.core.project.job_payloads import ScriptPayload
from mortiser.core.transcript.words import Word
from mortiser.jobs.ingest import BroughtIn, Hearing, bring_in
from mortiser.pictures import keep
from mortiser.pictures.checking import checked
from mortiser.settings import Settings
from mortiser.store import editing, jobs, pictures, projects, transcript
from mortiser.store.fillers import fillers
from mortiser.store.rows import load_strands
from mortiser.wiring import AppContext, open_context

CLIPS: tuple[tuple[str, str, str, PaceName], ...] = (
    ("lyric.m4a", "Lantern Lane lyric.m4a", "Pine", "quick"),
    ("counter.m4a", "At the counter.m4a", "Pine", "sentence"),
    ("kettle.mp4", "The cold kettle.mp4", "Lacquer", "quick"),
)
SONG, COVER, LYRICS = "lyric.m4a", "lantern.svg", "lyric.txt"
SUNG_BY = ["Lantern Lane", "The Mending Room"]
HEARD, NOT_HEARD = Hearing(), Hearing(wanted=False)
PIECE = "It is the fuse"
HEADLINE = "Before you throw\nyour kettle away"
FROM, TO = "Nine", "wire."
"""The first and the last word of the passage that a piece is cut from."""


def make_demo(settings: Settings) -> None:
    """Bring the clips in and transcribe them, unless the workspace has projects already."""
    context = open_context(settings)
    if projects.list_projects(context.database):
        return
    for clip, name, finish, pace in CLIPS:
        print(f"Listening to “{name}” …", flush=True)
        hearing = NOT_HEARD if clip == SONG else HEARD
        made = _brought_in(context, clip, name, finish=finish, pace=pace, hearing=hearing)
        # What follows (the second listening) stays queued for the worker of the server.
        later = [job for one in made.jobs for job in context.run(one)]
        if clip == SONG:
            _with_lyrics(context, made)
            _beside_cover(context, made)
    print("Cutting a piece, and laying a microphone under another recording …", flush=True)
    # A piece shows words as they were when it was made: all of them are settled first.
    while later:
        later += context.run(later.pop(0))
    _cut(context, made)
    _with_microphone(context, made.project_id)


def _brought_in(
    context: AppContext,
    clip: str,
    name: str,
    *,
    finish: str | None = None,
    pace: PaceName = "quick",
    project_id: int | None = None,
    hearing: Hearing = HEARD,
) -> BroughtIn:
    with as_file(files("mortiser.demo") / "media" / clip) as media:
        copy = context.workspace.new_upload()
        shutil.copyfile(media, copy)
    return bring_in(
        context.database,
        context.workspace,
        copy,
        name,
        finish=finish,
        pace=pace,
        project_id=project_id,
        hearing=hearing,
    )


def _with_lyrics(context: AppContext, song: BroughtIn) -> None:
    """Lay the lyrics over the song, as where both are dropped together."""
    text = (files("mortiser.demo") / "media" / LYRICS).read_text("utf-8")
    about = ScriptPayload(source_id=song.source_id, piece_id=song.piece_id, text=text)
    context.run(jobs.add(context.database, song.project_id, "script", about))


def _beside_cover(context: AppContext, song: BroughtIn) -> None:
    """Show the song beside a cover."""
    found = checked((files("mortiser.demo") / "media" / COVER).read_bytes())
    keep(found)
    cover = found.named(COVER)
    pictures.keep(context.database, cover)
    edit = ApplyJig(piece_id=song.piece_id, jig=SUNG, texts=SUNG_BY, pictures=[cover])
    editing.apply_now(context.database, song.project_id, edit)


def _cut(context: AppContext, kettle: BroughtIn) -> None:
    """Make a piece of a passage, without its long quiet, fillers and repeats."""
    assert kettle.piece_id is not None
    db = context.database.connection
    words = transcript.source_words(db, kettle.source_id)
    (strand,) = load_strands(db, kettle.piece_id)
    first, last = _heard_at(words, FROM), _heard_at(words, TO)
    passage = Passage(strand_id=strand.id, first_word=first.id, last_word=last.id)
    edit = NewPiece(piece_id=kettle.piece_id, passages=[passage], name=PIECE)
    editing.apply_now(context.database, kettle.project_id, edit)
    piece = projects.pieces(db, kettle.project_id)[-1]
    loud = {kettle.source_id: context.loudness(projects.read_source(db, kettle.source_id))}
    items = talk(piece.timeline, load_strands(db, piece.id), {kettle.source_id: words}, loud)
    found = removals(items, piece.timeline, loud, Wanted(fillers=fillers(db, "en")))
    stretches = [
        StrandStretch(strand_id=one.strand_id, from_us=one.from_us, to_us=one.to_us)
        for one in found
        if one.kind != "sounds"
    ]
    if stretches:
        cut = CutStretches(piece_id=piece.id, stretches=stretches, found="suggestions")
        editing.apply_now(context.database, kettle.project_id, cut)
    for dressed in (
        AddShape(piece_id=piece.id, width=1080, height=1080),
        AddShape(piece_id=piece.id, width=1920, height=1080),
        AddLayer(piece_id=piece.id, layer="headline", text=HEADLINE),
        AddLayer(piece_id=piece.id, layer="bar"),
    ):
        editing.apply_now(context.database, kettle.project_id, dressed)


def _heard_at(words: list[Word], text: str) -> Word:
    """The word that was heard where the script first says another, as near as it comes."""
    truth = json.loads((files("mortiser.demo") / "media" / "kettle.words.json").read_text("utf-8"))
    start = next(word["start_us"] for word in truth["words"] if word["text"] == text)
    return min(words, key=lambda word: abs(word.start_us - start))


def _with_microphone(context: AppContext, project_id: int) -> None:
    """Another recording of the project, heard by a microphone of its own."""
    chair = _brought_in(context, "chair.mp4", "The loose leg.mp4", project_id=project_id)
    transcribe, prepare = chair.jobs
    sound = _brought_in(
        context, "chair-microphone.m4a", "The loose leg, microphone.m4a", project_id=project_id
    )
    for job in (prepare, *sound.jobs, transcribe):
        context.run(job)
