"""What goes over the wire. The page's types are generated from these."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import Query
from pydantic import BaseModel, Field, JsonValue

from mortiser.core.assembly.covering import lies, whole_from
from mortiser.core.assembly.cutaway import Cutaway
from mortiser.core.assembly.grade import Grades
from mortiser.core.assembly.joining import Joins
from mortiser.core.captions.pace import Pace, RuleSet
from mortiser.core.common.limits import Id
from mortiser.core.common.time import parse_timecode
from mortiser.core.framing.layer import PLACES, Layer
from mortiser.core.framing.shape import Backdrop, Framed, Framing, LayerPlace, Move, shape_word
from mortiser.core.project.job import Job, JobKind, JobStatus
from mortiser.core.project.output import Output
from mortiser.core.project.piece import Piece, ShapedPiece
from mortiser.core.project.post import Post
from mortiser.core.project.source import Source
from mortiser.core.style.finish.changes import look_of
from mortiser.core.style.finish.model import Finish
from mortiser.core.transcript.doubt import doubtful
from mortiser.core.transcript.unspaced import tight
from mortiser.core.transcript.words import Cue, Seam, Shown
from mortiser.jobs.ingest import Hearing
from mortiser.jobs.preparing import playable
from mortiser.jobs.sounds import is_laid, sound_of
from mortiser.jobs.workspace import Workspace
from mortiser.store.database import now_us
from mortiser.store.editing import Outcome

OneShape = Annotated[Id | None, Query(description="One of the piece's shapes; else its first.")]


class Problem(BaseModel):
    """An error: ``message`` says what happened and what to do."""

    code: str
    message: str


class WordView(BaseModel):
    id: int
    text: str
    start_us: int
    end_us: int
    aligned: bool = Field(description="Whether its times come from the sound.")
    doubt: bool
    alternatives: list[str] = Field(description="What else a doubtful word may be, best first.")
    seam: Seam
    accent: int = Field(description="Which accent of the finish, from 1; 0 for none.")
    own: dict[str, JsonValue] = Field(description="What the word has in place of its finish's.")
    tight: bool = Field(description="Whether no space stands before it in its caption.")
    heard_as: str | None = Field(
        description="What was heard where the glossary put it; empty when the word before says it."
    )
    speaker: str | None

    @classmethod
    def of(cls, word: Shown, before: str = "") -> WordView:
        return cls(
            id=word.id,
            text=word.text,
            start_us=word.start_us,
            end_us=word.end_us,
            aligned=word.aligned,
            doubt=doubtful(word),
            alternatives=list(word.alternatives),
            seam=word.seam,
            accent=word.accent,
            own=look_of(word.own),
            tight=tight(before, word.text),
            heard_as=word.heard_as,
            speaker=word.speaker,
        )


class CueView(BaseModel):
    id: int
    piece_id: int
    start_us: int
    end_us: int
    start_pinned: bool
    end_pinned: bool
    look: dict[str, JsonValue] = Field(description="What it has in place of its finish's.")
    words: list[WordView]

    @classmethod
    def of(cls, cue: Cue) -> CueView:
        return cls(
            id=cue.id,
            piece_id=cue.piece_id,
            start_us=cue.start_us,
            end_us=cue.end_us,
            start_pinned=cue.start_pinned,
            end_pinned=cue.end_pinned,
            look=look_of(cue.look),
            words=[
                WordView.of(word, before)
                for word, before in zip(cue.words, ["", *(w.text for w in cue.words)], strict=False)
            ],
        )


class NoteView(BaseModel):
    text: str
    at_us: int | None = Field(description="Where in the source, if anywhere.")

    @classmethod
    def of(cls, job: Job) -> list[NoteView]:
        """What a job has to say."""
        return [cls(text=note.text, at_us=note.at_us) for note in job.report]


class JobView(BaseModel):
    id: int
    kind: JobKind
    status: JobStatus
    progress: float
    seconds_left: float | None
    error: str | None
    report: list[NoteView] = Field(description="What it has to say besides its result.")
    source_id: int | None = Field(description="The recording it works on.")
    sound_id: int | None = Field(description="The sound it finds a recording for.")

    @classmethod
    def of(cls, job: Job) -> JobView:
        return cls(
            id=job.id,
            kind=job.kind,
            source_id=job.payload.source_id,
            sound_id=getattr(job.payload, "sound_id", None),
            status=job.status,
            progress=job.progress,
            seconds_left=job.seconds_left(now_us()),
            error=job.error,
            report=NoteView.of(job),
        )


class MicrophoneView(BaseModel):
    """A sound that is heard in a recording's stead."""

    sound_id: int
    offset_us: int = Field(description="The recording's beginning, in the time of the sound.")
    drift_ppm: float
    sure: float = Field(description="How well the two were found to agree, 0 to 1.")
    laid: bool = Field(description="Whether it is heard already.")


