"""Caption one recording in one go, for the command line: the same core, no workspace."""

from __future__ import annotations

import os
import tempfile
from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from fractions import Fraction
from pathlib import Path

from tqdm import tqdm

from mortiser.core.captions.cue_timing import retime, untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import PACES, PaceName
from mortiser.core.common.errors import BadInput
from mortiser.core.common.frames import Frames
from mortiser.core.delivery.order import Order, OrderedSource
from mortiser.core.editing.cutting import Loudness
from mortiser.core.editing.removals import Tightening, tightened
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.frame import BACKDROP_FPS, even_size
from mortiser.core.framing.shape import Shape
from mortiser.core.project.jig import Jig, behind, filled
from mortiser.core.project.output import Outputs, TextFile
from mortiser.core.project.piece import MediaFacts, Piece, ShapedPiece
from mortiser.core.project.settings import PieceSettings
from mortiser.core.scene import SceneReader
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.layout.ruler import LetterRuler
from mortiser.core.transcript.glossary import Entry, Glossary, reworded
from mortiser.core.transcript.words import Cue, Word
from mortiser.fonts import font_book
from mortiser.formats import glossary as glossary_file
from mortiser.formats.decoding import decode
from mortiser.media.peaks import FINEST_US, compute_peaks
from mortiser.media.probe import Probe, probe
from mortiser.media.sound import stream_sound
from mortiser.outputs.captions import caption_text
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, RenderPlan
from mortiser.services.delivering import Tell, make_files
from mortiser.speech.engines import Engines
from mortiser.speech.second_hearing import SecondHearing, heard_again, settled
from mortiser.speech.sounds import DictionarySounds
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.transcribe import TimedLine, transcribe
from mortiser.store.glossary import checked
from mortiser.store.projects import AUDIO_ONLY_FRAME


def caption(
    recording: Path,
    outputs: Mapping[str, Path],
    finish: str,
    pace: PaceName,
    *,
    quiet: bool,
    engines: Engines,
    names: Sequence[Entry] = (),
    tighten: Tightening | None = None,
    jig: Jig | None = None,
    folder: Path | None = None,
    delivered: Outputs = (),
    tell: Tell | None = None,
) -> list[Path]:
    """Write the outputs (srt, vtt, txt, json, burn) of a recording, or of what is left of it, and into a
    folder what it is ``delivered`` as (as the jig says where nothing is named); the paths of all of them.

    ``names`` are written right wherever something like them is heard. A jig's look and pace take the place of
    those named. Files get their names only when complete. ``tell`` gets how far which step is, in place
    of bars. Raises MortiserError.
    """
    for out in outputs.values():
        if not out.absolute().parent.is_dir():
            raise BadInput(f"{out}: the folder does not exist.")
        if out.exists() and out.samefile(recording):
            raise BadInput(f"{out} is the recording itself. Choose another name.")
    facts = probe(recording)
    words = hear(recording, facts.duration_us, engines, names, quiet=quiet, tell=tell)
    if not words:
        raise BadInput("No speech was found in this recording.")
    piece = _piece(facts, finish, pace)
    if jig is not None:
        piece = _in_jig(piece, jig, recording.stem)
    ruler = LetterRuler(piece.settings.finish, piece.settings.shapes[0].size, font_book())
    if tighten:
        (whole,) = piece.timeline.clips
        loud = Loudness(FINEST_US, compute_peaks(stream_sound(recording))[0])
        timeline = tightened(words, whole, loud, piece.facts.frames, tighten)
        facts_now = replace(piece.facts, frames=Frames(piece.facts.frames.rate))
        piece = replace(piece, timeline=timeline, facts=facts_now)
    shows = piece.timeline.shown(words)
    ranges = group(shows, piece.settings.pace, ruler)
    cues = [untimed_cue(0, shows[a:b]) for a, b in ranges]
    cues = retime(cues, piece.timeline, piece.settings.pace, piece.facts.frames)
    shaped = piece.in_shape()
    for kind, out in outputs.items():
        if kind == "burn":
            whole_recording = Recording(recording, facts.duration_us)
            _burn(whole_recording, out, cues, shaped, quiet)
        else:
            _write_whole(out, caption_text(TextFile.model_validate({"form": kind}), cues, shaped))
    made = [*outputs.values()]
    if folder is not None:
        if delivered:
            piece = replace(piece, settings=replace(piece.settings, outputs=delivered))
        made += _delivered(recording, facts, piece, cues, folder, quiet=quiet, tell=tell)
    return made


def _in_jig(piece: Piece, jig: Jig, name: str) -> Piece:
    """A piece made as a jig says."""
    layers = filled(jig.layers, (), name)
    settings = replace(
        piece.settings,
        shapes=behind(jig.shapes, layers),
        layers=layers,
        finish=jig.finish,
        pace=jig.pace,
        file_pace=jig.file_pace,
        outputs=jig.outputs,
    )
    return replace(piece, settings=settings)


