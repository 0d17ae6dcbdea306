"""What an edit may read and change: one project, seen through a narrow door.

The store implements it with SQL, the tests in memory; one contract suite runs on both.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from typing import Protocol

from mortiser.core.captions.grouping import Ruler
from mortiser.core.captions.pace import Pace
from mortiser.core.common.frames import Frames
from mortiser.core.editing.cutting import Loudness
from mortiser.core.editing.microphone import Microphone
from mortiser.core.editing.strand import Strand
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.project.settings import PieceSettings
from mortiser.core.transcript.words import Cue, Shown, Word


class CaptionSession(Protocol):
    """Captions, and what they are grouped and timed by. Unknown ids raise NotFound."""

    def cue(self, cue_id: int) -> Cue: ...

    def some(self, cue_ids: Collection[int]) -> list[Cue]:
        """Those of these cues that are there, in time order."""

    def cues(self, piece_id: int) -> list[Cue]:
        """All cues of the piece, in time order."""

    def around(self, cue: Cue, reach: int) -> tuple[list[Cue], list[Cue]]:
        """Up to ``reach`` cues before and after it in its piece, each list in time order."""

    def save_cue(self, cue: Cue) -> Cue:
        """Insert (id 0) or update a cue with its words; returns it with all ids.

        A word that was in the stored cue and is in no cue's words afterwards stays in the source.
        Words that come, or read otherwise than before, get what stands for them (core.captions.standing).
        """

    def save_cues(self, cues: Sequence[Cue]) -> list[Cue]:
        """The same for many cues."""

    def save_times(self, cues: Sequence[Cue]) -> None:
        """Update when stored cues of one piece show, and nothing else of them."""

    def delete_cues(self, cues: Sequence[Cue]) -> None:
        """Take cues off their pieces; their words stay in the source."""

    def timeline(self, piece_id: int) -> Timeline: ...

    def pace(self, piece_id: int) -> Pace: ...

    def frames(self, piece_id: int) -> Frames: ...

    def ruler(self, piece_id: int) -> Ruler | None:
        """How wide words are in the piece's finish, where that is known."""


class ClipSession(Protocol):
    """What pieces are made of, and the recordings behind it. Unknown ids raise NotFound."""

    def timeline(self, piece_id: int) -> Timeline: ...

    def set_clips(self, piece_id: int, clips: Sequence[Clip]) -> None:
        """Make the piece of other clips; those without a strand begin one.

        Captions go with their words. Those that have none left are not there any more, and come back
        as they were with their words.
        """

    def strands(self, piece_id: int) -> list[Strand]:
        """What was put into the piece, oldest first."""

    def begin_strand(self, piece_id: int, strand_id: int, at_us: int) -> int:
        """Make what of a strand lies behind a moment (source time) a strand of its own; its id.

        Words behind it belong to the new one, captions over it become two. The clips have to follow.
        """

    def stretch_strand(self, piece_id: int, strand: Strand) -> None:
        """Let a strand begin earlier and end later in its source; nothing more of it is kept yet."""

    def loudness(self, source_id: int) -> Loudness: ...

    def source_ids(self) -> list[int]:
        """The project's recordings, oldest first."""

    def source_name(self, source_id: int) -> str: ...

    def source_length(self, source_id: int) -> int:
        """How long a recording is, in µs."""

    def picture(self, source_id: int) -> tuple[int, int] | None:
        """The size of a recording's picture, upright; None without one."""

    def microphone(self, source_id: int) -> Microphone | None:
        """What is heard in a recording's stead."""

    def set_microphone(self, source_id: int, microphone: Microphone | None) -> None: ...

    def remove_source(self, source_id: int) -> None:
        """Take a recording out of the project that no clip is of any more: with what was put into pieces of it,
        and the captions that show nothing else. Its words stay with it."""


class PieceSession(Protocol):
    """The pieces of a project and what was chosen for each. Unknown ids raise NotFound."""

    def piece_ids(self) -> list[int]:
        """Oldest first."""

    def settings(self, piece_id: int) -> PieceSettings: ...

    def save_settings(self, piece_id: int, settings: PieceSettings) -> None:
        """Keep a piece's settings; only those that differ are written."""

    def add_piece(
        self,
        like: int,
        name: str,
        strands: Sequence[Strand],
        clips: Sequence[tuple[int, Clip]],
    ) -> int:
        """A piece with the settings of another, of new strands (their ids do not count) and of clips of
        them, each with the place of its strand in the list; its id. It has no captions yet."""

    def delete_piece(self, piece_id: int) -> None:
        """Take a piece away with its captions. Raises BadInput for the last one."""

    def rename_project(self, name: str) -> None: ...


class EditSession(CaptionSession, ClipSession, PieceSession, Protocol):
    """The project being edited: its pieces, clips and captions, and the words of its recordings."""

    def timeline(self, piece_id: int) -> Timeline: ...

    def showing(self, piece_id: int, at_us: int) -> Cue | None:
        """The first cue that shows at a moment of the piece."""

    def crowding(self) -> list[tuple[int, int]]:
        """Pairs of captions of one piece and one speaker that show at once, the earlier one first, by id."""

    def reaching(self, piece_id: int, stretches: Sequence[tuple[int, int, int]]) -> list[Cue]:
        """The cues that reach into stretches of strands (strand, start, end in source time)."""

    def elsewhere(self, word_ids: Collection[int], but: Collection[int]) -> list[Cue]:
        """The cues of all pieces that show one of these words, but for some (by id)."""

    def said(self, word_id: int) -> Word:
        """A word of the transcript. Raises NotFound."""

    def said_from(self, source_id: int, from_us: int, to_us: int) -> list[Word]:
        """The words of a source that begin in a stretch of it, in time order."""

    def word_room(self, cue: Cue) -> tuple[int, int]:
        """Piece time (µs) free around a cue's words: end of the word before, start of the next."""

    def words_between(self, piece_id: int, from_us: int, to_us: int) -> list[Shown]:
        """The words said in a stretch of the piece (their middle lies in it), in time order."""

    def unshown(self, piece_id: int) -> list[Shown]:
        """The words said in the piece that none of its cues has, in time order."""

    def moved(self) -> Collection[int]:
        """The words whose times have changed on this session, by id."""

    def delete_words(self, word_ids: list[int]) -> None:
        """Remove words from their source and from every cue of every piece; cues that have no other
        words go."""

    def note_correction(self, heard: str, written: str) -> None:
        """Remember that something heard was corrected by hand."""
