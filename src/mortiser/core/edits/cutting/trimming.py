"""Cut the talk: strike words and stretches, bring them back, move a cut's edge."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.limits import Id, Micros
from mortiser.core.common.time import MILLISECOND, SECOND
from mortiser.core.editing.beyond import Side, beyond
from mortiser.core.editing.cutting import Room, index_of, kept_around, stretch_of
from mortiser.core.editing.strand import Strand, reach, with_stretch, without, without_all
from mortiser.core.editing.timeline import Clip, Timeline, changed_stretches
from mortiser.core.editing.whole_frames import parting_of, whole_frames
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.cutting.recaptioning import follow_cut
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import Word

AROUND_US = 30 * SECOND
"""Words that begin so near a passage are looked at for those beside it."""
MOST = 5_000
AroundWords = Annotated[int, Field(ge=0, le=2 * SECOND)]
SHORTEST_US = 40 * MILLISECOND
"""Of a clip: an edge moved by hand leaves a frame of it."""


class Passage(BaseModel):
    """Words of a strand, from one to another, by their ids."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    strand_id: Id
    first_word: Id
    last_word: Id


class StrandStretch(BaseModel):
    """A stretch of a strand, in µs of its source."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    strand_id: Id
    from_us: Micros
    to_us: Micros


class OfPassages(BaseEdit):
    """An edit of words of a piece, with what is left around them."""

    piece_id: Id
    passages: list[Passage] = Field(min_length=1, max_length=MOST)
    before_us: AroundWords = Room().before_us
    after_us: AroundWords = Room().after_us

    @property
    def room(self) -> Room:
        """What is left around words."""
        return Room(self.before_us, self.after_us)

    def _about(self, session: EditSession) -> str:
        return of_passages(session, self.piece_id, self.passages)


class StrikeWords(OfPassages):
    """Take words out of the piece; they stay in the transcript and can be brought back."""

    kind: Literal["strike_words"] = "strike_words"

    def label(self, session: EditSession) -> str:
        return f"strike {self._about(session)}"

    def apply(self, session: EditSession) -> None:
        strands = strands_of(session, self.piece_id)
        clips: list[Clip] = list(session.timeline(self.piece_id).clips)
        for passage in self.passages:
            words, a, b = words_around(session, strands, passage)
            strand = strands[passage.strand_id]
            timeline = Timeline(clips)
            stay = [
                word
                for index, word in enumerate(words)
                if a <= index <= b or timeline.shows(strand.id, word.middle_us)
            ]
            run = [word for word in words[a : b + 1] if timeline.shows(strand.id, word.middle_us)]
            if not run:
                continue
            left, right = (timeline.shows(strand.id, run[index].middle_us) for index in (0, -1))
            assert left is not None
            assert right is not None
            first, last = index_of(stay, words[a].id), index_of(stay, words[b].id)
            assert first is not None
            assert last is not None
            bounds = left.clip.start_us, right.clip.end_us
            heard = session.loudness(strand.source_id)
            pause = _whole_sentences(stay, first, last)
            cut = stretch_of(stay, first, last, bounds, heard, self.room, keep_pause=pause)
            clips = without(clips, strand.id, *cut)
        make(session, self.piece_id, clips)


def _whole_sentences(words: Sequence[Word], first: int, last: int) -> bool:
    """Whether words are whole sentences: struck, they leave one of the two pauses around them."""
    return (first == 0 or ends_sentence(words[first - 1].text)) and ends_sentence(words[last].text)


class RestoreWords(OfPassages):
    """Bring struck words back."""

    kind: Literal["restore_words"] = "restore_words"

    def label(self, session: EditSession) -> str:
        return f"bring {self._about(session)} back"

    def apply(self, session: EditSession) -> None:
        strands = strands_of(session, self.piece_id)
        clips: list[Clip] = list(session.timeline(self.piece_id).clips)
        for passage in self.passages:
            words, a, b = words_around(session, strands, passage)
            strand = strands[passage.strand_id]
            heard = session.loudness(strand.source_id)
            bounds = strand.start_us, strand.end_us
            start, end = kept_around(words, a, b, bounds, heard, self.room)
            timeline = Timeline(clips)
            for beside in (a - 1, b + 1):
                near = words[beside] if 0 <= beside < len(words) else None
                kept = near and timeline.shows(strand.id, near.middle_us)
                if near is None or not kept:
                    continue
                # With the quiet up to a word that stays: striking took that too.
                if beside < a:
                    start = min(start, kept.clip.end_us)
                else:
                    end = max(end, kept.clip.start_us)
            clips = with_stretch(clips, strand, start, end)
        make(session, self.piece_id, clips)


Found = Literal["quiet", "fillers", "repeats", "ends", "sounds", "suggestions"]
NAMES: dict[str, tuple[str, str]] = {
    "quiet": ("a quiet stretch", "quiet stretches"),
    "fillers": ("a filler", "fillers"),
    "repeats": ("a repeat", "repeats"),
    "ends": ("what is before or after the talk", "what is before and after the talk"),
    "sounds": ("a pause with sound", "pauses with sound"),
    "suggestions": ("a suggestion", "suggestions"),
}


class _OfStretches(BaseEdit):
    piece_id: Id
    stretches: list[StrandStretch] = Field(min_length=1, max_length=MOST)
    found: Found

    def _about(self) -> str:
        one, many = NAMES[self.found]
        count = len(self.stretches)
        return one if count == 1 else many if self.found == "ends" else f"{count} {many}"


class CutStretches(_OfStretches):
    """Take stretches out of the piece, as they were suggested."""

    kind: Literal["cut_stretches"] = "cut_stretches"

    def label(self, session: EditSession) -> str:
        return f"take out {self._about()}"

    def apply(self, session: EditSession) -> None:
        strands = strands_of(session, self.piece_id)
        for stretch in self.stretches:
            _known(strands, stretch.strand_id)
        cut = [(one.strand_id, one.from_us, one.to_us) for one in self.stretches]
        make(session, self.piece_id, without_all(session.timeline(self.piece_id).clips, cut))


class RestoreStretches(_OfStretches):
    """Bring stretches back, whatever is said in them."""

    kind: Literal["restore_stretches"] = "restore_stretches"

    def label(self, session: EditSession) -> str:
        return f"bring back {self._about()}"

    def apply(self, session: EditSession) -> None:
        strands = strands_of(session, self.piece_id)
        clips: list[Clip] = list(session.timeline(self.piece_id).clips)
        for stretch in self.stretches:
            strand = _known(strands, stretch.strand_id)
            clips = with_stretch(clips, strand, stretch.from_us, stretch.to_us)
        make(session, self.piece_id, clips)


class MoveCut(BaseEdit):
    """Move the edge of a clip; it ends at the clips beside it."""

    kind: Literal["move_cut"] = "move_cut"
    piece_id: Id
    clip_id: Id
    edge: Literal["start", "end"]
    to_us: Micros = Field(description="In the time of the source.")

    def label(self, session: EditSession) -> str:
        return f"move the {self.edge} of a clip"

    def apply(self, session: EditSession) -> None:
        clips = list(session.timeline(self.piece_id).clips)
        at = next((at for at, clip in enumerate(clips) if clip.id == self.clip_id), None)
        if at is None:
            raise NotFound("That cut is not there any more. The page shows the newest state.")
        clip = clips[at]
        strand = _known(strands_of(session, self.piece_id), clip.strand_id)
        first_us, last_us = reach_of(session, self.piece_id, strand)
        others = [one for one in clips if one.strand_id == clip.strand_id and one.id != clip.id]
        if self.edge == "start":
            low = max([first_us, *(o.end_us for o in others if o.end_us <= clip.start_us)])
            high = max(low, clip.end_us - SHORTEST_US)
            clips[at] = replace(clip, start_us=min(max(self.to_us, low), high))
        else:
            high = min([last_us, *(o.start_us for o in others if o.start_us >= clip.end_us)])
            low = min(high, clip.start_us + SHORTEST_US)
            clips[at] = replace(clip, end_us=max(min(self.to_us, high), low))
        go_to(session, self.piece_id, strand, clips[at].start_us, clips[at].end_us)
        make(session, self.piece_id, clips, exactly=True)


class BringIn(BaseEdit):
    """Bring in the sentence of the recording that comes before or behind what was put into the piece."""

    kind: Literal["bring_in"] = "bring_in"
    piece_id: Id
    strand_id: Id
    side: Side

    def label(self, session: EditSession) -> str:
        _, words = self._found(session)
        return f"bring in “{short(joined([word.text for word in words]))}”"

    def apply(self, session: EditSession) -> None:
        strand, words = self._found(session)
        whole = reach_of(session, self.piece_id, strand)
        near = session.said_from(strand.source_id, *whole)
        a, b = (index_of(near, words[at].id) for at in (0, -1))
        assert a is not None
        assert b is not None
        heard = session.loudness(strand.source_id)
        start, end = kept_around(near, a, b, whole, heard, Room())
        if self.side == "before":
            end = max(end, strand.start_us)
        else:
            start = min(start, strand.end_us)
        longer = go_to(session, self.piece_id, strand, start, end)
        clips = with_stretch(session.timeline(self.piece_id).clips, longer, start, end)
        make(session, self.piece_id, clips)

    def _found(self, session: EditSession) -> tuple[Strand, Sequence[Word]]:
        strand = _known(strands_of(session, self.piece_id), self.strand_id)
        whole = reach_of(session, self.piece_id, strand)
        words = beyond(strand, session.said_from(strand.source_id, *whole), whole, self.side)
        if not words:
            raise NotFound("Nothing more of that recording is said there.")
        return strand, words


class SetGoal(BaseEdit):
    """Say how long the piece is to be at most; no goal where 0."""

    kind: Literal["set_goal"] = "set_goal"
    piece_id: Id
    goal_us: Micros

    def label(self, session: EditSession) -> str:
        return "goal for the length" if self.goal_us else "no goal for the length"

    def apply(self, session: EditSession) -> None:
        session.save_settings(
            self.piece_id, replace(session.settings(self.piece_id), goal_us=self.goal_us)
        )


def reach_of(session: EditSession, piece_id: int, strand: Strand) -> tuple[int, int]:
    """How far a strand of a piece could go in its source."""
    return reach(strand, session.strands(piece_id), session.source_length(strand.source_id))


def go_to(
    session: EditSession, piece_id: int, strand: Strand, start_us: int, end_us: int
) -> Strand:
    """Let a strand go as far as something of it is to be kept; the strand it is then."""
    longer = replace(
        strand, start_us=min(strand.start_us, start_us), end_us=max(strand.end_us, end_us)
    )
    if longer != strand:
        session.stretch_strand(piece_id, longer)
    return longer


def make(
    session: EditSession, piece_id: int, wanted: Sequence[Clip], *, exactly: bool = False
) -> None:
    """Make the piece of other clips, and its captions fit them.

    What is left out is as long as whole frames, but where somebody said ``exactly`` what.
    """
    before = session.timeline(piece_id)
    if not wanted:
        raise BadInput("That would leave nothing of the piece. Keep a few words of it.")
    clips, frames = list(wanted), session.frames(piece_id)
    if frames.rate and not exactly:
        strands = session.strands(piece_id)
        said = _said_about(session, strands, before, clips)
        clips = whole_frames(clips, before.clips, strands, frames.length_us, parting_of(said))
    if tuple(clips) != before.clips:
        follow_cut(session, piece_id, before, clips)


def _said_about(
    session: EditSession, strands: Sequence[Strand], before: Timeline, clips: Sequence[Clip]
) -> dict[int, list[Word]]:
    """The words of each source where a piece would change."""
    source = {strand.id: strand.source_id for strand in strands}
    reach: dict[int, tuple[int, int]] = {}
    for strand_id, start, end in changed_stretches(before.clips, clips):
        low, high = reach.get(source[strand_id], (start, end))
        reach[source[strand_id]] = min(low, start), max(high, end)
    return {
        source_id: session.said_from(source_id, low - AROUND_US, high + SECOND)
        for source_id, (low, high) in reach.items()
    }


def strands_of(session: EditSession, piece_id: int) -> dict[int, Strand]:
    """What was put into a piece, by id."""
    return {strand.id: strand for strand in session.strands(piece_id)}


def of_passages(session: EditSession, piece_id: int, passages: Sequence[Passage]) -> str:
    """How a label names passages."""
    words, a, b = words_around(session, strands_of(session, piece_id), passages[0])
    text = f"“{short(joined([word.text for word in words[a : b + 1]]))}”"
    return text if len(passages) == 1 else f"{text} and {len(passages) - 1} more"


def _known(strands: dict[int, Strand], strand_id: int) -> Strand:
    if strand_id not in strands:
        raise NotFound("That part is not in the piece any more. The page shows the newest state.")
    return strands[strand_id]


def words_around(
    session: EditSession, strands: dict[int, Strand], passage: Passage
) -> tuple[list[Word], int, int]:
    """The words of a strand around a passage in time order, and where it begins and ends in them."""
    strand = _known(strands, passage.strand_id)
    ends = [session.said(word_id) for word_id in (passage.first_word, passage.last_word)]
    low = min(word.start_us for word in ends) - AROUND_US
    high = max(word.start_us for word in ends) + AROUND_US
    words = list(_of_strand(session.said_from(strand.source_id, low, high), strand))
    places = [index_of(words, word.id) for word in ends]
    found = [place for place in places if place is not None]
    if len(found) < 2:
        raise NotFound("Those words are not in this part. The page shows the newest state.")
    return words, min(found), max(found)


def _of_strand(words: Sequence[Word], strand: Strand) -> Iterator[Word]:
    return (word for word in words if strand.start_us <= word.middle_us <= strand.end_us)
