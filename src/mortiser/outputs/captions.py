"""Caption files."""

from __future__ import annotations

import codecs
from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path

from mortiser.core.captions.file_captions import file_captions
from mortiser.core.delivery.order import Order, OrderedFile, PieceStretch
from mortiser.core.project.output import TextFile
from mortiser.core.project.piece import ShapedPiece
from mortiser.core.style.layout.caption_lines import caption_lines
from mortiser.core.transcript.speakers import speaker_of, turns
from mortiser.core.transcript.words import Cue
from mortiser.fonts import font_book
from mortiser.formats import registry
from mortiser.formats.base import Caption, CaptionDocument
from mortiser.formats.registry import FORMATS, READERS
from mortiser.outputs.base import Files, Told, Unlike
from mortiser.outputs.looks import look_of, own_place


class TextFiles:
    """The captions in one format, at the pace of files where the piece has one."""

    def make(
        self,
        order: Order,
        part: OrderedFile,
        out: Path,
        files: Files,
        progress: Callable[[float], None],
    ) -> Sequence[Told]:
        """See Maker."""
        out.write_bytes(_data(order, part))
        return ()

    def verify(self, order: Order, part: OrderedFile, made: Path, files: Files) -> None:
        """Read by our own reader, the file has as many captions as were written; what no reader is for is
        what was written."""
        data, wanted = made.read_bytes(), _text_file(part)
        if wanted.form not in READERS:
            if data != _data(order, part):
                raise Unlike(part.name, "it is not what was written")
            return
        count = len(captions_of(order.cues, order.piece.in_shape(), wanted, part.stretch))
        found = len(registry.read(data.decode("utf-8-sig")).captions) if count else 0
        if found != count:
            raise Unlike(part.name, f"it reads as {found} captions instead of {count}")


def _text_file(part: OrderedFile) -> TextFile:
    assert isinstance(part.output, TextFile)
    return part.output


def _data(order: Order, part: OrderedFile) -> bytes:
    wanted = _text_file(part)
    text = caption_text(
        wanted, order.cues, order.piece.in_shape(), part.stretch, order.sources[0].language
    )
    if wanted.crlf:
        text = text.replace("\r\n", "\n").replace("\n", "\r\n")
    return (codecs.BOM_UTF8 if wanted.mark else b"") + text.encode()


def caption_text(
    wanted: TextFile,
    cues: Sequence[Cue],
    piece: ShapedPiece,
    stretch: PieceStretch | None = None,
    language: str = "",
) -> str:
    """A piece's captions, or those of a stretch of it, as a file in a language (BCP 47)."""
    captions = captions_of(cues, piece, wanted, stretch)
    styled = wanted.styled or wanted.form == "ass"
    look = look_of(piece.worn, piece.size) if styled else None
    length = stretch.end_us - stretch.start_us if stretch else piece.timeline.duration_us
    document = CaptionDocument(length, wanted.timed, look, piece.size, language)
    return FORMATS[wanted.form](captions, document)


def captions_of(
    cues: Sequence[Cue], piece: ShapedPiece, wanted: TextFile, stretch: PieceStretch | None = None
) -> list[Caption]:
    """A piece's captions with their lines; of a stretch, in its time."""
    if piece.settings.file_pace is not None and not wanted.as_picture:
        lined = file_captions(
            cues,
            piece.settings.file_pace,
            piece.timeline,
            piece.facts.frames,
            named=piece.settings.show_speakers,
        )
        cues = [cue for cue, _ in lined]
        lines = [list(broken) for _, broken in lined]
    else:
        lines = caption_lines(
            piece.settings.standing.shown(cues), piece.settings.finish, piece.size, font_book()
        )
    captions = [
        Caption(
            cue.start_us,
            cue.end_us,
            tuple(broken),
            cue.words,
            place=own_place(cue, piece.worn),
        )
        for cue, broken in zip(cues, lines, strict=True)
    ]
    if piece.settings.show_speakers:
        captions = [
            replace(caption, speaker=speaker_of(cue), turn=name is not None)
            for caption, cue, name in zip(captions, cues, turns(cues), strict=True)
        ]
    return _within(captions, stretch) if stretch else captions


def _within(captions: Sequence[Caption], stretch: PieceStretch) -> list[Caption]:
    """Those that stand in a stretch for a moment that can be seen, in its time, with the words said in it."""
    first, last = stretch.start_us, stretch.end_us
    found: list[Caption] = []
    for whole in captions:
        one = _said_within(whole, stretch)
        if one is None:
            continue
        start, end = max(one.start_us, first), min(one.end_us, last)
        if end - start >= LEAST_US:
            words = tuple(
                replace(
                    word,
                    start_us=max(first, min(word.start_us, last)) - first,
                    end_us=max(first, min(word.end_us, last)) - first,
                )
                for word in one.words
            )
            found.append(replace(one, start_us=start - first, end_us=end - first, words=words))
    return found


def _said_within(caption: Caption, stretch: PieceStretch) -> Caption | None:
    """A caption with those of its words, in their lines, that are said in a stretch; None without any."""
    kept = {
        id(word) for word in caption.words if stretch.start_us <= word.middle_us < stretch.end_us
    }
    if len(kept) == len(caption.words):
        return caption
    lines = [
        "".join(part.text for part in parts if part.word is None or id(part.word) in kept).strip()
        for parts in caption.parts
        if any(part.word is not None and id(part.word) in kept for part in parts)
    ]
    words = tuple(word for word in caption.words if id(word) in kept)
    return replace(caption, lines=tuple(lines), words=words) if words else None


LEAST_US = 1_000
"""Files count in milliseconds."""
