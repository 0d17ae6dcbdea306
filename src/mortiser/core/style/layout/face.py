"""Shape runs of text with one font: HarfBuzz shaping, outlines as SVG path strings in pixels."""

from __future__ import annotations

from dataclasses import dataclass

import uharfbuzz as hb
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen

_JOINED = {"Arab", "Syrc", "Deva", "Beng", "Guru", "Gujr", "Mong", "Nkoo", "Mand"}
"""Scripts whose letters touch: space between them would tear words apart."""


@dataclass(frozen=True, slots=True)
class Letter:
    """One cluster of a shaped run: its first character's index, pen position and outline."""

    index: int
    x: float
    path: str


@dataclass(frozen=True, slots=True)
class Drawn:
    """A shaped run with its pen starting at (0, 0), y down, in pixels."""

    letters: tuple[Letter, ...]
    advance: float
    top: float
    bottom: float
    left: float
    right: float


class FontFace:
    """One font, able to shape and to say what it covers."""

    def __init__(self, data: bytes) -> None:
        face = hb.Face(data)
        self._font = hb.Font(face)
        self._upem: int = face.upem
        self._covered = frozenset(face.unicodes)
        extents = self._font.get_font_extents("ltr")
        self.ascent: float = extents.ascender / face.upem
        self.descent: float = -extents.descender / face.upem

    def covers(self, ch: str) -> bool:
        """Whether the font has a glyph for the character."""
        return ord(ch) in self._covered

    def draw(self, text: str, size: float, at: float, leftwards: bool, gap: float) -> Drawn:
        """Shape ``text`` in one direction with its pen at (``at``, 0).

        ``gap`` pixels are added after each letter of scripts that allow it. Letters come in
        visual order, from left to right.
        """
        buffer = hb.Buffer()
        buffer.add_str(text)
        buffer.guess_segment_properties()
        buffer.direction = "rtl" if leftwards else "ltr"
        hb.shape(self._font, buffer)
        extra = 0.0 if buffer.script in _JOINED else gap
        scale = size / self._upem
        letters: list[tuple[int, float, SVGPathPen]] = []
        x, left, right, top, bottom = at, at, at, 0.0, 0.0
        for info, pos in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
            if not letters or letters[-1][0] != info.cluster:
                x += extra if letters else 0.0
                letters.append((info.cluster, x, SVGPathPen(None, ntos=_number)))
            dx, dy = x + pos.x_offset * scale, -pos.y_offset * scale
            shift = TransformPen(letters[-1][2], (scale, 0, 0, -scale, dx, dy))
            self._font.draw_glyph_with_pen(info.codepoint, shift)
            ink = self._font.get_glyph_extents(info.codepoint)
            if ink is not None and ink.width:
                left = min(left, dx + ink.x_bearing * scale)
                right = max(right, dx + (ink.x_bearing + ink.width) * scale)
                top = min(top, dy - ink.y_bearing * scale)
                bottom = max(bottom, dy - (ink.y_bearing + ink.height) * scale)
            x += pos.x_advance * scale
        x += extra if letters else 0.0
        done = tuple(Letter(index, at, pen.getCommands()) for index, at, pen in letters)
        return Drawn(done, x - at, top, bottom, left, right)


def _number(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")
