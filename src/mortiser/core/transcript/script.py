"""A script beside what was heard: which of its words are which heard ones, and where they differ."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher

from mortiser.core.transcript.words import Word, tokens, word_key

SURE_LETTERS = 4
"""A lone matching word shorter than this, far from others, may stand anywhere."""
LEAST_US = 70 * 1000
"""Nobody speaks a word in less: a script's words that have less time each were not spoken."""


@dataclass(frozen=True, slots=True)
class ScriptPart:
    """Script words ``first`` to ``last`` (half open) beside heard words ``from_`` to ``to``."""

    same: bool
    first: int
    last: int
    from_: int
    to: int


def verses(text: str) -> list[list[list[str]]]:
    """A text's words, line by line, verse by verse: verses are parted by empty lines."""
    found: list[list[list[str]]] = [[]]
    for line in text.split("\n"):
        if words := tokens(line):
            found[-1].append(words)
        elif found[-1]:
            found.append([])
    return [verse for verse in found if verse]


def line_ends(found: Sequence[Sequence[Sequence[str]]]) -> set[int]:
    """The numbers of the words after which a line ends within its verse."""
    ends: set[int] = set()
    at = 0
    for verse in found:
        for number, line in enumerate(verse, start=1):
            at += len(line)
            if number < len(verse):
                ends.add(at - 1)
    return ends


def beside(script: Sequence[str], heard: Sequence[Word]) -> list[ScriptPart]:
    """Runs of the same words and of different ones, covering all of both in order."""
    keys = [word_key(text) for text in script], [word_key(word.text) for word in heard]
    blocks = [
        block
        for block in SequenceMatcher(None, *keys, autojunk=False).get_matching_blocks()
        if block.size > 1 or (block.size and len(keys[0][block.a]) >= SURE_LETTERS)
    ]
    parts: list[ScriptPart] = []
    a = b = 0
    for block in [*blocks, None]:
        next_a, next_b = (block.a, block.b) if block else (len(script), len(heard))
        if next_a > a or next_b > b:
            parts.append(ScriptPart(False, a, next_a, b, next_b))
        if block:
            a, b = block.a + block.size, block.b + block.size
            parts.append(ScriptPart(True, block.a, a, block.b, b))
    return parts


def spoken(part: ScriptPart, room: tuple[int, int]) -> bool:
    """Whether the script's words of a part may have been spoken in the time (µs) there is."""
    return room[1] - room[0] >= LEAST_US * (part.last - part.first)


def difference(
    part: ScriptPart, script: Sequence[str], heard: Sequence[Word], *, kept: bool
) -> str | None:
    """What there is to say of a part where script and sound differ; None where nothing is."""
    written = " ".join(script[part.first : part.last])
    said = " ".join(word.text for word in heard[part.from_ : part.to])
    if written and not kept:
        return f"Not spoken: “{_cut(written)}”"
    if written and said:
        return f"Heard “{_cut(said)}” where the script has “{_cut(written)}”"
    if said:
        return f"Not in the script: “{_cut(said)}”"
    return None


def _cut(text: str) -> str:
    return text if len(text) <= 80 else text[:79].rstrip() + "…"
