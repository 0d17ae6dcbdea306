"""The word: the atom of a transcript, and the cue, a run of words shown together."""

from __future__ import annotations

import unicodedata
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal, TypeVar

from mortiser.core.transcript.unspaced import cut, joined

Origin = Literal["heard", "typed", "imported", "tapped"]
Seam = Literal["free", "break", "join", "line"]
"""What was decided by hand about the place behind a word: captions part there, captions hold
together there, a line ends there, or nothing."""


@dataclass(frozen=True, slots=True)
class Word:
    """A word of a transcript, in source time; ``0 <= start_us <= end_us``.

    A word of no length is one that was typed where the sound left no room: it keeps its
    place in the order and the scene gives it a share of its neighbour's time.
    ``id`` is 0 until it is stored. ``aligned`` says that its times come from the sound.
    """

    text: str
    start_us: int
    end_us: int
    confidence: float | None = None
    speaker: str | None = None
    origin: Origin = "heard"
    aligned: bool = True
    id: int = 0
    alternatives: tuple[str, ...] = ()
    """What else it may be, best first."""
    heard_as: str | None = None
    """What was heard where the glossary put this word; "" when the word before says it."""
    source_id: int = 0
    """The source it is said in; 0 until that is known."""

    @property
    def middle_us(self) -> int:
        """Which clip shows a word is said by its middle."""
        return (self.start_us + self.end_us) // 2

    @property
    def unsettled(self) -> bool:
        """Heard, and not settled by anybody."""
        return self.origin == "heard" and self.heard_as is None and self.confidence != 1.0

    def __post_init__(self) -> None:
        if self.text.split() != [self.text]:
            raise ValueError(f"a word is one run of letters, not {self.text!r}")
        if not 0 <= self.start_us <= self.end_us:
            raise ValueError(f"word times out of order: {self.start_us} to {self.end_us}")


@dataclass(frozen=True, slots=True)
class Shown(Word):
    """A word as a piece shows it: its times are those of the piece, and what belongs to the piece
    lies on it.

    ``clip_id`` says which clip shows it, 0 until the word is stored.
    """

    clip_id: int = 0
    seam: Seam = "free"
    accent: int = 0
    """Which of the finish's accents the word is marked with, from 1; 0 for none."""
    look: str = ""
    """What its caption has in place of the finish's settings, as stored. It lies on every word, so
    that it goes where the words go."""
    own: str = ""
    """What the word alone has of its own, as stored."""
    capital: bool = False
    """Whether its capital is the piece's, where a cut made it begin a sentence, not the transcript's."""

    def at(self, start_us: int, end_us: int) -> Shown:
        """The same word at other times of the piece. (``replace`` takes three times as long, and edits of
        whole pieces are made of this.)"""
        return Shown(
            self.text, start_us, end_us, self.confidence, self.speaker, self.origin, self.aligned,
            self.id, self.alternatives, self.heard_as, self.source_id, self.clip_id, self.seam,
            self.accent, self.look, self.own, self.capital,
        )  # fmt: skip


AnyWord = TypeVar("AnyWord", bound=Word)


def shown(
    word: Word, clip_id: int = 0, start_us: int | None = None, end_us: int | None = None
) -> Shown:
    """A word of the transcript as a clip shows it; at its own times where none are given."""
    return Shown(
        word.text,
        word.start_us if start_us is None else start_us,
        word.end_us if end_us is None else end_us,
        word.confidence,
        word.speaker,
        word.origin,
        word.aligned,
        word.id,
        word.alternatives,
        word.heard_as,
        word.source_id,
        clip_id,
    )


@dataclass(frozen=True, slots=True)
class Cue:
    """A caption in piece time: words shown together, ``start_us < end_us``.

    Times follow the words but for an edge that is pinned. ``id`` is 0 until it is stored.
    """

    piece_id: int
    words: tuple[Shown, ...]
    start_us: int
    end_us: int
    start_pinned: bool = False
    end_pinned: bool = False
    id: int = 0

    @property
    def text(self) -> str:
        """The words as running text."""
        return joined([word.text for word in self.words])

    @property
    def pinned(self) -> bool:
        """Whether an edge was set by hand."""
        return self.start_pinned or self.end_pinned

    def unpinned(self) -> Cue:
        """The same cue with both edges free to follow its words."""
        return replace(self, start_pinned=False, end_pinned=False)

    @property
    def line_starts(self) -> tuple[int, ...]:
        """Indexes of the words that begin a line because somebody said so."""
        return tuple(i for i, w in enumerate(self.words[:-1], start=1) if w.seam == "line")

    @property
    def look(self) -> str:
        """What the caption has in place of the finish's settings: as most of its words say."""
        looks = [word.look for word in self.words]
        return looks[0] if len(set(looks)) == 1 else max(looks, key=looks.count)

    def with_words(self, words: tuple[Shown, ...]) -> Cue:
        """The same cue with other words; its times are not touched."""
        return Cue(
            self.piece_id, words, self.start_us, self.end_us, self.start_pinned, self.end_pinned, self.id
        )  # fmt: skip

    def at(self, start_us: int, end_us: int) -> Cue:
        """The same cue at other times; its words are not touched."""
        pins = self.start_pinned, self.end_pinned
        return Cue(self.piece_id, self.words, start_us, end_us, *pins, self.id)


@lru_cache(maxsize=50_000)
def word_key(text: str) -> str:
    """What two spellings of the same spoken word have in common: letters and digits, folded."""
    folded = unicodedata.normalize("NFKC", text).casefold()
    kept = "".join(ch for ch in folded if ch.isalnum())
    return kept or folded


def tokens(text: str) -> list[str]:
    """The words of a text: runs without white space (cut where a script has none), no control
    characters."""
    return [word for run in tokens_plain(text) for word in cut(run)]


def tokens_plain(text: str) -> list[str]:
    """A text's runs without white space, control characters taken out."""
    clean = "".join(" " if unicodedata.category(ch) in ("Cc", "Zl", "Zp") else ch for ch in text)
    return clean.split()


def first_letter(text: str) -> int | None:
    """Where a text's first letter stands; None where it has none, or begins with a number."""
    at = next((at for at, letter in enumerate(text) if letter.isalnum()), None)
    return at if at is not None and text[at].isalpha() else None


def capitalised(text: str) -> str:
    """A text with its first letter as a capital."""
    at = first_letter(text)
    return text if at is None else text[:at] + text[at].upper() + text[at + 1 :]


def spoken_weight(text: str) -> int:
    """How long a word is likely to take, in arbitrary units: its letters and a constant."""
    return len(word_key(text)) + 2


def shortened(text: str, most: int) -> str:
    """A text of at most ``most`` letters, with an ellipsis where it was cut."""
    return text if len(text) <= most else text[: most - 1].rstrip() + "…"
