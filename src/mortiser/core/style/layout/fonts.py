"""The fonts and emoji at hand: words shaped with the first font that has their letters.

Font bytes come in from outside; nothing here touches the disk.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from mortiser.core.style.layout.bidi import levels, runs_left, visual_order
from mortiser.core.style.layout.face import FontFace, Letter
from mortiser.core.style.layout.rect import Rect

EMOJI_SIZE = 1.12
"""Side of an emoji, share of the type size; it is centred on the middle of capitals."""
CAPITALS = 0.74
"""How high capitals stand, share of the type size."""
EMOJI_MIDDLE = 0.35
SELECTOR = "\ufe0f"


@dataclass(frozen=True, slots=True)
class Stamp:
    """An emoji in a word: its key (see emoji_key), left edge, top edge, and side, in pixels."""

    emoji: str
    x: float
    y: float
    side: float


@dataclass(frozen=True, slots=True)
class Shaped:
    """A word at a size with its pen at (0, 0) and y down, in pixels.

    ``letters`` are its clusters and ``stamps`` its emoji, both in reading order; ``ink`` is (left,
    top, right, bottom) of all. ``leftwards`` says where its first letter is.
    """

    path: str
    letters: tuple[Letter, ...]
    advance: float
    ink: Rect
    stamps: tuple[Stamp, ...] = ()
    leftwards: bool = False


@dataclass(frozen=True, slots=True)
class _Run:
    text: str
    face: FontFace | None
    """None for an emoji."""
    level: int


class FontBook:
    """Families by name and weight, fallbacks in order, and the emoji there are pictures of."""

    def __init__(
        self,
        families: Mapping[str, Mapping[int, bytes]],
        fallbacks: Sequence[str],
        emoji: Collection[str] = (),
    ) -> None:
        self._families = {
            name: {weight: FontFace(data) for weight, data in faces.items()}
            for name, faces in families.items()
        }
        self._fallbacks = tuple(fallbacks)
        self._emoji = frozenset(emoji)
        self._longest_emoji = max(map(len, self._emoji), default=0)
        self.shape = lru_cache(maxsize=20_000)(self._shape)

    @property
    def families(self) -> dict[str, tuple[int, ...]]:
        """Each family's weights, lightest first."""
        return {name: tuple(sorted(faces)) for name, faces in self._families.items()}

    def pictures(self, emoji: str) -> bool:
        """Whether there is a picture of an emoji."""
        return emoji_key(emoji) in self._emoji

    def face(self, family: str, weight: int) -> FontFace:
        """The family's face nearest in weight; of the first fallback where there is none."""
        faces = self._families.get(family) or self._families[self._fallbacks[0]]
        return faces[min(faces, key=lambda have: (abs(have - weight), have))]

    def _shape(
        self,
        text: str,
        family: str,
        weight: int,
        size: float,
        gap: float = 0.0,
        leftwards: bool | None = None,
    ) -> Shaped:
        """Shape a word, each run of characters with the first font that has them.

        ``gap`` pixels are added between letters. ``leftwards`` is the direction of the text around
        it, its own where it is left out.
        """
        runs = self._runs(text, family, weight, leftwards)
        letters: dict[tuple[int, int], Letter] = {}
        stamps: dict[int, Stamp] = {}
        x, ink = 0.0, Rect(0.0, 0.0, 0.0, 0.0)
        for index in visual_order([run.level for run in runs]):
            run = runs[index]
            if run.face is None:
                side = float(round(EMOJI_SIZE * size))
                y = -EMOJI_MIDDLE * size - side / 2
                room = 0.06 * size
                stamps[index] = Stamp(emoji_key(run.text), x + room, y, side)
                x += side + 2 * room + gap
                ink = ink.around(Rect.sized(x - side - room - gap, y, side, side))
                continue
            drawn = run.face.draw(run.text, size, x, bool(run.level % 2), gap)
            letters |= {(index, letter.index): letter for letter in drawn.letters}
            ink = ink.around(Rect(drawn.left, drawn.top, drawn.right, drawn.bottom))
            x += drawn.advance
        ordered = tuple(letters[key] for key in sorted(letters))
        return Shaped(
            "".join(letter.path for letter in ordered),
            ordered,
            x - gap if runs else x,
            ink,
            tuple(stamps[key] for key in sorted(stamps)),
            bool(runs and runs[0].level % 2),
        )

    def _runs(
        self, text: str, family: str, weight: int, leftwards: bool | None = None
    ) -> list[_Run]:
        chain = [self.face(family, weight), *(self.face(f, weight) for f in self._fallbacks)]
        deep = levels(text, runs_left(text) if leftwards is None else leftwards)
        runs: list[_Run] = []
        at = 0
        while at < len(text):
            if emoji := self._emoji_at(text, at, chain):
                runs.append(_Run(emoji, None, deep[at]))
                at += len(emoji)
                continue
            ch, last = text[at], runs[-1] if runs else None
            at += 1
            if last and last.face and _joins(ch):
                runs[-1] = _Run(last.text + ch, last.face, last.level)
                continue
            face = next((f for f in chain if f.covers(ch)), chain[0])
            if last and last.face is face and last.level == deep[at - 1]:
                runs[-1] = _Run(last.text + ch, face, last.level)
            else:
                runs.append(_Run(ch, face, deep[at - 1]))
        return runs

    def _emoji_at(self, text: str, at: int, chain: Sequence[FontFace]) -> str | None:
        """The longest emoji that starts here, with its variation selectors; None for letters."""
        if text[at].isascii() and text[at + 1 : at + 2] not in (SELECTOR, "\u20e3"):
            return None
        for end in range(min(len(text), at + self._longest_emoji + 4), at, -1):
            part = text[at:end]
            if emoji_key(part) not in self._emoji:
                continue
            letters = len(emoji_key(part)) == 1 and not part.endswith(SELECTOR)
            if letters and any(face.covers(part) for face in chain):
                return None
            return part
        return None


def emoji_key(text: str) -> str:
    """An emoji without its variation selectors: what pictures are kept by."""
    return text.replace(SELECTOR, "")


def _joins(ch: str) -> bool:
    """Marks that belong to the character before: accents, joiners, variation selectors."""
    return unicodedata.category(ch)[0] == "M" or ch in "\u200c\u200d\ufe0e\ufe0f"
