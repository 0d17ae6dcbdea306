"""Markup inside captions: what of it a piece can hold (italics, word times), and what it cannot.

A scanner over tags in angle brackets (SubRip, WebVTT) and overrides in braces (ASS, also seen in
SubRip). It looks at every letter a fixed number of times, so it takes time linear in the text.
"""

from __future__ import annotations

import html
import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Literal

from mortiser.core.common.time import MILLISECOND

Lost = Literal[
    "colours", "bold", "underlines", "fonts and sizes", "classes", "readings (ruby)", "fades and motion",
    "turns and slants", "outlines and shadows", "masks",
]  # fmt: skip

_TAGS: dict[str, Lost] = {"b": "bold", "u": "underlines", "s": "underlines", "c": "classes"}
_TIME = re.compile(r"(?:(\d{1,3}):)?(\d{1,2}):(\d{1,2})[.,](\d{1,3})$")
_KARAOKE = re.compile(r"k[fo]?(\d{1,6})$", re.IGNORECASE)
_ALIGN = re.compile(r"an?(\d{1,2})$")
_NO_LETTER = re.compile(r"&#(?:[xX][0-9a-fA-F]{7,}|[0-9]{8,});?")
"""A letter by a number that no letter has, however long it goes on."""
_NUMBER = r"-?\d{1,6}(?:\.\d{1,6})?"
_POSITION = re.compile(rf"(?:pos|move)\(\s*({_NUMBER})\s*,\s*({_NUMBER})")
_LOST: tuple[tuple[re.Pattern[str], Lost], ...] = (
    (re.compile(r"(?:fade?|t|move)\("), "fades and motion"),
    (re.compile(r"(?:fr[xyz]?|fa[xy])-?\d"), "turns and slants"),
    (re.compile(r"[xy]?(?:bord|shad)\d|(?:be|blur)\d"), "outlines and shadows"),
    (re.compile(r"i?clip\("), "masks"),
)
"""Overrides that say how a caption looks, and what they are called."""
COLOURS = re.compile(r"[1-4]?(?:c|a|alpha)&", re.IGNORECASE)


@dataclass
class Marked:
    """Words of a caption's line with what its markup said about them."""

    words: list[str] = field(default_factory=list)
    italic: list[bool] = field(default_factory=list)
    starts: list[int | None] = field(default_factory=list)
    """When each word begins (µs of the file), where the file says so."""
    voice: str | None = None
    align: int | None = None
    """A place as the number pad has it: 1 to 3 at the foot, 7 to 9 at the top."""
    position: tuple[float, float] | None = None
    """An exact place, in the file's own pixels."""
    lost: set[Lost] = field(default_factory=set)

    @property
    def text(self) -> str:
        """The words with single spaces."""
        return " ".join(self.words)


def marked(
    text: str, *, angles: bool, braces: bool, start_us: int = 0, italic: bool = False
) -> Marked:
    """A line's words and what is said about them; ``start_us`` is when karaoke counting begins."""
    found = Marked()
    state = _State(italic=italic, at_us=start_us)
    for kind, part in _pieces(text, angles=angles, braces=braces):
        match kind:
            case "tag":
                _tag(found, state, part)
            case "override":
                _override(found, state, part)
            case "text":
                if state.ruby == 0:
                    _text(found, state, _unescaped(part) if angles else part)
    return found


def _unescaped(text: str) -> str:
    """The text with letters for their names and numbers, as HTML has them."""
    return html.unescape(_NO_LETTER.sub("\ufffd", text))


@dataclass
class _State:
    italic: bool
    at_us: int
    glued: bool = False
    """Whether the next letters belong to the word before."""
    ruby: int = 0
    """How deep inside readings."""
    due: int | None = None
    """When the next word begins, once said."""


