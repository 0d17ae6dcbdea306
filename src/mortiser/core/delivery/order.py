"""An order: what is to be delivered, of a piece as it was when it was ordered."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.assembly.cutaway import Cutaways
from mortiser.core.assembly.grade import Grades
from mortiser.core.assembly.joining import Joins
from mortiser.core.captions.pace import Pace, RuleSet
from mortiser.core.captions.standing import Standing
from mortiser.core.common.frames import Frames
from mortiser.core.common.time import SECOND
from mortiser.core.delivery.naming import filled
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.following import Turn
from mortiser.core.framing.frame import BACKDROP_FPS
from mortiser.core.framing.layer import Layers
from mortiser.core.framing.shape import Shape, Shapes, shape_word
from mortiser.core.framing.subject import Tracks
from mortiser.core.project.output import Output, Outputs, TextFile, VideoFile
from mortiser.core.project.piece import MediaFacts, Piece
from mortiser.core.project.settings import PieceSettings
from mortiser.core.style.finish.model import Finish
from mortiser.core.transcript.words import Cue


class OrderedSource(BaseModel):
    """A recording that the piece is of: where it lies in the workspace, which track is heard, and where
    the sound lies that is heard in its stead, if any, with what it is known by."""

    model_config = ConfigDict(frozen=True)

    id: int
    path: str
    name: str = ""
    duration_us: int
    size_bytes: int = 0
    """Of its file when it was ordered; 0 where nobody looked."""
    audio_track: int = 0
    language: str = ""
    sound: str = ""
    sound_key: str = ""


class PieceStretch(BaseModel):
    """A stretch of a piece, in µs of it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    start_us: int = Field(ge=0, le=10**12)
    end_us: int = Field(gt=0, le=10**12)


class OrderedFile(BaseModel):
    """One file of an order: what it is, in which shape, of which stretch (all where None), and its name."""

    model_config = ConfigDict(frozen=True)

    output: Output
    shape_id: int | None = None
    stretch: PieceStretch | None = None
    frames: int = 0
    """How many frames it has, more or less; 0 of what has none."""
    size: float = 0
    seconds: float = 0
    """How many bytes it is thought to have and how long to take (core.delivery.estimate), before correction."""
    name: str


