"""The prepare job: sound peaks, and an H.264 copy where the browser cannot play the recording."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from mortiser.core.frame import even_size
from mortiser.core.scene import NO_CAPTIONS
from mortiser.core.time import SECOND
from mortiser.jobs.runner import Parts, Task
from mortiser.media.peaks import compute_peaks, save_peaks
from mortiser.media.sound import RATE, Samples, stream_sound
from mortiser.paint.burn import Quality, burn
from mortiser.store import projects

PEAKS_SHARE = 0.2
PROXY_QUALITY = Quality(crf=24, preset="superfast")


def prepare(parts: Parts, task: Task) -> None:
    """Make what the page needs to show and play a source."""
    source = projects.source_row(parts.database.connection, task.payload["source_id"])
    workspace = parts.workspace
    path = workspace.path(source["path"])
    peaks = workspace.beside(source["path"], "peaks.npz")
    if not peaks.exists():
        track = stream_sound(path, source["audio_track"])
        sound = counted(track, source["duration_us"], task, PEAKS_SHARE)
        partial = task.partial(peaks)
        try:
            save_peaks(partial, compute_peaks(sound))
            task.still_wanted()
            partial.rename(peaks)
        finally:
            partial.unlink(missing_ok=True)
    if source["playable"] or source["proxy_path"]:
        return
    proxy = workspace.beside(source["path"], "proxy.mp4")
    partial = task.partial(proxy)
    size = even_size(source["width"] or 320, source["height"] or 180)
    try:
        burn(
            path,
            partial,
            NO_CAPTIONS,
            size,
            source["duration_us"],
            lambda part: task.progress(PEAKS_SHARE + (1 - PEAKS_SHARE) * part),
            PROXY_QUALITY,
        )
        task.still_wanted()
        partial.rename(proxy)
    finally:
        partial.unlink(missing_ok=True)
    projects.set_proxy(parts.database, source["id"], workspace.relative(proxy))


def counted(
    sound: Iterable[Samples], duration_us: int, task: Task, share: float = 1.0
) -> Iterator[Samples]:
    """The sound, with progress up to ``share`` told while it is read."""
    heard = 0
    for samples in sound:
        yield samples
        heard += len(samples)
        task.progress(share * min(1.0, heard / RATE * SECOND / duration_us))
