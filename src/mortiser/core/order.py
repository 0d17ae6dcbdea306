"""An order: what is to be delivered, of a piece as it was when it was ordered."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, get_args

from pydantic import BaseModel, ConfigDict

from mortiser.core.cue_timing import Frames
from mortiser.core.finish.model import Finish
from mortiser.core.pace import Pace, RuleSet
from mortiser.core.piece import Piece
from mortiser.core.standing import Standing
from mortiser.core.timeline import Clip, Timeline
from mortiser.core.words import Cue

OutputKind = Literal["mp4", "srt", "vtt"]
ALL_OUTPUTS: tuple[OutputKind, ...] = get_args(OutputKind)


class OrderedSource(BaseModel):
    """A recording that the piece is of: where it lies in the workspace, which track is heard, and where
    the sound lies that is heard in its stead, if any."""

    model_config = ConfigDict(frozen=True)

    id: int
    path: str
    duration_us: int
    audio_track: int = 0
    sound: str = ""


class Order(BaseModel):
    """The piece, frozen, and the outputs wanted of it. ``stem`` begins the names of the files."""

    model_config = ConfigDict(frozen=True)

    outputs: tuple[OutputKind, ...]
    stem: str
    piece_id: int
    project_id: int
    name: str
    width: int
    height: int
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
        outputs: Sequence[OutputKind] = ALL_OUTPUTS,
    ) -> Order:
        """An order of a piece as it is now."""
        used = {clip.source_id for clip in piece.timeline.clips}
        return cls(
            outputs=tuple(outputs),
            stem=stem,
            piece_id=piece.id,
            project_id=piece.project_id,
            name=piece.name,
            width=piece.width,
            height=piece.height,
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
            self.width,
            self.height,
            self.finish,
            self.pace,
            Timeline(self.clips),
            self.show_speakers,
            self.frames,
            self.checked_by,
            self.standing,
            self.file_pace,
        )
