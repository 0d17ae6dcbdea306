"""The transcribe job: words and captions appear line by line; a stretch can be heard again."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import SECOND, timecode
from mortiser.core.edits.text.laying import LaidCaption, LayCaptions, grouped
from mortiser.core.project.job_payloads import DoubtPayload, HearingPayload
from mortiser.core.project.source import Source
from mortiser.core.transcript.words import Word, shown
from mortiser.jobs.broker import LeasedJob
from mortiser.jobs.doubting import JUDGED, second_look
from mortiser.jobs.glossary import Speller
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.piece_sound import PieceInput, PieceSound, keep_captions, read_piece
from mortiser.jobs.sounds import sound_of
from mortiser.jobs.source_input import SourceInput, read_source
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.media.sound import Samples, clip, stream_sound
from mortiser.speech.languages import FIND_OUT, language_spoken
from mortiser.speech.second_hearing import settled
from mortiser.speech.transcribe import TimedLine, transcribe
from mortiser.store import projects, transcript

ENGLISH = "en"
"""What a recording without a word is said to be in."""


@dataclass(frozen=True)
class TranscribeInput:
    """A recording to transcribe, and the piece to lay a stretch of it over that is heard again."""

    heard: SourceInput
    piece: PieceInput


@dataclass(frozen=True)
class FoundLanguage:
    """The language that was found out."""

    language: str


Heard = FoundLanguage | list[Word] | LayCaptions
"""The language, a line of words in source time, or a stretch that was heard again."""


def read_hearing(context: JobContext, taken: LeasedJob) -> TranscribeInput:
    """What a job is to transcribe. Raises NotFound."""
    return TranscribeInput(read_source(context, taken), read_piece(context, taken))


def hear(tools: Tools, task: Task, given: TranscribeInput) -> Iterator[Heard]:
    """Transcribe a source, or the range that was chosen of it, into its piece.

    A job that was cut off goes on behind its last word. Heard again, a stretch is replaced as one
    edit when all of it has been heard; what was corrected elsewhere stays.
    """
    source, about = given.heard.source, task.about(HearingPayload)
    language: str = source.language
    if language == FIND_OUT:
        language = _spoken(tools, source)
        yield FoundLanguage(language)
    origin = start = about.from_us or 0
    end = min(about.to_us or source.duration_us, source.duration_us)
    if about.again:
        whole = given.piece.piece.timeline.duration_us
        yield _heard_again(tools, task, given.piece, language, (start, min(end, whole)))
    else:
        start = max([start, *(word.end_us for word in given.heard.words)])
        heard = sound_of(tools.workspace, source)
        sound = clip(stream_sound(heard.path, heard.track), start, end)
        yield from _lines(tools, task, sound, language, (origin, start, end))
    # Telling speakers apart is an edit of all captions, and those are not voted on any more.
    task.follow(
        "doubt",
        DoubtPayload(
            source_id=source.id,
            piece_id=about.piece_id,
            from_us=origin,
            to_us=end,
            speakers=not about.again,
        ),
    )


def keep_heard(context: JobContext, given: TranscribeInput, result: Heard) -> None:
    """Add a line to the transcript, as the glossary has it now; note a language; lay a stretch."""
    source = given.heard.source
    if isinstance(result, FoundLanguage):
        track = source.audio_track
        projects.choose_hearing(context.database, source.id, result.language, track)
    elif isinstance(result, LayCaptions):
        keep_captions(context, given.piece, result)
    else:
        words = context.glossary.now().write(result)
        transcript.append_line(context.database, source.id, words)


TRANSCRIBE = Kind(read_hearing, hear, keep_heard)


def _spoken(tools: Tools, source: Source) -> str:
    heard = sound_of(tools.workspace, source)
    sound = stream_sound(heard.path, heard.track)
    try:
        return language_spoken(sound, tools.languages()) or ENGLISH
    except BadInput:  # Without the engine of many languages there is only one.
        return ENGLISH


def _heard_again(
    tools: Tools, task: Task, given: PieceInput, language: str, part: tuple[int, int]
) -> LayCaptions:
    """Hear a part of the piece again. Its language may just have been found out."""
    piece = given.piece.in_shape()
    start, end = part
    sound = PieceSound(tools.workspace, piece, given.sources)
    ruler = tools.ruler(piece.settings.finish, piece.size)
    speller = Speller(given.spellings, tools.sounds())
    stretch = (start, start, end)
    found = _lines(tools, task, sound.stream(start, end), language, stretch)
    lines = [speller.write(line) for line in found]
    if language == JUDGED:
        # The edit puts its captions beyond the vote, so that this comes first.
        words = [word for line in lines for word in line]
        lines = []
        heard = sound.stream(start, end)
        for verdict, _, reached in second_look(tools, speller, heard, words, start):
            lines.append(speller.write(settled(verdict)))
            task.progress((reached - start) / max(1, end - start))
    captions: list[LaidCaption] = [
        caption
        for line in lines
        if line
        for caption in grouped(list(map(shown, line)), piece.settings.pace, ruler)
    ]
    return LayCaptions(
        about=f"hear {timecode(start)[3:8]} to {timecode(end)[3:8]} again",
        piece_id=piece.id,
        from_us=start,
        to_us=end,
        captions=captions,
    )


def _lines(
    tools: Tools,
    task: Task,
    sound: Iterable[Samples],
    language: str,
    stretch: tuple[int, int, int],
) -> Iterator[list[Word]]:
    """Lines of words, of sound that begins at the second moment of the stretch and ends at the
    third; progress counts from the first."""
    origin, start, end = stretch
    length = max(1, end - origin)
    recogniser = tools.recogniser(language)
    for item in transcribe(sound, recogniser, tools.aligner(ENGLISH)):
        if isinstance(item, TimedLine):
            words = [
                replace(w, start_us=min(w.start_us + start, end), end_us=min(w.end_us + start, end))
                for w in item.words
            ]
            yield words
            task.progress((words[-1].end_us - origin) / length)
        else:
            task.progress((start - origin + item * SECOND) / length)
