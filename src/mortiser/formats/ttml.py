"""TTML (W3C Timed Text Markup Language 2, 2018), written in the text profile of IMSC 1.1 (2018)."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from xml.etree import ElementTree
from xml.sax.saxutils import escape, quoteattr

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import SECOND, timecode
from mortiser.formats.base import Caption, CaptionDocument, GridPlace
from mortiser.formats.markup import marked
from mortiser.formats.timed import CaptionReading

TT = "{http://www.w3.org/ns/ttml}"
STYLING = "{http://www.w3.org/ns/ttml#styling}"
PARAMETER = "{http://www.w3.org/ns/ttml#parameter}"
METADATA = "{http://www.w3.org/ns/ttml#metadata}"
XML = "{http://www.w3.org/XML/1998/namespace}"
FOOT = GridPlace("bottom", "centre")
_HEAD = """<?xml version="1.0" encoding="UTF-8"?>
<tt xmlns="http://www.w3.org/ns/ttml" xmlns:ttp="http://www.w3.org/ns/ttml#parameter"
    xmlns:tts="http://www.w3.org/ns/ttml#styling" xmlns:ttm="http://www.w3.org/ns/ttml#metadata"
    ttp:contentProfiles="http://www.w3.org/ns/ttml/profile/imsc1.1/text" ttp:timeBase="media" xml:lang={language}>
"""
_ALIGN = {"left": "start", "centre": "center", "right": "end"}
_DISPLAY = {"top": "before", "middle": "center", "bottom": "after"}
_NO_XML = re.compile("[\x00-\x08\x0b\x0c\x0e-\x1f\ufffe\uffff\ud800-\udfff]")
"""Signs that no XML can hold (XML 1.0, production 2)."""
_CLOCK = re.compile(r"(\d{1,4}):(\d{1,2}):(\d{1,2})(?:\.(\d+)|:(\d{1,3}(?:\.\d+)?))?$")
_OFFSET = re.compile(r"(\d+(?:\.\d+)?)(h|m|s|ms|f|t)$")


def write(captions: Sequence[Caption], document: CaptionDocument) -> str:
    """The file's text: a region for each place, an agent for each speaker."""
    speakers = sorted({caption.speaker for caption in captions if caption.speaker})
    agents = {name: f"speaker{number}" for number, name in enumerate(speakers, start=1)}
    places = sorted({caption.place or FOOT for caption in captions} | {FOOT})
    out = [_HEAD.format(language=quoteattr(document.language)), "  <head>\n"]
    if agents:
        out.append("    <metadata>\n")
        for name, key in agents.items():
            said = f'<ttm:name type="full">{_plain(name)}</ttm:name>'
            out.append(f'      <ttm:agent xml:id="{key}" type="person">{said}</ttm:agent>\n')
        out.append("    </metadata>\n")
    out.append("    <layout>\n")
    for place in places:
        out.append(
            f'      <region xml:id="{_region(place)}" tts:origin="5% 5%" tts:extent="90% 90%" '
            f'tts:displayAlign="{_DISPLAY[place.down]}" tts:textAlign="{_ALIGN[place.across]}"/>\n'
        )
    out.append("    </layout>\n  </head>\n  <body>\n    <div>\n")
    for caption in captions:
        who = f" ttm:agent={quoteattr(agents[caption.speaker])}" if caption.speaker else ""
        text = "<br/>".join(_plain(line) for line in caption.lines)
        out.append(
            f'      <p begin="{timecode(caption.start_us)}" end="{timecode(caption.end_us)}" '
            f'region="{_region(caption.place or FOOT)}"{who} xml:space="preserve">{text}</p>\n'
        )
    out.append("    </div>\n  </body>\n</tt>\n")
    return "".join(out)


def _plain(text: str) -> str:
    return escape(_NO_XML.sub("", text))


def _region(place: GridPlace) -> str:
    return f"{place.down}-{place.across}"


MARKS = ("<p", "<span")
"""What each caption, and each word with a time of its own, has in a text."""


def is_mine(text: str) -> bool:
    """Whether a text says itself that it is in this format."""
    return "http://www.w3.org/ns/ttml" in text[:4_000]


