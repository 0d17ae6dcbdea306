"""Layers as parts of the scene: painters play them like captions, with numbers below zero.

A layer is told apart from captions by its id: minus its number.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from mortiser.core.finish.changes import changed
from mortiser.core.finish.model import Finish
from mortiser.core.finish.motions import Emphasis
from mortiser.core.layer import PLACES, Layer
from mortiser.core.layout.fonts import FontBook
from mortiser.core.motion.layers import Layer as Motion
from mortiser.core.motion.track import Key, Track, fixed
from mortiser.core.piece import Piece
from mortiser.core.scene.building import build_scene
from mortiser.core.scene.model import RectItem, SceneCue
from mortiser.core.shape import LayerPlace
from mortiser.core.speakers import speaker_of
from mortiser.core.time import SECOND
from mortiser.core.words import Cue, Shown


@dataclass(frozen=True)
class LayerReel:
    """One layer of a piece at any moment; ``cues`` are the piece's captions, in time order."""

    layer: Layer
    piece: Piece
    cues: Sequence[Cue]
    size: tuple[int, int]
    fonts: FontBook

    def at(self, at_us: int) -> list[SceneCue]:
        """What of it shows at a moment of the piece."""
        return [one for one in self.between(at_us, at_us + 1) if one.start_us <= at_us < one.end_us]

    def between(self, from_us: int, to_us: int) -> Iterator[SceneCue]:
        """What of it shows in ``[from_us, to_us)`` of the piece."""
        start, end = span_of(self.layer, self.piece)
        if start >= end or start >= to_us or end <= from_us:
            return
        place = self.piece.shape.places.get(self.layer.id, PLACES[self.layer.kind])
        match self.layer.kind:
            case "headline":
                yield from self._letters(self.layer.text, place, start, end)
            case "bar" | "plate":
                yield self._boxes(place, start, end)
            case "clock":
                first = max(start, from_us) // SECOND
                for number in range(first, -(-min(end, to_us) // SECOND)):
                    text = f"{number // 60}:{number % 60:02d}"
                    begin, over = max(start, number * SECOND), min(end, (number + 1) * SECOND)
                    if begin < over:
                        yield from self._letters(text, place, begin, over, still=True)
            case "speaker":
                for name, begin, over in _turns(self.cues):
                    if begin < to_us and over > from_us and begin < end and over > start:
                        yield from self._letters(name, place, max(begin, start), min(over, end))

    def _letters(
        self, text: str, place: LayerPlace, start: int, end: int, *, still: bool = False
    ) -> Iterator[SceneCue]:
        words = tuple(
            Shown(word, start, end, seam="line" if last and more else "free")
            for line, more in _lines(text)
            for word, last in _marked(line.split())
        )
        if not words:
            return
        finish = _plain(self.layer.finish or self.piece.worn, place, still=still)
        cue = Cue(0, words, start, end)
        (made,) = build_scene([cue], finish, self.size, self.fonts).cues
        yield replace(made, id=-self.layer.id, layers=(*self._opacity, *made.layers))

    def _boxes(self, place: LayerPlace, start: int, end: int) -> SceneCue:
        width, height = place.width * self.size[0], place.height * min(self.size)
        left = place.x * self.size[0] - width / 2
        top = place.y * self.size[1] - height / 2
        radius = self.layer.radius * min(width, height)
        whole: Track = fixed(left, top, width, height)
        rects = [RectItem(whole, radius, self.layer.colour)]
        if self.layer.kind == "bar":
            grown: Track = (
                Key(start, (left, top, min(width, height), height)),
                Key(end, (left, top, width, height)),
            )
            rects = [
                RectItem(whole, radius, self.layer.under),
                RectItem(grown, radius, self.layer.colour),
            ]
        return SceneCue(
            -self.layer.id, start, end, start, height, self._opacity, (), tuple(rects), (), ()
        )

    @property
    def _opacity(self) -> tuple[Motion, ...]:
        if self.layer.opacity == 1:
            return ()
        return (Motion((0.0, 0.0), opacity=fixed(self.layer.opacity)),)


def layer_reels(
    piece: Piece, cues: Sequence[Cue], size: tuple[int, int], fonts: FontBook
) -> list[LayerReel]:
    """All layers of a piece in the order they are painted: below its captions."""
    return [LayerReel(layer, piece, cues, size, fonts) for layer in piece.layers]


def span_of(layer: Layer, piece: Piece) -> tuple[int, int]:
    """From when to when a layer shows in the piece (µs); nothing where its stretch is cut away."""
    if layer.during is None:
        return 0, piece.timeline.duration_us
    edges: list[int] = []
    for placed in piece.timeline.placed:
        clip = placed.clip
        start = max(clip.start_us, layer.during.start_us)
        end = min(clip.end_us, layer.during.end_us)
        if clip.source_id == layer.during.source_id and start < end:
            edges += [placed.to_piece(start), placed.to_piece(end)]
    return (min(edges), max(edges)) if edges else (0, 0)


def _plain(finish: Finish, place: LayerPlace, *, still: bool) -> Finish:
    """A finish for words that nobody says: all of them alike, where the layer stands."""
    # What comes with each word as it is said comes with the layer.
    entrance = finish.motion.entrance.model_copy(update={"when": "start"})
    motion = finish.motion.model_copy(update={"emphasis": Emphasis(), "entrance": entrance})
    if still:
        motion = type(motion)()
    alike = finish.model_copy(
        update={
            "ahead": finish.past,
            "live": finish.past,
            "plank": None,
            "pattern": None,
            "motion": motion,
        }
    )
    return changed(
        alike,
        {
            "size": place.size,
            "max_lines": 6,
            "place.across": "centre",
            "place.down": "middle",
            "place.dx": max(-1.0, min(1.0, place.x - 0.5)),
            "place.dy": max(-1.0, min(1.0, place.y - 0.5)),
            "place.width": max(0.1, min(1.0, place.width)),
            "place.turn": place.turn,
        },
    )


def _turns(cues: Sequence[Cue]) -> Iterator[tuple[str, int, int]]:
    """Who speaks from when to when."""
    name: str | None = None
    start = end = 0
    for cue in cues:
        speaker = speaker_of(cue)
        if speaker != name:
            if name:
                yield name, start, min(end, cue.start_us) if end > cue.start_us else end
            name, start = speaker, cue.start_us
        end = cue.end_us
    if name:
        yield name, start, end


def _lines(text: str) -> Iterator[tuple[str, bool]]:
    """The lines of a text, and whether another one follows."""
    lines = [line for line in text.splitlines() if line.strip()]
    for number, line in enumerate(lines, start=1):
        yield line, number < len(lines)


def _marked(words: Sequence[str]) -> Iterator[tuple[str, bool]]:
    for number, word in enumerate(words, start=1):
        yield word, number == len(words)
