"""Advanced SubStation Alpha: events' times, names, words, italics, places, karaoke; the nearest look."""

from __future__ import annotations

import re
from collections.abc import Sequence

from mortiser.formats.base import Caption, CaptionDocument, Colour, GridPlace, Look
from mortiser.formats.markup import Marked, marked
from mortiser.formats.timed import TIME, CaptionReading, microseconds

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


PLAIN = Look("Atkinson Hyperlegible", True, 64, (255,) * 4, (255,) * 4, outline_width=3)
"""How captions look where nobody has said."""


def write(captions: Sequence[Caption], document: CaptionDocument) -> str:
    """The file's text: one style, marked words in their accents' colours, karaoke where the document is timed."""
    look = document.look or PLAIN
    width, height = document.size
    head = (
        "[Script Info]\nScriptType: v4.00+\nWrapStyle: 2\nScaledBorderAndShadow: yes\n"
        f"PlayResX: {width}\nPlayResY: {height}\n\n"
        f"[V4+ Styles]\nFormat: {USUAL_STYLE}\nStyle: {_style(look)}\n\n"
        f"[Events]\nFormat: {USUAL}\n"
    )
    x, y = round(look.x * width), round(look.y * height)
    usual = f"{{\\pos({x},{y})}}" if document.look else ""
    return head + "".join(
        f"Dialogue: 0,{_time(one.start_us)},{_time(one.end_us)},Piece,{_name(one.speaker)},0,0,0,,"
        f"{_placed(one.place) or usual}{_text(one, look, timed=document.timed)}\n"
        for one in captions
    )


def _placed(place: GridPlace | None) -> str:
    """The place of a caption that has one of its own."""
    return f"{{\\an{place.number}}}" if place else ""


def _style(look: Look) -> str:
    boxed = look.box is not None
    outline = look.box if look.box is not None else look.outline
    row = {"left": 4, "centre": 5, "right": 6}[look.place.across if look.place else "centre"]
    values = [
        "Piece",
        look.font.replace(",", " "),
        f"{look.size:.0f}",
        _colour(look.said),
        _colour(look.ahead),
        _colour(outline),
        _colour((0, 0, 0, 150)),
        *(-1 if look.bold else 0, 0, 0, 0, 100, 100, 0, 0, 3 if boxed else 1),
        f"{look.size / 8 if boxed else look.outline_width:.1f}",
        f"{look.shadow:.1f}",
        *(row, 20, 20, 20, 1),
    ]
    return ",".join(map(str, values))


def _colour(colour: Colour) -> str:
    """Blue, green and red behind how clear it is."""
    red, green, blue, opacity = colour
    return f"&H{255 - opacity:02X}{blue:02X}{green:02X}{red:02X}"


def _text(caption: Caption, look: Look, *, timed: bool) -> str:
    """The lines; before each word how long the one before took, and its accent's colour."""
    at = _centis(caption.start_us)
    words = [part.word for parts in caption.parts for part in parts if part.word]
    starts = [min(max(_centis(one.start_us), at), _centis(caption.end_us)) for one in words]
    ends = [*starts[1:], _centis(caption.end_us)]
    lines: list[str] = []
    number = 0
    for parts in caption.parts:
        line = ""
        for text, word in parts:
            shown = _escaped(text.upper() if look.upper else text)
            if word is None:
                line += shown
                continue
            if timed and not number and starts[0] > at:
                line += f"{{\\k{starts[0] - at}}}"
            tags = f"\\k{ends[number] - starts[number]}" if timed else ""
            mark = getattr(word, "accent", 0)
            if mark and look.accents:
                colour = _colour(look.accents[min(mark, len(look.accents)) - 1])
                line += f"{{{tags}\\c{colour}&}}{shown}{{\\c{_colour(look.said)}&}}"
            else:
                line += f"{{{tags}}}{shown}" if tags else shown
            number += 1
        lines.append(line)
    return "\\N".join(lines)


def _escaped(text: str) -> str:
    """A text in which nothing means anything but itself."""
    kept = re.sub(r"\\(?=[Nnh{}])", "\\\\\u2060", text)
    return kept.replace("{", "\\{").replace("}", "\\}")


def _name(speaker: str | None) -> str:
    return (speaker or "").replace(",", " ")


def _centis(us: int) -> int:
    return (us + 5_000) // 10_000


def _time(us: int) -> str:
    seconds, rest = divmod(_centis(us), 100)
    return f"{seconds // 3600}:{seconds // 60 % 60:02d}:{seconds % 60:02d}.{rest:02d}"


MARKS = ("Dialogue:", "\\k")
"""What each caption, and each word with a time of its own, has in a text."""


def is_mine(text: str) -> bool:
    """Whether a text says itself that it is in this format."""
    return "[Events]" in text and "Dialogue:" in text


def read(text: str) -> CaptionReading:
    """The file's dialogue lines; comments and drawings are passed over."""
    reading = CaptionReading()
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
    reading: CaptionReading,
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
    place = GridPlace.of(number_pad) if number_pad else None
    exact = next((one.position for one in lines if one.position), None)
    if exact is not None:
        place = GridPlace.at(exact[0] / size[0], exact[1] / size[1])
    speaker = values.get("name", "").strip() or None
    reading.add(number, at_us, microseconds(end), lines, speaker, place)


def _counted(text: str) -> int:
    """How long the karaoke syllables of a text last together (µs)."""
    return sum(int(one) for one in re.findall(r"\\[kK][fo]?(\d{1,6})", text)) * 10_000


def _fields(line: str) -> list[str]:
    return [name.strip().lower() for name in line.split(",")]