class SourceView(BaseModel):
    id: int
    name: str
    kind: Literal["video", "audio"]
    size_bytes: int
    duration_us: int
    width: int
    height: int
    frame_rate: float
    variable_rate: bool
    audio_tracks: int
    track_names: list[str] = Field(description="What each sound track is called.")
    video_codec: str | None
    audio_codec: str | None
    language: str
    audio_track: int
    playable: bool = Field(description="Whether the browser can play it now, as it is or by proxy.")

    missing: bool = Field(description="Whether its file is not where it was.")
    sound: str = Field(description="The same for what is heard the same.")
    microphone: MicrophoneView | None

    @classmethod
    def of(cls, source: Source, workspace: Workspace) -> SourceView:
        own = ("playable", "missing", "sound", "microphone", "track_names")
        values = {name: getattr(source, name) for name in cls.model_fields if name not in own}
        found = source.microphone
        return cls(
            **values,
            track_names=source.tracks,
            playable=playable(source),
            missing=not workspace.path(source.path).exists(),
            sound=sound_of(workspace, source).key,
            microphone=MicrophoneView(
                sound_id=found.sound_id,
                offset_us=found.offset_us,
                drift_ppm=found.drift_ppm,
                sure=found.sure,
                laid=is_laid(workspace, source),
            )
            if found
            else None,
        )


class ShapeView(BaseModel):
    """A frame of a piece; see core.framing.shape."""

    id: int
    word: str = Field(description="The name of the shape it is nearest to.")
    width: int
    height: int
    framing: Framing
    framed: list[Framed]
    moves: list[Move]
    alternate: float
    backdrop: Backdrop
    look: dict[str, JsonValue]
    places: dict[int, LayerPlace]
    as_recorded: bool = Field(description="Whether it shows one recording just as it is.")
    digest: str = Field(
        description="Another one once other pictures are seen in it, or otherwise framed."
    )

    @classmethod
    def of(cls, piece: ShapedPiece, looks: str) -> ShapeView:
        """The shape that a piece is seen in; ``looks`` is the digest of what else is seen, in all shapes."""
        shape = piece.shape
        return cls(
            **{name: getattr(shape, name) for name in set(type(shape).model_fields) - {"places"}},
            places={
                one.id: shape.places.get(one.id, PLACES[one.kind]) for one in piece.settings.layers
            },
            word=shape_word(*shape.size),
            as_recorded=piece.as_recorded,
            digest="-".join([shape.digest, *_followed(piece), looks]),
        )


def _followed(piece: Piece) -> list[str]:
    """What is known to be followed, and by whom."""
    known = [f"{key}.{len(tracks)}" for key, tracks in sorted(piece.facts.subjects.items())]
    return [*known, *(str(len(turns)) for _, turns in sorted(piece.facts.turns.items()))]


class LyingView(BaseModel):
    """A stretch of the piece."""

    start_us: int
    end_us: int
    whole_us: int = Field(description="When it is all there, having come.")


class CutawayView(BaseModel):
    cutaway: Cutaway
    lies: list[LyingView] = Field(
        description="Where in the piece; nowhere while its words are struck."
    )

    @classmethod
    def all(cls, piece: Piece) -> list[CutawayView]:
        return [
            cls(
                cutaway=one,
                lies=[
                    LyingView(start_us=start, end_us=end, whole_us=whole_from(one, start, end))
                    for start, end in lies(piece.timeline, one.during)
                ],
            )
            for one in piece.settings.cutaways
        ]


