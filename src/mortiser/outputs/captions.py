"""Caption files."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from pathlib import Path

from mortiser.core.file_captions import file_captions
from mortiser.core.layout.caption_lines import caption_lines
from mortiser.core.order import Order
from mortiser.core.output_kinds import OutputKind
from mortiser.core.piece import Piece
from mortiser.core.speakers import speaker_of, turns
from mortiser.core.words import Cue
from mortiser.fonts import font_book
from mortiser.formats import registry
from mortiser.formats.base import Caption
from mortiser.formats.registry import FORMATS, READERS
from mortiser.outputs.base import Files, Unlike


@dataclass(frozen=True)
class CaptionFile:
    """The captions in one format, at the pace of files where the piece has one."""

    kind: OutputKind

    def plan(self, order: Order) -> str:
        """See Output."""
        return f"{order.stem}.{self.kind}"

    def make(
        self, order: Order, out: Path, files: Files, progress: Callable[[float], None]
    ) -> None:
        """See Output."""
        text = caption_text(self.kind, order.cues, order.piece)
        out.write_text(text, encoding="utf-8", newline="")

    def verify(self, order: Order, made: Path) -> None:
        """Read by our own reader, the file has as many captions as were written; what no reader is for is
        what was written."""
        text = made.read_bytes().decode()
        if self.kind not in READERS:
            if text != caption_text(self.kind, order.cues, order.piece):
                raise Unlike(self.plan(order), "it is not what was written")
            return
        found = len(registry.read(text).captions)
        wanted = len(_captions(order.cues, order.piece))
        if found != wanted:
            raise Unlike(self.plan(order), f"it reads as {found} captions instead of {wanted}")


def caption_text(ending: str, cues: Sequence[Cue], piece: Piece) -> str:
    """A piece's captions as a file of one format, by its ending."""
    return FORMATS[ending](_captions(cues, piece), piece.timeline.duration_us)


def _captions(cues: Sequence[Cue], piece: Piece) -> list[Caption]:
    if piece.file_pace is not None:
        lined = file_captions(
            cues, piece.file_pace, piece.timeline, piece.frames, named=piece.show_speakers
        )
        cues = [cue for cue, _ in lined]
        lines = [list(broken) for _, broken in lined]
    else:
        lines = caption_lines(piece.standing.shown(cues), piece.finish, piece.size, font_book())
    captions = [
        Caption(cue.start_us, cue.end_us, tuple(broken), cue.words)
        for cue, broken in zip(cues, lines, strict=True)
    ]
    if piece.show_speakers:
        captions = [
            replace(caption, speaker=speaker_of(cue), turn=name is not None)
            for caption, cue, name in zip(captions, cues, turns(cues), strict=True)
        ]
    return captions