def _pieces(
    text: str, *, angles: bool, braces: bool
) -> Iterator[tuple[Literal["text", "tag", "override"], str]]:
    """The text in order; a bracket that is never closed is text."""
    at = 0
    closed = {"<": angles, "{": braces}
    ends = {"<": ">", "{": "}"}
    plain_from = 0
    while at < len(text):
        sign = text[at]
        if not closed.get(sign, False):
            at += 1
            continue
        end = text.find(ends[sign], at + 1)
        if end < 0:
            # No later one of this kind is closed either.
            closed[sign] = False
            at += 1
            continue
        inside = text[at + 1 : end]
        looks_like = inside[:1].isalnum() or inside[:1] == "/" if sign == "<" else True
        if sign == "{" and "\\" not in inside and angles:
            looks_like = False
        again = inside.rfind(sign)
        if again >= 0 or not looks_like:
            at += 1 + max(again, 0)
            continue
        if at > plain_from:
            yield "text", text[plain_from:at]
        yield ("tag" if sign == "<" else "override"), inside
        at = plain_from = end + 1
    if plain_from < len(text):
        yield "text", text[plain_from:]


def _text(found: Marked, state: _State, text: str) -> None:
    parts = text.split()
    if not parts:
        state.glued = state.glued and not text
        return
    for index, part in enumerate(parts):
        if index == 0 and state.glued and not text[0].isspace() and found.words:
            found.words[-1] += part
            # Part of a word keeps what its beginning was.
            if state.due is not None and found.starts[-1] is None:
                found.starts[-1] = state.due
        else:
            found.words.append(part)
            found.italic.append(state.italic)
            found.starts.append(state.due)
            state.due = None
    state.glued = not text[-1].isspace()


def _tag(found: Marked, state: _State, inside: str) -> None:
    time = _TIME.match(inside.strip())
    if time:
        hours, minutes, seconds, rest = time.groups()
        whole = (int(hours or 0) * 60 + int(minutes)) * 60 + int(seconds)
        state.due = (whole * 1000 + int(rest.ljust(3, "0"))) * MILLISECOND
        return
    closing = inside.startswith("/")
    head = inside.lstrip("/").split(None, 1)
    name, _, classes = (head[0] if head else "").lower().partition(".")
    if name == "i":
        state.italic = not closing
    elif name in ("rt", "rp"):
        state.ruby = max(0, state.ruby + (-1 if closing else 1))
        found.lost.add("readings (ruby)")
    elif name == "ruby":
        if closing:
            state.ruby = 0
    elif name == "v" and not closing and len(head) > 1:
        found.voice = found.voice or " ".join(_unescaped(head[1]).split())
    elif name == "font" and not closing:
        found.lost.add("colours" if "color" in inside.lower() else "fonts and sizes")
    elif name in _TAGS and not closing and (name != "c" or classes):
        found.lost.add(_TAGS[name])


def _override(found: Marked, state: _State, inside: str) -> None:
    for part in inside.split("\\")[1:]:
        code = part.strip()
        found.lost.update(what for pattern, what in _LOST if pattern.match(code))
        if (time := _KARAOKE.match(code)) is not None:
            state.due = state.at_us
            state.at_us += int(time.group(1)) * 10 * MILLISECOND
        elif code in ("i1", "i0", "i"):
            state.italic = code == "i1"
        elif (align := _ALIGN.match(code)) is not None:
            number = int(align.group(1))
            found.align = number if code.startswith("an") else _old_align(number)
        elif (place := _POSITION.match(code)) is not None:
            found.position = float(place.group(1)), float(place.group(2))
        elif re.match(r"b[1-9]", code):
            found.lost.add("bold")
        elif re.match(r"[us]1", code):
            found.lost.add("underlines")
        elif COLOURS.match(code):
            found.lost.add("colours")
        elif re.match(r"f[ns]", code):
            found.lost.add("fonts and sizes")


def _old_align(number: int) -> int | None:
    """The number pad's place for the older codes, in which 5 to 7 are the top, 9 to 11 the middle."""
    column = number & 3
    if not column:
        return None
    return column + (6 if number & 4 else 3 if number & 8 else 0)
