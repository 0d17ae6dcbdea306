"""The desk in memory: the contract suite holds it and the SQL one to the same behaviour."""

from dataclasses import replace
from itertools import count

from mortiser.core.cue_timing import Frames
from mortiser.core.errors import NotFound
from mortiser.core.finish.builtin import DEFAULT_FINISH, FINISHES
from mortiser.core.finish.model import Finish
from mortiser.core.pace import PACES, Pace, RuleSet
from mortiser.core.spans import Span, SpanMap
from mortiser.core.standing import NOTHING, Standing
from mortiser.core.words import Cue, Word

DURATION_US = 60_000_000


class MemoryDesk:
    """One piece of one source, all in dictionaries."""

    def __init__(self, words: list[Word]) -> None:
        self._ids = count(1)
        self.all_words: dict[int, Word] = {}
        self.all_cues: dict[int, Cue] = {}
        self.look = FINISHES[DEFAULT_FINISH]
        self.name = ""
        self.rules: Pace = PACES["quick"]
        self.rule_set: RuleSet = "own"
        self.piece_id = 1
        self.corrections: list[tuple[str, str]] = []
        self.speakers_shown = False
        self.stands = NOTHING
        self.files: Pace | None = None
        self.save_cue(Cue(1, tuple(words), words[0].start_us, words[-1].end_us + 1_000_000))

    def cue(self, cue_id: int) -> Cue:
        if cue_id not in self.all_cues:
            raise NotFound("gone")
        return self.all_cues[cue_id]

    def cues(self, piece_id: int) -> list[Cue]:
        return sorted(self.all_cues.values(), key=lambda c: (c.start_us, c.id))

    def showing(self, piece_id: int, at_us: int) -> Cue | None:
        return next((c for c in self.cues(piece_id) if c.start_us <= at_us < c.end_us), None)

    def around(self, cue: Cue, reach: int) -> tuple[list[Cue], list[Cue]]:
        key = (cue.start_us, cue.id)
        others = self.cues(cue.piece_id)
        before = [c for c in others if (c.start_us, c.id) < key]
        return before[-reach:], [c for c in others if (c.start_us, c.id) > key][:reach]

    def word_room(self, cue: Cue) -> tuple[int, int]:
        first, last = cue.words[0], cue.words[-1]
        others = [w for w in self.all_words.values() if w.id not in {first.id, last.id}]
        left = [w.end_us for w in others if w.end_us <= first.start_us]
        right = [w.start_us for w in others if w.start_us >= last.end_us]
        return max(left, default=0), min(right, default=DURATION_US)

    def spans(self, piece_id: int) -> SpanMap:
        return SpanMap([Span(1, 0, DURATION_US)])

    def save_cue(self, cue: Cue) -> Cue:
        known = {w.id: w for w in self.all_cues[cue.id].words} if cue.id in self.all_cues else {}
        coming = [
            self.stands.dressed(w, known.get(w.id)) if not w.id or w.id in known else w
            for w in cue.words
        ]
        words = tuple(w if w.id else replace(w, id=next(self._ids)) for w in coming)
        self.all_words |= {w.id: w for w in words}
        saved = replace(cue, words=words, id=cue.id or next(self._ids))
        self.all_cues[saved.id] = saved
        return saved

    def delete_cue(self, cue: Cue) -> None:
        del self.all_cues[cue.id]

    def delete_words(self, word_ids: list[int]) -> None:
        for word_id in word_ids:
            del self.all_words[word_id]
        for cue in self.all_cues.values():
            kept = tuple(w for w in cue.words if w.id not in word_ids)
            self.all_cues[cue.id] = replace(cue, words=kept)

    def words_between(self, piece_id: int, from_us: int, to_us: int) -> list[Word]:
        inside = [
            w for w in self.all_words.values() if from_us <= (w.start_us + w.end_us) // 2 < to_us
        ]
        return sorted(inside, key=lambda w: (w.start_us, w.end_us, w.id))

    def unshown(self, piece_id: int) -> list[Word]:
        shown = {w.id for cue in self.all_cues.values() for w in cue.words}
        hidden = [w for w in self.all_words.values() if w.id not in shown]
        return sorted(hidden, key=lambda w: (w.start_us, w.end_us, w.id))

    def note_correction(self, heard: str, written: str) -> None:
        self.corrections.append((heard, written))

    def show_speakers(self, piece_id: int, shown: bool) -> None:
        self.speakers_shown = shown

    def finish(self, piece_id: int) -> Finish:
        return self.look

    def set_finish(self, piece_id: int, finish: Finish) -> None:
        self.look = finish

    def pace(self, piece_id: int) -> Pace:
        return self.rules

    def frames(self, piece_id: int) -> Frames:
        return Frames(30.0)

    def checked_by(self, piece_id: int) -> RuleSet:
        return self.rule_set

    def set_pace(self, piece_id: int, pace: Pace) -> None:
        self.rules = pace

    def set_checked_by(self, piece_id: int, rules: RuleSet) -> None:
        self.rule_set = rules

    def ruler(self, piece_id: int) -> None:
        return None

    def standing(self, piece_id: int) -> Standing:
        return self.stands

    def set_standing(self, piece_id: int, standing: Standing) -> None:
        self.stands = standing

    def file_pace(self, piece_id: int) -> Pace | None:
        return self.files

    def set_file_pace(self, piece_id: int, pace: Pace | None) -> None:
        self.files = pace

    def rename_project(self, name: str) -> None:
        self.name = name
