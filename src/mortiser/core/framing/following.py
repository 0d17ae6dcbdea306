"""Whom a frame follows: the face that is meant, one that was chosen, whoever speaks, or a box drawn by hand."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mortiser.core.editing.timeline import Clip
from mortiser.core.framing.shape import Chosen, Framing
from mortiser.core.framing.subject import LOOK_US, Face, Track, Tracks


@dataclass(frozen=True)
class Turn:
    """Somebody speaks in ``[start_us, end_us)`` of a source."""

    start_us: int
    end_us: int
    speaker: str


def followed(
    framing: Framing, tracks: Tracks, clip: Clip, turns: Sequence[Turn] = ()
) -> Track | None:
    """Who is followed in a clip; None where nobody is known."""
    if framing.who == "speaker":
        speaking = _speaking(framing, tracks, clip, turns)
        if speaking is not None:
            return speaking
    for one in framing.chosen:
        if one.source_id == clip.source_id:
            found = nearest(tracks, one)
            if found is not None and _is_seen(found, clip):
                return found
    return _meant(tuple(track for track in tracks if not track.drawn), clip)


def nearest(tracks: Tracks, chosen: Chosen) -> Track | None:
    """The track that is nearest to a point of the picture at a moment of its source."""
    look = chosen.at_us / LOOK_US
    away = [
        (float(np.hypot(x - chosen.x, y - chosen.y)), number)
        for number, track in enumerate(tracks)
        for x, y in [place_at(track, look)]
        if track.looks[0] - 2 <= look <= track.looks[-1] + 2
    ]
    return tracks[min(away)[1]] if away else None


def place_at(track: Track, look: float) -> tuple[float, float]:
    """Where a track's face is at a (part of a) look: between looks in a straight line."""
    return (
        float(np.interp(look, track.looks, [face.x for face in track.faces])),
        float(np.interp(look, track.looks, [face.y for face in track.faces])),
    )


def _looks(clip: Clip) -> tuple[int, int]:
    return clip.start_us // LOOK_US, clip.end_us // LOOK_US


def _is_seen(track: Track, clip: Clip) -> bool:
    first, last = _looks(clip)
    return track.looks[0] <= last and track.looks[-1] >= first


def _meant(tracks: Tracks, clip: Clip) -> Track | None:
    """Who is meant most likely of those that are seen in a clip."""
    first, last = _looks(clip)
    seen = {
        number: sum(first <= look <= last for look in track.looks)
        for number, track in enumerate(tracks)
    }
    best = max(seen, key=lambda number: (seen[number], -number), default=None)
    return tracks[best] if best is not None and seen[best] else None


def _speaking(framing: Framing, tracks: Tracks, clip: Clip, turns: Sequence[Turn]) -> Track | None:
    """The faces of those who speak, one after another; each stays until another one begins."""
    places = {
        seat.speaker: found
        for seat in framing.seats
        if seat.source_id == clip.source_id and (found := nearest(tracks, seat)) is not None
    }
    known = [turn for turn in turns if turn.speaker in places and turn.start_us < clip.end_us]
    if not known:
        return None
    first, last = _looks(clip)
    starts = [turn.start_us // LOOK_US for turn in known]
    faces: list[Face] = []
    looks = range(first, max(last, first) + 1)
    for look in looks:
        who = known[max(0, int(np.searchsorted(starts, look, side="right")) - 1)].speaker
        track = places[who]
        x, y = place_at(track, look)
        faces.append(track.faces[0].model_copy(update={"x": x, "y": y}))
    return Track(looks=tuple(looks), faces=tuple(faces))
