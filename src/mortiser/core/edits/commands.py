"""Every edit as one value. To add one: a class with ``label`` and ``apply`` in a module beside this
one, named in Edit; then ``make types``.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, TypeAdapter

from mortiser.core.edits.captions import DeleteCue, JoinCue, Regroup, SplitCue
from mortiser.core.edits.glossary import ApplyGlossary, KeepGlossary, RefuseGlossary
from mortiser.core.edits.laying import LayCaptions
from mortiser.core.edits.runs import RetypeRun
from mortiser.core.edits.settings import RenameProject, SetFinish
from mortiser.core.edits.speakers import (
    NameSpeakers,
    RenameSpeaker,
    SetSpeaker,
    ShowSpeakers,
)
from mortiser.core.edits.tapping import TapTimes
from mortiser.core.edits.times import SetCueTimes, TypeCueTime, UnpinCue
from mortiser.core.edits.words import AcceptAll, AcceptWord, ReplaceText, ReplaceWord, RetypeCue

Edit = Annotated[
    RetypeCue
    | RetypeRun
    | ReplaceWord
    | AcceptWord
    | AcceptAll
    | ReplaceText
    | ApplyGlossary
    | RefuseGlossary
    | KeepGlossary
    | LayCaptions
    | TapTimes
    | NameSpeakers
    | SetSpeaker
    | RenameSpeaker
    | ShowSpeakers
    | SetCueTimes
    | TypeCueTime
    | UnpinCue
    | DeleteCue
    | SplitCue
    | JoinCue
    | Regroup
    | SetFinish
    | RenameProject,
    Field(discriminator="kind"),
]
EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)
