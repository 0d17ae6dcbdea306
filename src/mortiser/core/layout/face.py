"""Shape words with HarfBuzz and give their outlines as SVG path strings in pixels.

Font bytes come in from outside; nothing here touches the disk.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import uharfbuzz as hb
from fontTools.pens.svgPathPen import SVGPathPen
from fontTools.pens.transformPen import TransformPen


@dataclass(frozen=True, slots=True)
class Shaped:
    """A word at a size: outline with its pen at (0, 0) and y down, and its metrics in pixels."""

    path: str
    advance: float


class Face:
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

    def draw(self, text: str, size: float, at: float) -> tuple[str, float]:
        """Path of ``text`` with its pen at (``at``, 0), and its advance, in pixels."""
        buffer = hb.Buffer()
        buffer.add_str(text)
        buffer.guess_segment_properties()
        hb.shape(self._font, buffer)
        scale = size / self._upem
        pen = SVGPathPen(None, ntos=_number)
        x = at
        for info, pos in zip(buffer.glyph_infos, buffer.glyph_positions, strict=True):
            left, base = x + pos.x_offset * scale, -pos.y_offset * scale
            shift = TransformPen(pen, (scale, 0, 0, -scale, left, base))
            self._font.draw_glyph_with_pen(info.codepoint, shift)
            x += pos.x_advance * scale
        return pen.getCommands(), x - at


class FontBook:
    """The fonts at hand: one by name, and the others as fallback, in order."""

    def __init__(self, faces: Mapping[str, bytes], fallbacks: tuple[str, ...]) -> None:
        self._faces = {name: Face(data) for name, data in faces.items()}
        self._fallbacks = fallbacks
        self.shape = lru_cache(maxsize=20_000)(self._shape)

    def face(self, name: str) -> Face:
        """The font called ``name``; the first fallback where there is none."""
        return self._faces.get(name) or self._faces[self._fallbacks[0]]

    def _shape(self, text: str, name: str, size: float) -> Shaped:
        """Shape a word, each run of characters with the first font that has them."""
        paths: list[str] = []
        x = 0.0
        for run, face in self._runs(text, name):
            path, advance = face.draw(run, size, x)
            paths.append(path)
            x += advance
        return Shaped("".join(paths), x)

    def _runs(self, text: str, name: str) -> list[tuple[str, Face]]:
        chain = [self.face(name), *(self._faces[f] for f in self._fallbacks)]
        runs: list[tuple[str, Face]] = []
        for ch in text:
            if runs and (_joins(ch) or (runs[-1][1].covers(ch) and runs[-1][1] is chain[0])):
                runs[-1] = (runs[-1][0] + ch, runs[-1][1])
                continue
            face = next((f for f in chain if f.covers(ch)), chain[0])
            if runs and runs[-1][1] is face:
                runs[-1] = (runs[-1][0] + ch, face)
            else:
                runs.append((ch, face))
        return runs


def _joins(ch: str) -> bool:
    """Marks that belong to the character before: joiners, variation selectors, skin tones."""
    return ch in "\u200d\ufe0e\ufe0f" or 0x1F3FB <= ord(ch) <= 0x1F3FF


def _number(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".")
