"""How the picture of each clip lies in the frame, moment by moment."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from mortiser.core.common.easing import eased
from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.following import Turn, followed
from mortiser.core.framing.placing import Size, is_plain, scale_of, snapped
from mortiser.core.framing.shape import Backdrop, Framing, Move, Shape
from mortiser.core.framing.subject import LOOK_US, FacePath, Track, Tracks, path_of

RAMP_US = SECOND // 5
"""How long a quick move takes, each way."""
BACK_US = SECOND * 2 // 5
"""How long it takes to come back from a slow move in, where the clip goes on."""
ROOM = 0.035
"""How far a face may go from its point before the frame follows calmly, in the frame's width."""
WHOLE = Framing()
NOBODY: Mapping[int, Tracks] = {}
NO_TURNS: Mapping[int, Sequence[Turn]] = {}


@dataclass(frozen=True)
class ClipFraming:
    """The framing of a clip: where it rests, and the moves over it (source time)."""

    framing: Framing = WHOLE
    backdrop: Backdrop = Backdrop()
    moves: tuple[Move, ...] = ()
    path: FacePath | None = None
    """Where a face that is followed lies in the picture."""
    lies: tuple[float, float] | None = None
    """Where it lies all the time, where that is one place and ``path`` is None therefore."""
    reach: tuple[float, float] = (1.0, 1.0)
    """How much of the picture's width and height the frame spans at the framing's zoom."""

    @property
    def rests(self) -> bool:
        """Whether it is the same at all moments."""
        return not self.moves and self.path is None

    def at(self, source_us: int) -> Framing:
        """The framing at a moment of the source."""
        zoom = 1.0
        for move in self.moves:
            zoom = max(zoom, _zoom(move, source_us))
        values: dict[str, float] = {}
        if zoom != 1.0:
            values["zoom"] = self.framing.zoom * zoom
        if self.path is not None:
            values |= _aimed(self.framing, self.path.at(source_us), self.reach, zoom)
        return self.framing.model_copy(update=values) if values else self.framing

    def during(self, start_us: int, end_us: int) -> ClipFraming:
        """What of it counts in a stretch of the source."""
        near = tuple(m for m in self.moves if m.start_us < end_us and _over_us(m) > start_us)
        path = self.path.during(start_us, end_us) if self.path else None
        if path is None or near or not path.rests:
            return replace(self, moves=near, path=path)
        # The face lies in one place all the time, and nothing moves about it.
        place = path.xs[0], path.ys[0]
        framing = self.framing.model_copy(update=_aimed(self.framing, place, self.reach, 1.0))
        return replace(self, framing=framing, moves=(), path=None, lies=place)

    @property
    def digest(self) -> str:
        """The same for what looks the same."""
        parts = [self.framing, self.backdrop, *self.moves]
        said = ";".join(part.model_dump_json() for part in parts) + repr(self.path)
        return hashlib.sha256(said.encode()).hexdigest()[:16]

    def is_plain(self, picture: Size, frame: Size) -> bool:
        """Whether the frame shows the picture as it is all the time."""
        return self.rests and is_plain(self.framing, picture, frame)


def clip_framings(
    shape: Shape,
    timeline: Timeline,
    pictures: Mapping[int, Size],
    subjects: Mapping[int, Tracks] = NOBODY,
    turns: Mapping[int, Sequence[Turn]] = NO_TURNS,
) -> tuple[ClipFraming, ...]:
    """The framing of each clip in a shape. ``pictures`` are the sizes of the sources' pictures, upright;
    a source without one is not among them. ``subjects`` are the faces that are known, ``turns`` who speaks when."""
    return tuple(
        _framing_of(
            shape,
            clip,
            index,
            pictures.get(clip.source_id),
            subjects.get(clip.source_id, ()),
            turns.get(clip.source_id, ()),
        )
        for index, clip in enumerate(timeline.clips)
    )


