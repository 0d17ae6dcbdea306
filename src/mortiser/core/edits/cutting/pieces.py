"""Pieces made, named and taken away."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Literal

from pydantic import Field

from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Id
from mortiser.core.editing.cutting import Room, kept_around
from mortiser.core.editing.strand import Strand
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.edits.base import BaseEdit, short
from mortiser.core.edits.cutting.capitals import follow_capitals
from mortiser.core.edits.cutting.copies import copy_captions
from mortiser.core.edits.cutting.trimming import MOST, Passage, strands_of, words_around
from mortiser.core.edits.retiming import retime_all
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import shortened, tokens

MOST_LETTERS = 120
FROM_WORDS = 40
"""Letters of a name that is taken from the words."""


class NewPiece(BaseEdit):
    """Make a piece of another: of some passages of it in the order given, or (with none) of all.

    It has the other's frame, finish and pace, and its captions as far as their words are in it.
    """

    kind: Literal["new_piece"] = "new_piece"
    piece_id: Id
    passages: list[Passage] = Field(default=[], max_length=MOST)
    name: str = Field(default="", max_length=200)

    def label(self, session: EditSession) -> str:
        return f"new piece {short(self._name(session))}"

    def _name(self, session: EditSession) -> str:
        if given := _tidy(self.name):
            return given
        if not self.passages:
            return f"{session.settings(self.piece_id).name} (copy)"
        words, a, b = words_around(session, strands_of(session, self.piece_id), self.passages[0])
        return shortened(joined([word.text for word in words[a : b + 1]]), FROM_WORDS)

    def apply(self, session: EditSession) -> None:
        timeline = session.timeline(self.piece_id)
        strands = strands_of(session, self.piece_id)
        if self.passages:
            parts = [part_of(session, strands, passage) for passage in self.passages]
        else:
            used = dict.fromkeys(clip.strand_id for clip in timeline.clips)
            parts = [strands[strand_id] for strand_id in used]
        clips = _clips_of(timeline, parts) if self.passages else list(timeline.clips)
        if not clips:
            raise BadInput("Nothing of what is selected is kept. Select words that are not struck.")
        numbers = {part: number for number, part in enumerate(parts)}
        of_part = [
            (numbers[next(p for p in parts if p.id == clip.strand_id and _in(clip, p))], clip)
            for clip in clips
        ]
        made = session.add_piece(self.piece_id, self._name(session), parts, of_part)
        copy_captions(session, session.cues(self.piece_id), timeline, made)
        retime_all(session, made)
        follow_capitals(session, made)


class NamePiece(BaseEdit):
    """Give a piece another name."""

    kind: Literal["name_piece"] = "name_piece"
    piece_id: Id
    name: str = Field(max_length=200)

    def label(self, session: EditSession) -> str:
        return f"name piece {short(_tidy(self.name))}"

    def apply(self, session: EditSession) -> None:
        name = _tidy(self.name)
        if not name:
            raise BadInput("A piece needs a name.")
        session.save_settings(self.piece_id, replace(session.settings(self.piece_id), name=name))


class DeletePiece(BaseEdit):
    """Take a piece away. Its words stay in the transcript, what was delivered stays too."""

    kind: Literal["delete_piece"] = "delete_piece"
    piece_id: Id

    def label(self, session: EditSession) -> str:
        return f"delete piece {short(session.settings(self.piece_id).name)}"

    def apply(self, session: EditSession) -> None:
        session.delete_piece(self.piece_id)


def _tidy(name: str) -> str:
    return shortened(" ".join(tokens(name)), MOST_LETTERS)


def _in(clip: Clip, strand: Strand) -> bool:
    return strand.start_us <= clip.start_us and clip.end_us <= strand.end_us


def part_of(session: EditSession, strands: dict[int, Strand], passage: Passage) -> Strand:
    """The stretch of a strand that a passage takes, with room around its words."""
    words, a, b = words_around(session, strands, passage)
    strand = strands[passage.strand_id]
    bounds = strand.start_us, strand.end_us
    start, end = kept_around(words, a, b, bounds, session.loudness(strand.source_id), Room())
    return replace(strand, start_us=start, end_us=end)


def _clips_of(timeline: Timeline, parts: Sequence[Strand]) -> list[Clip]:
    """What of the parts is kept, in their order."""
    return [
        replace(
            clip,
            start_us=max(clip.start_us, part.start_us),
            end_us=min(clip.end_us, part.end_us),
        )
        for part in parts
        for clip in timeline.clips
        if clip.strand_id == part.id and clip.start_us < part.end_us and part.start_us < clip.end_us
    ]
