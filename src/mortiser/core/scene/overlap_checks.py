"""Captions and layers that are in the way, or have something in theirs: guides, edges, faces. With what would
help."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from mortiser.core.captions.checks import SAFE
from mortiser.core.framing.guides import Area
from mortiser.core.framing.layer import LETTERS
from mortiser.core.framing.placing import lying
from mortiser.core.framing.subject import LOOK_US, Tracks
from mortiser.core.project.piece import ShapedPiece
from mortiser.core.scene.layered import LayerReader, span_of
from mortiser.core.style.finish.changes import changed, dressed, look_of
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.layout.rect import Rect
from mortiser.core.transcript.words import Cue

Kind = Literal["guide", "edge", "face"]
LEAST = 0.06
"""Less of a face or of a caption than this is not in the way."""
STEP = 0.01
"""Other places are tried in steps of this share of the frame's height."""
LOOKED = 9
"""Moments at which a layer is looked at."""
MOST_ALONE = 200
"""Captions that another place is sought for each alone."""
SIZES = (1.0, 0.88, 0.76)
"""Sizes that are tried, the largest first."""
LayOut = Callable[[Sequence[Cue], Finish], list[Rect]]
"""The pixels that captions cover at rest, in a finish."""


@dataclass(frozen=True)
class Trouble:
    """A caption and what is the matter with its place; ``alone`` are settings that would help it alone, where
    any that were tried do."""

    kind: Kind
    cue_id: int
    at_us: int
    about: str
    alone: Mapping[str, float] | None = None


@dataclass(frozen=True)
class LayerTrouble:
    """A layer and what is the matter with its place; ``y`` is another one where nothing is."""

    kind: Kind
    layer_id: int
    at_us: int
    about: str
    y: float | None


@dataclass(frozen=True)
class Help:
    """Settings of captions in this shape that were tried, and how many would still be in the way."""

    changes: Mapping[str, float]
    left: int


@dataclass(frozen=True)
class _Placed:
    """A caption, where it stands, the faces it shows over, and whether it has a place of its own."""

    cue: Cue
    reach: Rect
    faces: tuple[Rect, ...]
    own: bool


class PlacedCaptions:
    """The captions of a piece (as they are painted, in time order) where they stand in its shape, among
    the areas of a guide and the faces of its pictures."""

    def __init__(
        self,
        piece: ShapedPiece,
        cues: Sequence[Cue],
        areas: Sequence[Area],
        faces: Mapping[int, Tracks],
        lay: LayOut,
    ) -> None:
        self._piece = piece
        self._cues = cues
        self._areas = areas
        self._lay = lay
        seen = _Seen(piece, faces)
        self._faces = [seen.during(cue) for cue in cues]
        self._now = self._placed(piece.worn)

    def troubles(self) -> list[Trouble]:
        """What is the matter with them."""
        found: list[Trouble] = []
        helped = 0
        for placed in self._now:
            matters = _matters(placed.faces, placed.reach, self._areas, self._piece.size)
            if not matters:
                continue
            alone = self._alone(placed) if helped < MOST_ALONE else None
            helped += 1
            cue = placed.cue
            found += [Trouble(kind, cue.id, cue.start_us, about, alone) for kind, about in matters]
        return found

    def _alone(self, placed: _Placed) -> Mapping[str, float] | None:
        """Where nothing is the matter with one caption."""
        size = self._piece.size
        own = dressed(self._piece.worn, placed.cue.look).place.dy
        for by in _ways(own):
            if not _matters(placed.faces, placed.reach.moved(0, by * size[1]), self._areas, size):
                return {"place.dy": round(own + by, 4)}
        return None

    def helped(self) -> Help | None:
        """Another place, or a smaller size too, with which fewest are in the way; None where nothing that
        was tried is better than what there is."""
        finish, size = self._piece.worn, self._piece.size
        least = _count(self._now, 0.0, self._areas, size)
        best: Help | None = None
        for share in SIZES:
            changes: dict[str, float] = {}
            placed = self._now
            if share < 1:
                changes = {"size": round(finish.size * share, 4)}
                placed = self._placed(changed(finish, changes))
            count, by = _elsewhere(placed, self._areas, size, finish.place.dy)
            if count < least:
                least = count
                moved = {"place.dy": round(finish.place.dy + by, 4)} if by else {}
                best = Help({**changes, **moved}, count)
            if not least:
                break
        return best

    def _placed(self, finish: Finish) -> list[_Placed]:
        """Each in a finish."""
        reaches = self._lay(self._cues, finish)
        return [
            _Placed(cue, reach, faces, any(path.startswith("place") for path in look_of(cue.look)))
            for cue, reach, faces in zip(self._cues, reaches, self._faces, strict=True)
        ]


def _elsewhere(
    placed: Sequence[_Placed], areas: Sequence[Area], size: tuple[int, int], dy: float
) -> tuple[int, float]:
    """The fewest that are in the way at another height, and how far that is; the nearest of several."""
    counts = [(_count(placed, by * size[1], areas, size), by) for by in _ways(dy)]
    return min(counts, key=lambda one: one[0])


