"""The picture that shows at a moment of a piece: which point of it lies where, and who is in it."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass

from mortiser.core.common.errors import BadInput
from mortiser.core.editing.timeline import Clip
from mortiser.core.framing.clip_framing import framing_of
from mortiser.core.framing.following import followed, nearest, place_at
from mortiser.core.framing.placing import Size, from_frame, lying
from mortiser.core.framing.shape import Chosen, Framing
from mortiser.core.framing.subject import LOOK_US, Tracks
from mortiser.core.project.piece import ShapedPiece
from mortiser.core.style.layout.rect import Rect

SAME = 0.02
"""Two places that are nearer than this (shares of the picture) are of one face."""


@dataclass(frozen=True)
class PictureMoment:
    """The picture of a clip at a moment of its source, and how it lies in the frame."""

    clip: Clip
    source_us: int
    framing: Framing
    picture: Size
    frame: Size

    @property
    def source_id(self) -> int:
        """The source that it is of."""
        return self.clip.source_id

    def at(self, x: float, y: float) -> Chosen:
        """What lies at a point of the frame (shares of its sides)."""
        return self.chosen(*from_frame(self.framing, self.picture, self.frame, x, y))

    def chosen(self, x: float, y: float) -> Chosen:
        """A point of the picture, as far as it reaches."""
        x, y = (min(1.0, max(0.0, value)) for value in (x, y))
        return Chosen(source_id=self.source_id, at_us=self.source_us, x=x, y=y)

    def lies(self, x: float, y: float, width: float, height: float) -> Rect:
        """Where a part of the picture (its middle and size) lies, in shares of the frame."""
        left, top, right, low = lying(
            self.framing, self.picture, self.frame, (x, y), (width, height)
        )
        wide, high = self.frame
        return Rect(left / wide, top / high, right / wide, low / high)

    def drawn(
        self, left: float, top: float, width: float, height: float
    ) -> tuple[float, float, float, float]:
        """What of the picture a box over the frame holds: its middle and size, in shares of the picture."""
        first, last = self.at(left, top), self.at(left + width, top + height)
        middle = self.chosen((first.x + last.x) / 2, (first.y + last.y) / 2)
        return middle.x, middle.y, abs(last.x - first.x), abs(last.y - first.y)


@dataclass(frozen=True)
class FaceChoice:
    """A face (or a box that is followed) that can be chosen: where it lies in the frame, the point it is chosen
    by, whether it is followed now, and who sits there, if somebody said so."""

    box: Rect
    point: Chosen
    followed: bool
    speaker: str


def picture_at(piece: ShapedPiece, at_us: int) -> PictureMoment | None:
    """The picture at a moment of a piece; None where there is none."""
    placed = piece.timeline.playing(at_us)
    picture = piece.facts.pictures.get(placed.clip.source_id)
    if picture is None:
        return None
    source_us = placed.to_source(at_us)
    framing = piece.framings[piece.timeline.placed.index(placed)].at(source_us)
    return PictureMoment(placed.clip, source_us, framing, picture, piece.size)


def need_picture_at(piece: ShapedPiece, at_us: int) -> PictureMoment:
    """The same. Raises BadInput where there is none."""
    found = picture_at(piece, at_us)
    if found is None:
        raise BadInput("There is no picture at that moment.")
    return found


def faces_at(piece: ShapedPiece, known: Mapping[int, Tracks], at_us: int) -> Iterator[FaceChoice]:
    """The faces (and boxes) of those ``known`` of each source that can be chosen at a moment of a piece."""
    moment = picture_at(piece, at_us)
    if moment is None:
        return
    tracks = known.get(moment.source_id, ())
    framing = framing_of(piece.shape, moment.clip)
    turns = piece.facts.turns.get(moment.source_id, ())
    mine = followed(framing, tracks, moment.clip, turns) if framing.follow != "off" else None
    look = moment.source_us / LOOK_US
    here = place_at(mine, look) if mine else None
    seats = {
        id(nearest(tracks, seat)): seat.speaker
        for seat in framing.seats
        if seat.source_id == moment.source_id
    }
    for track in tracks:
        if not track.looks[0] - 1 <= look <= track.looks[-1] + 1:
            continue
        x, y = place_at(track, look)
        yield FaceChoice(
            moment.lies(x, y, track.faces[0].width, track.faces[0].height),
            moment.chosen(x, y),
            here is not None and math.dist(here, (x, y)) < SAME,
            seats.get(id(track), ""),
        )


def followed_path(piece: ShapedPiece) -> Iterator[tuple[int, float, float]]:
    """Where what is followed lies in the picture, look by look: the moment of the piece (µs), across, down."""
    for placed, framing in zip(piece.timeline.placed, piece.framings, strict=True):
        clip = placed.clip
        if framing.lies is not None:
            for at_us in (placed.at_us, placed.at_us + clip.length_us - 1):
                yield at_us, *framing.lies
        if framing.path is None:
            continue
        first, last = clip.start_us // LOOK_US + 1, clip.end_us // LOOK_US
        for at_us in (clip.start_us, *(look * LOOK_US for look in range(first, last + 1))):
            if at_us < clip.end_us:
                x, y = framing.path.at(at_us)
                yield placed.to_piece(at_us), round(x, 4), round(y, 4)
