"""Every edit as one value. To add one: a class with ``label`` and ``apply`` in a module beside this
one, named in Edit; then ``make types``.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, TypeAdapter

from mortiser.core.edits.captions.captions import (
    AddCue,
    BreakLine,
    DeleteCues,
    JoinCue,
    JoinCues,
    MoveWord,
    SplitAt,
    SplitCue,
)
from mortiser.core.edits.captions.fixing import FixChecks, LeaveOut
from mortiser.core.edits.captions.pacing import CheckBy, Regroup, SetFilePace, SetPace
from mortiser.core.edits.captions.shifting import ShiftCues, StretchCues
from mortiser.core.edits.captions.tapping import TapTimes
from mortiser.core.edits.captions.times import (
    CloseGaps,
    MoveCues,
    SetCueTimes,
    TypeCueTime,
    UnpinCues,
)
from mortiser.core.edits.captions.word_times import MoveWordEdge
from mortiser.core.edits.cutting.films import PutFilm, TakeFilmAway
from mortiser.core.edits.cutting.microphone import DropMicrophone, MoveMicrophone, UseMicrophone
from mortiser.core.edits.cutting.pieces import DeletePiece, NamePiece, NewPiece
from mortiser.core.edits.cutting.putting import PutPassages
from mortiser.core.edits.cutting.recorded import PutRecorded, UseTake
from mortiser.core.edits.cutting.removing import RemoveRecording
from mortiser.core.edits.cutting.toggling import ToggleQuiet, ToggleWords
from mortiser.core.edits.cutting.trimming import (
    BringIn,
    CutStretches,
    MoveCut,
    RestoreStretches,
    RestoreWords,
    SetGoal,
    StrikeWords,
)
from mortiser.core.edits.look.cutaways import AddCutaway, ChangeCutaway, DropCutaway, MoveCutaway
from mortiser.core.edits.look.delivering import SetOutputs, SetPost
from mortiser.core.edits.look.dressing import (
    CopyLook,
    DressCues,
    DressEach,
    DressWords,
    UndressCues,
)
from mortiser.core.edits.look.framing import (
    AddMove,
    AlternateFramings,
    CopyFraming,
    DropMove,
    FrameBack,
    FrameClips,
    HoldFace,
    LetFaceGo,
    MoveOver,
    PanClips,
)
from mortiser.core.edits.look.grades import GradePicture
from mortiser.core.edits.look.jigs import ApplyJig
from mortiser.core.edits.look.joins import SetJoin, SetJoins
from mortiser.core.edits.look.layers import (
    AddLayer,
    ChangeLayer,
    CopyLayer,
    DropLayer,
    FinishLayer,
    LastLayer,
    PlaceLayer,
    RaiseLayer,
)
from mortiser.core.edits.look.marking import MarkWords
from mortiser.core.edits.look.settings import ChangeFinish, RenameProject, SetFinish
from mortiser.core.edits.look.shapes import (
    AddShape,
    DressShape,
    DropShape,
    ResizeShape,
    SetBackdrop,
)
from mortiser.core.edits.text.everywhere import (
    DressEverywhere,
    DressSpeaker,
    MarkEverywhere,
    TakeBack,
)
from mortiser.core.edits.text.glossary import ApplyGlossary, KeepGlossary, RefuseGlossary
from mortiser.core.edits.text.laying import LayCaptions
from mortiser.core.edits.text.runs import RetypeRun
from mortiser.core.edits.text.speakers import (
    NameSpeakers,
    RenameSpeaker,
    SetSpeaker,
    ShowSpeakers,
)
from mortiser.core.edits.text.words import (
    AcceptAll,
    AcceptWord,
    ReplaceText,
    ReplaceWord,
    RetypeCue,
)

AskedEdit = Annotated[
    RetypeCue
    | RetypeRun
    | ReplaceWord
    | AcceptWord
    | AcceptAll
    | ReplaceText
    | RefuseGlossary
    | KeepGlossary
    | TapTimes
    | SetSpeaker
    | RenameSpeaker
    | ShowSpeakers
    | SetCueTimes
    | TypeCueTime
    | MoveCues
    | CloseGaps
    | ShiftCues
    | StretchCues
    | MoveWordEdge
    | UnpinCues
    | AddCue
    | DeleteCues
    | SplitCue
    | SplitAt
    | JoinCue
    | JoinCues
    | MoveWord
    | BreakLine
    | SetPace
    | SetFilePace
    | SetOutputs
    | SetPost
    | Regroup
    | CheckBy
    | FixChecks
    | LeaveOut
    | MarkWords
    | MarkEverywhere
    | DressEverywhere
    | DressSpeaker
    | TakeBack
    | DressCues
    | DressEach
    | UndressCues
    | CopyLook
    | DressWords
    | SetFinish
    | ChangeFinish
    | RenameProject
    | StrikeWords
    | ToggleWords
    | ToggleQuiet
    | RestoreWords
    | CutStretches
    | RestoreStretches
    | MoveCut
    | BringIn
    | SetGoal
    | PutPassages
    | PutRecorded
    | UseTake
    | MoveMicrophone
    | DropMicrophone
    | AddShape
    | DropShape
    | ResizeShape
    | FrameClips
    | HoldFace
    | LetFaceGo
    | PanClips
    | FrameBack
    | CopyFraming
    | SetBackdrop
    | AlternateFramings
    | AddMove
    | MoveOver
    | DropMove
    | DressShape
    | AddLayer
    | AddCutaway
    | ChangeCutaway
    | MoveCutaway
    | DropCutaway
    | PutFilm
    | TakeFilmAway
    | SetJoins
    | SetJoin
    | GradePicture
    | ChangeLayer
    | FinishLayer
    | LastLayer
    | RaiseLayer
    | PlaceLayer
    | CopyLayer
    | DropLayer
    | ApplyJig
    | NewPiece
    | NamePiece
    | DeletePiece
    | RemoveRecording,
    Field(discriminator="kind"),
]
MadeEdit = Annotated[
    ApplyGlossary | LayCaptions | NameSpeakers | UseMicrophone, Field(discriminator="kind")
]
"""Those that Mortiser works out and makes by itself."""
Edit = AskedEdit | MadeEdit
EDIT: TypeAdapter[Edit] = TypeAdapter(Edit)