def _delivered(
    recording: Path,
    facts: Probe,
    piece: Piece,
    cues: Sequence[Cue],
    folder: Path,
    *,
    quiet: bool,
    tell: Tell | None,
) -> list[Path]:
    source = OrderedSource(id=0, path=str(recording), duration_us=facts.duration_us)
    today = datetime.now().astimezone().date().isoformat()
    named = {"project": recording.stem, "piece": recording.stem, "date": today, "number": "01"}
    order = Order.of(piece, cues, [source], "{project}", (), (), named)
    told = tell or bars(quiet)
    return list(make_files(order, order.parts(), folder, Path, told))


def hear(
    recording: Path,
    duration_us: int,
    engines: Engines,
    names: Sequence[Entry],
    *,
    quiet: bool,
    tell: Tell | None = None,
) -> list[Word]:
    """A recording's words with their times, names as the glossary writes them."""
    words: list[Word] = []
    glossary = Glossary(names, DictionarySounds()) if names else None

    def written(line: Sequence[Word]) -> list[Word]:
        return reworded(line, glossary.changes(line)) if glossary else list(line)

    with _bar("Listening", quiet or tell is not None) as bar:
        for item in transcribe(stream_sound(recording), engines.first, SphinxAligner()):
            if isinstance(item, TimedLine):
                words += written(item.words)
                done = item.words[-1].end_us / duration_us
            else:
                done = item * 1e6 / duration_us
            _advance(bar, done)
            if tell:
                tell("listening", min(1.0, done))
        _advance(bar, 1.0)
    if engines.ensemble is None or engines.ensemble.second is None:
        return words
    judge = SecondHearing(engines.ensemble, written)
    final: list[Word] = []
    with _bar("Listening again", quiet or tell is not None) as bar:
        for _, verdict, reached in heard_again(stream_sound(recording), words, judge):
            final += written(settled(verdict))
            _advance(bar, reached / duration_us)
            if tell:
                tell("listening again", min(1.0, reached / duration_us))
        _advance(bar, 1.0)
    return final


def names_of(file: Path) -> list[Entry]:
    """The entries of a glossary's CSV file. Raises BadInput for a line that cannot be one."""
    if not file.is_file():
        raise BadInput(f"{file}: no such file.")
    text, _ = decode(file.read_bytes())
    found: list[Entry] = []
    for line, entry in glossary_file.read(text):
        try:
            found.append(checked(entry))
        except BadInput as error:
            raise BadInput(f"{file}, line {line}: {error}") from error
    return found


def _burn(
    recording: Recording, out: Path, cues: list[Cue], piece: ShapedPiece, quiet: bool
) -> None:
    size = even_size(*piece.size)
    reader = SceneReader(cues, piece.settings.finish, size, font_book())
    partial = _partial(out)
    try:
        with _bar("Burning in", quiet) as bar:
            rate = Fraction(piece.facts.frames.rate or BACKDROP_FPS).limit_denominator(1001)
            plan = RenderPlan(piece.timeline, {0: recording}, size, reader, rate=rate)
            burn(plan, partial, lambda p: _advance(bar, p))
            _advance(bar, 1.0)
        partial.replace(out)
    finally:
        partial.unlink(missing_ok=True)


def _write_whole(out: Path, text: str) -> None:
    partial = _partial(out)
    try:
        partial.write_text(text, encoding="utf-8")
        partial.replace(out)
    finally:
        partial.unlink(missing_ok=True)


def _partial(out: Path) -> Path:
    handle, name = tempfile.mkstemp(prefix=f".{out.name}.", dir=out.absolute().parent)
    os.close(handle)
    return Path(name)


def _piece(facts: Probe, finish: str, pace: PaceName) -> Piece:
    width, height = (facts.width, facts.height) if facts.width else AUDIO_ONLY_FRAME
    timeline = Timeline([Clip(0, 0, facts.duration_us)])
    frames = Frames() if facts.variable_rate else Frames(facts.frame_rate, facts.first_frame_us)
    shapes = (Shape(id=1, width=width, height=height),)
    seen = {0: (facts.width, facts.height)} if facts.width else {}
    return Piece(
        0,
        0,
        PieceSettings("", shapes, FINISHES[finish], PACES[pace]),
        timeline,
        MediaFacts(frames, pictures=seen),
    )


def bars(quiet: bool) -> Tell:
    """Bars of progress, one a file."""
    shown: dict[str, tqdm[None]] = {}

    def tell(name: str, done: float) -> None:
        if name not in shown:
            shown[name] = _bar(name, quiet)
        _advance(shown[name], done)
        if done >= 1:
            shown.pop(name).close()

    return tell


def _bar(name: str, quiet: bool) -> tqdm[None]:
    return tqdm(
        total=1000,
        desc=name,
        disable=quiet,
        bar_format="{desc} {percentage:3.0f}% |{bar}| {remaining} left",
    )


def _advance(bar: tqdm[None], done: float) -> None:
    bar.update(max(0, min(1000, round(done * 1000)) - bar.n))
