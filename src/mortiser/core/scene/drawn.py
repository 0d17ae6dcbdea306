"""Layers that are drawn as outlines: plates, arrows, bubbles."""

from __future__ import annotations

from mortiser.core.framing.layer import Arrow, Bubble, Corner, PlateLayer
from mortiser.core.scene.model import PathItem
from mortiser.core.scene.plates import rounded
from mortiser.core.style.layout.rect import Rect
from mortiser.core.style.motion.track import fixed

SHAFT = 0.42
"""The height of an arrow's shaft, a share of its head's."""
BODY = 0.8
"""The height of a bubble without its tail, a share of all of it."""


def drawn_item(layer: PlateLayer | Arrow | Bubble, box: Rect) -> PathItem:
    """A plate, an arrow to the right or a bubble in a box of frame pixels."""
    width, height = box.width, box.height
    within = Rect(0, 0, width, height)
    match layer:
        case Arrow():
            path = _arrow(width, height)
        case Bubble(radius=radius, tail=tail):
            path = _bubble(width, height, radius, tail)
        case PlateLayer(radius=radius):
            path = rounded(within, radius * min(width, height))
    return PathItem(path, box.left, box.top, within.grown(1, 1), fixed(*layer.colour))


def _arrow(width: float, height: float) -> str:
    neck = max(0.0, width - min(0.6 * width, 0.9 * height))
    top, low = height * (1 - SHAFT) / 2, height * (1 + SHAFT) / 2
    return _closed(
        (0, top), (neck, top), (neck, 0), (width, height / 2), (neck, height), (neck, low), (0, low)
    )


def _bubble(width: float, height: float, radius: float, tail: Corner) -> str:
    body = BODY * height
    upper, right = tail.startswith("upper"), tail.endswith("right")
    top = height - body if upper else 0.0
    box = Rect(0, top, width, top + body)
    edge, tip = (top + 2, 0.0) if upper else (top + body - 2, height)
    near, far, end = 0.16 * width, 0.32 * width, 0.1 * width
    if right:
        near, far, end = width - far, width - near, width - end
    # In the same sense as the box, so that both are one.
    corners = ((near, edge), (end, tip), (far, edge))
    points = corners if upper else corners[::-1]
    return rounded(box, radius * min(width, body)) + _closed(*points)


def _closed(*points: tuple[float, float]) -> str:
    steps = [f"{'L' if i else 'M'}{x:.2f} {y:.2f}" for i, (x, y) in enumerate(points)]
    return "".join(steps) + "Z"
