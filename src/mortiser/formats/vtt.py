"""WebVTT (W3C Candidate Recommendation, 2019)."""

from __future__ import annotations

import re
from collections.abc import Sequence

from mortiser.core.time import timecode
from mortiser.formats.base import Caption, Place
from mortiser.formats.markup import marked
from mortiser.formats.timed import Reading, blocks

_SETTING = re.compile(r"(line|position|align|size|region|vertical):([^\s,]{1,40})")
_PERCENT = re.compile(r"(\d{1,3}(?:\.\d{1,6})?)%$")
_ROWS = 15
"""How many lines of captions a picture holds, as players count them."""
_ESCAPES = str.maketrans({"&": "&amp;", "<": "&lt;", ">": "&gt;"})


def write(captions: Sequence[Caption], duration_us: int) -> str:
    """The file's text, signs that mean something escaped."""
    blocks = ["WEBVTT\n"]
    for caption in captions:
        times = f"{timecode(caption.start_us)} --> {timecode(caption.end_us)}"
        text = "\n".join(line.translate(_ESCAPES) for line in caption.lines)
        voice = f"<v {_plain(caption.speaker)}>" if caption.speaker else ""
        blocks.append(f"{times}\n{voice}{text}\n")
    return "\n".join(blocks)


def _plain(name: str) -> str:
    """A name as an annotation: no signs that would end it."""
    return name.translate(_ESCAPES)


def read(text: str) -> Reading:
    """The file's captions with their voices, places, italics and word times."""
    reading = Reading()
    lines = text.split("\n")
    if not lines[0].startswith("WEBVTT"):
        reading.note(1, "“WEBVTT” was missing at the start; read all the same.")
    if any(one.strip() == "STYLE" for one in lines):
        reading.lose("the file's style sheet", 0)
    for line, start, end, (settings, *inside) in blocks(lines, reading):
        found = [marked(one, angles=True, braces=False, start_us=start) for one in inside]
        reading.add(line, start, end, found, place=_place(settings, start, reading))
    return reading.ended()


def _place(settings: str, at_us: int, reading: Reading) -> Place | None:
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
    return Place.at(x, y)
