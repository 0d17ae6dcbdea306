"""Advanced SubStation Alpha, read only: its events' times, names, words, italics, places, karaoke."""

from __future__ import annotations

import re

from mortiser.formats.base import Place
from mortiser.formats.markup import Marked, marked
from mortiser.formats.timed import TIME, Reading, microseconds

USUAL = "Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text"
USUAL_STYLE = (
    "Name, Fontname, Fontsize, PrimaryColour, SecondaryColour, OutlineColour, BackColour, Bold, "
    "Italic, Underline, StrikeOut, ScaleX, ScaleY, Spacing, Angle, BorderStyle, Outline, Shadow, "
    "Alignment, MarginL, MarginR, MarginV, Encoding"
)
USUAL_SIZE = (384.0, 288.0)
"""The picture that places count in where a file says nothing."""
_DRAWING = re.compile(r"\\p[1-9]")
_BREAK = re.compile(r"\\[Nn]")


def read(text: str) -> Reading:
    """The file's dialogue lines; comments and drawings are passed over."""
    reading = Reading()
    fields, style_fields = _fields(USUAL), _fields(USUAL_STYLE)
    styles: dict[str, dict[str, str]] = {}
    size = list(USUAL_SIZE)
    for number, line in enumerate(text.split("\n"), start=1):
        kind, _, rest = line.strip().partition(":")
        if kind in ("PlayResX", "PlayResY") and re.fullmatch(r"\s*\d{1,6}\s*", rest):
            size[kind == "PlayResY"] = max(1.0, float(rest))
        if kind == "Format" and "Text" in rest and "Start" in rest:
            fields = _fields(rest)
        elif kind == "Format" and "Fontname" in rest:
            style_fields = _fields(rest)
        elif kind == "Style":
            style = dict(zip(style_fields, (one.strip() for one in rest.split(",")), strict=False))
            styles[style.get("name", "")] = style
        if kind == "Dialogue":
            values = dict(zip(fields, rest.split(",", len(fields) - 1), strict=False))
            _event(reading, number, values, styles, (size[0], size[1]))
    if styles:
        reading.lose("the file's styles", 0)
    return reading.ended()


def _event(
    reading: Reading,
    number: int,
    values: dict[str, str],
    styles: dict[str, dict[str, str]],
    size: tuple[float, float],
) -> None:
    start, end = values.get("start", ""), values.get("end", "")
    if "text" not in values or not TIME.search(start) or not TIME.search(end):
        reading.note(number, "the event has no times that can be read; left out.")
        return
    if _DRAWING.search(values["text"]):
        return
    style = styles.get(values.get("style", "").strip(), {})
    italic = style.get("italic", "0") not in ("", "0")
    at_us = microseconds(start)
    # Karaoke counts on over line ends: the whole text is scanned at once.
    whole = values["text"].replace("\\h", " ")
    lines: list[Marked] = []
    begins = at_us
    for part in _BREAK.split(whole):
        lines.append(marked(part, angles=False, braces=True, start_us=begins, italic=italic))
        begins += _counted(part)
    number_pad = next((one.align for one in lines if one.align), None)
    if number_pad is None and style.get("alignment", "").isdecimal():
        number_pad = int(style["alignment"])
    place = Place.of(number_pad) if number_pad else None
    exact = next((one.position for one in lines if one.position), None)
    if exact is not None:
        place = Place.at(exact[0] / size[0], exact[1] / size[1])
    speaker = values.get("name", "").strip() or None
    reading.add(number, at_us, microseconds(end), lines, speaker, place)


def _counted(text: str) -> int:
    """How long the karaoke syllables of a text last together (µs)."""
    return sum(int(one) for one in re.findall(r"\\[kK][fo]?(\d{1,6})", text)) * 10_000


def _fields(line: str) -> list[str]:
    return [name.strip().lower() for name in line.split(",")]
