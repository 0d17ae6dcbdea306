"""An order: what is to be delivered, of a piece as it was when it was ordered."""

from __future__ import annotations

from collections.abc import Sequence

from pydantic import BaseModel, ConfigDict

from mortiser.core.cue_timing import Frames
from mortiser.core.finish.model import Finish
from mortiser.core.following import Turn
from mortiser.core.layer import Layers
from mortiser.core.output_kinds import PICTURED, OutputKind
from mortiser.core.pace import Pace, RuleSet
from mortiser.core.piece import Piece
from mortiser.core.shape import Shape, Shapes, shape_word
from mortiser.core.standing import Standing
from mortiser.core.subject import Tracks
from mortiser.core.timeline import Clip, Timeline
from mortiser.core.words import Cue


class OrderedSource(BaseModel):
    """A recording that the piece is of: where it lies in the workspace, which track is heard, and where
    the sound lies that is heard in its stead, if any, with what it is known by."""

    model_config = ConfigDict(frozen=True)

    id: int
    path: str
    duration_us: int
    audio_track: int = 0
    sound: str = ""
    sound_key: str = ""


class Order(BaseModel):
    """The piece, frozen, and the outputs wanted of it. ``stem`` begins the names of the files."""

    model_config = ConfigDict(frozen=True)

    outputs: tuple[OutputKind, ...]
    stem: str
    piece_id: int
    project_id: int
    name: str
    width: int = 0
    height: int = 0
    """The frame of an order from a version that knew one shape."""
    shapes: Shapes = ()
    pictures: dict[int, tuple[int, int]] = {}
    subjects: dict[int, Tracks] = {}
    turns: dict[int, tuple[Turn, ...]] = {}
    layers: Layers = ()
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
        stem: str,
        shape_ids: Sequence[int] = (),
    ) -> Order:
        """An order of a piece as it is now, in some of its shapes (all where none are named)."""
        chosen = tuple(one for one in piece.shapes if not shape_ids or one.id in shape_ids)
        used = {clip.source_id for clip in piece.timeline.clips}
        return cls(
            outputs=piece.outputs,
            stem=stem,
            piece_id=piece.id,
            project_id=piece.project_id,
            name=piece.name,
            shapes=chosen,
            layers=piece.layers,
            subjects=dict(piece.subjects),
            turns={key: tuple(turns) for key, turns in piece.turns.items()},
            pictures={key: (round(w), round(h)) for key, (w, h) in piece.pictures.items()},
            finish=piece.finish,
            pace=piece.pace,
            clips=piece.timeline.clips,
            show_speakers=piece.show_speakers,
            frames=piece.frames,
            checked_by=piece.checked_by,
            standing=piece.standing,
            file_pace=piece.file_pace,
            cues=tuple(cues),
            sources=tuple(source for source in sources if source.id in used),
        )

    @property
    def piece(self) -> Piece:
        """The piece as it was."""
        return Piece(
            self.piece_id,
            self.project_id,
            self.name,
            self.shapes or (Shape(id=1, width=self.width, height=self.height),),
            self.finish,
            self.pace,
            Timeline(self.clips),
            self.show_speakers,
            self.frames,
            self.checked_by,
            self.standing,
            self.file_pace,
            pictures=self.pictures,
            subjects=self.subjects,
            turns=self.turns,
            layers=self.layers,
        )

    def parts(self) -> list[tuple[OutputKind, Order]]:
        """What is made of it, a file each: what shows a picture in each shape, the rest once."""
        found: list[tuple[OutputKind, Order]] = []
        for kind in self.outputs:
            if kind in PICTURED and len(self.shapes) > 1:
                found += [(kind, self._in(shape)) for shape in self.shapes]
            else:
                found.append((kind, self))
        return found

    def _in(self, shape: Shape) -> Order:
        alike = [one for one in self.shapes if shape_word(*one.size) == shape_word(*shape.size)]
        name = shape_word(*shape.size)
        if len(alike) > 1:
            name += f"-{shape.width}x{shape.height}"
        return self.model_copy(update={"shapes": (shape,), "stem": f"{self.stem}-{name}"})
