"""What every edit has in common, and what several of them need.

``apply`` reads and changes the project through the session, and nothing else. A refusal is a
MortiserError; the store rolls the whole transaction back, so nothing is half done.
"""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace

from pydantic import BaseModel, ConfigDict

from mortiser.core.common.errors import NotFound
from mortiser.core.edits.session import CaptionSession, EditSession
from mortiser.core.transcript.words import Cue, Seam, Shown, shortened


class BaseEdit(BaseModel, ABC):
    """One edit as a value."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    @abstractmethod
    def label(self, session: EditSession) -> str:
        """What an undo will take back, in a few words."""

    @abstractmethod
    def apply(self, session: EditSession) -> None:
        """Carry the edit out."""

    def concerns(self) -> frozenset[int] | None:
        """The captions whose words it was made over, by id; None where it depends on all there are.

        By default those it names. Whatever else has changed in the meantime does not come in its way.
        """
        return frozenset(_named(self))

    def brought(self) -> frozenset[tuple[int | None, int | None]]:
        """Start and end of captions that come in with times of their own."""
        return frozenset()


NAMES = {"cue_id", "cue_ids", "from_cue", "to_cue", "first_cue", "from_cue_id"}
"""Fields that name captions."""


def _named(value: BaseModel) -> Iterator[int]:
    for name, found in value:
        if name in NAMES and found is not None:
            yield from [found] if isinstance(found, int) else found
        for one in found if isinstance(found, list) else [found]:
            if isinstance(one, BaseModel):
                yield from _named(one)


def word_of(cue: Cue, word_id: int) -> Shown:
    """A caption's word. Raises NotFound."""
    found = next((word for word in cue.words if word.id == word_id), None)
    if found is None:
        raise NotFound("That word is not there any more. The page shows the newest state.")
    return found


def words_of(cues: Sequence[Cue], word_ids: Sequence[int]) -> list[Shown]:
    """Some words of captions, in order. Raises NotFound when none of them is there."""
    wanted = set(word_ids)
    found = [word for cue in cues for word in cue.words if word.id in wanted]
    if not found:
        raise NotFound("Those words are not there any more. The page shows the newest state.")
    return found


def short(text: str) -> str:
    """A text cut to what fits into a label."""
    return shortened(text, 24)


def chosen(session: EditSession, cue_ids: Sequence[int]) -> list[Cue]:
    """Captions of one piece in time order. Raises NotFound when one of them is gone."""
    found = session.some(cue_ids)
    if len(found) < len(set(cue_ids)) or len({cue.piece_id for cue in found}) != 1:
        raise NotFound("Some of these captions are gone. The page shows the newest state.")
    return found


def counted(items: Sequence[object], noun: str = "caption") -> str:
    """How many, in words."""
    return f"{len(items)} {noun}{'' if len(items) == 1 else 's'}"


def seamed(words: tuple[Shown, ...], seam: Seam) -> tuple[Shown, ...]:
    """The words with something decided about the place behind the last of them."""
    return (*words[:-1], replace(words[-1], seam=seam))


def each_word(session: EditSession, piece_id: int, change: Callable[[Shown], Shown]) -> int:
    """Change every word of a piece's captions; how many captions that changed."""
    cues = session.cues(piece_id)
    fresh = [cue.with_words(tuple(map(change, cue.words))) for cue in cues]
    return len(save_changed(session, cues, fresh))


def save_changed(session: CaptionSession, old: Sequence[Cue], fresh: Sequence[Cue]) -> list[Cue]:
    """Save those captions that are otherwise than before, in the same order; as they are stored."""
    return session.save_cues([now for was, now in zip(old, fresh, strict=True) if now != was])
