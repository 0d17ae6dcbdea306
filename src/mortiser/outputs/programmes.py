"""The programme of a piece: its clips, recordings and captions as they are played."""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

from mortiser.core.frame import BACKDROP_FPS, even_size
from mortiser.core.order import OrderedSource
from mortiser.core.piece import Piece
from mortiser.core.scene import SceneReel
from mortiser.core.scene.layered import layer_reels
from mortiser.core.scene.waves import NOT_HEARD, Heard
from mortiser.core.speakers import with_names
from mortiser.core.words import Cue
from mortiser.fonts import font_book
from mortiser.media.peaks import compute_peaks, peaks_beside, piece_sound, save_peaks, track_key
from mortiser.media.sound import stream_sound
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
    heard = _heard(piece, sources, files)
    rate = Fraction(piece.frames.rate).limit_denominator(1001) if piece.frames.rate else None
    return Programme(
        piece.timeline,
        {one.id: _recording(one, files) for one in sources},
        size,
        SceneReel(shown, piece.worn, size, font_book()),
        layer_reels(piece, shown, size, font_book(), heard),
        rate or Fraction(BACKDROP_FPS),
        framings=piece.framings,
    )


def _heard(piece: Piece, sources: Sequence[OrderedSource], files: Files) -> Heard:
    """The sound that waveforms are drawn of; its peaks are made where there are none yet."""
    if not piece.draws_sound:
        return NOT_HEARD
    used = {clip.source_id for clip in piece.timeline.clips}
    with TemporaryDirectory() as folder:
        peaks: dict[int, Path] = {}
        for one in sources:
            if one.id not in used:
                continue
            recording = _recording(one, files)
            key = one.sound_key or track_key(one.audio_track)
            kept = peaks_beside(files(one.path), key)
            if not kept.exists():
                kept = Path(folder) / f"{one.id}.npz"
                sound = stream_sound(recording.heard, recording.audio_track)
                save_peaks(kept, compute_peaks(sound))
            peaks[one.id] = kept
        return piece_sound(peaks, piece.timeline, 0, piece.timeline.duration_us)


def _recording(source: OrderedSource, files: Files) -> Recording:
    sound = files(source.sound) if source.sound else None
    track = 0 if sound else source.audio_track
    return Recording(files(source.path), source.duration_us, track, sound)
