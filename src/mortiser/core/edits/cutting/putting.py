"""Put passages somewhere: repeated or moved, from the same piece or from another one."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.common.limits import Id
from mortiser.core.editing.strand import Strand
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.editing.whole_frames import parting_of
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.cutting.copies import copy_captions
from mortiser.core.edits.cutting.pieces import part_of
from mortiser.core.edits.cutting.recaptioning import caption_all, follow_cut
from mortiser.core.edits.cutting.trimming import (
    MOST,
    Passage,
    RestoreWords,
    of_passages,
    strands_of,
    words_around,
)
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.words import Cue, Word


class WordPlace(BaseModel):
    """Behind a word of a strand."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    strand_id: Id
    word_id: Id


class PutPassages(BaseEdit):
    """Play passages (also) somewhere else: behind a word, or at the beginning.

    Their captions come with them, with marks, looks and breaks; of words that are struck where they were
    taken from too.
    """

    kind: Literal["put_passages"] = "put_passages"
    piece_id: Id
    from_piece_id: Id
    passages: list[Passage] = Field(min_length=1, max_length=MOST)
    behind: WordPlace | None = None

    def label(self, session: EditSession) -> str:
        return f"put {of_passages(session, self.from_piece_id, self.passages)} here"

    def apply(self, session: EditSession) -> None:
        put = _clips(session, self.from_piece_id, self.passages, self.piece_id)
        cues, said_by = _captions(session, self.from_piece_id, self.passages)
        fresh = put_clips(session, self.piece_id, put, self.behind)
        copy_captions(session, cues, said_by, self.piece_id, fresh)
        caption_all(session, self.piece_id)


def _clips(
    session: EditSession, from_piece: int, passages: Sequence[Passage], piece_id: int
) -> list[Clip]:
    """Passages as clips."""
    strands = strands_of(session, from_piece)
    return [clip_of(session, strands, passage, piece_id) for passage in passages]


def clip_of(
    session: EditSession, strands: dict[int, Strand], passage: Passage, piece_id: int
) -> Clip:
    """A passage as a clip, whole frames long, so that what comes behind it stays on its frames."""
    part = part_of(session, strands, passage)
    frames = session.frames(piece_id)
    end = part.end_us
    if frames.rate:
        count = round((end - part.start_us) / frames.length_us)
        end = part.start_us + round(max(1, count) * frames.length_us)
        words, _, _ = words_around(session, strands, passage)
        if parting_of({0: words})(0, *sorted((end, part.end_us))):
            end = part.end_us
    return Clip(part.source_id, part.start_us, end)


def _captions(
    session: EditSession, piece_id: int, passages: Sequence[Passage]
) -> tuple[list[Cue], Timeline]:
    """The captions of a piece with all words of some passages in them, and the timeline they stand in."""
    was = session.timeline(piece_id)
    strands = strands_of(session, piece_id)
    struck = [
        passage
        for passage in passages
        for words, a, b in (words_around(session, strands, passage),)
        if not all(was.shows(passage.strand_id, word.middle_us) for word in words[a : b + 1])
    ]
    if not struck:
        return session.cues(piece_id), was
    # What belongs to struck words comes back with them: for a moment.
    RestoreWords(piece_id=piece_id, passages=struck).apply(session)
    whole = session.timeline(piece_id)
    cues = session.cues(piece_id)
    follow_cut(session, piece_id, whole, was.clips)
    return cues, whole


def put_clips(
    session: EditSession, piece_id: int, put: Sequence[Clip], behind: WordPlace | None
) -> set[int]:
    """Play clips behind a place; the strands that they begin. They have no captions yet."""
    at, clips = _parted(session, piece_id, behind)
    known = {strand.id for strand in session.strands(piece_id)}
    session.set_clips(piece_id, [*clips[:at], *put, *clips[at:]])
    return {strand.id for strand in session.strands(piece_id)} - known


def _parted(
    session: EditSession, piece_id: int, behind: WordPlace | None
) -> tuple[int, list[Clip]]:
    """The clips of a piece and the place among them that is behind a word. Where the piece goes on there,
    what comes behind the word becomes a strand of its own, so that what is struck of it or in front of
    it stays on its side of what is put between."""
    timeline = session.timeline(piece_id)
    clips = list(timeline.clips)
    if behind is None:
        return 0, clips
    strands = strands_of(session, piece_id)
    word_id = behind.word_id
    passage = Passage(strand_id=behind.strand_id, first_word=word_id, last_word=word_id)
    words, at, _ = words_around(session, strands, passage)
    strand = strands[behind.strand_id]
    part = _boundary(session, strand, words, at)
    mine = [index for index, clip in enumerate(clips) if clip.strand_id == strand.id]
    for index in mine:
        clip = clips[index]
        if not clip.start_us < part < clip.end_us:
            continue
        if clip.holds(words[at]) and clip.holds(words[at + 1]):
            first, second = replace(clip, end_us=part), replace(clip, start_us=part, id=0)
            clips[index : index + 1] = [first, second]
            mine.append(index + 1)
        else:
            part = clip.end_us if clip.start_us <= words[at].middle_us else clip.start_us
        break
    earlier = [index for index in mine if clips[index].end_us <= part]
    place = earlier[-1] + 1 if earlier else mine[0] if mine else len(clips)
    if strand.start_us < part < strand.end_us:
        later = session.begin_strand(piece_id, strand.id, part)
        clips = [
            replace(clip, strand_id=later)
            if clip.strand_id == strand.id and clip.start_us >= part
            else clip
            for clip in clips
        ]
    return place, clips


def _boundary(session: EditSession, strand: Strand, words: Sequence[Word], at: int) -> int:
    """A moment of the source between a word of a strand and the one behind it, where it is quiet."""
    if at + 1 == len(words):
        return strand.end_us
    word, after = words[at], words[at + 1]
    low, high = word.end_us, after.start_us
    if low < high:
        return session.loudness(strand.source_id).quietest(low, high, (low + high) // 2)
    return (word.middle_us + after.middle_us) // 2
