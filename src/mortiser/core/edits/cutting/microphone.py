"""Edits of which sound is heard in a recording's stead."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.common.errors import NotFound
from mortiser.core.common.limits import Id
from mortiser.core.editing.matching import MOST_DRIFT_PPM
from mortiser.core.editing.microphone import Microphone
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.session import EditSession

FARTHEST_US = 10_000_000
"""A sound is moved by so much at once."""


class UseMicrophone(BaseEdit):
    """Hear a sound in a recording's stead, as it was found to lie under it. The piece that was made of
    the sound alone goes, as long as it has no captions."""

    kind: Literal["use_microphone"] = "use_microphone"
    source_id: Id
    sound_id: Id
    offset_us: int
    drift_ppm: float = Field(ge=-MOST_DRIFT_PPM, le=MOST_DRIFT_PPM)
    sure: float = Field(ge=0, le=1)
    piece_id: Id | None = None

    def label(self, session: EditSession) -> str:
        return f"hear {short(session.source_name(self.sound_id))}"

    def apply(self, session: EditSession) -> None:
        found = Microphone(self.sound_id, self.offset_us, self.drift_ppm, self.sure)
        session.set_microphone(self.source_id, found)
        if self.piece_id is None or session.cues(self.piece_id):
            return
        if {clip.source_id for clip in session.timeline(self.piece_id).clips} == {self.sound_id}:
            session.delete_piece(self.piece_id)


class MoveMicrophone(BaseEdit):
    """Hear the sound that stands for a recording's own earlier or later."""

    kind: Literal["move_microphone"] = "move_microphone"
    source_id: Id
    by_us: int = Field(ge=-FARTHEST_US, le=FARTHEST_US, description="Later where above 0.")

    def label(self, session: EditSession) -> str:
        side = "later" if self.by_us > 0 else "earlier"
        return f"hear the sound {abs(self.by_us) / 1000:g} ms {side}"

    def apply(self, session: EditSession) -> None:
        found = _microphone(session, self.source_id)
        # What sounded at a moment of the sound is to be heard later: an earlier one is heard now.
        moved = replace(found, offset_us=found.offset_us - self.by_us)
        session.set_microphone(self.source_id, moved)


class DropMicrophone(BaseEdit):
    """Hear a recording's own sound again."""

    kind: Literal["drop_microphone"] = "drop_microphone"
    source_id: Id

    def label(self, session: EditSession) -> str:
        return "hear the recording's own sound"

    def apply(self, session: EditSession) -> None:
        _microphone(session, self.source_id)
        session.set_microphone(self.source_id, None)


def _microphone(session: EditSession, source_id: int) -> Microphone:
    found = session.microphone(source_id)
    if found is None:
        raise NotFound("That recording's own sound is heard already.")
    return found
