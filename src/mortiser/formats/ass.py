"""Advanced SubStation Alpha, read only: its events' times, names and words; looks are not taken."""

from __future__ import annotations

import re

from mortiser.formats.timed import TIME, Reading, microseconds

USUAL = "Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text"
_OVERRIDE = re.compile(r"\{[^{}]*\}")
_DRAWING = re.compile(r"\\p[1-9]")


def read(text: str) -> Reading:
    """The file's dialogue lines; comments and drawings are passed over."""
    reading = Reading()
    fields = _fields(USUAL)
    for number, line in enumerate(text.split("\n"), start=1):
        kind, _, rest = line.strip().partition(":")
        if kind == "Format" and "Text" in rest and "Start" in rest:
            fields = _fields(rest)
        if kind != "Dialogue":
            continue
        values = dict(zip(fields, rest.split(",", len(fields) - 1), strict=False))
        start, end = values.get("start", ""), values.get("end", "")
        if "text" not in values or not TIME.search(start) or not TIME.search(end):
            reading.note(number, "the event has no times that can be read; left out.")
            continue
        if _DRAWING.search(values["text"]):
            continue
        words = _OVERRIDE.sub("", values["text"]).replace("\\h", " ").replace("\\n", "\\N")
        speaker = values.get("name", "").strip() or None
        lines = words.split("\\N")
        reading.add(number, microseconds(start), microseconds(end), lines, speaker)
    return reading.ended()


def _fields(line: str) -> list[str]:
    return [name.strip().lower() for name in line.split(",")]
