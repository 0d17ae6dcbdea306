"""Segments of the preview, made when they are asked for and kept within bounds."""

from __future__ import annotations

import os
import threading
import uuid
from collections.abc import Mapping, Sequence
from dataclasses import replace
from pathlib import Path

import numpy as np
import numpy.typing as npt

from mortiser.core.assembly.assembled import AS_RECORDED, Assembled, PartLook
from mortiser.core.common.errors import BadInput
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.project.piece import Piece, ShapedPiece
from mortiser.core.project.source import Source
from mortiser.jobs.draft import draft_of
from mortiser.jobs.sounds import Sound, sound_of
from mortiser.jobs.workspace import Workspace
from mortiser.render import segments
from mortiser.render.plan import Recording
from mortiser.render.segments import PART_US, SegmentPart, write_segment
from mortiser.render.source_readers import SourceReaders, usual_rate

FOLDER = "segments"
MOST_OPEN = 2
"""Recordings kept open where a segment ended: the next one mostly begins there."""
MOST_BYTES = 300 * 1024**2
"""Of one recording: about an hour of a small picture."""


def _look(part: SegmentPart, framings: Sequence[ClipFraming], assembled: Assembled) -> PartLook:
    ends_us = part.at_us + part.end_us - part.start_us
    framing = framings[part.clip].during(part.start_us, part.end_us)
    near = assembled.within(part.at_us, ends_us).of_source(part.source_id)
    return PartLook(framing, near, part.clip % 2)


class Segments:
    """Makes a segment once, however many ask for it at the same time."""

    def __init__(self, workspace: Workspace) -> None:
        self._workspace = workspace
        self._guard = threading.Lock()
        self._making: dict[Path, threading.Lock] = {}
        self._reels = SourceReaders(MOST_OPEN)

    kind = segments.KIND
    """The media type of all segments."""

    def stream(self, piece: ShapedPiece) -> list[tuple[SegmentPart, PartLook]]:
        """What a piece is played as, and what is seen of each part."""
        framings, assembled = piece.framings, piece.assembled
        return [
            (part, _look(part, framings, assembled)) for part in segments.parts_of(piece.timeline)
        ]

    def look(
        self, piece: ShapedPiece, source_id: int, stretch: tuple[int, int], digest: str
    ) -> PartLook | None:
        """What is seen of a stretch of a source in a piece, by its digest."""
        framings, assembled = piece.framings, piece.assembled
        for part in segments.parts_of(piece.timeline):
            if (part.source_id, part.start_us, part.end_us) == (source_id, *stretch):
                found = _look(part, framings, assembled)
                if found.digest == digest:
                    return found
        return None

    def size(self, piece: ShapedPiece) -> tuple[int, int]:
        """The size of the preview's picture."""
        return segments.preview_size(piece.size)

    def frame_times(self, piece: Piece, rates: Mapping[int, float]) -> npt.NDArray[np.float64]:
        """When the frames of a piece's segments show (µs), from the frame rates of its sources."""
        return segments.frame_times(piece.timeline, rates)

    def file(
        self,
        source: Source,
        stretch: tuple[int, int],
        size: tuple[int, int],
        look: PartLook = AS_RECORDED,
        seen: Sequence[Source] = (),
    ) -> Path:
        """The file of a stretch (µs) of a source as it looks in a piece, in ``size`` pixels; ``seen`` are the
        recordings that are seen in place of it.

        Raises BadInput for a stretch that is none, BadMedia, NoSpace.
        """
        start, end = stretch
        if not 0 <= start < end <= min(source.duration_us, start + PART_US):
            raise BadInput("A segment is a stretch of the recording of two seconds at most.")
        heard = sound_of(self._workspace, source)
        name = f"{start}-{end}-{size[0]}x{size[1]}-{heard.key or 0}-{look.digest}.mp4"
        file = self._workspace.beside(source.path, FOLDER) / name
        with self._guard:
            lock = self._making.setdefault(file, threading.Lock())
        with lock:
            if not file.exists():
                self._make(source, stretch, size, file, heard, look, seen)
            os.utime(file)
        with self._guard:
            self._making.pop(file, None)
        return file

    def _make(
        self,
        source: Source,
        stretch: tuple[int, int],
        size: tuple[int, int],
        file: Path,
        heard: Sound,
        look: PartLook,
        seen: Sequence[Source],
    ) -> None:
        file.parent.mkdir(exist_ok=True)
        partial = file.with_name(f"{file.stem}-{uuid.uuid4().hex}.partial")
        path = self._workspace.path(source.path)
        # Frames are counted as the recording has them, whichever file they are taken from.
        rate = usual_rate(Recording(path, source.duration_us))
        recording = self._heard(source, heard)
        others = {one.id: self._heard(one, sound_of(self._workspace, one)) for one in seen}
        try:
            write_segment(
                recording,
                stretch,
                size,
                partial,
                rate,
                self._reels,
                look,
                source_id=source.id,
                seen=others,
            )
            partial.rename(file)
        finally:
            partial.unlink(missing_ok=True)
        _keep_within(file.parent, MOST_BYTES)

    def _heard(self, source: Source, heard: Sound) -> Recording:
        return replace(self._recording(source), audio_track=heard.track, sound=heard.path)

    def _recording(self, source: Source) -> Recording:
        """A recording's picture: of its small copy, where there is one."""
        draft = draft_of(self._workspace, source)
        if not draft.exists():
            return Recording(self._workspace.path(source.path), source.duration_us)
        size = source.width, source.height
        return Recording(draft, source.duration_us, picture=size)


def _keep_within(folder: Path, most: int) -> None:
    """Remove the files used longest ago until the rest is no more than so many bytes."""
    files = sorted(folder.glob("*.mp4"), key=lambda file: file.stat().st_mtime, reverse=True)
    kept = 0
    for file in files:
        kept += file.stat().st_size
        if kept > most:
            file.unlink(missing_ok=True)
