"""The transcribe job: words and captions appear line by line; a stretch can be heard again."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import replace

from mortiser.core.edits.laying import LaidCaption, LayCaptions, grouped
from mortiser.core.errors import BadInput
from mortiser.core.time import SECOND, timecode
from mortiser.core.words import Word, shown
from mortiser.jobs.doubting import JUDGED, second_look
from mortiser.jobs.glossary import GlossaryBench
from mortiser.jobs.piece_sound import PieceSound
from mortiser.jobs.runner import Parts, Task
from mortiser.media.sound import Samples, clip, stream_sound
from mortiser.speech.languages import FIND_OUT, language_spoken
from mortiser.speech.second_hearing import settled
from mortiser.speech.transcribe import TimedLine, transcribe
from mortiser.store import editing, projects, transcript

ENGLISH = "en"
"""What a recording without a word is said to be in."""


def hear(parts: Parts, task: Task) -> None:
    """Transcribe a source, or the range that was chosen of it, into its piece.

    A job that was cut off goes on behind its last word. Heard again, a stretch is replaced as one
    edit when all of it has been heard; what was corrected elsewhere stays.
    """
    source_id = task.payload["source_id"]
    _find_language(parts, source_id)
    source = projects.source_row(parts.database.connection, source_id)
    origin = start = task.payload.get("from_us") or 0
    end = min(task.payload.get("to_us") or source["duration_us"], source["duration_us"])
    again = bool(task.payload.get("again"))
    if again:
        _hear_again(parts, task, start, end)
    else:
        known = transcript.source_words(parts.database.connection, source_id)
        start = max([start, *(word.end_us for word in known)])
        path = parts.workspace.path(source["path"])
        sound = clip(stream_sound(path, source["audio_track"]), start, end)
        for words in _lines(parts, task, sound, source["language"], (origin, start, end)):
            transcript.append_line(parts.database, source_id, words)
    # Telling speakers apart is an edit of all captions, and those are not voted on any more.
    task.follow(
        "doubt",
        {
            "source_id": source_id,
            "piece_id": task.payload["piece_id"],
            "from_us": origin,
            "to_us": end,
            "speakers": not again,
        },
    )


def _find_language(parts: Parts, source_id: int) -> None:
    """Find out which language is spoken where that was asked for, and note it."""
    source = projects.source_row(parts.database.connection, source_id)
    if source["language"] != FIND_OUT:
        return
    sound = stream_sound(parts.workspace.path(source["path"]), source["audio_track"])
    try:
        found = language_spoken(sound, parts.languages()) or ENGLISH
    except BadInput:  # Without the engine of many languages there is only one.
        found = ENGLISH
    projects.choose_hearing(parts.database, source_id, found, source["audio_track"])


def _hear_again(parts: Parts, task: Task, start: int, end: int) -> None:
    piece = projects.piece(parts.database.connection, task.payload["piece_id"])
    sound = PieceSound(parts, piece)
    rulers = parts.database.rulers
    ruler = rulers(piece.finish, (piece.width, piece.height)) if rulers else None
    heard = sound.stream(start, end)
    lines = list(_lines(parts, task, heard, sound.language, (start, start, end)))
    if sound.language == JUDGED:
        # The edit puts its captions beyond the vote, so that this comes first.
        words = [word for line in lines for word in line]
        lines = []
        glossary = GlossaryBench(parts)
        for verdict, _, reached in second_look(parts, sound.stream(start, end), words, start):
            lines.append(glossary.write(settled(verdict)))
            task.progress((reached - start) / max(1, end - start))
    captions: list[LaidCaption] = [
        caption
        for line in lines
        if line
        for caption in grouped(list(map(shown, line)), piece.pace, ruler)
    ]
    edit = LayCaptions(
        about=f"hear {timecode(start)[3:8]} to {timecode(end)[3:8]} again",
        piece_id=piece.id,
        from_us=start,
        to_us=end,
        captions=captions,
    )
    editing.apply_now(parts.database, piece.project_id, edit)


def _lines(
    parts: Parts,
    task: Task,
    sound: Iterable[Samples],
    language: str,
    stretch: tuple[int, int, int],
) -> Iterator[list[Word]]:
    """Lines of words as the glossary writes them, of sound that begins at the second moment of the
    stretch and ends at the third; progress counts from the first."""
    origin, start, end = stretch
    length = max(1, end - origin)
    glossary = GlossaryBench(parts)
    recogniser = parts.recogniser(language)
    for item in transcribe(sound, recogniser, parts.aligner(ENGLISH)):
        if isinstance(item, TimedLine):
            words = [
                replace(w, start_us=min(w.start_us + start, end), end_us=min(w.end_us + start, end))
                for w in item.words
            ]
            yield glossary.write(words)
            task.progress((words[-1].end_us - origin) / length)
        else:
            task.progress((start - origin + item * SECOND) / length)
