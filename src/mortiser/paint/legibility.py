"""Find captions that are hard to read: painted small over what is behind them, and looked at."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from functools import lru_cache
from typing import NamedTuple, Protocol

import numpy as np

from mortiser.core.captions.checks import outside
from mortiser.core.scene import build_scene
from mortiser.core.scene.model import Scene, Stroke
from mortiser.core.style.finish.changes import dressed, look_of, look_text
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.layout.caption_lines import lay_out_all
from mortiser.core.style.layout.fonts import FontBook
from mortiser.core.style.legibility import (
    READABLE,
    Faint,
    Remedy,
    Rgb,
    Way,
    contrast,
    luminance,
    moments,
    remedies,
)
from mortiser.core.transcript.words import Cue
from mortiser.paint.painter import Area, area_of, paint
from mortiser.paint.state import CueState, PathState, state_at

SHORT_SIDE = 720
"""Captions are painted on a frame of this size at most."""
EDGE = 0.03
"""How far around letters is looked, share of the type size."""
BITS = 200
"""From this coverage on a pixel belongs to the letters or to their edge."""
FEWEST = 12
"""Letters with fewer pixels cannot be judged."""


class Pictures(Protocol):
    """What is behind captions, by moments of the piece."""

    def at(self, piece_us: int) -> Rgb:
        """The picture at a moment, of any size, shape (h, w, 3)."""
        ...


class _Look(NamedTuple):
    """All that how a caption can be read depends on."""

    cue: Cue
    finish: Finish
    size: tuple[int, int]
    pictures: Pictures
    fonts: FontBook


class _Seen(NamedTuple):
    word: int
    at_us: int
    contrast: float
    letters: float


def faint_captions(
    cues: Sequence[Cue],
    finish: Finish,
    size: tuple[int, int],
    pictures: Pictures,
    fonts: FontBook,
) -> list[Faint]:
    """The captions that are hard to read on a frame of ``size`` pixels, with what would help."""
    share = min(1.0, SHORT_SIDE / min(size))
    small = (round(size[0] * share), round(size[1] * share))
    found = []
    for cue in cues:
        faint = _judged(_Look(cue, finish, small, pictures, fonts))
        if faint is not None:
            found.append(faint)
    return found


@lru_cache(maxsize=20_000)
def _judged(look: _Look) -> Faint | None:
    worst = min(_words(look), key=_contrast, default=None)
    if worst is None or worst.contrast >= READABLE:
        return None
    word = look.cue.words[worst.word].text
    helps = tuple(_remedies(look, worst))
    return Faint(look.cue.id, worst.at_us, word, round(worst.contrast, 2), helps)


def _remedies(look: _Look, worst: _Seen) -> list[Remedy]:
    """The first of each way that makes the caption readable, where one does."""
    found: dict[Way, Remedy] = {}
    shown = dressed(look.finish, look.cue.look)
    for way, changes in remedies(shown, worst.letters):
        if way in found:
            continue
        text = look_text(look_of(look.cue.look) | changes)
        words = tuple(replace(word, look=text) for word in look.cue.words)
        tried = look._replace(cue=look.cue.with_words(words))
        if way == "place":
            (laid,) = lay_out_all([tried.cue], look.finish, look.size, look.fonts)
            if outside(laid.reach, look.size):
                continue
        then = _least_if_readable(tried)
        if then is not None:
            found[way] = Remedy(way, changes, round(then, 2))
    return list(found.values())


def _least_if_readable(look: _Look) -> float | None:
    """The contrast of a caption all of whose words can be read; looks no further than one cannot."""
    least: float | None = None
    for word in _words(look):
        if word.contrast < READABLE:
            return None
        least = word.contrast if least is None else min(least, word.contrast)
    return least


def _contrast(seen: _Seen) -> float:
    return seen.contrast


def _words(look: _Look) -> Iterator[_Seen]:
    """How each word that has letters stands out, at the best of its moments."""
    scene = build_scene([look.cue], look.finish, look.size, look.fonts)
    reach = max(1.2, EDGE * look.finish.size * min(look.size))
    for index, (live, times) in enumerate(moments(look.cue)):
        best: _Seen | None = None
        for at in times:
            picture = look.pictures.at(at)
            seen = _word(scene, index, at, reach, picture)
            if seen and (best is None or seen[0] > best.contrast):
                best = _Seen(index, live, *seen)
            if best and best.contrast >= READABLE:
                break
        if best:
            yield best


def _word(
    scene: Scene, index: int, at_us: int, reach: float, picture: Rgb
) -> tuple[float, float] | None:
    """A word's contrast and its letters' luminance; None where it has no letters now."""
    state = state_at(scene, at_us)
    letters = [p for cue in state for p in cue.paths if p.item.word == index and p.opacity > 0.5]
    if not letters:
        return None
    within, around = _mask(letters, 0.0), _mask(letters, reach)
    area = area_of((around,), scene.width, scene.height)
    if area[2] <= area[0]:
        return None
    filled = paint((within,), area)[..., 3]
    edge = (paint((around,), area)[..., 3] >= BITS) & (filled < 255 - BITS)
    inside = filled >= BITS
    if inside.sum() < FEWEST or edge.sum() < FEWEST:
        return None
    seen = _over(paint(state, area), _behind(picture, area, scene))
    return contrast(seen[inside], seen[edge]), float(luminance(seen[inside]).mean())


def _mask(letters: Sequence[PathState], reach: float) -> CueState:
    """The letters alone, or with as much around them, in one full colour."""
    full = (255, 255, 255, 255)
    rims = (Stroke(reach, full),) if reach else ()
    paths = []
    for one in letters:
        box = one.item.reach.grown(reach, reach)
        item = replace(one.item, outlines=rims, shadow=None, line=None, ink=None, reach=box)
        paths.append(PathState(item, one.matrix, full, 1.0, steady=False))
    return CueState(1.0, (), (), tuple(paths), ())


def _behind(picture: Rgb, area: Area, scene: Scene) -> Rgb:
    """The picture's pixels behind an area of the frame."""
    height, width, _ = picture.shape
    rows = (np.arange(area[1], area[3]) + 0.5) * height / scene.height
    columns = (np.arange(area[0], area[2]) + 0.5) * width / scene.width
    found: Rgb = picture[rows.astype(int)[:, None], columns.astype(int)]
    return found


def _over(painted: Rgb, picture: Rgb) -> Rgb:
    """Premultiplied BGRA laid over RGB."""
    kept = 255 - painted[..., 3:].astype(np.uint16)
    mixed = painted[..., 2::-1] + (picture * kept + 127) // 255
    return np.minimum(mixed, 255).astype(np.uint8)
