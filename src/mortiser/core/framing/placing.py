"""Where a picture lies in a frame: the geometry of framings.

Pictures are upright and ``(width, height)`` in square pixels; points are in pixels, the corner of the
first one at (0, 0).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from mortiser.core.framing.shape import Framing

Size = tuple[float, float]
Affine = tuple[float, float, float, float, float, float]
"""(a, b, c, d, e, f): x' = a·x + b·y + c, y' = d·x + e·y + f."""
ALIKE = 0.01
"""Shapes that differ by no more than this are taken for the same."""


@dataclass(frozen=True)
class Box:
    """A stretch across and down: from the left and top edge to the right and bottom one."""

    left: float
    top: float
    right: float
    bottom: float

    @property
    def width(self) -> float:
        """Across."""
        return self.right - self.left

    @property
    def height(self) -> float:
        """Down."""
        return self.bottom - self.top


def turned_size(picture: Size, quarters: int) -> Size:
    """The size of a picture after quarter turns."""
    return (picture[1], picture[0]) if quarters % 2 else picture


def scale_of(framing: Framing, picture: Size, frame: Size) -> float:
    """Frame pixels for a pixel of the picture."""
    width, height = turned_size(picture, framing.quarters)
    cos, sin = _cos_sin(framing)
    if framing.fit == "fill":
        # Turned, the frame's corners have to lie in the picture still.
        across, down = frame[0] * cos + frame[1] * sin, frame[0] * sin + frame[1] * cos
        return max(across / width, down / height) * framing.zoom
    across, down = width * cos + height * sin, width * sin + height * cos
    return min(frame[0] / across, frame[1] / down) * framing.zoom


def centre_of(framing: Framing, picture: Size, frame: Size) -> tuple[float, float]:
    """The point of the (quarter-turned) picture in the middle of the frame, in shares of it: where the
    picture reaches beyond the frame it covers it, where not it stays inside it. One that lies aslant and
    all inside it stays in the middle."""
    width, height = turned_size(picture, framing.quarters)
    scale = scale_of(framing, picture, frame)
    cos, sin = _cos_sin(framing)
    if framing.turn and framing.fit == "whole" and framing.zoom <= 1:
        return 0.5, 0.5
    seen = (
        (frame[0] * cos + frame[1] * sin) / (scale * width) / 2,
        (frame[0] * sin + frame[1] * cos) / (scale * height) / 2,
    )
    return _within(framing.x, seen[0]), _within(framing.y, seen[1])


def matrix_of(framing: Framing, picture: Size, frame: Size) -> Affine:
    """From points of the upright picture to points of the frame."""
    width, height = turned_size(picture, framing.quarters)
    scale = scale_of(framing, picture, frame)
    x, y = centre_of(framing, picture, frame)
    angle = math.radians(framing.turn)
    cos, sin = math.cos(angle) * scale, math.sin(angle) * scale
    # Quarter turns first: where a point of the picture lies in the turned one.
    a, b, c, d, e, f = _quarters(picture, framing.quarters)
    if framing.mirror:
        a, b, c = -a, -b, width - c
    cx, cy = x * width, y * height
    return (
        cos * a - sin * d,
        cos * b - sin * e,
        cos * (c - cx) - sin * (f - cy) + frame[0] / 2,
        sin * a + cos * d,
        sin * b + cos * e,
        sin * (c - cx) + cos * (f - cy) + frame[1] / 2,
    )


def from_frame(
    framing: Framing, picture: Size, frame: Size, x: float, y: float
) -> tuple[float, float]:
    """The point of the upright picture (shares of its sides) that lies at a point of the frame (shares)."""
    a, b, c, d, e, f = matrix_of(framing, picture, frame)
    across, down = x * frame[0] - c, y * frame[1] - f
    whole = a * e - b * d
    return (
        (e * across - b * down) / whole / picture[0],
        (a * down - d * across) / whole / picture[1],
    )


def lying(
    framing: Framing, picture: Size, frame: Size, middle: Size, size: Size
) -> tuple[float, float, float, float]:
    """The edges (left, top, right, bottom) in frame pixels of what holds a part of the picture, whose middle
    and size are shares of the picture's sides."""
    a, b, c, d, e, f = matrix_of(framing, picture, frame)
    corners = [
        ((middle[0] + right * size[0]) * picture[0], (middle[1] + low * size[1]) * picture[1])
        for right in (-0.5, 0.5)
        for low in (-0.5, 0.5)
    ]
    xs = [a * x + b * y + c for x, y in corners]
    ys = [d * x + e * y + f for x, y in corners]
    return min(xs), min(ys), max(xs), max(ys)