def read(text: str) -> CaptionReading:
    """The file's captions with their speakers and places. Raises BadInput for no XML that can be read."""
    reading = CaptionReading()
    if "<!DOCTYPE" in text or "<!ENTITY" in text:
        raise BadInput("That file defines entities. Save it as plain TTML, SRT or WebVTT.")
    try:
        root = ElementTree.fromstring(text.lstrip("\ufeff").encode())
    except ElementTree.ParseError as error:
        line = error.position[0]
        raise BadInput(f"That TTML file is damaged at line {line}. Save it again.") from error
    if root.tag != f"{TT}tt":
        raise BadInput("That file is no TTML. Bring in SRT, WebVTT, ASS or TTML.")
    clock = _Clock(root)
    places = {str(region.get(f"{XML}id")): _place_of(region) for region in root.iter(f"{TT}region")}
    names = {
        str(agent.get(f"{XML}id")): (agent.findtext(f"{METADATA}name") or "").strip()
        for agent in root.iter(f"{METADATA}agent")
    }
    body = root.find(f"{TT}body")
    timed = _timed(body, 0, None, None) if body is not None else iter(())
    for number, (element, begins, region, agent) in enumerate(timed, start=1):
        try:
            start = begins + clock.microseconds(element.get("begin", "0s"))
            end = _end(element, clock, start, begins)
        except ValueError as error:
            reading.note(number, f"“{error}” is no time; the caption was left out.")
            continue
        lines = [
            marked(line, angles=False, braces=False, start_us=start)
            for line in _text(element).split("\n")
        ]
        reading.add(number, start, end, lines, names.get(agent or ""), places.get(region or ""))
    return reading.ended()


def _end(element: ElementTree.Element, clock: _Clock, start: int, begins: int) -> int:
    if element.get("end") is not None:
        return begins + clock.microseconds(element.get("end", ""))
    return start + clock.microseconds(element.get("dur", "0s"))


Timed = tuple[ElementTree.Element, int, str | None, str | None]
"""A paragraph, when what it is in begins (µs), its region and its speaker."""


def _timed(
    parent: ElementTree.Element, begins: int, region: str | None, agent: str | None
) -> Iterator[Timed]:
    for element in parent:
        here = element.get("region", region or ""), element.get(f"{METADATA}agent", agent or "")
        if element.tag == f"{TT}p":
            yield element, begins, *here
        elif element.tag == f"{TT}div":
            yield from _timed(element, begins, *here)


def _text(element: ElementTree.Element) -> str:
    """What is written in a paragraph, however deep spans lie in one another."""
    found: list[str] = []
    waiting: list[ElementTree.Element | str] = [element]
    while waiting:
        one = waiting.pop()
        if isinstance(one, str):
            found.append(one)
        elif one.tag == f"{TT}br":
            found.append("\n")
        else:
            inside = [part for child in one for part in (child, child.tail or "")]
            waiting += reversed([one.text or "", *inside])
    return "".join(found)


def _place_of(region: ElementTree.Element) -> GridPlace | None:
    down = {value: key for key, value in _DISPLAY.items()}
    across = {"start": "left", "left": "left", "end": "right", "right": "right"}
    row = down.get(region.get(f"{STYLING}displayAlign", "after"), "bottom")
    column = across.get(region.get(f"{STYLING}textAlign", "center"), "centre")
    numbers = {"bottom": 1, "middle": 4, "top": 7}
    return GridPlace.of(numbers[row] + ("left", "centre", "right").index(column))


class _Clock:
    """Reads times as a document's parameters say."""

    def __init__(self, root: ElementTree.Element) -> None:
        self._frames = float(root.get(f"{PARAMETER}frameRate", "30"))
        up, down = root.get(f"{PARAMETER}frameRateMultiplier", "1 1").split()[:2]
        self._frames *= float(up) / float(down)
        self._ticks = float(root.get(f"{PARAMETER}tickRate", "1"))

    def microseconds(self, text: str) -> int:
        """A time expression (TTML 2, 12.3). Raises ValueError."""
        if clock := _CLOCK.match(text.strip()):
            hours, minutes, seconds, rest, frames = clock.groups()
            whole = (int(hours) * 60 + int(minutes)) * 60 + int(seconds)
            part = float(f"0.{rest}") if rest else float(frames or 0) / self._frames
            return round((whole + part) * SECOND)
        offset = _OFFSET.match(text.strip())
        if offset is None:
            raise ValueError(text)
        value, unit = float(offset[1]), offset[2]
        seconds_of = {
            "h": 3600.0, "m": 60.0, "s": 1.0, "ms": 0.001,
            "f": 1 / self._frames, "t": 1 / self._ticks,
        }  # fmt: skip
        return round(value * seconds_of[unit] * SECOND)
