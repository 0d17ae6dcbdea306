"""What cutaways show, frame by frame."""

from __future__ import annotations

from bisect import bisect_right

import av
import cv2
import numpy as np
from av.video.reformatter import ColorRange, Colorspace

from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.covering import Cover
from mortiser.core.framing.cutaway import RecordingSeen
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.media.picture import plane_of
from mortiser.render.backdrops import planes_like, solid_pixels
from mortiser.render.framing import Framer
from mortiser.render.plan import RenderPlan
from mortiser.render.source_readers import PlanReaders


class Covers:
    """The frames of a plan's cutaways; best asked forwards."""

    def __init__(self, plan: RenderPlan, readers: PlanReaders) -> None:
        self._plan = plan
        self._starts = [one.start_us for one in plan.covers]
        self._readers = readers
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
        if source_id not in self._plan.recordings:
            return None
        reader = self._readers.of(source_id, source_us)
        found = reader.at(source_us)
        return None if found is None else reader.fit(found, self._plan.size, framing, source_us)


def _pictured(
    picture: OwnPicture, size: tuple[int, int], framing: ClipFraming
) -> av.VideoFrame | None:
    """A picture as it lies in a frame of ``size`` pixels, black where it can be seen through; None where it is
    not in this workspace."""
    solid = solid_pixels(picture, (picture.width, picture.height))
    if solid is None:
        return None
    # Planes of half the size need even sides.
    high, wide = (side + side % 2 for side in solid.shape[:2])
    shown = cv2.copyMakeBorder(
        solid, 0, high - solid.shape[0], 0, wide - solid.shape[1], cv2.BORDER_REPLICATE
    )
    frame = av.VideoFrame(wide, high, "yuv420p")
    frame.colorspace, frame.color_range = Colorspace.ITU709, ColorRange.MPEG
    for index, plane in enumerate(planes_like(frame, np.asarray(shown, np.uint8))):
        plane_of(frame, index)[...] = plane
    return Framer().framed(frame, size, framing, 0)