def _framing_of(
    shape: Shape,
    clip: Clip,
    index: int,
    picture: Size | None,
    tracks: Tracks,
    turns: Sequence[Turn],
) -> ClipFraming:
    framing = framing_of(shape, clip)
    if shape.alternate > 1 and index % 2:
        framing = framing.model_copy(update={"zoom": framing.zoom * shape.alternate})
    moves = tuple(
        move
        for move in shape.moves
        if move.source_id == clip.source_id
        and move.start_us < clip.end_us
        and move.end_us > clip.start_us
    )
    if picture and framing.follow != "off" and not framing.quarters:
        track = followed(framing, tracks, clip, turns)
        if track is not None:
            return _following(shape, clip, framing, moves, picture, track)
    if not moves and picture:
        framing = snapped(framing, picture, shape.size)
    return ClipFraming(framing, shape.backdrop, moves)


def _following(
    shape: Shape,
    clip: Clip,
    framing: Framing,
    moves: tuple[Move, ...],
    picture: Size,
    track: Track,
) -> ClipFraming:
    scale = scale_of(framing, picture, shape.size)
    reach = shape.width / (scale * picture[0]), shape.height / (scale * picture[1])
    room = ROOM if framing.follow == "calm" else 0.0
    # Both are counted by the frame's width: what is near is near in both directions.
    zone = room * reach[0], room * reach[1] * shape.width / shape.height
    holds = tuple(
        (one.at_us // LOOK_US, one.x, one.y)
        for one in shape.holds
        if one.source_id == clip.source_id and clip.start_us <= one.at_us < clip.end_us
    )
    path = path_of(track, clip.start_us, clip.end_us, zone, holds)
    found = ClipFraming(framing, shape.backdrop, moves, path, reach=reach)
    if path.rests and not moves:
        resting = found.during(clip.start_us, clip.end_us)
        return replace(resting, framing=snapped(resting.framing, picture, shape.size))
    return found


def _aimed(
    framing: Framing, face: tuple[float, float], reach: tuple[float, float], zoom: float
) -> dict[str, float]:
    """What of the picture lies in the middle, so that a face lies at its point of the frame."""
    x, y = (1 - face[0] if framing.mirror else face[0]), face[1]
    return {
        "x": min(1.0, max(0.0, x - (framing.px - 0.5) * reach[0] / zoom)),
        "y": min(1.0, max(0.0, y - (framing.py - 0.5) * reach[1] / zoom)),
    }


def framing_of(shape: Shape, clip: Clip) -> Framing:
    """What was decided about a clip."""
    own = [one.framing for one in shape.framed if one.holds(clip.source_id, clip.middle_us)]
    return own[-1] if own else shape.framing


def recorded(
    framings: Sequence[ClipFraming],
    timeline: Timeline,
    pictures: Mapping[int, Size],
    frame: Size,
) -> bool:
    """Whether all clips show their pictures as they were recorded; those without one, a plain backdrop."""
    return all(
        framing.is_plain(pictures[clip.source_id], frame)
        if clip.source_id in pictures
        else framing.backdrop.kind != "picture"
        for framing, clip in zip(framings, timeline.clips, strict=True)
    )


def _over_us(move: Move) -> int:
    """When nothing of a move is left."""
    return move.end_us + (BACK_US if move.way == "in" else 0)


def _zoom(move: Move, at_us: int) -> float:
    """What a move zooms by at a moment."""
    if not move.start_us <= at_us < _over_us(move):
        return 1.0
    more = move.zoom - 1
    length = move.end_us - move.start_us
    if move.way == "quick":
        ramp = max(1, min(RAMP_US, length // 2))
        return 1 + more * eased(min(at_us - move.start_us, move.end_us - at_us) / ramp)
    done = (at_us - move.start_us) / length
    if move.way == "out":
        return 1 + more * (1 - eased(done))
    if done > 1:
        return 1 + more * (1 - eased((at_us - move.end_us) / BACK_US))
    return 1 + more * eased(done)
