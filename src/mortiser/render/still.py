"""A still: one frame of a plan with its captions, as the delivery shows it."""

from __future__ import annotations

import av
import numpy as np

from mortiser.core.common.errors import BadMedia
from mortiser.core.project.output import StillForm
from mortiser.media.frames import EXACT
from mortiser.media.opening import reason
from mortiser.paint.pictures import jpeg, png
from mortiser.render import picture
from mortiser.render.burn import Veils
from mortiser.render.plan import RenderPlan


def still(plan: RenderPlan, at_us: int, form: StillForm = "png") -> bytes:
    """The frame at a moment of the piece as a file. Raises BadMedia."""
    try:
        frame = picture.at(plan, at_us)
    except av.error.FFmpegError as error:
        raise BadMedia(f"This frame of the recording cannot be read.{reason(error)}") from error
    for one in plan.shows:
        Veils(one).put_on(frame, at_us)
    # In several threads swscale writes wrong colours at the left of where their parts of the picture meet.
    plain = frame.reformat(
        format="rgba", src_colorspace=frame.colorspace, interpolation=EXACT, threads=1
    )
    rgb = plain.to_ndarray()
    # Rows of a picture may be padded, which a painter does not take.
    encode = png if form == "png" else jpeg
    return encode(np.ascontiguousarray(rgb))
