"""The plan of a piece: its clips, recordings and captions as they are played."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from tempfile import TemporaryDirectory

from mortiser.core.common.errors import BadInput
from mortiser.core.delivery.order import OrderedSource, PieceStretch
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.frame import BACKDROP_FPS, even_size
from mortiser.core.project.output import VideoFile
from mortiser.core.project.piece import Piece, ShapedPiece
from mortiser.core.scene import SceneReader
from mortiser.core.scene.layered import layer_readers
from mortiser.core.scene.waves import NOT_HEARD, Heard
from mortiser.core.transcript.speakers import with_names
from mortiser.core.transcript.words import Cue
from mortiser.fonts import font_book
from mortiser.media.peaks import compute_peaks, peaks_beside, piece_sound, save_peaks, track_key
from mortiser.media.sound import stream_sound
from mortiser.outputs.base import Files
from mortiser.render.plan import Recording, RenderPlan


def painted(piece: Piece, cues: Sequence[Cue]) -> list[Cue]:
    """All captions of a piece with what stands for their speakers, and their names where shown."""
    dressed = piece.settings.standing.shown(cues)
    return with_names(dressed) if piece.settings.show_speakers else dressed


def plan_of(
    piece: ShapedPiece,
    shown: Sequence[Cue],
    sources: Sequence[OrderedSource],
    files: Files,
    *,
    layers: bool = True,
    video: VideoFile | None = None,
    stretch: PieceStretch | None = None,
) -> RenderPlan:
    """What is played of a piece with captions (in time order) as they are painted: at the size and the rate of
    a video, where one is named, and of a stretch alone."""
    size = even_size(*piece.size) if video is None else video.size_of(piece.size)
    heard = _heard(piece, sources, files)
    own = piece.facts.frames.rate or BACKDROP_FPS
    rate = Fraction(own if video is None else video.rate_of(own)).limit_denominator(1001)
    timeline, framings = _within(piece, stretch)
    start_us, end_us = (
        (stretch.start_us, stretch.end_us) if stretch else (0, piece.timeline.duration_us)
    )
    return RenderPlan(
        timeline,
        {one.id: _recording(one, files) for one in sources},
        size,
        SceneReader(shown, piece.worn, size, font_book()),
        layer_readers(piece, shown, size, font_book(), heard) if layers else (),
        rate,
        own_times=video is None or rate == Fraction(own).limit_denominator(1001),
        framings=framings,
        assembled=piece.assembled.within(start_us, end_us),
        first_lane=piece.timeline.placed.index(piece.timeline.playing(start_us)) % 2,
        shown_from_us=stretch.start_us if stretch else 0,
    )


def _within(
    piece: ShapedPiece, stretch: PieceStretch | None
) -> tuple[Timeline, Sequence[ClipFraming]]:
    """What plays of a piece in a stretch of it, and how each clip's picture lies."""
    if stretch is None:
        return piece.timeline, piece.framings
    clips: list[Clip] = []
    framings: list[ClipFraming] = []
    for placed, framing in zip(piece.timeline.placed, piece.framings, strict=True):
        start = max(stretch.start_us, placed.at_us)
        end = min(stretch.end_us, placed.end_us)
        if start < end:
            first = placed.clip.start_us + start - placed.at_us
            clips.append(replace(placed.clip, start_us=first, end_us=first + end - start))
            framings.append(framing)
    if not clips:
        raise BadInput("The stretch lies beyond the end of the piece. Choose another.")
    return Timeline(clips), framings


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
