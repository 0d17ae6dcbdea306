"""The emoji that come with Mortiser: pictures, and names to search by. Built by scripts/emoji_data.py."""

from __future__ import annotations

import json
import zipfile
from dataclasses import dataclass
from functools import cache, lru_cache
from importlib.resources import as_file, files
from typing import Any

import resvg_py

from mortiser.core.common.errors import NotFound

LARGEST_SIDE = 512
TONES = range(0x1F3FB, 0x1F400)


@dataclass(frozen=True, slots=True)
class Emoji:
    """One to choose: its characters, its name, words it is found by, its group in Unicode's order."""

    text: str
    name: str
    words: tuple[str, ...]
    group: int


@lru_cache(maxsize=256)
def emoji_png(emoji: str, side: int) -> bytes:
    """The picture of an emoji (without variation selectors) as a PNG of ``side`` pixels square.

    Raises NotFound.
    """
    body = _bodies("".join(ch for ch in emoji if ord(ch) not in TONES)).get(emoji)
    if body is None or not 1 <= side <= LARGEST_SIDE:
        raise NotFound(f"There is no picture of “{emoji}” of {side} pixels.")
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 128 128">{body}</svg>'
    png: bytes = resvg_py.svg_to_bytes(
        svg_string=svg, width=side, height=side, skip_system_fonts=True
    )
    return png


@cache
def known_emoji() -> frozenset[str]:
    """All emoji there are pictures of, without variation selectors."""
    return frozenset(_index()["known"])


@cache
def emoji_to_choose() -> tuple[Emoji, ...]:
    """Those of a picker, in Unicode's order."""
    return tuple(
        Emoji(one["emoji"], one["name"], tuple(one["words"]), one["group"])
        for one in _index()["names"]
    )


def find_emoji(text: str) -> list[Emoji]:
    """The emoji whose names or words begin with each word of a text; names first."""
    wanted = text.casefold().split()
    found: list[tuple[int, int, Emoji]] = []
    for one in emoji_to_choose():
        name = one.name.casefold().split()
        words = [*name, *one.words]
        if all(any(word.startswith(part) for word in words) for part in wanted):
            exact = all(part in name for part in wanted)
            near = all(any(word.startswith(part) for word in name) for part in wanted)
            found.append((0 if exact else 1 if near else 2, len(found), one))
    return [one for *_, one in sorted(found, key=lambda entry: entry[:2])]


@cache
def _index() -> Any:
    return json.loads((files(__name__) / "names.json").read_text(encoding="utf-8"))


@lru_cache(maxsize=64)
def _bodies(toneless: str) -> dict[str, str]:
    """SVG bodies of an emoji in all skin tones, 128 units square."""
    name = "-".join(f"{ord(ch):x}" for ch in toneless) + ".json"
    with as_file(files(__name__) / "pictures.zip") as path, zipfile.ZipFile(path) as file:
        try:
            bodies: dict[str, str] = json.loads(file.read(name))
        except KeyError:
            return {}
        return bodies
