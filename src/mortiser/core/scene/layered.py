"""Layers as parts of the scene: painters play them like captions, with numbers below zero.

A layer is told apart from captions by its id: minus its number.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from math import cos, radians, sin

from mortiser.core.assembly.covering import lies
from mortiser.core.common.time import SECOND
from mortiser.core.framing.layer import (
    PLACES,
    Arrow,
    Bubble,
    Headline,
    Layer,
    Lettered,
    PictureLayer,
    PlateLayer,
    ProgressBar,
    Wave,
    Waveform,
)
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import LayerPlace
from mortiser.core.project.piece import Piece, ShapedPiece
from mortiser.core.scene.building import build_scene
from mortiser.core.scene.drawn import drawn_item
from mortiser.core.scene.model import PictureItem, RectItem, SceneCue
from mortiser.core.scene.waves import NOT_HEARD, Heard, wave_item
from mortiser.core.style.finish.changes import changed
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Emphasis, Exit
from mortiser.core.style.layout.block import lay_out_cue
from mortiser.core.style.layout.fonts import FontBook
from mortiser.core.style.layout.rect import Rect
from mortiser.core.style.motion.entrances import ENTRANCES, Coming
from mortiser.core.style.motion.exits import exit_layer
from mortiser.core.style.motion.layers import MotionLayer as Motion
from mortiser.core.style.motion.layers import kept
from mortiser.core.style.motion.track import Key, Track, fixed
from mortiser.core.transcript.speakers import speaker_of
from mortiser.core.transcript.words import Cue, Shown

SHORTEST_INTRO_US = 1_200_000
"""What comes before the first caption has to last so long to be an introduction."""
COMES_US = 300_000
GOES_US = 250_000
"""How long a layer that is not of letters takes to come and to go."""
FAR = 0.09
"""How far it moves meanwhile, a share of the frame's short side."""


