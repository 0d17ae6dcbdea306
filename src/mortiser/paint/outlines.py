"""Outlines of letters, written as SVG path data, as Skia's paths."""

from __future__ import annotations

from functools import lru_cache

import skia
from fontTools.pens.basePen import BasePen
from fontTools.svgLib.path import parse_path

_Point = tuple[float, float]


class _SkiaPen(BasePen):  # type: ignore[misc]
    """Draws into a skia.PathBuilder."""

    def __init__(self) -> None:
        super().__init__(None)
        self.builder = skia.PathBuilder()

    def _moveTo(self, pt: _Point) -> None:  # noqa: N802
        self.builder.moveTo(*pt)

    def _lineTo(self, pt: _Point) -> None:  # noqa: N802
        self.builder.lineTo(*pt)

    def _curveToOne(self, a: _Point, b: _Point, c: _Point) -> None:  # noqa: N802
        self.builder.cubicTo(*a, *b, *c)

    def _qCurveToOne(self, a: _Point, b: _Point) -> None:  # noqa: N802
        self.builder.quadTo(*a, *b)

    def _closePath(self) -> None:  # noqa: N802
        self.builder.close()


@lru_cache(maxsize=5_000)
def outline(svg: str) -> skia.Path:
    """The path; not to be changed."""
    pen = _SkiaPen()
    parse_path(svg, pen)
    return pen.builder.detach()
