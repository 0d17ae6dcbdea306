"""Films and pictures, drawn: flat shapes in the colours of the Lantern Lane Mending Room."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import skia

RATE = 24
DUSK, NIGHT, WALL, WOOD = 0xFF3B3F58, 0xFF22243A, 0xFFE9DCC3, 0xFF9A6B43
LIGHT, BRASS, INK, CHALK = 0xFFF8D58A, 0xFFC08A3E, 0xFF2C2A2A, 0xFFF7F2E8
RED, BLUE, GREEN = 0xFFB4533C, 0xFF5B7F95, 0xFF6F8A5F
Draw = Callable[[skia.Canvas, float, float, float], None]
"""Draws a moment (seconds) in a width and a height."""


@dataclass(frozen=True)
class Scene:
    ref: str
    title: str
    tags: str
    size: tuple[int, int]
    draw: Draw
    seconds: float = 5.0


def draw_film(scene: Scene, file: Path) -> None:
    """Write a scene as H.264 in MP4, without sound."""
    width, height = scene.size
    with av.open(str(file), "w", options={"movflags": "+faststart"}) as out:
        stream = out.add_stream("libx264", rate=RATE, options={"crf": "27", "preset": "slow"})
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        for number in range(round(scene.seconds * RATE)):
            frame = av.VideoFrame.from_ndarray(_pixels(scene, number / RATE), "rgba")
            frame.pts, frame.time_base = number, Fraction(1, RATE)
            for packet in stream.encode(frame):
                out.mux(packet)
        for packet in stream.encode(None):
            out.mux(packet)


def draw_picture(scene: Scene, file: Path) -> None:
    """Write the beginning of a scene as PNG."""
    skia.Image.fromarray(_pixels(scene, 0.0), skia.kRGBA_8888_ColorType).save(str(file), skia.kPNG)


def draw_small(scene: Scene, file: Path) -> None:
    """Write a small picture of a scene as JPEG, with its longer side 320 pixels long."""
    pixels = _pixels(scene, scene.seconds / 3)
    # JPEG has nothing to see through.
    pixels = np.where(pixels[:, :, 3:] > 0, pixels, np.uint8(255))
    image = skia.Image.fromarray(pixels, skia.kRGBA_8888_ColorType)
    share = 320 / max(scene.size)
    small = image.resize(round(scene.size[0] * share), round(scene.size[1] * share))
    small.save(str(file), skia.kJPEG, 82)


def _pixels(scene: Scene, at_s: float) -> np.ndarray:
    width, height = scene.size
    pixels = np.zeros((height, width, 4), np.uint8)
    surface = skia.Surface(pixels, colorType=skia.kRGBA_8888_ColorType)
    with surface as canvas:
        scene.draw(canvas, at_s, width, height)
    return pixels


def fill(colour: int, alpha: float = 1.0) -> skia.Paint:
    paint = skia.Paint(AntiAlias=True, Color=colour)
    paint.setAlphaf(alpha)
    return paint


def line(colour: int, width: float) -> skia.Paint:
    return skia.Paint(
        AntiAlias=True, Color=colour, Style=skia.Paint.kStroke_Style, StrokeWidth=width,
        StrokeCap=skia.Paint.kRound_Cap,
    )  # fmt: skip


def glow(canvas: skia.Canvas, x: float, y: float, radius: float, colour: int, alpha: float) -> None:
    shader = skia.GradientShader.MakeRadial((x, y), radius, [colour, colour & 0x00FFFFFF])
    paint = skia.Paint(AntiAlias=True, Shader=shader)
    paint.setAlphaf(alpha)
    canvas.drawCircle(x, y, radius, paint)


def table(canvas: skia.Canvas, w: float, h: float, wall: int = WALL) -> None:
    canvas.clear(wall)
    canvas.drawRect(skia.Rect(0, 0.72 * h, w, h), fill(WOOD))
    canvas.drawRect(skia.Rect(0, 0.72 * h, w, 0.735 * h), fill(INK, 0.25))


def kettle(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    table(canvas, w, h)
    unit, x, y = min(w, h), w / 2, 0.72 * h
    for number in range(7):
        rise = (t / 2.5 + number / 7) % 1
        sway = 0.03 * unit * math.sin(5 * rise + number)
        spot = x + 0.3 * unit + sway, y - 0.36 * unit - rise * 0.42 * unit
        canvas.drawCircle(*spot, (0.03 + 0.06 * rise) * unit, fill(CHALK, 0.75 * (1 - rise)))
    body = skia.Path()
    body.moveTo(x - 0.26 * unit, y)
    body.cubicTo(x - 0.3 * unit, y - 0.4 * unit, x + 0.3 * unit, y - 0.4 * unit, x + 0.26 * unit, y)
    body.close()
    canvas.drawLine(
        x + 0.18 * unit, y - 0.14 * unit, x + 0.31 * unit, y - 0.32 * unit, line(RED, 0.06 * unit)
    )
    canvas.drawArc(
        skia.Rect(x - 0.2 * unit, y - 0.5 * unit, x + 0.2 * unit, y - 0.14 * unit),
        190,
        160,
        False,
        line(INK, 0.03 * unit),
    )
    canvas.drawPath(body, fill(RED))
    canvas.drawCircle(x, y - 0.315 * unit, 0.03 * unit, fill(INK))
    glow(canvas, x - 0.1 * unit, y - 0.2 * unit, 0.14 * unit, CHALK, 0.35)


def lantern(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    canvas.clear(NIGHT)
    unit = min(w, h)
    for number in range(24):
        spot = (number * 0.618 % 1) * w, (number * 0.377 % 1) * 0.6 * h
        canvas.drawCircle(*spot, 0.004 * unit, fill(CHALK, 0.5 + 0.4 * math.sin(3 * t + number)))
    canvas.save()
    canvas.rotate(9 * math.sin(2 * math.pi * t / 2.5), w / 2, 0)
    x, y = w / 2, 0.5 * h
    canvas.drawLine(x, 0, x, y - 0.24 * unit, line(BRASS, 0.012 * unit))
    glow(canvas, x, y, 0.62 * unit, LIGHT, 0.55 + 0.05 * math.sin(11 * t))
    canvas.drawRoundRect(
        skia.Rect(x - 0.13 * unit, y - 0.18 * unit, x + 0.13 * unit, y + 0.18 * unit),
        0.05 * unit,
        0.05 * unit,
        fill(LIGHT),
    )
    canvas.drawOval(
        skia.Rect(x - 0.035 * unit, y - 0.05 * unit, x + 0.035 * unit, y + 0.12 * unit),
        fill(0xFFE58B3A),
    )
    for side in (-1, 0, 1):
        canvas.drawLine(
            x + side * 0.13 * unit,
            y - 0.18 * unit,
            x + side * 0.13 * unit,
            y + 0.18 * unit,
            line(BRASS, 0.012 * unit),
        )
    for edge in (-0.2, 0.18):
        canvas.drawRoundRect(
            skia.Rect(x - 0.16 * unit, y + edge * unit, x + 0.16 * unit, y + (edge + 0.03) * unit),
            0.01 * unit,
            0.01 * unit,
            fill(BRASS),
        )
    canvas.restore()


def rain(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    canvas.clear(BLUE)
    unit = min(w, h)
    canvas.drawRect(skia.Rect(0, 0.62 * h, w, h), fill(DUSK))
    glow(canvas, 0.7 * w, 0.55 * h, 0.4 * unit, LIGHT, 0.5)
    for number in range(60):
        x = (number * 0.6180339 % 1) * w
        y = ((number * 0.377 + t * (0.5 + number % 5 / 8)) % 1.1) * h
        canvas.drawLine(x, y, x - 0.01 * unit, y + 0.05 * unit, line(0x99F7F2E8, 0.006 * unit))
    for bar in (skia.Rect(0.48 * w, 0, 0.52 * w, h), skia.Rect(0, 0.46 * h, w, 0.49 * h)):
        canvas.drawRect(bar, fill(CHALK))
    canvas.drawRect(skia.Rect(0, 0, w, h), line(CHALK, 0.09 * unit))


def clock(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    canvas.clear(WALL)
    unit, x, y = min(w, h), w / 2, 0.46 * h
    canvas.drawCircle(x, y, 0.36 * unit, fill(WOOD))
    canvas.drawCircle(x, y, 0.31 * unit, fill(CHALK))
    for hour in range(12):
        a = math.tau * hour / 12
        near, far = 0.26 * unit, 0.29 * unit
        canvas.drawLine(
            x + near * math.sin(a),
            y - near * math.cos(a),
            x + far * math.sin(a),
            y - far * math.cos(a),
            line(INK, 0.01 * unit),
        )
    for turns, length, width, colour in (
        (0.15 + t / 60, 0.16, 0.022, INK),
        (0.4 + t / 5, 0.24, 0.014, INK),
        (math.floor(t * 2) / 10, 0.26, 0.006, RED),
    ):
        a = math.tau * turns
        canvas.drawLine(
            x,
            y,
            x + length * unit * math.sin(a),
            y - length * unit * math.cos(a),
            line(colour, width * unit),
        )
    canvas.drawCircle(x, y, 0.018 * unit, fill(BRASS))


def spool(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    table(canvas, w, h, 0xFFD7E0D2)
    unit, x, y = min(w, h), w / 2, 0.72 * h
    canvas.drawRect(
        skia.Rect(x - 0.12 * unit, y - 0.36 * unit, x + 0.12 * unit, y - 0.06 * unit), fill(GREEN)
    )
    for number in range(14):
        high = y - (0.075 + 0.02 * number) * unit
        shift = 0.02 * unit * math.sin(6 * t + number)
        canvas.drawLine(
            x - 0.12 * unit,
            high + shift / 3,
            x + 0.12 * unit,
            high - shift / 3,
            line(0x55F7F2E8, 0.006 * unit),
        )
    for edge in (-0.42, -0.06):
        canvas.drawRoundRect(
            skia.Rect(x - 0.19 * unit, y + edge * unit, x + 0.19 * unit, y + (edge + 0.06) * unit),
            0.02 * unit,
            0.02 * unit,
            fill(BRASS),
        )
    thread = skia.Path()
    thread.moveTo(x + 0.12 * unit, y - 0.2 * unit)
    lift = 0.08 * unit * math.sin(math.tau * t / 2.5)
    thread.cubicTo(
        x + 0.3 * unit,
        y - 0.3 * unit + lift,
        x + 0.3 * unit,
        y - 0.5 * unit - lift,
        x + 0.46 * unit,
        y - 0.5 * unit + lift,
    )
    canvas.drawPath(thread, line(GREEN, 0.01 * unit))


def solder(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    table(canvas, w, h, DUSK)
    unit, x, y = min(w, h), w / 2, 0.66 * h
    canvas.drawRoundRect(
        skia.Rect(x - 0.5 * unit, y, x + 0.5 * unit, y + 0.12 * unit),
        0.02 * unit,
        0.02 * unit,
        fill(GREEN),
    )
    for number in range(6):
        canvas.drawCircle(
            x + (number - 2.5) * 0.15 * unit, y + 0.05 * unit, 0.022 * unit, fill(BRASS)
        )
    reach = 0.05 * unit * (1 + math.sin(math.tau * t / 2.5))
    tip = x + 0.075 * unit, y + 0.03 * unit - reach
    canvas.drawLine(*tip, tip[0] + 0.22 * unit, tip[1] - 0.22 * unit, line(CHALK, 0.02 * unit))
    canvas.drawLine(
        tip[0] + 0.22 * unit,
        tip[1] - 0.22 * unit,
        tip[0] + 0.45 * unit,
        tip[1] - 0.45 * unit,
        line(RED, 0.07 * unit),
    )
    hot = max(0.0, 1 - reach / (0.05 * unit))
    glow(canvas, *tip, 0.16 * unit, LIGHT, 0.25 + 0.7 * hot)
    for number in range(5):
        rise = (t / 2 + number / 5) % 1
        canvas.drawCircle(
            tip[0] - 0.05 * unit + 0.03 * unit * math.sin(6 * rise + number),
            tip[1] - rise * 0.4 * unit,
            (0.01 + 0.03 * rise) * unit,
            fill(CHALK, 0.4 * (1 - rise)),
        )


def fuse(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    table(canvas, w, h)
    unit, x, y = min(w, h), w / 2, 0.5 * h
    canvas.drawRoundRect(
        skia.Rect(x - 0.3 * unit, y - 0.09 * unit, x + 0.3 * unit, y + 0.09 * unit),
        0.03 * unit,
        0.03 * unit,
        fill(0xCCDDE8EA),
    )
    canvas.drawLine(x - 0.2 * unit, y, x - 0.03 * unit, y + 0.02 * unit, line(INK, 0.008 * unit))
    canvas.drawLine(x + 0.2 * unit, y, x + 0.04 * unit, y - 0.03 * unit, line(INK, 0.008 * unit))
    for side in (-1, 1):
        middle = x + side * 0.29 * unit
        canvas.drawRoundRect(
            skia.Rect(
                middle - 0.09 * unit, y - 0.105 * unit, middle + 0.09 * unit, y + 0.105 * unit
            ),
            0.02 * unit,
            0.02 * unit,
            fill(BRASS),
        )


def chair(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    canvas.clear(0xFFDCE3E6)
    unit, x, y = min(w, h), w / 2, 0.8 * h
    canvas.drawRect(skia.Rect(0, y, w, h), fill(0xFFC9B597))
    legs = line(WOOD, 0.035 * unit)
    for side in (-0.18, 0.18):
        canvas.drawLine(x + side * unit, y, x + side * 0.92 * unit, y - 0.32 * unit, legs)
    for side in (-0.17, 0.17):
        canvas.drawLine(x + side * unit, y - 0.34 * unit, x + side * unit, y - 0.72 * unit, legs)
    for rung in (0.45, 0.55, 0.65):
        canvas.drawLine(
            x - 0.17 * unit,
            y - rung * unit,
            x + 0.17 * unit,
            y - rung * unit,
            line(WOOD, 0.022 * unit),
        )
    canvas.drawRoundRect(
        skia.Rect(x - 0.23 * unit, y - 0.36 * unit, x + 0.23 * unit, y - 0.3 * unit),
        0.015 * unit,
        0.015 * unit,
        fill(BRASS),
    )


def screws(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    canvas.clear(WOOD)
    unit = min(w, h)
    for row in range(math.ceil(h / unit * 4)):
        for column in range(math.ceil(w / unit * 4)):
            x, y, a = (
                (column + 0.5) * unit / 4,
                (row + 0.5) * unit / 4,
                (row * 7 + column * 3) * 0.7,
            )
            canvas.drawCircle(x + 0.008 * unit, y + 0.01 * unit, 0.075 * unit, fill(INK, 0.35))
            canvas.drawCircle(x, y, 0.075 * unit, fill(0xFFCBCAC4 if (row + column) % 2 else BRASS))
            dx, dy = 0.055 * unit * math.cos(a), 0.055 * unit * math.sin(a)
            canvas.drawLine(x - dx, y - dy, x + dx, y + dy, line(INK, 0.016 * unit))


def sign(canvas: skia.Canvas, t: float, w: float, h: float) -> None:
    """A tag that can be seen through around it."""
    unit, x, y = min(w, h), w / 2, h / 2
    tag = skia.Path()
    tag.moveTo(x - 0.42 * unit, y)
    tag.lineTo(x - 0.28 * unit, y - 0.2 * unit)
    tag.lineTo(x + 0.42 * unit, y - 0.2 * unit)
    tag.lineTo(x + 0.42 * unit, y + 0.2 * unit)
    tag.lineTo(x - 0.28 * unit, y + 0.2 * unit)
    tag.close()
    canvas.drawPath(tag, fill(RED))
    canvas.drawCircle(x - 0.3 * unit, y, 0.035 * unit, fill(CHALK))
    for place in (-0.08, 0.06):
        canvas.drawLine(
            x - 0.16 * unit,
            y + place * unit,
            x + 0.32 * unit,
            y + place * unit,
            line(CHALK, 0.03 * unit),
        )


TALL, WIDE = (540, 960), (960, 540)
FILMS = (
    Scene("kettle-steam", "Kettle with steam", "kettle steam tea stove hot boil", TALL, kettle),
    Scene("lantern-swing", "Lantern swinging at night", "lantern lamp light night evening", TALL, lantern),
    Scene("rain-window", "Rain at the window", "rain window weather wet street", WIDE, rain),
    Scene("wall-clock", "Clock on the wall", "clock time minutes hour wait hands", TALL, clock),
    Scene("green-spool", "Green thread on a spool", "thread spool sewing mend needle cloth", WIDE, spool),
    Scene("soldering", "Soldering a board", "solder iron wire board repair heat electric", WIDE, solder),
)  # fmt: skip
PICTURES = (
    Scene("blown-fuse", "A blown fuse", "fuse glass electric broken plug wire", (900, 900), fuse),
    Scene("kitchen-chair", "Kitchen chair", "chair leg wood seat loose", (720, 960), chair),
    Scene("screw-heads", "Screw heads", "screw screws metal tools driver", (960, 720), screws),
    Scene("price-tag", "Price tag, cut out", "price tag money cost paid coins", (800, 500), sign),
)
