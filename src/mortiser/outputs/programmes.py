"""The programme of a piece: its clips, recordings and captions as they are played."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction

from mortiser.core.frame import BACKDROP_FPS, even_size
from mortiser.core.order import OrderedSource
from mortiser.core.piece import Piece
from mortiser.core.scene import SceneReel
from mortiser.core.scene.layered import layer_reels
from mortiser.core.speakers import with_names
from mortiser.core.words import Cue
from mortiser.fonts import font_book
from mortiser.outputs.base import Files
from mortiser.render.programme import Programme, Recording


def painted(piece: Piece, cues: Sequence[Cue]) -> list[Cue]:
    """All captions of a piece with what stands for their speakers, and their names where shown."""
    dressed = piece.standing.shown(cues)
    return with_names(dressed) if piece.show_speakers else dressed


def programme_of(
    piece: Piece, shown: Sequence[Cue], sources: Sequence[OrderedSource], files: Files
) -> Programme:
    """What is played of a piece with captions (in time order) as they are painted."""
    size = even_size(*piece.size)
    rate = Fraction(piece.frames.rate).limit_denominator(1001) if piece.frames.rate else None
    return Programme(
        piece.timeline,
        {one.id: _recording(one, files) for one in sources},
        size,
        SceneReel(shown, piece.worn, size, font_book()),
        layer_reels(piece, shown, size, font_book()),
        rate or Fraction(BACKDROP_FPS),
        framings=piece.framings,
    )


def _recording(source: OrderedSource, files: Files) -> Recording:
    sound = files(source.sound) if source.sound else None
    track = 0 if sound else source.audio_track
    return Recording(files(source.path), source.duration_us, track, sound)
