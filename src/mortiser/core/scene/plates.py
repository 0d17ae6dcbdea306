"""Plates: rounded boxes behind a caption, its lines, or single words, as path items."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

from mortiser.core.scene.model import PathItem
from mortiser.core.scene.moving import Movement
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.parts import WordPlate
from mortiser.core.style.layout.block import Block, PlacedWord
from mortiser.core.style.layout.rect import Rect
from mortiser.core.style.motion.layers import MotionLayer
from mortiser.core.style.motion.track import fixed

CORNER = 0.5523
"""Control points of a quarter circle as a cubic, share of the radius."""


def standing_plates(finish: Finish, block: Block, movement: Movement) -> Iterator[PathItem]:
    """Plates behind the caption or its lines; lines that come one by one bring their own."""
    plate = finish.plate
    if plate is None or plate.behind == "word":
        return
    if plate.behind == "caption":
        yield _item([_padded(block.box, plate, block.size)], plate, block.size, ())
    elif finish.motion.entrance.by == "line" and finish.motion.entrance.kind != "none":
        for line, box in enumerate(block.line_boxes):
            padded = _padded(box, plate, block.size)
            yield _item([padded], plate, block.size, movement.of_line(line))
    else:
        # One path, so that boxes that overlap do not darken each other.
        boxes = [_padded(box, plate, block.size) for box in block.line_boxes]
        yield _item(boxes, plate, block.size, ())


def word_plate(
    finish: Finish, word: PlacedWord, size: float, layers: tuple[MotionLayer, ...], index: int
) -> Iterator[PathItem]:
    """The plate behind a word, if any, moving with it: its accent's, else the finish's."""
    plate: WordPlate | None = word.accent.plate if word.accent else None
    if plate is None and finish.plate is not None and finish.plate.behind == "word":
        plate = finish.plate
    if plate is not None:
        letters = size * word.scale
        yield replace(
            _item([_padded(word.box, plate, letters)], plate, letters, layers), word=index
        )


def _padded(box: Rect, plate: WordPlate, size: float) -> Rect:
    return box.grown(plate.pad_x * size, plate.pad_y * size)


def _item(
    boxes: Sequence[Rect], plate: WordPlate, size: float, layers: tuple[MotionLayer, ...]
) -> PathItem:
    """One path item of boxes, with its pen at the corner of the first."""
    first = boxes[0]
    moved = [box.moved(-first.left, -first.top) for box in boxes]
    whole = moved[0]
    for box in moved[1:]:
        whole = whole.around(box)
    path = "".join(rounded(box, plate.radius * size) for box in moved)
    colour = fixed(*plate.colour)
    return PathItem(path, first.left, first.top, whole.grown(1, 1), colour, layers=layers)


def rounded(box: Rect, radius: float) -> str:
    """A box with round corners as an SVG path."""
    r = max(0.0, min(radius, box.width / 2, box.height / 2))
    k = r * (1 - CORNER)
    x0, y0, x1, y1 = box
    points = (
        ("M", (x0 + r, y0)),
        ("L", (x1 - r, y0)),
        ("C", (x1 - k, y0, x1, y0 + k, x1, y0 + r)),
        ("L", (x1, y1 - r)),
        ("C", (x1, y1 - k, x1 - k, y1, x1 - r, y1)),
        ("L", (x0 + r, y1)),
        ("C", (x0 + k, y1, x0, y1 - k, x0, y1 - r)),
        ("L", (x0, y0 + r)),
        ("C", (x0, y0 + k, x0 + k, y0, x0 + r, y0)),
    )
    return "".join(f"{step}{' '.join(f'{v:.2f}' for v in at)}" for step, at in points) + "Z"
