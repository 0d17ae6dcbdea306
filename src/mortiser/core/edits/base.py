"""What every edit has in common, and what several of them need.

``apply`` reads and changes the project through the desk, and nothing else. A refusal is a
MortiserError; the store rolls the whole transaction back, so nothing is half done.
"""

from __future__ import annotations

from abc import ABC, abstractmethod

from pydantic import BaseModel, ConfigDict

from mortiser.core.edits.desk import Desk
from mortiser.core.errors import NotFound
from mortiser.core.words import Cue, Word


class BaseEdit(BaseModel, ABC):
    """One edit as a value."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    @abstractmethod
    def label(self, desk: Desk) -> str:
        """What an undo will take back, in a few words."""

    @abstractmethod
    def apply(self, desk: Desk) -> None:
        """Carry the edit out."""


def word_of(cue: Cue, word_id: int) -> Word:
    """A caption's word. Raises NotFound."""
    found = next((word for word in cue.words if word.id == word_id), None)
    if found is None:
        raise NotFound("That word is not there any more. The page shows the newest state.")
    return found


def short(text: str) -> str:
    """A text cut to what fits into a label."""
    return text if len(text) <= 24 else text[:23].rstrip() + "…"
