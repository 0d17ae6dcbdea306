"""Find text over the captions of a piece, and put other text in its place."""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import islice

from mortiser.core.transcript.unspaced import joined, tight
from mortiser.core.transcript.words import Cue


@dataclass(frozen=True, slots=True)
class TextMatch:
    """A place where the text was found: word positions counted over all words, and letters in them.

    ``first`` and ``last`` are the first and last word it touches; ``start`` is where it begins in
    the first word, ``end`` where it ends in the last.
    """

    first: int
    last: int
    start: int
    end: int


def find(
    cues: Sequence[Cue], text: str, *, whole_words: bool = False, match_case: bool = False
) -> list[TextMatch]:
    """Every place of ``text`` in the captions, also from one into the next (see find_in)."""
    texts = [word.text for cue in cues for word in cue.words]
    return find_in(texts, text, whole_words=whole_words, match_case=match_case)


def find_in(
    texts: Sequence[str], text: str, *, whole_words: bool = False, match_case: bool = False
) -> list[TextMatch]:
    """Every place of ``text`` in words as running text.

    Places do not overlap. White space matches any one space; an empty text is found nowhere.
    """
    wanted = " ".join(text.split())
    if not wanted or not texts:
        return []
    offsets: list[int] = []
    at = 0
    for word, after in zip(texts, [*texts[1:], ""], strict=True):
        offsets.append(at)
        at += len(word) + (not tight(word, after))
    pattern = re.escape(wanted).replace(r"\ ", " ")
    if whole_words:
        pattern = rf"(?<!\w){pattern}(?!\w)"
    found: list[TextMatch] = []
    first = 0
    for hit in re.finditer(pattern, joined(texts), 0 if match_case else re.IGNORECASE):
        while first + 1 < len(offsets) and offsets[first + 1] <= hit.start():
            first += 1
        last = first
        while last + 1 < len(offsets) and offsets[last + 1] < hit.end():
            last += 1
        found.append(
            TextMatch(first, last, hit.start() - offsets[first], hit.end() - offsets[last])
        )
    return found


def replaced_texts(
    cues: Sequence[Cue], matches: Sequence[TextMatch], text: str
) -> dict[int, tuple[Cue, str]]:
    """New texts of the cues that the matches touch, by cue id and in order, with ``text`` in each place.

    The new text stands in the caption where its place begins; a caption of which nothing is left
    has an empty text.
    """
    owners = [cue for cue in cues for _ in cue.words]
    words = [word.text for cue in cues for word in cue.words]
    touched: set[int] = set()
    for match in reversed(matches):
        tail = words[match.last][match.end :]
        head = words[match.first][: match.start]
        for index in range(match.first, match.last + 1):
            touched.add(owners[index].id)
            words[index] = ""
        words[match.first] = f"{head}{text}{tail}"
    left = iter(words)
    texts = ((cue, list(islice(left, len(cue.words)))) for cue in cues)
    return {
        cue.id: (cue, joined(" ".join(mine).split())) for cue, mine in texts if cue.id in touched
    }
