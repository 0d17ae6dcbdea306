"""Jobs that lay words over a recording: captions from a file, and a script or lyrics."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import accumulate

from mortiser.apart import done_apart
from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import SECOND
from mortiser.core.edits.text.laying import LaidCaption, LaidWord, LayCaptions
from mortiser.core.project.job_payloads import ImportPayload, ScriptPayload
from mortiser.core.style.finish.changes import look_text
from mortiser.core.transcript import script
from mortiser.core.transcript.script import ScriptPart
from mortiser.core.transcript.words import Origin, Seam, Word, shown, tokens
from mortiser.formats import registry
from mortiser.formats.base import Caption, GridPlace
from mortiser.formats.decoding import decode
from mortiser.jobs.kind import Kind
from mortiser.jobs.piece_sound import PieceInput, PieceSound, keep_captions, read_piece
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.speech.activity import voices_alone
from mortiser.speech.placing import placed
from mortiser.speech.protocols import Aligner

MARGIN_US = 250_000
ITALIC_ACCENT = 1
"""Which accent words in italics are marked with."""
FOLLOWING = 3
LONGEST_US = 120 * SECOND
"""A longer stretch without an anchor is not searched: its words share its time by their length."""


class Bench:
    """A piece being worked on: its sound, its words, an aligner. All times are those of the piece."""

    def __init__(self, tools: Tools, given: PieceInput) -> None:
        self.piece = given.piece
        self.duration_us: int = self.piece.timeline.duration_us
        self._sound = PieceSound(tools.workspace, self.piece, given.sources)
        self.aligner: Aligner = tools.aligner(self._sound.language)

    def place(
        self,
        texts: Sequence[str],
        room: tuple[int, int],
        origin: Origin,
        after: Sequence[Word] = (),
    ) -> list[Word]:
        """Words found in the sound of a stretch, and within it.

        Words that are known to follow ``after`` the stretch are listened for too: they keep the
        last ones from being stretched over a pause.
        """
        start = max(0, room[0] - MARGIN_US)
        end = min(self.duration_us, max(room[1] + MARGIN_US, *(w.end_us for w in after), 0))
        if end - start > LONGEST_US:
            end = start
        samples = voices_alone(self._sound.read(start, end))
        everything = [*texts, *(word.text for word in after)]
        found = placed(everything, samples, start, (room[0], end), self.aligner, origin)
        return [
            replace(word, start_us=min(word.start_us, room[1]), end_us=min(word.end_us, room[1]))
            for word in found[: len(texts)]
        ]

    def laid(self, about: str, captions: list[LaidCaption]) -> LayCaptions:
        """The edit that puts the captions in the place of everything."""
        return LayCaptions(
            about=about,
            piece_id=self.piece.id,
            from_us=0,
            to_us=self.duration_us + 1,
            captions=captions,
        )


def import_captions(tools: Tools, task: Task, given: PieceInput) -> Iterator[LayCaptions]:
    """Take captions with their times from a file; the words inside each are found in the sound."""
    bench = Bench(tools, given)
    about = task.about(ImportPayload)
    file = tools.workspace.path(about.file)
    task.used_up.append(file)
    text, guessed = decode(file.read_bytes(), about.encoding)
    reading = done_apart(registry.read, text)
    if guessed:
        task.note(f"The file is not UTF-8: read as {guessed}.")
    for note in reading.notes:
        task.note(note.text, note.at_us)
    inside = [c for c in reading.captions if c.start_us < bench.duration_us]
    if len(inside) < len(reading.captions):
        lost = len(reading.captions) - len(inside)
        task.note(f"{lost} captions begin after the end of the recording and were left out.")
    if not inside:
        raise BadInput("All captions of that file begin after the end of the recording.")
    _note_italics(task, bench, inside)
    laid: list[LaidCaption] = []
    for caption in inside:
        laid.append(_laid(bench, caption))
        task.progress(caption.end_us / bench.duration_us)
    yield bench.laid("import captions", laid)


IMPORT = Kind(read_piece, import_captions, keep_captions)


def _laid(bench: Bench, caption: Caption) -> LaidCaption:
    end = min(caption.end_us, bench.duration_us)
    texts = tokens(" ".join(caption.lines))
    if len(caption.starts) == len(texts):
        # The file says when each word begins: nothing has to be found.
        edges = [min(start, end) for start in caption.starts] + [end]
        words = [
            Word(text, a, b, None, origin="imported")
            for text, a, b in zip(texts, edges, edges[1:], strict=False)
        ]
    else:
        words = bench.place(texts, (caption.start_us, end), "imported")
    look = _look(caption.place)
    line_ends = set(accumulate(len(tokens(line)) for line in caption.lines[:-1]))
    return LaidCaption(
        words=[
            LaidWord.of(
                replace(
                    shown(word),
                    speaker=caption.speaker,
                    seam="line" if number in line_ends else "free",
                    accent=ITALIC_ACCENT if number - 1 in caption.italic else 0,
                    look=look,
                )
            )
            for number, word in enumerate(words, start=1)
        ],
        start_us=caption.start_us,
        end_us=end,
    )


def _note_italics(task: Task, bench: Bench, captions: Sequence[Caption]) -> None:
    """Say what became of words in italics, which finishes show as an accent."""
    words = sum(len(caption.italic) for caption in captions)
    if not words:
        return
    first = next(caption for caption in captions if caption.italic)
    accent = bench.piece.settings.finish.accent(ITALIC_ACCENT)
    name = f"the accent {accent.name}" if accent else "an accent"
    task.note(f"{words} words in italics are marked with {name}.", first.start_us)


def _look(place: GridPlace | None) -> str:
    """A file's place as what a caption has in place of its finish's."""
    if place is None:
        return ""
    return look_text({"place.down": place.down, "place.across": place.across, "place.dy": 0.0})


def follow_script(tools: Tools, task: Task, given: PieceInput) -> Iterator[LayCaptions]:
    """Lay a script over the recording: its words where they are heard, a line (or a verse) a caption.

    Words the recogniser heard the same keep their times; between these anchors the script's words
    are looked for in the sound. What differs is noted with its time.
    """
    bench = Bench(tools, given)
    about = task.about(ScriptPayload)
    verses = script.verses(about.text)
    if not about.verses:
        verses = [[line] for verse in verses for line in verse]
    texts = [text for verse in verses for line in verse for text in line]
    heard = given.words
    owner = [index for index, verse in enumerate(verses) for line in verse for _ in line]
    ends = script.line_ends(verses)
    by_verse: dict[int, list[LaidWord]] = {}
    last_us = 0
    for part in script.beside(texts, heard):
        words = _of_part(bench, part, texts, heard, last_us)
        for text_index, word in zip(range(part.first, part.last), words, strict=False):
            seam: Seam = "line" if text_index in ends else "free"
            laid_word = LaidWord.of(replace(shown(word), seam=seam))
            by_verse.setdefault(owner[text_index], []).append(laid_word)
        last_us = words[-1].end_us if words else last_us
        if not part.same:
            note = script.difference(part, texts, heard, kept=bool(words))
            at = words[0].start_us if words else _time_of(part, heard, last_us)
            if note:
                task.note(note, at)
        task.progress(last_us / bench.duration_us)
    laid = [LaidCaption(words=by_verse[index]) for index in sorted(by_verse)]
    if not laid:
        raise BadInput("Nothing of that text was found in the recording. It was left as it is.")
    yield bench.laid("follow the script", laid)


SCRIPT = Kind(read_piece, follow_script, keep_captions)


def _of_part(
    bench: Bench, part: ScriptPart, texts: Sequence[str], heard: Sequence[Word], last_us: int
) -> list[Word]:
    wanted = texts[part.first : part.last]
    if part.same:
        return [
            replace(
                word, text=text, id=0, origin="imported", confidence=None, alternatives=(),
                start_us=max(word.start_us, last_us), end_us=max(word.end_us, last_us),
                heard_as=None,
            )
            for word, text in zip(heard[part.from_ : part.to], wanted, strict=True)
        ]  # fmt: skip
    end = heard[part.to].start_us if part.to < len(heard) else bench.duration_us
    room = last_us, max(last_us, end)
    if not wanted or not script.spoken(part, room):
        return []
    return bench.place(wanted, room, "imported", heard[part.to : part.to + FOLLOWING])


def _time_of(part: ScriptPart, heard: Sequence[Word], last_us: int) -> int:
    return heard[part.from_].start_us if part.from_ < part.to else last_us