class PieceView(BaseModel):
    id: int
    name: str
    shapes: list[ShapeView]
    layers: list[Layer]
    joins: Joins = Field(description="How its clips go over into each other.")
    grades: Grades = Field(description="How its pictures look.")
    cutaways: list[CutawayView]
    finish: Finish
    pace: Pace
    checked_by: RuleSet
    frame_rate: float = Field(description="Frames a second; 0 where it varies.")
    first_frame_us: int
    duration_us: int
    source_id: int
    goal_us: int = Field(description="How long it is to be at most; 0 without a goal.")
    over_us: int = Field(description="How much longer it is than its goal; 0 where it is not.")
    whole_us: int = Field(description="How long it would be with nothing struck.")
    untouched: bool = Field(description="Whether it is one recording from beginning to end.")
    digest: str = Field(description="Of its clips: another one once they were cut.")
    show_speakers: bool
    post: Post = Field(description="What is written beside it where it is shown.")
    outputs: list[Output] = Field(description="What it is delivered as.")
    naming: str = Field(description="The pattern of its files' names; the usual one where empty.")
    file_pace: Pace | None = Field(description="Of its caption files; as the picture's if none.")
    speaker_looks: dict[str, dict[str, JsonValue]] = Field(
        description="What each speaker's captions have in place of the finish's."
    )
    unreadable: list[str] = Field(
        description="Settings that cannot be read; the usual ones stand in for them."
    )
    marked_words: dict[str, int] = Field(
        description="Spellings that are marked wherever they come."
    )

    @classmethod
    def of(cls, piece: Piece) -> PieceView:
        looks = piece.settings.look_digest
        return cls(
            id=piece.id,
            name=piece.settings.name,
            layers=list(piece.settings.layers),
            joins=piece.settings.joins,
            grades=piece.settings.grades,
            cutaways=CutawayView.all(piece),
            shapes=[ShapeView.of(piece.in_shape(one.id), looks) for one in piece.settings.shapes],
            finish=piece.settings.finish,
            pace=piece.settings.pace,
            checked_by=piece.settings.checked_by,
            frame_rate=piece.facts.frames.rate,
            first_frame_us=piece.facts.frames.origin_us,
            duration_us=piece.timeline.duration_us,
            source_id=piece.source_id,
            goal_us=piece.settings.goal_us,
            over_us=piece.over_us,
            whole_us=piece.facts.whole_us,
            untouched=piece.untouched,
            digest=piece.timeline.digest,
            show_speakers=piece.settings.show_speakers,
            post=piece.settings.post,
            outputs=list(piece.settings.outputs),
            naming=piece.settings.naming,
            file_pace=piece.settings.file_pace,
            speaker_looks={
                name: look_of(look) for name, look in piece.settings.standing.speakers.items()
            },
            unreadable=list(piece.unreadable),
            marked_words=piece.settings.standing.marks,
        )


class HistoryView(BaseModel):
    undo: str | None
    redo: str | None


class StepRequest(BaseModel):
    base_revision: Id


class SettingsView(BaseModel):
    name: str
    pieces: list[PieceView]

    @classmethod
    def of(cls, name: str, pieces: list[Piece]) -> SettingsView:
        return cls(name=name, pieces=[PieceView.of(piece) for piece in pieces])


class ShiftView(BaseModel):
    piece_id: int
    from_us: int
    to_us: int
    by_us: int


class EditAnswer(BaseModel):
    revision: int
    label: str
    history: HistoryView
    cues: list[CueView] = Field(description="Captions that are new or changed.")
    gone: list[int] = Field(description="Captions that are not there any more.")
    settings: SettingsView | None = Field(description="The project itself, where it changed.")
    moved: list[ShiftView] = Field(
        description="Where captions that are not named have gone, by when they began before."
    )

    @classmethod
    def of(cls, outcome: Outcome) -> EditAnswer:
        settings = outcome.settings
        return cls(
            revision=outcome.revision,
            label=outcome.label,
            history=HistoryView(undo=outcome.undo, redo=outcome.redo),
            cues=[CueView.of(cue) for cue in outcome.cues],
            gone=outcome.gone,
            settings=SettingsView.of(*settings) if settings else None,
            moved=[
                ShiftView(piece_id=piece_id, from_us=one.from_us, to_us=one.to_us, by_us=one.by_us)
                for piece_id, one in outcome.moved
            ],
        )


class HearingChoices(BaseModel):
    language: str = Field(default="en", max_length=8)
    audio_track: int = Field(default=0, ge=0, le=1000)
    from_time: str = Field(default="", max_length=40, description="As typed: 1:30 or 90.")
    to_time: str = Field(default="", max_length=40)
    transcribe: bool = Field(default=True, description="False where words come another way.")

    def hearing(self) -> Hearing:
        """The same for the job."""
        start, end = (
            parse_timecode(text) if text.strip() else None
            for text in (self.from_time, self.to_time)
        )
        return Hearing(self.language, self.audio_track, start, end, self.transcribe)
