"""Edits of how clips go over into each other."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.assembly.joining import MOST_OWN, CutJoin, Joins, Where, cuts
from mortiser.core.assembly.transition import TRANSITION_NAMES, Transition
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id, Micros
from mortiser.core.editing.timeline import Placed
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.session import EditSession

NAMES = {one.kind: one.name.lower() for one in TRANSITION_NAMES}


class SetJoins(BaseEdit):
    """Have clips go over into each other the same way at every cut, where the recording changes, or nowhere."""

    kind: Literal["set_joins"] = "set_joins"
    piece_id: Id
    where: Where
    transition: Transition | None = Field(
        default=None, description="The one there is already where none is named."
    )
    alike: bool = Field(default=False, description="Whether what was set for single cuts goes.")

    def label(self, session: EditSession) -> str:
        if self.where == "nowhere":
            return "no transitions"
        was = session.settings(self.piece_id).joins.transition
        name = NAMES[(self.transition or was).kind]
        return (
            f"{name} at every cut" if self.where == "everywhere" else f"{name} between recordings"
        )

    def apply(self, session: EditSession) -> None:
        was = session.settings(self.piece_id)
        now = Joins(
            where=self.where,
            transition=self.transition or was.joins.transition,
            own=() if self.alike else was.joins.own,
        )
        session.save_settings(self.piece_id, replace(was, joins=now))


class SetJoin(BaseEdit):
    """Set what happens at one cut, found by a moment of the piece near it."""

    kind: Literal["set_join"] = "set_join"
    piece_id: Id
    at_us: Micros
    transition: Transition | None = Field(default=None, description="A plain cut where None.")
    as_all: bool = Field(default=False, description="What happens at all cuts happens here too.")

    def label(self, session: EditSession) -> str:
        if self.as_all:
            return "this cut as all others"
        return f"{NAMES[self.transition.kind]} at a cut" if self.transition else "a plain cut"

    def apply(self, session: EditSession) -> None:
        after = self._behind(session)
        was = session.settings(self.piece_id)
        known = was.joins.set_at(after)
        own = [one for one in was.joins.own if one is not known]
        if not self.as_all:
            clip = after.clip
            own.append(
                CutJoin(source_id=clip.source_id, at_us=clip.start_us, transition=self.transition)
            )
        if len(own) > MOST_OWN:
            raise BadInput(
                f"No more than {MOST_OWN} cuts have transitions of their own. "
                "Choose one for every cut, and set apart what differs."
            )
        now = was.joins.model_copy(update={"own": tuple(own)})
        session.save_settings(self.piece_id, replace(was, joins=now))

    def _behind(self, session: EditSession) -> Placed:
        joins = session.settings(self.piece_id).joins
        found = [one.after for one in cuts(session.timeline(self.piece_id), joins)]
        if not found:
            raise BadInput("This piece has no cuts. Strike words in Trim, and there is one.")
        return min(found, key=lambda one: abs(one.at_us - self.at_us))
