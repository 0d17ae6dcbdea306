"""The deliver job: the burned-in video and the caption files, under their names when complete."""

from __future__ import annotations

import re
import shutil
from contextlib import suppress
from dataclasses import replace

from mortiser.core.file_captions import file_captions
from mortiser.core.frame import even_size
from mortiser.core.layout.caption_lines import caption_lines
from mortiser.core.scene import SceneReel
from mortiser.core.speakers import speaker_of, turns, with_names
from mortiser.core.words import Cue
from mortiser.fonts import font_book
from mortiser.formats.base import Caption
from mortiser.formats.registry import FORMATS
from mortiser.jobs.runner import Parts, Task
from mortiser.paint.burn import burn
from mortiser.store import deliveries, projects
from mortiser.store.deliveries import DeliveredFile
from mortiser.store.projects import Piece

LONGEST_STEM = 180
"""Bytes: file systems take 255 for a name."""
CAPTION_FILES = ("srt", "vtt")
ENDINGS = ("mp4", *CAPTION_FILES)


def deliver(parts: Parts, task: Task) -> None:
    """Make all files of a delivery; nothing of it shows before it is whole."""
    db = parts.database.connection
    delivery = deliveries.of_job(db, task.job_id)
    with parts.database.snapshot() as moment:
        piece = projects.piece(moment, delivery["piece_id"])
        cues = projects.piece_cues(moment, piece.id)
        source = projects.source_row(moment, piece.source_id)
    folder = parts.workspace.delivery(delivery["id"])
    making = task.partial(folder / "files")
    making.mkdir()
    size = even_size(piece.width, piece.height)
    dressed = piece.standing.shown(cues)
    shown = with_names(dressed) if piece.show_speakers else dressed
    reel = SceneReel(shown, piece.finish, size, font_book())
    stem = delivery["stem"]
    try:
        burn(
            parts.workspace.path(source["path"]),
            making / f"{stem}.mp4",
            reel,
            size,
            source["duration_us"],
            task.progress,
        )
        for ending in CAPTION_FILES:
            text = caption_file(ending, cues, piece)
            (making / f"{stem}.{ending}").write_text(text, encoding="utf-8")
        task.still_wanted()
        for ending in ENDINGS:
            (making / f"{stem}.{ending}").rename(folder / f"{stem}.{ending}")
    finally:
        shutil.rmtree(making, ignore_errors=True)
        with suppress(OSError):
            folder.rmdir()  # Only where nothing was made.
    made: list[DeliveredFile] = [
        {
            "kind": kind,
            "name": f"{stem}.{kind}",
            "size": (folder / f"{stem}.{kind}").stat().st_size,
        }
        for kind in ENDINGS
    ]
    deliveries.set_files(parts.database, delivery["id"], made)


def caption_file(ending: str, cues: list[Cue], piece: Piece) -> str:
    """The piece's captions as a file of one format, at the pace of files where it has one."""
    if piece.file_pace is not None:
        lined = file_captions(
            cues, piece.file_pace, piece.timeline, piece.frames, named=piece.show_speakers
        )
        cues = [cue for cue, _ in lined]
        lines = [list(broken) for _, broken in lined]
    else:
        lines = caption_lines(
            piece.standing.shown(cues), piece.finish, (piece.width, piece.height), font_book()
        )
    captions = [
        Caption(cue.start_us, cue.end_us, tuple(broken), cue.words)
        for cue, broken in zip(cues, lines, strict=True)
    ]
    if piece.show_speakers:
        captions = [
            replace(caption, speaker=speaker_of(cue), turn=name is not None)
            for caption, cue, name in zip(captions, cues, turns(cues), strict=True)
        ]
    return FORMATS[ending](captions, piece.timeline.duration_us)


def file_stem(name: str) -> str:
    """A project's name as the start of a file name that every system takes."""
    kept = re.sub(r"[^\w\- ]+", "", name).strip()[:80].strip()
    stem = re.sub(r"\s+", "-", kept)
    while len(stem.encode()) > LONGEST_STEM:
        stem = stem[:-1]
    return stem or "piece"
