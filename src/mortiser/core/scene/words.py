"""The items of a word: its letters with paints and outlines, and its emoji."""

from __future__ import annotations

from collections.abc import Iterator
from math import cos, radians, sin

from mortiser.core.scene.model import Drop, Ink, Line, PathItem, StampItem, Stroke
from mortiser.core.scene.moving import Movement
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.parts import Outline
from mortiser.core.style.layout.block import Block, PlacedWord
from mortiser.core.style.layout.fonts import CAPITALS, Stamp
from mortiser.core.style.layout.rect import Rect
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.paints import angle_of, fill_track, ink_tracks, states

BELOW = 0.04
"""How far gradients, which are as high as capitals, run below the baseline, share of the size."""


def word_items(
    finish: Finish, block: Block, index: int, movement: Movement, layers: tuple[MotionLayer, ...]
) -> Iterator[PathItem]:
    """The path items of a word: one, or one for each letter where letters come one by one.

    ``layers`` are the word's own (``movement.of_word``).
    """
    word = block.words[index]
    if not word.shaped.path:
        return
    size = block.size * word.scale
    rims = word.accent.outlines if word.accent else None
    outlines, shadow = (
        _strokes(finish.outlines if rims is None else rims, size),
        _drop(finish, size),
    )
    if rims == ():
        shadow = None
    paints = states(finish, word.accent)
    angle = angle_of(paints)
    advance = word.shaped.advance
    emphasis = (word.accent and word.accent.emphasis) or finish.motion.emphasis
    fill, ink = fill_track(paints, movement.lives[index]), None
    if emphasis.kind == "ink":
        edges = word.shaped.ink[0], word.shaped.ink[2]
        fill, inked, span = ink_tracks(
            paints,
            movement.lives[index],
            movement.said_us[index],
            edges[::-1] if word.shaped.leftwards else edges,
        )
        ink = Ink(inked, span)
    by_letter = finish.motion.entrance.by == "letter" and finish.motion.entrance.kind != "none"
    parts = (
        [
            (letter.path, movement.of_letter(index, n))
            for n, letter in enumerate(word.shaped.letters)
        ]
        if by_letter
        else [(word.shaped.path, ())]
    )
    for path, own in parts:
        if path:
            yield PathItem(
                path,
                word.x,
                word.y,
                _reach(word.shaped.ink, outlines, shadow),
                fill,
                outlines,
                shadow,
                None if angle is None else _across(advance, size, angle),
                ink,
                (*layers, *own),
                index,
            )


def stamps_of(
    block: Block, index: int, movement: Movement, layers: tuple[MotionLayer, ...]
) -> Iterator[StampItem]:
    """A word's emoji, moving with it, and its companion with a motion of its own besides."""
    word = block.words[index]
    for stamp in word.shaped.stamps:
        yield _stamp(word, stamp, layers, index)
    if word.companion is not None:
        own = movement.of_companion(index)
        yield _stamp(word, word.companion, (*layers, *own), index)


def _stamp(
    word: PlacedWord, stamp: Stamp, layers: tuple[MotionLayer, ...], index: int
) -> StampItem:
    return StampItem(stamp.emoji, word.x + stamp.x, word.y + stamp.y, stamp.side, layers, index)


def _strokes(rims: tuple[Outline, ...], size: float) -> tuple[Stroke, ...]:
    """Outlines outermost first, each as wide as it reaches from the letters."""
    found, width = [], 0.0
    for outline in rims:
        width += outline.width
        found.append(Stroke(round(width * size, 3), outline.colour))
    return tuple(found[::-1])


def _drop(finish: Finish, size: float) -> Drop | None:
    shadow = finish.shadow
    if shadow is None:
        return None
    dx, dy, blur = (round(v * size, 3) for v in (shadow.dx, shadow.dy, shadow.blur))
    return Drop(dx, dy, blur, shadow.colour)


def _reach(ink: Rect, outlines: tuple[Stroke, ...], shadow: Drop | None) -> Rect:
    """All that is painted: three sigma hold a blur."""
    out = (outlines[0].width if outlines else 0.0) + 1
    found = ink.grown(out, out)
    if shadow is not None:
        far = out + 1.5 * shadow.blur
        found = found.around(ink.grown(far, far).moved(shadow.dx, shadow.dy))
    return Rect(*(round(edge, 2) for edge in found))


def _across(advance: float, size: float, angle: float) -> Line:
    """The line through a word's middle that a gradient of an angle runs along."""
    height = (CAPITALS + BELOW) * size
    x, y = advance / 2, BELOW * size - height / 2
    across, down = cos(radians(angle)), sin(radians(angle))
    half = (abs(advance * across) + abs(height * down)) / 2
    dx, dy = half * across, half * down
    return (round(x - dx, 3), round(y - dy, 3), round(x + dx, 3), round(y + dy, 3))
