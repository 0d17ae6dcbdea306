"""What cutaways show, frame by frame."""

from __future__ import annotations

from bisect import bisect_right

import av
import cv2
import numpy as np
from av.video.reformatter import ColorRange, Colorspace

from mortiser.core.common.errors import NotFound
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.covering import Cover
from mortiser.core.framing.cutaway import RecordingSeen
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.media.picture import plane_of
from mortiser.pictures import sized_png
from mortiser.render.blend import inks_of
from mortiser.render.framing import Framer
from mortiser.render.plan import RenderPlan
from mortiser.render.source_readers import SourceReader, SourceReaders


class Covers:
    """The frames of a plan's cutaways; best asked forwards."""

    def __init__(self, plan: RenderPlan, kept: SourceReaders) -> None:
        self._plan = plan
        self._kept = kept
        self._starts = [one.start_us for one in plan.covers]
        self._readers: dict[int, SourceReader] = {}
        self._still: tuple[Cover, av.VideoFrame | None] | None = None

    def at(self, at_us: int) -> av.VideoFrame | None:
        """What is seen in place of the clips at a moment of the plan, not to be written to; None where nothing
        is, or where its picture is not to be had."""
        index = bisect_right(self._starts, at_us) - 1
        cover = self._plan.covers[index] if index >= 0 else None
        if cover is None or at_us >= cover.end_us:
            return None
        seen, behind = cover.cutaway.seen, self._plan.framing(0).backdrop
        framing = ClipFraming(cover.cutaway.framing, behind)
        if isinstance(seen, RecordingSeen):
            return self._recorded(seen.source_id, cover.seen_us(at_us), framing)
        if self._still is None or self._still[0] is not cover:
            self._still = cover, _pictured(seen.picture, self._plan.size, framing)
        return self._still[1]

    def _recorded(
        self, source_id: int, source_us: int, framing: ClipFraming
    ) -> av.VideoFrame | None:
        recording = self._plan.recordings.get(source_id)
        if recording is None:
            return None
        if source_id not in self._readers:
            self._readers[source_id] = self._kept.take(recording, source_us)
        reader = self._readers[source_id]
        found = reader.at(source_us)
        return None if found is None else reader.fit(found, self._plan.size, framing, source_us)

    def give_back(self) -> None:
        """Keep the readers for what follows."""
        for source_id, reader in self._readers.items():
            self._kept.give_back(self._plan.recordings[source_id], reader)
        self._readers.clear()

    def close(self) -> None:
        """Let go of all files."""
        for reader in self._readers.values():
            reader.close()
        self._readers.clear()


def _pictured(
    picture: OwnPicture, size: tuple[int, int], framing: ClipFraming
) -> av.VideoFrame | None:
    """A picture as it lies in a frame of ``size`` pixels, black where it can be seen through; None where it is
    not in this workspace."""
    try:
        data = sized_png(picture.digest, picture.width, picture.height)
    except NotFound:
        return None
    bgra = np.asarray(cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_UNCHANGED), np.uint16)
    solid = bgra[..., :3] * bgra[..., 3:] // 255
    # Planes of half the size need even sides.
    high, wide = solid.shape[0] + solid.shape[0] % 2, solid.shape[1] + solid.shape[1] % 2
    shown = cv2.copyMakeBorder(
        solid.astype(np.uint8),
        0,
        high - solid.shape[0],
        0,
        wide - solid.shape[1],
        cv2.BORDER_REPLICATE,
    )
    frame = av.VideoFrame(wide, high, "yuv420p")
    frame.colorspace, frame.color_range = Colorspace.ITU709, ColorRange.MPEG
    inked = inks_of(frame).picture(np.dstack([shown, np.full(shown.shape[:2], 255, np.uint8)]))
    plane_of(frame, 0)[...] = inked[..., 2]
    for index, channel in ((1, 1), (2, 0)):
        half = cv2.resize(inked[..., channel], None, fx=0.5, fy=0.5, interpolation=cv2.INTER_AREA)
        plane_of(frame, index)[...] = half
    return Framer().framed(frame, size, framing, 0)