def _ways(dy: float) -> list[float]:
    """How far things may be moved from a height, the nearest first."""
    steps = (round(step * STEP, 4) for step in range(-90, 91) if abs(dy + step * STEP) <= 1)
    return sorted(steps, key=abs)


def layers_in_the_way(
    readers: Sequence[LayerReader], areas: Sequence[Area], faces: Mapping[int, Tracks]
) -> list[LayerTrouble]:
    """The layers of a piece that lie under a guide or over a face, or whose letters are too near the edge."""
    found: list[LayerTrouble] = []
    if not readers:
        return found
    seen = _Seen(readers[0].piece, faces)
    for reader in readers:
        start, end = span_of(reader.layer, reader.piece, reader.cues)
        reach = reader.covers
        if reach is None or start >= end:
            continue
        over = tuple(face for at_us in _spread(start, end) for face in seen.at(at_us))
        matters = [
            one
            for one in _matters(over, reach, areas, reader.size)
            if one[0] != "edge" or reader.layer.kind in LETTERS
        ]
        y = _free_height(over, reach, areas, reader) if matters else None
        found += [LayerTrouble(kind, reader.layer.id, start, about, y) for kind, about in matters]
    return found


def _spread(start_us: int, end_us: int) -> list[int]:
    return [start_us + (end_us - 1 - start_us) * n // (LOOKED - 1) for n in range(LOOKED)]


def _free_height(
    faces: Sequence[Rect], reach: Rect, areas: Sequence[Area], reader: LayerReader
) -> float | None:
    y = reader.place.y
    for by in _ways(y - 0.5):
        moved = reach.moved(0, by * reader.size[1])
        inside = moved.top >= 0 and moved.bottom <= reader.size[1]
        if inside and not _matters(faces, moved, areas, reader.size):
            return round(y + by, 4)
    return None


def _count(
    placed: Sequence[_Placed], by: float, areas: Sequence[Area], size: tuple[int, int]
) -> int:
    return sum(
        bool(_matters(one.faces, one.reach if one.own else one.reach.moved(0, by), areas, size))
        for one in placed
    )


def _matters(
    faces: Sequence[Rect], reach: Rect, areas: Sequence[Area], size: tuple[int, int]
) -> list[tuple[Kind, str]]:
    found: list[tuple[Kind, str]] = []
    width, height = size
    for area in areas:
        box = Rect.sized(area.x * width, area.y * height, area.width * width, area.height * height)
        if _shared(reach, box) > LEAST * _extent(reach):
            found.append(("guide", f"Under {area.about}."))
    if any(_shared(reach, face) > LEAST * _extent(face) for face in faces):
        found.append(("face", "Over the face."))
    safe = Rect(SAFE * width, SAFE * height, (1 - SAFE) * width, (1 - SAFE) * height)
    if _shared(reach, safe) < 0.999 * _extent(reach):
        found.append(("edge", "Too near the edge."))
    return found


class _Seen:
    """Where faces lie in a piece's frame."""

    def __init__(self, piece: ShapedPiece, faces: Mapping[int, Tracks]) -> None:
        self._piece = piece
        self._framings = piece.framings
        self._places = {placed: at for at, placed in enumerate(piece.timeline.placed)}
        self._faces = {
            source_id: [
                dict(zip(track.looks, track.faces, strict=True))
                for track in tracks
                if not track.drawn
            ]
            for source_id, tracks in faces.items()
        }

    def during(self, cue: Cue) -> tuple[Rect, ...]:
        """At the beginning, the middle and the end of a caption."""
        moments = cue.start_us, (cue.start_us + cue.end_us) // 2, cue.end_us - 1
        return tuple(face for at_us in moments for face in self.at(at_us))

    def at(self, at_us: int) -> list[Rect]:
        """The faces that show at a moment, in frame pixels."""
        placed = self._piece.timeline.playing(at_us)
        clip, source_us = placed.clip, placed.to_source(at_us)
        picture = self._piece.facts.pictures.get(clip.source_id)
        if picture is None:
            return []
        framing = self._framings[self._places[placed]].at(source_us)
        found = []
        for track in self._faces.get(clip.source_id, []):
            face = track.get(source_us // LOOK_US) or track.get(source_us // LOOK_US + 1)
            if face is None:
                continue
            middle, size = (face.x, face.y), (face.width, face.height)
            found.append(Rect(*lying(framing, picture, self._piece.size, middle, size)))
        return found


def _shared(one: Rect, other: Rect) -> float:
    width = min(one.right, other.right) - max(one.left, other.left)
    height = min(one.bottom, other.bottom) - max(one.top, other.top)
    return max(0.0, width) * max(0.0, height)


def _extent(box: Rect) -> float:
    return max(1e-9, box.width * box.height)