def panned(framing: Framing, picture: Size, frame: Size, by_x: float, by_y: float) -> Framing:
    """The framing with the picture moved across and down the frame, by shares of its sides, as far as the
    picture reaches; and the point of a face that is followed with it."""
    width, height = turned_size(picture, framing.quarters)
    scale = scale_of(framing, picture, frame)
    x, y = centre_of(framing, picture, frame)
    angle = math.radians(framing.turn)
    cos, sin = math.cos(angle), math.sin(angle)
    across, down = by_x * frame[0], by_y * frame[1]
    moved = framing.model_copy(
        update={
            "x": x - (across * cos + down * sin) / (scale * width),
            "y": y - (down * cos - across * sin) / (scale * height),
        }
    )
    x, y = centre_of(moved, picture, frame)
    point = {"px": _share(framing.px + by_x), "py": _share(framing.py + by_y)}
    # No farther than with its edge in the middle of the frame.
    return framing.model_copy(update={"x": _share(x), "y": _share(y), **point})


def is_level(framing: Framing) -> bool:
    """Whether the picture is upright in the frame, neither turned nor mirrored."""
    return not framing.quarters and not framing.turn and not framing.mirror


def covers(framing: Framing, picture: Size, frame: Size) -> bool:
    """Whether nothing of the frame is left uncovered."""
    width, height = turned_size(picture, framing.quarters)
    scale = scale_of(framing, picture, frame)
    cos, sin = _cos_sin(framing)
    across, down = frame[0] * cos + frame[1] * sin, frame[0] * sin + frame[1] * cos
    return scale * width >= across - 0.5 and scale * height >= down - 0.5


def is_plain(framing: Framing, picture: Size, frame: Size) -> bool:
    """Whether the frame shows the picture as it is, all of it and nothing else."""
    alike = abs(picture[0] * frame[1] / (picture[1] * frame[0]) - 1) <= ALIKE
    return alike and is_level(framing) and framing.zoom == 1


def seen_box(framing: Framing, picture: Size, frame: Size) -> Box:
    """What of a level picture the frame reaches, in the picture's pixels; beyond it where it is smaller."""
    scale = scale_of(framing, picture, frame)
    x, y = centre_of(framing, picture, frame)
    cx, cy = x * picture[0], y * picture[1]
    half = frame[0] / scale / 2, frame[1] / scale / 2
    return Box(cx - half[0], cy - half[1], cx + half[0], cy + half[1])


Cut = tuple[int, int, int, int]
"""Left, top, width and height in whole, even pixels of a picture."""


def cut_of(framing: Framing, picture: Size, frame: Size) -> Cut:
    """What of a picture fills the frame, where its framing is level and covers it: in even pixels, as
    colour planes have half of them. Less than half a pixel of the frame lies between its size and what
    the framing says."""
    box = seen_box(framing, picture, frame)
    left, width = _even_cut(box.left, box.width, int(picture[0]))
    top, height = _even_cut(box.top, box.height, int(picture[1]))
    return left, top, width, height


def snapped(framing: Framing, picture: Size, frame: Size) -> Framing:
    """A framing at rest that shows just what ``cut_of`` cuts out."""
    if not is_level(framing) or not covers(framing, picture, frame):
        return framing
    left, top, width, height = cut_of(framing, picture, frame)
    middle = {"x": (left + width / 2) / picture[0], "y": (top + height / 2) / picture[1]}
    return framing.model_copy(update=middle)


def _even(value: float) -> int:
    """The nearest even number; what is halfway between two always goes the same way."""
    return 2 * math.floor(value / 2 + 0.5 - 1e-6)


def _even_cut(start: float, length: float, whole: int) -> tuple[int, int]:
    even = max(2, min(_even(length), whole & ~1))
    wanted = _even(start + (length - even) / 2)
    return max(0, min(wanted, (whole & ~1) - even)), even


def _cos_sin(framing: Framing) -> tuple[float, float]:
    angle = math.radians(abs(framing.turn))
    return math.cos(angle), math.sin(angle)


def _share(value: float) -> float:
    return min(1.0, max(0.0, value))


def _within(wanted: float, half: float) -> float:
    low, high = sorted((half, 1 - half))
    return min(max(wanted, low), high)


def _quarters(picture: Size, quarters: int) -> Affine:
    width, height = picture
    return (
        (1, 0, 0, 0, 1, 0),
        (0, -1, height, 1, 0, 0),
        (-1, 0, width, 0, -1, height),
        (0, 1, 0, -1, 0, width),
    )[quarters % 4]
