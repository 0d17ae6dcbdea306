"""An edit of any kind for some captions: one maker a kind, so that none is left out of the tests."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import get_args

from mortiser.core.captions.pace import PACES
from mortiser.core.editing.timeline import Timeline
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.captions import captions, fixing, pacing, shifting, tapping, times
from mortiser.core.edits.captions.word_times import MoveWordEdge
from mortiser.core.edits.commands import AskedEdit, MadeEdit
from mortiser.core.edits.cutting import (
    films,
    microphone,
    pieces,
    putting,
    recorded,
    removing,
    toggling,
    trimming,
)
from mortiser.core.edits.look import (
    cutaways,
    delivering,
    dressing,
    framing,
    grades,
    jigs,
    joins,
    layers,
    settings,
    shapes,
)
from mortiser.core.edits.look.marking import MarkWords
from mortiser.core.edits.text import everywhere, glossary, laying, runs, speakers, words
from mortiser.core.framing.shape import Backdrop, Chosen
from mortiser.core.project.jig import JIGS
from mortiser.core.project.post import Post
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.transcript.words import Cue, Shown

A_PICTURE = {"kind": "picture", "picture": {"digest": "a" * 32, "width": 9, "height": 9}}


@dataclass(frozen=True)
class Place:
    """Captions of a piece, one of them, and a number to vary by."""

    piece: int
    cues: list[Cue]
    at: int
    n: int
    timeline: Timeline

    @property
    def cue(self) -> Cue:
        return self.cues[self.at % len(self.cues)]

    @property
    def point(self) -> Chosen:
        """A point of the picture when the caption begins."""
        placed = self.timeline.place_of(self.word)
        at_us = placed.to_source(self.cue.words[0].start_us)
        return Chosen(source_id=placed.clip.source_id, at_us=at_us, x=0.4, y=0.5)

    @property
    def last(self) -> Cue:
        """One some captions behind it."""
        return self.cues[min(len(self.cues) - 1, self.at % len(self.cues) + self.n % 3)]

    @property
    def some(self) -> list[int]:
        first = self.at % len(self.cues)
        return [cue.id for cue in self.cues[first : first + 1 + self.n % 4]]

    @property
    def word(self) -> Shown:
        return self.cue.words[self.n % len(self.cue.words)]

    def _strand(self, word: Shown) -> int:
        return self.timeline.place_of(word).clip.strand_id

    def passage(self, first: Shown, last: Shown, on: int = 0) -> trimming.Passage:
        """From one word to another, or to one with a number a little higher."""
        return trimming.Passage(
            strand_id=self._strand(first), first_word=first.id, last_word=last.id + on
        )

    @property
    def place(self) -> putting.WordPlace:
        """Behind the word."""
        return putting.WordPlace(strand_id=self._strand(self.word), word_id=self.word.id)

    def stretch(self, longer_us: int) -> trimming.StrandStretch:
        """The gap behind the word, and more."""
        placed = self.timeline.place_of(self.word)
        start = placed.to_source(self.word.end_us)
        return trimming.StrandStretch(
            strand_id=placed.clip.strand_id, from_us=start, to_us=start + 50_000 + longer_us
        )

    @property
    def text(self) -> str:
        """The caption's text with a word put in, and now and then one taken out."""
        texts = [word.text for word in self.cue.words]
        texts.insert(self.n % (len(texts) + 1), f"word{self.n}")
        return " ".join(texts[self.n % 2 :])


LOOK = {"size": 0.08}
OWN = {"scale": 1.4}


def _laid(p: Place) -> laying.LayCaptions:
    fresh = [Shown(f"new{i}", p.cue.start_us + i, p.cue.start_us + i + 1) for i in range(p.n % 3)]
    captions_ = laying.grouped(fresh, PACES["quick"])
    start, end = p.cue.start_us, p.last.end_us
    return laying.LayCaptions(
        about="hear again", piece_id=p.piece, from_us=start, to_us=end, captions=captions_
    )


