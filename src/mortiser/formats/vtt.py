"""WebVTT (W3C Candidate Recommendation, 2019)."""

from __future__ import annotations

import re
from collections.abc import Sequence

from mortiser.core.common.time import round_to_ms, timecode
from mortiser.formats.base import Caption, CaptionDocument, Colour, GridPlace, Look
from mortiser.formats.markup import marked
from mortiser.formats.timed import CaptionReading, blocks

_SETTING = re.compile(r"(line|position|align|size|region|vertical):([^\s,]{1,40})")
_PERCENT = re.compile(r"(\d{1,3}(?:\.\d{1,6})?)%$")
_ALIGN = {"left": "start", "centre": "center", "right": "end"}
_ROWS = 15
"""How many lines of captions a picture holds, as players count them."""
_ESCAPES = str.maketrans({"&": "&amp;", "<": "&lt;", ">": "&gt;"})


def write(captions: Sequence[Caption], document: CaptionDocument) -> str:
    """The file's text, signs that mean something escaped."""
    blocks = ["WEBVTT\n"]
    if document.look:
        blocks.append(_style(document.look))
    for caption in captions:
        times = f"{timecode(caption.start_us)} --> {timecode(caption.end_us)}"
        if caption.place:
            times += _stands(caption.place)
        elif document.look:
            times += _settings(document.look)
        text = _timed(caption) if document.timed else "\n".join(map(_plain, caption.lines))
        voice = f"<v {_plain(caption.speaker)}>" if caption.speaker else ""
        blocks.append(f"{times}\n{voice}{text}\n")
    return "\n".join(blocks)


def _timed(caption: Caption) -> str:
    """The lines with the moment each word is said, but for what lies outside of the caption."""
    last = round_to_ms(caption.start_us)
    end = round_to_ms(caption.end_us)
    lines = []
    for parts in caption.parts:
        line = ""
        for text, word in parts:
            at = round_to_ms(word.start_us) if word else 0
            blank = text[: len(text) - len(text.lstrip())]
            # Grammar: each later than the one before, within the caption.
            if word and last < at < end:
                line += f"{blank}<{timecode(at * 1_000)}>"
                last = at
                blank = ""
            line += blank + _plain(text.lstrip())
        lines.append(line)
    return "\n".join(lines)


def _style(look: Look) -> str:
    """A style sheet: letters, and what lies behind them."""
    rules = [f"color: {_css(look.said)};", f'font-family: "{look.font}";']
    rules.append(f"font-weight: {'bold' if look.bold else 'normal'};")
    rules.append(f"background: {_css(look.box) if look.box else 'transparent'};")
    if look.outline_width:
        rules.append(f"text-shadow: 0 0 {look.outline_width:.0f}px {_css(look.outline)};")
    inside = "\n".join(f"  {rule}" for rule in rules)
    ahead = f"::cue(:future) {{\n  color: {_css(look.ahead)};\n}}"
    return f"STYLE\n::cue {{\n{inside}\n}}\n{ahead}\n"


def _css(colour: Colour) -> str:
    red, green, blue, opacity = colour
    return f"rgba({red}, {green}, {blue}, {opacity / 255:.2f})"


def _stands(place: GridPlace) -> str:
    """The settings of a caption that has a place of its own."""
    line = {"top": 10, "middle": 50, "bottom": 90}[place.down]
    position = {"left": 5, "centre": 50, "right": 95}[place.across]
    return f" line:{line}% position:{position}% align:{_ALIGN[place.across]}"


def _settings(look: Look) -> str:
    align = _ALIGN[look.place.across if look.place else "centre"]
    return f" line:{100 * look.y:.0f}% position:{100 * look.x:.0f}% align:{align}"


def _plain(text: str) -> str:
    """A text without signs that mean something."""
    return text.translate(_ESCAPES)


MARKS = ("-->", "<0")
"""What each caption, and each word with a time of its own, has in a text."""


def is_mine(text: str) -> bool:
    """Whether a text says itself that it is in this format."""
    return text.lstrip("\ufeff").startswith("WEBVTT")


def read(text: str) -> CaptionReading:
    """The file's captions with their voices, places, italics and word times."""
    reading = CaptionReading()
    lines = text.split("\n")
    if not lines[0].startswith("WEBVTT"):
        reading.note(1, "“WEBVTT” was missing at the start; read all the same.")
    if any(one.strip() == "STYLE" for one in lines):
        reading.lose("the file's style sheet", 0)
    for line, start, end, (settings, *inside) in blocks(lines, reading):
        found = [marked(one, angles=True, braces=False, start_us=start) for one in inside]
        reading.add(line, start, end, found, place=_place(settings, start, reading))
    return reading.ended()


def _place(settings: str, at_us: int, reading: CaptionReading) -> GridPlace | None:
    """Where a cue's settings put it; what has no counterpart is noted."""
    said = dict(_SETTING.findall(settings))
    for name in ("region", "vertical"):
        if name in said:
            reading.lose(f"cue setting “{name}”", at_us)
    y = 0.9
    if "line" in said:
        percent = _PERCENT.match(said["line"])
        if percent:
            y = float(percent.group(1)) / 100
        elif re.fullmatch(r"-?\d{1,4}", said["line"]):
            row = int(said["line"])
            y = row / _ROWS if row >= 0 else 1 + row / _ROWS
    x = {"start": 0.1, "left": 0.1, "end": 0.9, "right": 0.9}.get(said.get("align", ""), 0.5)
    across = _PERCENT.match(said.get("position", ""))
    if across:
        x = float(across.group(1)) / 100
    return GridPlace.at(x, y)