@dataclass(frozen=True)
class LayerReader:
    """One layer of a piece at any moment; ``cues`` are the piece's captions, in time order, ``heard`` its
    sound as far as it is asked for."""

    layer: Layer
    piece: ShapedPiece
    cues: Sequence[Cue]
    size: tuple[int, int]
    fonts: FontBook
    heard: Heard = NOT_HEARD
    _made: dict[tuple[str, int, int], SceneCue | None] = field(
        default_factory=dict, compare=False, repr=False
    )
    """What is laid out already, by its text and times."""

    def at(self, at_us: int) -> list[SceneCue]:
        """What of it shows at a moment of the piece."""
        return [one for one in self.between(at_us, at_us + 1) if one.start_us <= at_us < one.end_us]

    def between(self, from_us: int, to_us: int) -> Iterator[SceneCue]:
        """What of it shows in ``[from_us, to_us)`` of the piece."""
        start, end = span_of(self.layer, self.piece, self.cues)
        if start >= end or start >= to_us or end <= from_us:
            return
        match self.layer.kind:
            case "clock":
                first = max(start, from_us) // SECOND
                for number in range(first, -(-min(end, to_us) // SECOND)):
                    text = f"{number // 60}:{number % 60:02d}"
                    begin, over = max(start, number * SECOND), min(end, (number + 1) * SECOND)
                    if begin < over:
                        yield from self._kept(text, begin, over)
            case "speaker":
                for name, begin, over in _turns(self.cues):
                    if begin < to_us and over > from_us and begin < end and over > start:
                        yield from self._kept(name, max(begin, start), min(over, end))
            case _:
                yield from self._kept(self._own_text, start, end)

    def _kept(self, text: str, start: int, end: int) -> Iterator[SceneCue]:
        key = text, start, end
        if key not in self._made:
            self._made[key] = (
                self._letters(text, start, end)
                if isinstance(self.layer, Lettered)
                else self._figure(start, end)
            )
        made = self._made[key]
        if made is not None:
            yield made

    @property
    def _own_text(self) -> str:
        return self.layer.text if isinstance(self.layer, Headline) else ""

    @property
    def place(self) -> LayerPlace:
        """Where it stands in the shape."""
        return self.piece.shape.places.get(self.layer.id, PLACES[self.layer.kind])

    @property
    def covers(self) -> Rect | None:
        """What of the frame it covers, in pixels; None where there is nothing of it."""
        if not isinstance(self.layer, Lettered):
            if self.layer.kind == "picture" and self.layer.picture is None:
                return None
            return _turned(self.box, self.place.turn)
        texts = {"headline": self._own_text, "clock": "0:00"}
        longest = max((name for name, *_ in _turns(self.cues)), key=len, default="")
        written = self._written(texts.get(self.layer.kind, longest), 0, 1)
        if written is None:
            return None
        block = lay_out_cue(*written, self.size, self.fonts)
        return _turned(block.box, self.place.turn)

    def _letters(self, text: str, start: int, end: int) -> SceneCue | None:
        written = self._written(text, start, end)
        if written is None:
            return None
        cue, finish = written
        (made,) = build_scene([cue], finish, self.size, self.fonts).cues
        return replace(made, id=-self.layer.id, layers=(*self._opacity, *made.layers))

    def _written(self, text: str, start: int, end: int) -> tuple[Cue, Finish] | None:
        """A text as a caption, and what it is dressed in."""
        words = tuple(
            Shown(word, start, end, seam="line" if last and more else "free")
            for line, more in _lines(text)
            for word, last in _marked(line.split())
        )
        if not words:
            return None
        own = self.layer.finish if isinstance(self.layer, Lettered) else None
        finish = _plain(self.layer, own or self.piece.worn, self.place)
        return Cue(0, words, start, end, id=-self.layer.id), finish

    def _figure(self, start: int, end: int) -> SceneCue | None:
        """What has no letters: in its box, turned and moved as a whole."""
        box = self.box
        motions = kept(*self._motions(box.middle, start, end))
        made = SceneCue(
            -self.layer.id, start, end, start, box.height, motions, (), (), (), (), (), ()
        )
        match self.layer:
            case ProgressBar() as bar:
                return replace(made, rects=self._bar(bar, box, start, end))
            case PictureLayer(picture=None):
                return None
            case PictureLayer(picture=OwnPicture() as picture, radius=radius):
                x, y, width, height = (round(v) for v in (*box[:2], box.width, box.height))
                item = PictureItem(picture.digest, x, y, width, height, radius * min(width, height))
                return replace(made, pictures=(item,))
            case Waveform() as heard:
                return replace(made, waves=(wave_item(heard.wave, box, heard.colour, self.heard),))
            case PlateLayer() | Arrow() | Bubble() as drawn:
                return replace(made, plates=(drawn_item(drawn, box),))
            case _:
                raise ValueError(f"{self.layer.kind} is laid out, not drawn")

    @property
    def box(self) -> Rect:
        """Where it stands, not turned, in frame pixels; of letters, what they are laid out in."""
        place = self.place
        width, height = place.width * self.size[0], place.height * min(self.size)
        match self.layer:
            case PictureLayer(picture=OwnPicture() as picture):
                width = max(1, round(width))
                height = max(1, round(width * picture.height / picture.width))
            case Waveform(wave=Wave(form="ring")):
                height = width
            case _:
                pass
        left = place.x * self.size[0] - width / 2
        top = place.y * self.size[1] - height / 2
        return Rect.sized(left, top, width, height)

    def _bar(self, bar: ProgressBar, box: Rect, start: int, end: int) -> tuple[RectItem, ...]:
        radius = bar.radius * min(box.width, box.height)
        whole: Track = fixed(box.left, box.top, box.width, box.height)
        first = min(box.width, box.height)
        grown: Track = (
            Key(start, (box.left, box.top, first, box.height)),
            Key(end, (box.left, box.top, box.width, box.height)),
        )
        return (
            RectItem(whole, radius, bar.under),
            RectItem(grown, radius, bar.colour),
        )

    def _motions(self, middle: tuple[float, float], start: int, end: int) -> Iterator[Motion]:
        yield from self._opacity
        turn = self.place.turn
        if turn:
            yield Motion(middle, turn=fixed(turn))
        far, half = FAR * min(self.size), (end - start) // 2
        make = ENTRANCES.get(self.layer.coming or "none")
        if make is not None:
            yield make(Coming(start, min(COMES_US, half), far, middle, 1.0, "out"))
        if self.layer.going is not None:
            span = end - min(GOES_US, half), end
            yield exit_layer(Exit(kind=self.layer.going), span, far, middle)

    @property
    def _opacity(self) -> tuple[Motion, ...]:
        if self.layer.opacity == 1:
            return ()
        return (Motion((0.0, 0.0), opacity=fixed(self.layer.opacity)),)


def layer_readers(
    piece: ShapedPiece,
    cues: Sequence[Cue],
    size: tuple[int, int],
    fonts: FontBook,
    heard: Heard = NOT_HEARD,
) -> list[LayerReader]:
    """All layers of a piece in the order they are painted: below its captions."""
    return [LayerReader(layer, piece, cues, size, fonts, heard) for layer in piece.settings.layers]


def span_of(layer: Layer, piece: Piece, cues: Sequence[Cue] = ()) -> tuple[int, int]:
    """From when to when a layer shows in the piece (µs); nothing where its stretch is cut away, or where
    there is no introduction before the first of its captions."""
    if layer.intro:
        first = cues[0].start_us if cues else piece.timeline.duration_us
        return (0, first) if first >= SHORTEST_INTRO_US else (0, 0)
    if layer.during is None:
        return 0, piece.timeline.duration_us
    shown = lies(piece.timeline, layer.during)
    return (shown[0][0], shown[-1][1]) if shown else (0, 0)


def _turned(box: Rect, turn: float) -> Rect:
    """What holds a box that is turned about its middle by some degrees."""
    across, down = abs(cos(radians(turn))), abs(sin(radians(turn)))
    width, height = (
        box.width * across + box.height * down,
        box.width * down + box.height * across,
    )
    x, y = box.middle
    return Rect.sized(x - width / 2, y - height / 2, width, height)


def _plain(layer: Layer, finish: Finish, place: LayerPlace) -> Finish:
    """A finish for words that nobody says: all of them alike, where the layer stands."""
    # What comes with each word as it is said comes with the layer.
    entrance = finish.motion.entrance.model_copy(
        update={"when": "start"} | ({"kind": layer.coming} if layer.coming else {})
    )
    leaving = finish.motion.exit.model_copy(update={"kind": layer.going} if layer.going else {})
    motion = finish.motion.model_copy(
        update={"emphasis": Emphasis(), "entrance": entrance, "exit": leaving}
    )
    if layer.kind == "clock":
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