class Order(BaseModel):
    """The piece, frozen, and the outputs wanted of it, of some stretches of it (of all of it where none are
    named). ``pattern`` names the files (core.delivery.naming), with ``facts`` in it."""

    model_config = ConfigDict(frozen=True)

    outputs: Outputs
    stretches: tuple[PieceStretch, ...] = ()
    pattern: str
    facts: dict[str, str] = {}
    piece_id: int
    project_id: int
    name: str
    shapes: Shapes = ()
    pictures: dict[int, tuple[int, int]] = {}
    subjects: dict[int, Tracks] = {}
    turns: dict[int, tuple[Turn, ...]] = {}
    layers: Layers = ()
    joins: Joins = Joins()
    grades: Grades = Grades()
    cutaways: Cutaways = ()
    finish: Finish
    pace: Pace
    clips: tuple[Clip, ...]
    show_speakers: bool
    frames: Frames
    checked_by: RuleSet
    standing: Standing
    file_pace: Pace | None
    cues: tuple[Cue, ...]
    sources: tuple[OrderedSource, ...]

    @classmethod
    def of(
        cls,
        piece: Piece,
        cues: Sequence[Cue],
        sources: Sequence[OrderedSource],
        pattern: str,
        shape_ids: Sequence[int] = (),
        stretches: Sequence[PieceStretch] = (),
        facts: dict[str, str] | None = None,
    ) -> Order:
        """An order of a piece as it is now, in some of its shapes (all where none are named)."""
        chosen = tuple(one for one in piece.settings.shapes if not shape_ids or one.id in shape_ids)
        used = piece.source_ids
        return cls(
            outputs=piece.settings.outputs,
            stretches=tuple(stretches),
            pattern=pattern,
            facts=facts or {},
            piece_id=piece.id,
            project_id=piece.project_id,
            name=piece.settings.name,
            shapes=chosen,
            layers=piece.settings.layers,
            joins=piece.settings.joins,
            grades=piece.settings.grades,
            cutaways=piece.settings.cutaways,
            subjects=dict(piece.facts.subjects),
            turns={key: tuple(turns) for key, turns in piece.facts.turns.items()},
            pictures={key: (round(w), round(h)) for key, (w, h) in piece.facts.pictures.items()},
            finish=piece.settings.finish,
            pace=piece.settings.pace,
            clips=piece.timeline.clips,
            show_speakers=piece.settings.show_speakers,
            frames=piece.facts.frames,
            checked_by=piece.settings.checked_by,
            standing=piece.settings.standing,
            file_pace=piece.settings.file_pace,
            cues=tuple(cues),
            sources=tuple(source for source in sources if source.id in used),
        )

    @property
    def piece(self) -> Piece:
        """The piece as it was."""
        settings = PieceSettings(
            name=self.name,
            shapes=self.shapes,
            finish=self.finish,
            pace=self.pace,
            file_pace=self.file_pace,
            checked_by=self.checked_by,
            show_speakers=self.show_speakers,
            standing=self.standing,
            layers=self.layers,
            joins=self.joins,
            grades=self.grades,
            cutaways=self.cutaways,
        )
        facts = MediaFacts(
            frames=self.frames, pictures=self.pictures, subjects=self.subjects, turns=self.turns
        )
        return Piece(self.piece_id, self.project_id, settings, Timeline(self.clips), facts)

    @property
    def stem(self) -> str:
        """The beginning of the names, whatever the part."""
        return filled(self.pattern, self.facts)

    def parts(self) -> list[OrderedFile]:
        """What is made of it, a file each: what shows a picture in each shape, the rest once; all of it for
        each stretch."""
        found: list[tuple[dict[str, str], OrderedFile]] = []
        for output in self.outputs:
            shapes: list[Shape | None] = [None]
            if not isinstance(output, TextFile) and len(self.shapes) > 1:
                shapes = [*self.shapes]
            for shape in shapes:
                for number, stretch in enumerate(self.stretches or (None,), start=1):
                    facts = dict(self.facts)
                    if shape:
                        facts["shape"] = self._word(shape)
                    if len(self.stretches) > 1:
                        facts["part"] = str(number)
                    part = OrderedFile(
                        output=output,
                        shape_id=shape and shape.id,
                        stretch=stretch,
                        frames=self._frames(output, stretch),
                        name="",
                    )
                    found.append((facts, part))
        return _named(self.pattern, found)

    def of_part(self, part: OrderedFile) -> Order:
        """The order of one file alone: in its shape."""
        if part.shape_id is None:
            return self
        shapes = tuple(one for one in self.shapes if one.id == part.shape_id)
        return self.model_copy(update={"shapes": shapes})

    def _frames(self, output: Output, stretch: PieceStretch | None) -> int:
        if not isinstance(output, VideoFile):
            return 0
        length = stretch.end_us - stretch.start_us if stretch else Timeline(self.clips).duration_us
        return max(1, round(length / SECOND * output.rate_of(self.frames.rate or BACKDROP_FPS)))

    def _word(self, shape: Shape) -> str:
        alike = [one for one in self.shapes if shape_word(*one.size) == shape_word(*shape.size)]
        name = shape_word(*shape.size)
        return f"{name}-{shape.width}x{shape.height}" if len(alike) > 1 else name


def _named(pattern: str, found: Sequence[tuple[dict[str, str], OrderedFile]]) -> list[OrderedFile]:
    """Parts with their names: what tells alike ones apart comes behind."""
    plain = [f"{filled(pattern, facts)}.{part.output.ending}" for facts, part in found]
    often = Counter(name.casefold() for name in plain)
    named: list[OrderedFile] = []
    taken: set[str] = set()
    for (_, part), name in zip(found, plain, strict=True):
        stem, ending = name.removesuffix(f".{part.output.ending}"), part.output.ending
        if often[name.casefold()] > 1:
            stem = "-".join([stem, *_apart(part.output)])
        full, number = f"{stem}.{ending}", 2
        while full.casefold() in taken:
            full, number = f"{stem}-{number}.{ending}", number + 1
        taken.add(full.casefold())
        named.append(part.model_copy(update={"name": full}))
    return named


def _apart(output: Output) -> list[str]:
    """Words for what may tell an output from others of its ending."""
    if isinstance(output, TextFile):
        return ["picture"] if output.as_picture else []
    if not isinstance(output, VideoFile):
        return []
    words: list[str] = [output.form]
    if output.lines:
        words.append(f"{output.lines}p")
    if output.rate:
        words.append(f"{output.rate}fps")
    if output.most_mb:
        words.append(f"{output.most_mb:g}MB")
    if output.captions != "burned":
        words.append(output.captions)
    return [*words, output.quality] if output.quality != "good" else words
