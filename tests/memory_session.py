"""The session in memory: the contract suite holds it and the SQL one to the same behaviour."""

from collections.abc import Collection, Sequence
from dataclasses import replace
from itertools import count

from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.frames import Frames
from mortiser.core.editing.cutting import SILENT, Loudness
from mortiser.core.editing.microphone import Microphone
from mortiser.core.editing.strand import Strand
from mortiser.core.editing.timeline import Clip, Placed, Timeline
from mortiser.core.edits.apart import of_cues
from mortiser.core.framing.shape import Shape
from mortiser.core.project.settings import PieceSettings
from mortiser.core.style.finish.builtin import DEFAULT_FINISH, FINISHES
from mortiser.core.transcript.words import Cue, Shown, Word, capitalised

DURATION_US = 60_000_000
WHOLE = Timeline([Clip(1, 0, DURATION_US, id=1, strand_id=1)])


class MemoryEditSession:
    """A transcript and captions in dictionaries. What is not a caption (finish, pace) is that of all
    pieces.

    Captions are kept with the strands of their words (in place of clips), struck ones too, and with
    their edges counted from the clips of their first and last word.
    """

    def __init__(
        self, words: list[Word], timelines: dict[int, Timeline] | None = None, source_id: int = 1
    ) -> None:
        self._ids = count(1)
        self.timelines = timelines or {1: WHOLE}
        self.transcript: dict[int, Word] = {}
        self.all_cues: dict[int, Cue] = {}
        self.times_changed: set[int] = set()
        self.microphones: dict[int, Microphone] = {}
        self.put_in: dict[int, tuple[int, Strand]] = {}
        self.removed: set[int] = set()
        self.chosen: dict[int, PieceSettings] = {}
        self.name = ""
        self.corrections: list[tuple[str, str]] = []
        for word in words:
            self.say(word, word.source_id or source_id)
        for piece_id, timeline in self.timelines.items():
            shown = tuple(timeline.shown(list(self.transcript.values())))
            if shown:
                end = shown[-1].end_us + 1_000_000
                self.save_cue(Cue(piece_id, shown, shown[0].start_us, end))
        self.times_changed.clear()

    def say(self, word: Word, source_id: int) -> Word:
        said = replace(word, id=next(self._ids), source_id=source_id)
        self.transcript[said.id] = said
        return said

    def cue(self, cue_id: int) -> Cue:
        found = self._now(self.all_cues[cue_id]) if cue_id in self.all_cues else None
        if found is None:
            raise NotFound("gone")
        return found

    def some(self, cue_ids: Collection[int]) -> list[Cue]:
        wanted = [self.all_cues[cue_id] for cue_id in set(cue_ids) if cue_id in self.all_cues]
        found = [cue for one in wanted if (cue := self._now(one))]
        return sorted(found, key=lambda c: (c.start_us, c.id))

    def _placed(self, piece_id: int, word: Shown) -> Placed | None:
        said = self.transcript[word.id]
        middle = (said.start_us + said.end_us) // 2
        return self.timelines[piece_id].shows(word.clip_id, middle)

    def _now(self, kept: Cue) -> Cue | None:
        """A kept caption as it shows: with the words that are not struck, as the transcript has them."""
        words = []
        places = [self._placed(kept.piece_id, word) for word in kept.words]
        for word, placed in zip(kept.words, places, strict=True):
            if placed is not None:
                show = placed.show(self.transcript[word.id])
                words.append(
                    replace(
                        show,
                        text=capitalised(show.text) if word.capital else show.text,
                        seam=word.seam,
                        accent=word.accent,
                        look=word.look,
                        own=word.own,
                        capital=word.capital,
                    )
                )
        shown = [placed for placed in places if placed]
        if not shown:
            return None
        first, last = shown[0], shown[-1]
        start = max(0, kept.start_us - first.clip.start_us + first.at_us)
        end = kept.end_us - last.clip.start_us + last.at_us
        return replace(kept, words=tuple(words), start_us=start, end_us=max(end, start + 1))

    def cues(self, piece_id: int) -> list[Cue]:
        if piece_id not in self.timelines:
            raise NotFound("gone")
        mine = [c.id for c in self.all_cues.values() if c.piece_id == piece_id]
        return self.some(mine)

    def showing(self, piece_id: int, at_us: int) -> Cue | None:
        return next((c for c in self.cues(piece_id) if c.start_us <= at_us < c.end_us), None)

    def around(self, cue: Cue, reach: int) -> tuple[list[Cue], list[Cue]]:
        key = (cue.start_us, cue.id)
        others = self.cues(cue.piece_id)
        before = [c for c in others if (c.start_us, c.id) < key]
        return before[-reach:], [c for c in others if (c.start_us, c.id) > key][:reach]

    def crowding(self) -> list[tuple[int, int]]:
        return [pair for piece_id in self.timelines for pair in of_cues(self.cues(piece_id))]

    def word_room(self, cue: Cue) -> tuple[int, int]:
        first, last = cue.words[0], cue.words[-1]
        timeline = self.timelines[cue.piece_id]
        left, right = timeline.place_of(first), timeline.place_of(last)
        start, end = left.said(first).start_us, right.said(last).end_us
        others = [w for w in self.transcript.values() if w.id not in {first.id, last.id}]
        before = [
            w.end_us for w in others
            if w.source_id == left.clip.source_id and w.end_us <= start and w.start_us <= start
        ]  # fmt: skip
        after = [
            w.start_us for w in others
            if w.source_id == right.clip.source_id and w.start_us >= end
        ]  # fmt: skip
        return (
            left.to_piece(max(before)) if before else left.at_us,
            right.to_piece(min(after)) if after else max(last.end_us, right.end_us),
        )

    def timeline(self, piece_id: int) -> Timeline:
        if piece_id not in self.timelines:
            raise NotFound("That piece is not there.")
        return self.timelines[piece_id]

    def save_cue(self, cue: Cue) -> Cue:
        assert cue.words, "a cue has words"
        known = {w.id: w for w in self.cue(cue.id).words} if cue.id in self.all_cues else {}
        coming = [
            self.settings(cue.piece_id).standing.dressed(w, known.get(w.id))
            if not w.id or w.id in known
            else w
            for w in cue.words
        ]
        words = tuple(self._save_word(w, self.timelines[cue.piece_id]) for w in coming)
        saved = replace(cue, words=words, id=cue.id or next(self._ids))
        timeline = self.timelines[cue.piece_id]
        places = [timeline.place_of(word) for word in words]
        strands = [
            replace(word, clip_id=placed.clip.strand_id)
            for word, placed in zip(words, places, strict=True)
        ]
        self.all_cues[saved.id] = replace(
            saved,
            words=tuple(self._with_struck(strands, self.all_cues.get(cue.id))),
            start_us=cue.start_us - places[0].at_us + places[0].clip.start_us,
            end_us=cue.end_us - places[-1].at_us + places[-1].clip.start_us,
        )
        return self.cue(saved.id)

    def save_cues(self, cues: Sequence[Cue]) -> list[Cue]:
        return [self.save_cue(cue) for cue in cues]

    def _with_struck(self, shown: list[Shown], kept: Cue | None) -> list[Shown]:
        """The words of a caption with the struck ones behind the words they stood behind."""
        here = [(word.id, word.clip_id) for word in shown]
        at, result = 0, list(shown)
        for word in kept.words if kept else ():
            if self._placed(kept.piece_id, word) is None:
                result.insert(at, word)
                at += 1
            elif (word.id, word.clip_id) in here:
                at = [(w.id, w.clip_id) for w in result].index((word.id, word.clip_id)) + 1
        return result

    def set_clips(self, piece_id: int, clips: Sequence[Clip]) -> None:
        self.strands(piece_id)
        fresh = count(self._next_strand())
        self.timelines[piece_id] = Timeline(
            [
                replace(
                    clip, id=clip.id or next(self._ids), strand_id=clip.strand_id or next(fresh)
                )
                for clip in clips
            ]
        )
        self.strands(piece_id)

    def _save_word(self, word: Shown, timeline: Timeline) -> Shown:
        placed = timeline.place_of(word)
        if word.id:
            stored = self.transcript[word.id]
            said = placed.said(word, (placed.show(stored), stored))
            if (said.start_us, said.end_us) != (stored.start_us, stored.end_us):
                self.times_changed.add(said.id)
            if word.capital and word.text != capitalised(word.text):
                word = replace(word, capital=False)
        else:
            said = self.say(placed.said(word), placed.clip.source_id)
        self.transcript[said.id] = said
        return replace(word, id=said.id, clip_id=placed.clip.id)

    def save_times(self, cues: Sequence[Cue]) -> None:
        for cue in cues:
            self.save_cue(cue)

    def delete_cues(self, cues: Sequence[Cue]) -> None:
        for cue in cues:
            del self.all_cues[cue.id]

    def delete_words(self, word_ids: list[int]) -> None:
        for word_id in word_ids:
            del self.transcript[word_id]
        for cue in list(self.all_cues.values()):
            kept = tuple(w for w in cue.words if w.id not in word_ids)
            if kept:
                self.all_cues[cue.id] = cue.with_words(kept)
            else:
                del self.all_cues[cue.id]

    def elsewhere(self, word_ids: Collection[int], but: Collection[int]) -> list[Cue]:
        return [
            shown
            for cue in list(self.all_cues.values())
            if cue.id not in but
            and any(word.id in word_ids for word in cue.words)
            and (shown := self._now(cue))
        ]

    def moved(self) -> Collection[int]:
        return self.times_changed

    def words_between(self, piece_id: int, from_us: int, to_us: int) -> list[Shown]:
        timeline = self.timelines[piece_id]
        words = list(self.transcript.values())
        parts = Timeline([one.clip for one in timeline.slice(from_us, to_us)])
        inside = {(w.id, w.clip_id) for w in parts.shown(words)}
        return [w for w in timeline.shown(words) if (w.id, w.clip_id) in inside]

    def unshown(self, piece_id: int) -> list[Shown]:
        mine = [cue for cue in self.all_cues.values() if cue.piece_id == piece_id]
        known = {(w.id, w.clip_id) for cue in mine for w in cue.words}
        timeline = self.timelines[piece_id]
        return [
            word
            for word in timeline.shown(list(self.transcript.values()))
            if (word.id, timeline.place_of(word).clip.strand_id) not in known
        ]

    def note_correction(self, heard: str, written: str) -> None:
        self.corrections.append((heard, written))

    def piece_ids(self) -> list[int]:
        return sorted(self.timelines)

    def settings(self, piece_id: int) -> PieceSettings:
        if piece_id not in self.timelines:
            raise NotFound("gone")
        usual = PieceSettings(
            f"Piece {piece_id}",
            (Shape(id=1, width=1080, height=1920),),
            FINISHES[DEFAULT_FINISH],
            PACES["quick"],
        )
        return self.chosen.get(piece_id, usual)

    def save_settings(self, piece_id: int, settings: PieceSettings) -> None:
        self.chosen[piece_id] = settings

    def strands(self, piece_id: int) -> list[Strand]:
        self.timeline(piece_id)
        mine = [clip for clip in self.timelines[piece_id].clips if clip.strand_id in self.put_in]
        for clip in self.timelines[piece_id].clips:
            if clip not in mine:
                self.put_in[clip.strand_id] = (
                    piece_id, Strand(clip.strand_id, clip.source_id, clip.start_us, clip.end_us)
                )  # fmt: skip
        return [strand for piece, strand in self.put_in.values() if piece == piece_id]

    def _next_strand(self) -> int:
        known = {c.strand_id for timeline in self.timelines.values() for c in timeline.clips}
        return max(known | self.put_in.keys(), default=0) + 1

    def begin_strand(self, piece_id: int, strand_id: int, at_us: int) -> int:
        strand = next(one for one in self.strands(piece_id) if one.id == strand_id)
        later = self._next_strand()
        self.put_in[strand_id] = piece_id, replace(strand, end_us=at_us)
        self.put_in[later] = piece_id, replace(strand, id=later, start_us=at_us)
        for cue in list(self.all_cues.values()):
            behind = {
                word.id
                for word in cue.words
                if word.clip_id == strand_id and self.transcript[word.id].middle_us >= at_us
            }
            words = tuple(
                replace(word, clip_id=later) if word.id in behind else word for word in cue.words
            )
            head = tuple(word for word in words if word.id not in behind)
            tail = tuple(word for word in words if word.id in behind)
            if not head or not tail:
                self.all_cues[cue.id] = cue.with_words(words)
                continue
            begins = self.transcript[tail[0].id].start_us
            self.all_cues[cue.id] = replace(
                cue, words=head, end_us=self.transcript[head[-1].id].end_us, end_pinned=False
            )
            end = max(cue.end_us, begins + 1)
            made = Cue(piece_id, tail, begins, end, False, cue.end_pinned, next(self._ids))
            self.all_cues[made.id] = made
        return later

    def stretch_strand(self, piece_id: int, strand: Strand) -> None:
        self.put_in[strand.id] = piece_id, strand

    def said(self, word_id: int) -> Word:
        if word_id not in self.transcript:
            raise NotFound("gone")
        return self.transcript[word_id]

    def said_from(self, source_id: int, from_us: int, to_us: int) -> list[Word]:
        found = [
            word
            for word in self.transcript.values()
            if word.source_id == source_id and from_us <= word.start_us < to_us
        ]
        return sorted(found, key=lambda word: (word.start_us, word.end_us, word.id))

    def reaching(self, piece_id: int, stretches: Sequence[tuple[int, int, int]]) -> list[Cue]:
        """By the edges as they are kept."""
        return self.some(
            {
                cue.id
                for cue in self.all_cues.values()
                for strand, start, end in stretches
                if cue.piece_id == piece_id
                and any(word.clip_id == strand for word in cue.words)
                and cue.start_us <= end
                and cue.end_us >= start
            }
        )

    def loudness(self, source_id: int) -> Loudness:
        return SILENT

    def pace(self, piece_id: int) -> Pace:
        return self.settings(piece_id).pace

    def frames(self, piece_id: int) -> Frames:
        return Frames(30.0)

    def ruler(self, piece_id: int) -> None:
        return None

    def add_piece(
        self,
        like: int,
        name: str,
        strands: Sequence[Strand],
        clips: Sequence[tuple[int, Clip]],
    ) -> int:
        made = max(self.timelines) + 1
        for one in self.timelines:
            self.strands(one)
        known = max(self.put_in, default=0)
        for number, strand in enumerate(strands, start=1):
            self.put_in[known + number] = (made, replace(strand, id=known + number))
        self.timelines[made] = Timeline(
            [
                replace(clip, id=next(self._ids), strand_id=known + number + 1)
                for number, clip in clips
            ]
        )
        self.chosen[made] = replace(self.settings(like), name=name)
        return made

    def delete_piece(self, piece_id: int) -> None:
        if len(self.timelines) == 1:
            raise BadInput("the last")
        for cue in list(self.all_cues.values()):
            if cue.piece_id == piece_id:
                del self.all_cues[cue.id]
        del self.timelines[piece_id]

    def source_ids(self) -> list[int]:
        known = {strand.source_id for one in self.timelines for strand in self.strands(one)}
        known |= {word.source_id for word in self.transcript.values() if word.source_id}
        return sorted(known - self.removed)

    def remove_source(self, source_id: int) -> None:
        self.removed.add(source_id)
        gone = {key for key, (_, strand) in self.put_in.items() if strand.source_id == source_id}
        for key in gone:
            del self.put_in[key]
        for cue in list(self.all_cues.values()):
            left = tuple(word for word in cue.words if word.clip_id not in gone)
            if left:
                self.all_cues[cue.id] = cue.with_words(left)
            else:
                del self.all_cues[cue.id]

    def source_name(self, source_id: int) -> str:
        return f"source {source_id}"

    def source_length(self, source_id: int) -> int:
        return DURATION_US

    def picture(self, source_id: int) -> tuple[int, int] | None:
        return 1080, 1920

    def microphone(self, source_id: int) -> Microphone | None:
        return self.microphones.get(source_id)

    def set_microphone(self, source_id: int, microphone: Microphone | None) -> None:
        self.microphones.pop(source_id, None)
        if microphone is not None:
            self.microphones[source_id] = microphone

    def rename_project(self, name: str) -> None:
        self.name = name