MAKERS: dict[type[BaseEdit], Callable[[Place], BaseEdit]] = {
    words.RetypeCue: lambda p: words.RetypeCue(cue_id=p.cue.id, text=p.text),
    runs.RetypeRun: lambda p: runs.RetypeRun(
        from_cue=p.cue.id, from_letter=p.n % (len(p.cue.text) + 1), to_cue=p.last.id,
        to_letter=len(p.last.text), text=["", "some\nnew lines", "tea"][p.n % 3],
    ),
    words.ReplaceWord: lambda p: words.ReplaceWord(
        cue_id=p.cue.id, word_id=p.word.id, text=["", "tea", "two words"][p.n % 3]
    ),
    words.AcceptWord: lambda p: words.AcceptWord(cue_id=p.cue.id, word_id=p.word.id),
    words.AcceptAll: lambda p: words.AcceptAll(piece_id=p.piece),
    words.ReplaceText: lambda p: words.ReplaceText(
        piece_id=p.piece, find=p.word.text, text=["", "tea"][p.n % 2]
    ),
    glossary.RefuseGlossary: lambda p: glossary.RefuseGlossary(cue_id=p.cue.id, word_id=p.word.id),
    glossary.KeepGlossary: lambda p: glossary.KeepGlossary(piece_id=p.piece),
    glossary.ApplyGlossary: lambda p: glossary.ApplyGlossary(
        piece_id=p.piece,
        changes=[glossary.Rewording(word_ids=[p.word.id], text=f"Marlo {p.n}"[: 5 + 2 * (p.n % 2)])],
    ),
    tapping.TapTimes: lambda p: tapping.TapTimes(
        first_cue=p.cue.id, unit="caption", taps_us=[p.cue.start_us + p.n * 2_000], delay_us=0
    ),
    speakers.SetSpeaker: lambda p: speakers.SetSpeaker(cue_ids=p.some, name=f"S{p.n % 3}"),
    speakers.RenameSpeaker: lambda p: speakers.RenameSpeaker(
        piece_id=p.piece, old=f"S{p.n % 3}", new="Marlo"
    ),
    speakers.ShowSpeakers: lambda p: speakers.ShowSpeakers(piece_id=p.piece, shown=bool(p.n % 2)),
    speakers.NameSpeakers: lambda p: speakers.NameSpeakers(
        piece_id=p.piece, names={"S1": [p.word.id], "S2": [p.last.words[0].id]}
    ),
    times.SetCueTimes: lambda p: times.SetCueTimes(
        cue_id=p.cue.id, end_us=p.cue.end_us + p.n * 2_000 - 50_000, ripple=p.n % 5 == 0,
        together=p.n % 5 == 1,
    ),
    times.TypeCueTime: lambda p: times.TypeCueTime(
        cue_id=p.cue.id, edge="start", text=f"+0.0{p.n % 10}"
    ),
    times.MoveCues: lambda p: times.MoveCues(
        cue_ids=[p.cue.id], by_us=p.n * 10_000 - 200_000, ripple=p.n > 40
    ),
    times.CloseGaps: lambda p: times.CloseGaps(cue_ids=p.some),
    times.UnpinCues: lambda p: times.UnpinCues(cue_ids=p.some),
    shifting.ShiftCues: lambda p: shifting.ShiftCues(
        cue_ids=[p.cue.id], by=f"+{p.n}f", onward=True
    ),
    shifting.StretchCues: lambda p: shifting.StretchCues(
        first=shifting.Anchor(cue_id=p.cue.id, starts=f"+0.{p.n % 10}"),
        second=shifting.Anchor(cue_id=p.last.id, starts="+0.1"),
    ),
    MoveWordEdge: lambda p: MoveWordEdge(
        cue_id=p.cue.id, word_id=p.word.id, by_us=p.n * 4_000 - 9_000
    ),
    captions.AddCue: lambda p: captions.AddCue(
        piece_id=p.piece, at_us=p.cue.end_us + p.n * 1_000, text="tea is free"
    ),
    captions.DeleteCues: lambda p: captions.DeleteCues(cue_ids=p.some),
    captions.SplitCue: lambda p: captions.SplitCue(cue_id=p.cue.id, before_word=1 + p.n % 3),
    captions.SplitAt: lambda p: captions.SplitAt(piece_id=p.piece, at_us=p.cue.start_us + 1),
    captions.JoinCue: lambda p: captions.JoinCue(
        cue_id=p.cue.id, to="before" if p.n % 2 else "after"
    ),
    captions.JoinCues: lambda p: captions.JoinCues(cue_ids=[p.cue.id, p.last.id]),
    captions.MoveWord: lambda p: captions.MoveWord(
        cue_id=p.cue.id, which="first" if p.n % 2 else "last"
    ),
    captions.BreakLine: lambda p: captions.BreakLine(cue_id=p.cue.id, before_word=1 + p.n % 2),
    pacing.SetPace: lambda p: pacing.SetPace(
        piece_id=p.piece, pace=PACES["sentence" if p.n % 2 else "quick"]
    ),
    pacing.SetFilePace: lambda p: pacing.SetFilePace(
        piece_id=p.piece, pace=PACES["sentence"] if p.n % 2 else None
    ),
    pacing.Regroup: lambda p: pacing.Regroup(
        piece_id=p.piece, cue_ids=p.some, keep=bool(p.n % 2)
    ),
    pacing.CheckBy: lambda p: pacing.CheckBy(
        piece_id=p.piece, rules="feed" if p.n % 2 else "course"
    ),
    fixing.FixChecks: lambda p: fixing.FixChecks(
        piece_id=p.piece,
        findings=[
            fixing.Finding(kind=kind, cue_id=p.cue.id)
            for kind in (("flicker", "too_long", "orphan", "overlap")[p.n % 4],)
        ],
    ),
    fixing.LeaveOut: lambda p: fixing.LeaveOut(piece_id=p.piece, word_ids=[p.word.id]),
    MarkWords: lambda p: MarkWords(cue_ids=[p.cue.id], word_ids=[p.word.id], accent=p.n % 3),
    everywhere.MarkEverywhere: lambda p: everywhere.MarkEverywhere(
        piece_id=p.piece, text=p.word.text, accent=p.n % 4
    ),
    everywhere.DressEverywhere: lambda p: everywhere.DressEverywhere(
        piece_id=p.piece, text=p.word.text, changes=OWN
    ),
    everywhere.DressSpeaker: lambda p: everywhere.DressSpeaker(
        piece_id=p.piece, name=f"S{p.n % 2}", changes=LOOK
    ),
    everywhere.TakeBack: lambda p: everywhere.TakeBack(
        piece_id=p.piece, what="marks" if p.n % 2 else "overrides"
    ),
    dressing.DressCues: lambda p: dressing.DressCues(
        cue_ids=p.some, changes={"size": 0.06 + p.n / 1000}
    ),
    dressing.DressEach: lambda p: dressing.DressEach(
        looks=[dressing.OneLook(cue_id=p.cue.id, changes=LOOK)]
    ),
    dressing.UndressCues: lambda p: dressing.UndressCues(cue_ids=p.some),
    dressing.CopyLook: lambda p: dressing.CopyLook(from_cue_id=p.cue.id, cue_ids=[p.last.id]),
    dressing.DressWords: lambda p: dressing.DressWords(
        cue_ids=[p.cue.id], word_ids=[p.word.id], changes=OWN
    ),
    settings.SetFinish: lambda p: settings.SetFinish(
        piece_id=p.piece, finish=list(FINISHES)[p.n % len(FINISHES)]
    ),
    settings.ChangeFinish: lambda p: settings.ChangeFinish(
        piece_id=p.piece, changes={"size": 0.05 + p.n / 1000}
    ),
    settings.RenameProject: lambda p: settings.RenameProject(name=f"Name {p.n}"),
    laying.LayCaptions: _laid,
    trimming.StrikeWords: lambda p: trimming.StrikeWords(
        piece_id=p.piece, passages=[p.passage(p.word, p.last.words[-1])]
    ),
    trimming.RestoreWords: lambda p: trimming.RestoreWords(
        piece_id=p.piece, passages=[p.passage(p.word, p.word, p.n % 5)]
    ),
    toggling.ToggleWords: lambda p: toggling.ToggleWords(
        piece_id=p.piece, passages=[p.passage(p.word, p.word)]
    ),
    toggling.ToggleQuiet: lambda p: toggling.ToggleQuiet(
        piece_id=p.piece,
        strand_id=p.stretch(0).strand_id,
        from_us=p.stretch(0).from_us,
        to_us=p.stretch(0).to_us,
        cut_from_us=p.stretch(0).from_us,
        cut_to_us=p.stretch(0).to_us,
    ),
    trimming.CutStretches: lambda p: trimming.CutStretches(
        piece_id=p.piece, stretches=[p.stretch(p.n % 2 * 300_000)], found="quiet"
    ),
    trimming.RestoreStretches: lambda p: trimming.RestoreStretches(
        piece_id=p.piece, stretches=[p.stretch(400_000)], found="quiet"
    ),
    putting.PutPassages: lambda p: putting.PutPassages(
        piece_id=p.piece,
        from_piece_id=p.piece,
        passages=[p.passage(p.word, p.word, p.n % 4)],
        behind=p.place if p.n % 3 else None,
    ),
    recorded.PutRecorded: lambda p: recorded.PutRecorded(
        piece_id=p.piece,
        said=recorded.Recorded(first_word=p.word.id, last_word=p.word.id),
        behind=p.place if p.n % 3 else None,
    ),
    recorded.UseTake: lambda p: recorded.UseTake(
        piece_id=p.piece,
        instead=p.passage(p.word, p.word),
        take=recorded.Recorded(first_word=p.last.words[-1].id, last_word=p.last.words[-1].id),
    ),
    removing.RemoveRecording: lambda p: removing.RemoveRecording(source_id=1 + p.n % 2),
    microphone.UseMicrophone: lambda p: microphone.UseMicrophone(
        source_id=1, sound_id=2, offset_us=p.n * 1_000, drift_ppm=0.5, sure=0.9
    ),
    microphone.MoveMicrophone: lambda p: microphone.MoveMicrophone(
        source_id=1, by_us=(p.n % 7 - 3) * 1_000
    ),
    microphone.DropMicrophone: lambda p: microphone.DropMicrophone(source_id=1),
    shapes.AddShape: lambda p: shapes.AddShape(
        piece_id=p.piece, width=[1080, 1920, 1080][p.n % 3], height=[1080, 1080, 1350][p.n % 3]
    ),
    shapes.DropShape: lambda p: shapes.DropShape(piece_id=p.piece, shape_id=1 + p.n % 3),
    shapes.ResizeShape: lambda p: shapes.ResizeShape(
        piece_id=p.piece, shape_id=1, width=720 + p.n, height=1280
    ),
    shapes.SetBackdrop: lambda p: shapes.SetBackdrop(
        piece_id=p.piece,
        shape_id=1,
        backdrop=Backdrop(kind=["blur", "colour", "gradient"][p.n % 3], dark=0.3),
    ),
    shapes.DressShape: lambda p: shapes.DressShape(
        piece_id=p.piece, shape_id=1, changes={"place.y": 0.3} if p.n % 2 else {}
    ),
    layers.AddLayer: lambda p: layers.AddLayer(
        piece_id=p.piece,
        layer=["headline", "bar", "plate", "bubble", "waveform", "picture"][p.n % 6],
        text=p.text[:30],
    ),
    cutaways.AddCutaway: lambda p: cutaways.AddCutaway(
        piece_id=p.piece, from_word=p.word.id, seen=A_PICTURE
    ),
    cutaways.ChangeCutaway: lambda p: cutaways.ChangeCutaway(
        piece_id=p.piece, cutaway_id=1, changes={"speed": 0.5 + p.n % 4, "zoom": 1.5}
    ),
    cutaways.MoveCutaway: lambda p: cutaways.MoveCutaway(
        piece_id=p.piece, cutaway_id=1, to_word=p.last.words[-1].id
    ),
    cutaways.DropCutaway: lambda p: cutaways.DropCutaway(piece_id=p.piece, cutaway_id=1 + p.n % 2),
    films.PutFilm: lambda p: films.PutFilm(
        piece_id=p.piece, source_id=1 + p.n % 2, role=["opening", "closing"][p.n % 2],
        from_us=100_000 * p.n, to_us=100_000 * p.n + 700_000,
    ),
    films.TakeFilmAway: lambda p: films.TakeFilmAway(
        piece_id=p.piece, strand_id=p.timeline.clips[p.n % len(p.timeline.clips)].strand_id
    ),
    joins.SetJoins: lambda p: joins.SetJoins(
        piece_id=p.piece,
        where=["everywhere", "recordings", "nowhere"][p.n % 3],
        transition={"kind": ["push", "iris"][p.n % 2]},
        alike=p.n % 5 == 0,
    ),
    joins.SetJoin: lambda p: joins.SetJoin(
        piece_id=p.piece,
        at_us=p.word.start_us,
        transition=None if p.n % 3 else {"kind": "whip"},
        as_all=p.n % 4 == 0,
    ),
    grades.GradePicture: lambda p: grades.GradePicture(
        piece_id=p.piece, source_id=(None, 2)[p.n % 2], changes={"warmth": p.n % 10 / 10}
    ),
    layers.ChangeLayer: lambda p: layers.ChangeLayer(
        piece_id=p.piece, layer_id=1, changes=layers.LayerChanges(text="tea", opacity=0.5)
    ),
    layers.FinishLayer: lambda p: layers.FinishLayer(
        piece_id=p.piece, layer_id=1, finish=FINISHES["Pine"] if p.n % 2 else None
    ),
    layers.LastLayer: lambda p: layers.LastLayer(
        piece_id=p.piece,
        layer_id=1,
        cue_ids=p.some if p.n % 3 else [],
        intro=p.n % 3 == 0,
    ),
    layers.CopyLayer: lambda p: layers.CopyLayer(
        piece_id=p.piece, layer_id=1, to_piece_id=p.piece
    ),
    layers.RaiseLayer: lambda p: layers.RaiseLayer(
        piece_id=p.piece, layer_id=1, by=1 if p.n % 2 else -1
    ),
    layers.PlaceLayer: lambda p: layers.PlaceLayer(
        piece_id=p.piece, shape_id=1, layer_id=1, changes=layers.LayerPlaceChanges(y=0.3)
    ),
    layers.DropLayer: lambda p: layers.DropLayer(piece_id=p.piece, layer_id=1 + p.n % 2),
    delivering.SetOutputs: lambda p: delivering.SetOutputs(
        piece_id=p.piece, outputs=["vtt", "mp4"][: 1 + p.n % 2], naming=[None, "{piece} {date}"][p.n % 2]
    ),
    delivering.SetPost: lambda p: delivering.SetPost(
        piece_id=p.piece, post=Post(title=p.text[:40], tags=("tea",) * (p.n % 3))
    ),
    jigs.ApplyJig: lambda p: jigs.ApplyJig(piece_id=p.piece, jig=JIGS[p.n % len(JIGS)]),
    framing.FrameClips: lambda p: framing.FrameClips(
        piece_id=p.piece, shape_id=1, cue_ids=p.some if p.n % 3 else [],
        changes=framing.FramingChanges(
            fit="fill", x=0.3, zoom=1 + p.n % 5 / 10, chosen=p.point if p.n % 2 else "largest"
        ),
    ),
    framing.HoldFace: lambda p: framing.HoldFace(piece_id=p.piece, shape_id=1, point=p.point),
    framing.LetFaceGo: lambda p: framing.LetFaceGo(
        piece_id=p.piece, shape_id=1, source_id=p.point.source_id, at_us=p.point.at_us
    ),
    framing.PanClips: lambda p: framing.PanClips(
        piece_id=p.piece, shape_id=1, cue_ids=p.some if p.n % 3 else [], by_x=0.1, by_y=-0.1
    ),
    framing.FrameBack: lambda p: framing.FrameBack(
        piece_id=p.piece, shape_id=1, cue_ids=p.some if p.n % 3 else []
    ),
    framing.CopyFraming: lambda p: framing.CopyFraming(
        piece_id=p.piece, shape_id=1, from_cue_id=p.cue.id, cue_ids=p.some
    ),
    framing.AlternateFramings: lambda p: framing.AlternateFramings(
        piece_id=p.piece, shape_id=1, zoom=1 + p.n % 3 / 10
    ),
    framing.AddMove: lambda p: framing.AddMove(
        piece_id=p.piece, shape_id=1, cue_ids=p.some, way=["in", "out", "quick"][p.n % 3]
    ),
    framing.MoveOver: lambda p: framing.MoveOver(piece_id=p.piece, shape_id=1, zoom=1.2),
    framing.DropMove: lambda p: framing.DropMove(
        piece_id=p.piece,
        shape_id=1,
        source_id=p.point.source_id,
        start_us=p.point.at_us,
    ),
    pieces.NewPiece: lambda p: pieces.NewPiece(
        piece_id=p.piece, passages=[p.passage(p.word, p.last.words[-1])] if p.n % 3 else []
    ),
    pieces.NamePiece: lambda p: pieces.NamePiece(piece_id=p.piece, name=f"Part {p.n}"),
    pieces.DeletePiece: lambda p: pieces.DeletePiece(piece_id=p.piece + p.n),
    trimming.SetGoal: lambda p: trimming.SetGoal(piece_id=p.piece, goal_us=p.n * 1_000_000),
    trimming.BringIn: lambda p: trimming.BringIn(
        piece_id=p.piece, strand_id=p.place.strand_id, side="before" if p.n % 2 else "behind"
    ),
    trimming.MoveCut: lambda p: trimming.MoveCut(
        piece_id=p.piece, clip_id=p.word.clip_id, edge="start" if p.n % 2 else "end",
        to_us=p.stretch(p.n * 9_000).to_us,
    ),
}  # fmt: skip
KINDS = [*get_args(get_args(AskedEdit)[0]), *get_args(get_args(MadeEdit)[0])]


def an_edit(
    piece: int, cues: list[Cue], timeline: Timeline, kind: int, at: int, n: int
) -> BaseEdit:
    """The edit of a kind by its number."""
    return MAKERS[KINDS[kind % len(KINDS)]](Place(piece, cues, at, n, timeline))
