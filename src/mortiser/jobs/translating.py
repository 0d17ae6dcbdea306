"""The translate job: captions in English of what is said in another language."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from mortiser.core.common.errors import BadInput
from mortiser.core.common.time import SECOND
from mortiser.core.edits.text.laying import LaidCaption, LayCaptions, grouped
from mortiser.core.transcript.carry import spread
from mortiser.core.transcript.words import shown, tokens
from mortiser.jobs.kind import Kind
from mortiser.jobs.piece_sound import PieceInput, PieceSound, keep_captions, read_piece
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.media.sound import RATE
from mortiser.speech.chunks import LONG_S, chunks


def translate(tools: Tools, task: Task, given: PieceInput) -> Iterator[LayCaptions]:
    """Put English captions in the place of all there are, as one edit, once all has been heard.

    Words of a line share its time by their likely length: a translation has its own order.
    """
    piece = given.piece.in_shape()
    ruler = tools.ruler(piece.settings.finish, piece.size)
    heard = PieceSound(tools.workspace, piece, given.sources)
    translator = tools.translator(heard.language)
    captions: list[LaidCaption] = []
    reached = 0
    for start_s, samples in chunks(heard.stream(0, heard.duration_us), LONG_S, LONG_S):
        for line in translator.translate(samples):
            start = max(reached, round((start_s + line.start_s) * SECOND))
            reached = max(start, round((start_s + line.end_s) * SECOND))
            words = [
                replace(shown(word), origin="heard", confidence=None)
                for word in spread(tokens(line.text), start, reached)
            ]
            captions += grouped(words, piece.settings.pace, ruler)
        done_s = start_s + len(samples) / RATE
        task.progress(done_s * SECOND / max(1, heard.duration_us))
    if not captions:
        raise BadInput("No speech was found to translate. The captions were left as they are.")
    yield LayCaptions(
        about="translate to English",
        piece_id=piece.id,
        from_us=0,
        to_us=heard.duration_us + 1,
        captions=captions,
    )


TRANSLATE = Kind(read_piece, translate, keep_captions)
