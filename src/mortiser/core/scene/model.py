"""The scene: everything a painter needs to show captions at any moment, with nothing left to decide.

A painter, at piece time t, takes the cues with ``start_us <= t < end_us`` and for each

1. multiplies the opacities of the cue's layers; at 0 the cue is left out, below 1 all of it is
   painted aside and laid over the picture at that opacity;
2. reads the layers of each item; its opacity is their product (at 0 it is left out), its matrix
   that of the cue's layers, then of its own, then its place (x, y); what only shifts is put on
   the nearest quarter of a pixel, halves up, so that pictures of it can be kept;
3. paints plates, then planks, in order, a colour's opacity times the item's;
4. of each fully opaque word paints the shadow and the outlines, outermost first; then of each its
   fill; then each half-opaque word (shadow, outlines, fill) aside and over, as one at its opacity;
5. paints the stamps, then the pictures, then the waves.

The matrix of a layer: scale and turn about its ``pivot``, then ``move``. A shadow belongs to the
outermost outline where there is one, else to the fill; its offset and blur scale and turn with its
word. An outline is a stroke with round joins, twice its width, under the fill. ``blur`` is twice the
Gaussian sigma. A fill of four numbers is a colour, of eight the colours at both ends of ``line``.
Ink is a second fill, seen between its two x in the word's own pixels, from far above to far below.
A wave's mark at (x, y) is a stroke with round ends to (x + h dx, y + h dy), and as far the other way where
``both`` is set; h is the wave's level ``age_us`` ago, between levels in a straight line. The marks of a joined
wave are one stroke through their far ends.
All lengths are frame pixels, all times piece microseconds, colours 0 to 255 straight sRGB.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple, Protocol

from mortiser.core.style.finish.parts import Colour
from mortiser.core.style.layout.rect import Rect
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import Track

Line = tuple[float, float, float, float]
"""From one point to another: x, y, x, y."""


@dataclass(frozen=True, slots=True)
class Stroke:
    """An outline that reaches ``width`` pixels outside the letters."""

    width: float
    colour: Colour


@dataclass(frozen=True, slots=True)
class Drop:
    """A shadow in pixels."""

    dx: float
    dy: float
    blur: float
    colour: Colour


@dataclass(frozen=True, slots=True)
class Ink:
    """A second fill over a part of a word; ``span`` is a track of (from x, to x)."""

    fill: Track
    span: Track


@dataclass(frozen=True, slots=True)
class PathItem:
    """A word, a letter or a plate: an outline with its pen at (x, y).

    ``reach`` holds all it may touch, around its pen; ``line`` is where gradients run, from and to;
    ``word`` says which of its caption's words it belongs to, -1 none (only what asks about words
    needs to know).
    """

    path: str
    x: float
    y: float
    reach: Rect
    fill: Track
    outlines: tuple[Stroke, ...] = ()
    shadow: Drop | None = None
    line: Line | None = None
    ink: Ink | None = None
    layers: tuple[MotionLayer, ...] = ()
    word: int = -1


@dataclass(frozen=True, slots=True)
class RectItem:
    """A rounded box that changes its shape: a track of (x, y, w, h)."""

    box: Track
    radius: float
    fill: Colour


@dataclass(frozen=True, slots=True)
class StampItem:
    """The picture of an emoji in a square with its corner at (x, y)."""

    emoji: str
    x: float
    y: float
    side: float
    layers: tuple[MotionLayer, ...] = ()
    word: int = -1


@dataclass(frozen=True, slots=True)
class PictureItem:
    """A picture of the user's own in a box with rounded corners, its corner at (x, y)."""

    picture: str
    x: float
    y: float
    width: int
    height: int
    radius: float = 0.0


class Mark(NamedTuple):
    """One mark of a wave: where it stands, how far it goes at the loudest, and how old its sound is."""

    x: float
    y: float
    dx: float
    dy: float
    age_us: int


@dataclass(frozen=True, slots=True)
class WaveItem:
    """A sound drawn: ``levels`` are 0 to 1, the first one at ``from_us``, one every ``step_us``."""

    levels: tuple[float, ...]
    from_us: int
    step_us: int
    marks: tuple[Mark, ...]
    thick: float
    fill: Colour
    both: bool
    joined: bool
    reach: Rect

    def level(self, at_us: int) -> float:
        """The level at a moment of the piece; held before the first and after the last."""
        share = (at_us - self.from_us) / self.step_us
        last = len(self.levels) - 1
        if share <= 0:
            return self.levels[0]
        if share >= last:
            return self.levels[last]
        before = int(share)
        low, high = self.levels[before], self.levels[before + 1]
        return low + (high - low) * (share - before)


@dataclass(frozen=True, slots=True)
class SceneCue:
    """One caption of the scene; ``size`` is its type size in pixels.

    ``end_us`` lies beyond the caption's own end where it goes while the next one comes.
    """

    id: int
    start_us: int
    end_us: int
    whole_us: int
    """The first moment at which all of it stands."""
    size: float
    layers: tuple[MotionLayer, ...]
    plates: tuple[PathItem, ...]
    rects: tuple[RectItem, ...]
    paths: tuple[PathItem, ...]
    stamps: tuple[StampItem, ...]
    pictures: tuple[PictureItem, ...] = ()
    waves: tuple[WaveItem, ...] = ()


@dataclass(frozen=True, slots=True)
class Scene:
    """Captions on a frame of ``width`` by ``height`` pixels, in time order."""

    width: int
    height: int
    cues: tuple[SceneCue, ...]

    def at(self, at_us: int) -> list[SceneCue]:
        """The captions that show at a moment of the piece."""
        return [cue for cue in self.cues if cue.start_us <= at_us < cue.end_us]


class Shows(Protocol):
    """Anything that knows which captions show at a moment of the piece (µs)."""

    def at(self, at_us: int) -> list[SceneCue]: ...


NO_CAPTIONS: Shows = Scene(0, 0, ())
