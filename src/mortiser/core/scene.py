"""The scene: everything a painter needs to show captions at any moment, with nothing left to decide.

A painter, at piece time t, takes the cues with ``start_us <= t < end_us`` and for each

1. reads every item's tracks at t and leaves out items of opacity 0;
2. paints the rectangles (planks) in order, their fill times their opacity;
3. for each fully opaque path item paints shadow and outline, then for each its fill;
4. paints each half-opaque path item as one group (shadow, outline, fill) at its opacity.

The transform of an item is: move to (x, y) plus its ``move``, then scale and about ``pivot``.
The shadow belongs to the outline where there is one, else to the fill. An outline is a stroke
with round joins, twice its width, under the fill. ``blur`` is twice the Gaussian sigma.
All lengths are frame pixels, all times piece microseconds, colours 0 to 255 straight sRGB.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Protocol

from mortiser.core.finish.model import Colour, Finish
from mortiser.core.layout.block import Block, lay_out_cue
from mortiser.core.layout.face import FontBook
from mortiser.core.motion.entrances import CUE_MOTIONS, WORD_MOTIONS, Moment, Moves
from mortiser.core.motion.paints import plank_box, state_colours
from mortiser.core.motion.timing import live_spans
from mortiser.core.motion.track import Track
from mortiser.core.spans import SpanMap
from mortiser.core.words import Cue

NEAR_CUES = 8
"""How many captions back one may still show; only pinned times make captions overlap."""


@dataclass(frozen=True, slots=True)
class Stroke:
    """An outline of ``width`` pixels outside the letters."""

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
class PathItem:
    """A word: an outline with its pen at (x, y)."""

    path: str
    x: float
    y: float
    pivot: tuple[float, float]
    outline: Stroke | None
    shadow: Drop | None
    fill: Track
    opacity: Track
    move: Track
    scale: Track


@dataclass(frozen=True, slots=True)
class RectItem:
    """A rounded box; ``box`` is a track of (x, y, w, h)."""

    box: Track
    radius: float
    fill: Colour
    opacity: Track
    move: Track


@dataclass(frozen=True, slots=True)
class SceneCue:
    """One caption of the scene."""

    id: int
    start_us: int
    end_us: int
    rects: tuple[RectItem, ...]
    paths: tuple[PathItem, ...]


@dataclass(frozen=True, slots=True)
class Scene:
    """Captions on a frame of ``width`` by ``height`` pixels, in time order."""

    width: int
    height: int
    cues: tuple[SceneCue, ...]

    def at(self, at_us: int) -> list[SceneCue]:
        """The captions that show at a moment of the piece."""
        return [cue for cue in self.cues if cue.start_us <= at_us < cue.end_us]


def build_scene(
    cues: Sequence[Cue], finish: Finish, size: tuple[int, int], spans: SpanMap, fonts: FontBook
) -> Scene:
    """The scene of these captions in one finish on a frame of ``size`` (width, height) pixels."""
    return Scene(*size, tuple(_scene_cue(cue, finish, size, spans, fonts) for cue in cues))


def _scene_cue(
    cue: Cue, finish: Finish, size: tuple[int, int], spans: SpanMap, fonts: FontBook
) -> SceneCue:
    block = lay_out_cue(cue, finish, size, fonts)
    starts = [spans.to_piece(word.start_us) for word in cue.words]
    lives = live_spans(starts, cue.start_us, cue.end_us)
    whole = CUE_MOTIONS[finish.cue_motion]
    each = WORD_MOTIONS[finish.word_motion]
    paths: list[PathItem] = []
    for word, placed, live in zip(cue.words, block.words, lives, strict=True):
        moment = Moment(cue.start_us, cue.end_us, live, block.size)
        letters = block.size * placed.scale
        moves = each(moment) if finish.word_motion != "still" else whole(moment)
        paths.append(
            PathItem(
                path=placed.shaped.path,
                x=placed.x,
                y=placed.y,
                pivot=(placed.box.w / 2, -letters * 0.35),
                outline=_stroke(finish, letters),
                shadow=_drop(finish, letters),
                fill=state_colours(finish, finish.accent(word.accent), live),
                opacity=moves.opacity,
                move=moves.move,
                scale=moves.scale,
            )
        )
    rects = _planks(
        finish, block, lives, whole(Moment(cue.start_us, cue.end_us, lives[0], block.size))
    )
    return SceneCue(cue.id, cue.start_us, cue.end_us, rects, tuple(paths))


def _stroke(finish: Finish, size: float) -> Stroke | None:
    outline = finish.outline
    if outline is None:
        return None
    return Stroke(round(outline.width * size, 3), outline.colour)


def _drop(finish: Finish, size: float) -> Drop | None:
    shadow = finish.shadow
    if shadow is None:
        return None
    dx, dy, blur = (round(v * size, 3) for v in (shadow.dx, shadow.dy, shadow.blur))
    return Drop(dx, dy, blur, shadow.colour)


def _planks(
    finish: Finish, block: Block, lives: list[tuple[int, int]], moves: Moves
) -> tuple[RectItem, ...]:
    plank = finish.plank
    if plank is None:
        return ()
    box = plank_box(plank, [word.box for word in block.words], lives, block.size)
    item = RectItem(box, plank.radius * block.size, plank.colour, moves.opacity, moves.move)
    return (item,)


class SceneReel:
    """The scene of a whole piece, worked out caption by caption as it is played forwards."""

    def __init__(
        self,
        cues: Sequence[Cue],
        finish: Finish,
        size: tuple[int, int],
        spans: SpanMap,
        fonts: FontBook,
    ) -> None:
        self._cues = cues
        self._starts = [cue.start_us for cue in cues]
        self._build = lru_cache(maxsize=16)(
            lambda index: _scene_cue(cues[index], finish, size, spans, fonts)
        )

    def at(self, at_us: int) -> list[SceneCue]:
        """The captions that show at a moment of the piece."""
        last = bisect_right(self._starts, at_us)
        near = range(max(0, last - NEAR_CUES), last)
        return [self._build(i) for i in near if at_us < self._cues[i].end_us]


class Shows(Protocol):
    """Anything that knows which captions show at a moment of the piece (µs)."""

    def at(self, at_us: int) -> list[SceneCue]: ...


NO_CAPTIONS: Shows = Scene(0, 0, ())


def scene_json(scene: Scene) -> dict[str, Any]:
    """The scene as plain JSON values; equal outlines are sent once, in ``outlines``."""
    outlines: dict[str, int] = {}

    def track(keys: Track) -> list[list[Any]]:
        return [[key.at_us, [round(v, 4) for v in key.value], key.ease] for key in keys]

    def path(item: PathItem) -> dict[str, Any]:
        return {
            "outline_of": outlines.setdefault(item.path, len(outlines)),
            "x": item.x,
            "y": item.y,
            "pivot": item.pivot,
            "outline": item.outline and [item.outline.width, item.outline.colour],
            "shadow": item.shadow
            and [item.shadow.dx, item.shadow.dy, item.shadow.blur, item.shadow.colour],
            "fill": track(item.fill),
            "opacity": track(item.opacity),
            "move": track(item.move),
            "scale": track(item.scale),
        }

    def rect(item: RectItem) -> dict[str, Any]:
        return {
            "box": track(item.box),
            "radius": item.radius,
            "fill": item.fill,
            "opacity": track(item.opacity),
            "move": track(item.move),
        }

    cues = [
        {
            "id": cue.id,
            "start_us": cue.start_us,
            "end_us": cue.end_us,
            "rects": [rect(item) for item in cue.rects],
            "paths": [path(item) for item in cue.paths],
        }
        for cue in scene.cues
    ]
    return {
        "width": scene.width,
        "height": scene.height,
        "outlines": list(outlines),
        "cues": cues,
    }
