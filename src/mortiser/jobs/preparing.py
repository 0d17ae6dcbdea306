"""The prepare job: sound peaks, and an H.264 copy where the browser cannot play the recording."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from pathlib import Path

from mortiser import disk
from mortiser.core.common.time import SECOND
from mortiser.core.framing.frame import even_size
from mortiser.core.project.job_payloads import SourcePayload
from mortiser.core.project.piece import Piece
from mortiser.core.project.source import Source
from mortiser.jobs.kind import JobContext, Kind
from mortiser.jobs.sounds import own_sound, sound_of
from mortiser.jobs.source_input import SourceInput, read_source
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.jobs.workspace import Workspace
from mortiser.media.forms import h264
from mortiser.media.peaks import compute_peaks, peaks_beside, save_peaks, track_key
from mortiser.media.sound import RATE, Samples, stream_sound
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, of_one
from mortiser.store import projects

PEAKS_SHARE = 0.2
PROXY_QUALITY = h264(crf=24, preset="superfast")


def prepare(tools: Tools, task: Task, given: SourceInput) -> Iterator[str]:
    """Make what the page needs to show and play a source; gives where the browser copy lies."""
    source = given.source
    workspace = tools.workspace
    if source.kind == "video":
        task.follow("draft", SourcePayload(source_id=source.id))
    path = workspace.path(source.path)
    track = source.audio_track
    sound = counted(stream_sound(path, track), source.duration_us, task, PEAKS_SHARE)
    make_peaks(workspace, task, source, track_key(track), sound)
    if playable(source):
        return
    proxy = workspace.beside(source.path, f"proxy{f'-{track}' if track else ''}.mp4")
    partial = task.partial(proxy)
    size = even_size(source.width or 320, source.height or 180)
    try:
        burn(
            of_one(Recording(path, source.duration_us, source.audio_track), size),
            partial,
            lambda part: task.progress(PEAKS_SHARE + (1 - PEAKS_SHARE) * part),
            PROXY_QUALITY,
        )
        task.still_wanted()
        disk.put(partial, proxy)
    finally:
        partial.unlink(missing_ok=True)
    yield workspace.relative(proxy)


def keep_copy(context: JobContext, given: SourceInput, path: str) -> None:
    """Note where the browser copy of a source lies."""
    projects.set_proxy(context.database, given.source.id, path)


PREPARE = Kind(read_source, prepare, keep_copy)


def playable(source: Source) -> bool:
    """Whether the browser can play a source with the sound that was chosen."""
    return bool(source.proxy_path or (source.playable and not source.audio_track))


def make_peaks(
    workspace: Workspace, task: Task, source: Source, key: str, sound: Iterable[Samples]
) -> None:
    """Keep the peaks of a sound of a source, unless they are there."""
    peaks = _peaks_file(workspace, source, key)
    if peaks.exists():
        return
    partial = task.partial(peaks)
    try:
        save_peaks(partial, compute_peaks(sound))
        task.still_wanted()
        disk.put(partial, peaks)
    finally:
        partial.unlink(missing_ok=True)


def peaks_of(workspace: Workspace, source: Source, *, own: bool = False) -> Path:
    """Where the peaks of what is heard of a source (or of its own sound) are kept."""
    heard = own_sound(workspace, source) if own else sound_of(workspace, source)
    return _peaks_file(workspace, source, heard.key)


def peaks_files(workspace: Workspace, piece: Piece, rows: Iterable[Source]) -> dict[int, Path]:
    """Where the peaks of what is heard of a piece are kept, or will be, by source."""
    shown = {clip.source_id for clip in piece.timeline.clips}
    return {row.id: peaks_of(workspace, row) for row in rows if row.id in shown}


def _peaks_file(workspace: Workspace, source: Source, key: str) -> Path:
    return peaks_beside(workspace.path(source.path), key)


def counted(
    sound: Iterable[Samples], duration_us: int, task: Task, share: float = 1.0
) -> Iterator[Samples]:
    """The sound, with progress up to ``share`` told while it is read."""
    heard = 0
    for samples in sound:
        yield samples
        heard += len(samples)
        task.progress(share * min(1.0, heard / RATE * SECOND / duration_us))
