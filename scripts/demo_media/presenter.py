"""Draw the presenter at the workbench: one picture for a moment, a mouth that follows the sound."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
import numpy.typing as npt
import skia

WIDTH, HEIGHT = 1080, 1920


def _paint(colour: int, stroke: float = 0.0) -> skia.Paint:
    paint = skia.Paint(Color=0xFF000000 | colour, AntiAlias=True)
    if stroke:
        paint.setStyle(skia.Paint.kStroke_Style)
        paint.setStrokeWidth(stroke)
        paint.setStrokeCap(skia.Paint.kRound_Cap)
    return paint


def _round(canvas: skia.Canvas, box: tuple[float, ...], radius: float, colour: int) -> None:
    x, y, w, h = box
    canvas.drawRoundRect(skia.Rect.MakeXYWH(x, y, w, h), radius, radius, _paint(colour))


def _room(canvas: skia.Canvas) -> None:
    wall = skia.GradientShader.MakeLinear(
        [skia.Point(0, 0), skia.Point(0, 1300)], [0xFFE9DDC2, 0xFFC9A87C]
    )
    canvas.drawPaint(skia.Paint(Shader=wall))
    _round(canvas, (90, 150, 300, 420), 10, 0xF6EBD2)
    _round(canvas, (108, 168, 264, 384), 4, 0xA9CBD8)
    canvas.drawRect(skia.Rect.MakeXYWH(232, 168, 14, 384), _paint(0xF6EBD2))
    canvas.drawRect(skia.Rect.MakeXYWH(108, 350, 264, 14), _paint(0xF6EBD2))
    _round(canvas, (640, 330, 380, 26), 6, 0x8A5B3A)
    _round(canvas, (640, 590, 380, 26), 6, 0x8A5B3A)
    for x, w, h, colour in (
        (670, 70, 120, 0xB4532F),
        (760, 90, 80, 0x55705F),
        (872, 60, 150, 0x2F4F7A),
    ):
        _round(canvas, (x, 330 - h, w, h), 12, colour)
    _round(canvas, (680, 500, 150, 90), 16, 0x6B4A33)
    canvas.drawCircle(725, 545, 28, _paint(0xE3C488))
    canvas.drawLine(800, 500, 850, 420, _paint(0x4A4038, 6))
    _round(canvas, (880, 480, 90, 110), 10, 0xD9B36A)


def _face(canvas: skia.Canvas, mouth: float, t: float) -> None:
    skin, hair = 0xD99C78, 0x3A2A22
    _round(canvas, (488, 960, 104, 150), 40, 0xC98A67)
    _round(canvas, (380, 590, 320, 430), 150, skin)
    canvas.drawCircle(376, 830, 38, _paint(skin))
    canvas.drawCircle(704, 830, 38, _paint(skin))
    _round(canvas, (362, 560, 356, 180), 90, hair)
    _round(canvas, (362, 640, 60, 170), 30, hair)
    _round(canvas, (658, 640, 60, 170), 30, hair)
    blink = 0.12 if (t % 3.7) < 0.13 else 1.0
    for x in (462, 618):
        canvas.drawOval(
            skia.Rect.MakeXYWH(x - 24, 815 - 24 * blink, 48, 48 * blink), _paint(0xFFFFFF)
        )
        canvas.drawOval(
            skia.Rect.MakeXYWH(x - 13, 815 - 15 * blink, 26, 30 * blink), _paint(0x2A221E)
        )
        canvas.drawLine(x - 34, 772 - 8 * mouth, x + 34, 768 - 8 * mouth, _paint(hair, 11))
    canvas.drawLine(540, 830, 528, 890, _paint(0xB97B58, 8))
    opening = 10 + 62 * mouth
    lips = skia.Rect.MakeXYWH(540 - 58 + 8 * mouth, 930 - opening / 2, 116 - 16 * mouth, opening)
    canvas.drawOval(lips, _paint(0x7A2A26))
    if mouth > 0.25:
        canvas.save()
        canvas.clipRect(skia.Rect.MakeXYWH(480, 930 - opening / 2, 120, 14))
        canvas.drawOval(lips, _paint(0xF5EFE6))
        canvas.restore()


def _kettle(canvas: skia.Canvas) -> None:
    canvas.drawCircle(790, 1440, 92, _paint(0x8C949B, 24))
    _round(canvas, (650, 1440, 280, 210), 70, 0xB9C0C6)
    _round(canvas, (680, 1420, 220, 60), 26, 0x98A0A7)
    canvas.drawLine(660, 1530, 590, 1470, _paint(0xB9C0C6, 40))
    canvas.drawCircle(790, 1412, 20, _paint(0x33383C))
    canvas.drawLine(930, 1600, 1080, 1680, _paint(0x33383C, 16))


def _chair(canvas: skia.Canvas) -> None:
    for x, top in ((690, 1300), (890, 1300)):
        canvas.drawLine(x, top, x + 6, 1660, _paint(0x6B4226, 26))
    for y in (1330, 1400, 1470):
        canvas.drawLine(690, y, 890, y, _paint(0x8A5B3A, 22))
    _round(canvas, (650, 1520, 290, 44), 14, 0xB98A5A)
    canvas.drawLine(664, 1560, 640, 1680, _paint(0x6B4226, 26))
    canvas.drawLine(926, 1560, 940, 1680, _paint(0x6B4226, 26))


THINGS: dict[str, Callable[[skia.Canvas], None]] = {"kettle": _kettle, "chair": _chair}
"""What stands on the bench."""


def draw(canvas: skia.Canvas, t: float, mouth: float, thing: str = "kettle") -> None:
    """Draw the moment ``t`` seconds with the mouth ``mouth`` (0 shut to 1 wide open)."""
    _room(canvas)
    sway, bob = 10 * math.sin(t * 0.9), 6 * math.sin(t * 2.1) - 8 * mouth
    canvas.save()
    canvas.translate(sway * 0.5, 0)
    _round(canvas, (220, 1060, 640, 700), 190, 0x476B7A)
    _round(canvas, (370, 1180, 340, 520), 40, 0xC8893C)
    canvas.drawLine(400, 1190, 440, 1075, _paint(0xC8893C, 30))
    canvas.drawLine(680, 1190, 640, 1075, _paint(0xC8893C, 30))
    canvas.restore()
    canvas.save()
    canvas.translate(sway, bob)
    _face(canvas, mouth, t)
    canvas.restore()
    canvas.drawRect(skia.Rect.MakeXYWH(0, 1640, WIDTH, 280), _paint(0x7B4F31))
    canvas.drawRect(skia.Rect.MakeXYWH(0, 1640, WIDTH, 18), _paint(0x95643F))
    THINGS[thing](canvas)
    lift = 40 * max(0.0, math.sin(t * 1.3)) + 30 * mouth
    canvas.drawLine(300, 1300, 250, 1560 - lift, _paint(0x476B7A, 120))
    canvas.drawCircle(270, 1600 - lift, 66, _paint(0xD99C78))


def mouths(samples: npt.NDArray[np.float32], rate: int, fps: int) -> npt.NDArray[np.float64]:
    """Opening of the mouth, shape (frames,), 0 to 1, from the loudness of each frame."""
    count = math.ceil(len(samples) / rate * fps)
    padded = np.pad(samples, (0, count * rate // fps + rate - len(samples)))
    loud = np.array(
        [
            float(np.sqrt(np.mean(padded[i * rate // fps : (i + 1) * rate // fps] ** 2)))
            for i in range(count)
        ]
    )
    smooth = np.convolve(loud, [0.25, 0.5, 0.25], mode="same")
    return np.clip(smooth / (np.percentile(smooth, 92) + 1e-9), 0, 1)
