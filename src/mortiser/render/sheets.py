"""Transitions and grades on frames of a piece's own, in small: what the page shows them by."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import av
import numpy as np

from mortiser.core.assembly.assembled import Assembled
from mortiser.core.assembly.grade import PLAIN, Grade, Grades
from mortiser.core.assembly.transition import STEPS, Transition, TransitionKind
from mortiser.core.common.time import SECOND
from mortiser.core.framing.frame import even_size
from mortiser.core.scene import NO_CAPTIONS
from mortiser.media.frames import EXACT
from mortiser.paint.pictures import jpeg
from mortiser.render.blend import inks_of
from mortiser.render.composing import Composer, planes, put
from mortiser.render.grading import graded
from mortiser.render.plan import RenderPlan
from mortiser.render.source_readers import SourceReaders
from mortiser.render.transitions import mixed
from mortiser.render.transitions.pair import Three

SIDE = 96
"""The longer side of a frame, in pixels."""
BESIDE_US = SECOND // 5
"""So far from the cut the frames are taken."""


def small_size(size: tuple[int, int]) -> tuple[int, int]:
    """How large each frame of the sheet is for a frame of a piece."""
    share = SIDE / max(size)
    return even_size(round(size[0] * share), round(size[1] * share))


def transition_sheet(plan: RenderPlan, at_us: int, kinds: Sequence[TransitionKind]) -> bytes:
    """A JPEG with a row of STEPS frames for each kind, from what is seen before a moment of a plan to what is seen
    behind it. Raises BadMedia."""
    one, other = _frames(plan, plan.assembled.grades, at_us - BESIDE_US, at_us + BESIDE_US)
    return _sheet(one, [_row(planes(one), planes(other), kind, one) for kind in kinds])


def grade_sheet(plan: RenderPlan, at_us: int, grades: Sequence[Grade]) -> bytes:
    """A JPEG with the frame of a plan at a moment beside itself in each grade, which is put on the whole picture.
    Raises BadMedia."""
    own = plan.assembled.grades.model_copy(update={"whole": PLAIN})
    (frame,) = _frames(plan, own, at_us)
    inks = inks_of(frame)
    return _sheet(frame, [_beside([graded(planes(frame), one, inks, 0) for one in grades])])


def _frames(plan: RenderPlan, grades: Grades, *moments_us: int) -> list[av.VideoFrame]:
    """What is seen of a plan's clips at some moments, in small."""
    plain = replace(
        plan,
        size=small_size(plan.size),
        captions=NO_CAPTIONS,
        layers=(),
        assembled=Assembled(grades=grades),
    )
    last = plan.timeline.duration_us - 1
    composer = Composer(plain, SourceReaders())
    try:
        return [composer.at(max(0, min(last, at_us))) for at_us in moments_us]
    finally:
        composer.close()


def _row(one: Three, other: Three, kind: TransitionKind, terms: av.VideoFrame) -> Three:
    inks, how = inks_of(terms), Transition(kind=kind)
    shares = [how.share(step / (STEPS - 1)) for step in range(STEPS)]
    return _beside([mixed(one, other, share, how, inks) for share in shares])


def _beside(pictures: Sequence[Three]) -> Three:
    return [np.concatenate([each[index] for each in pictures], axis=1) for index in range(3)]


def _sheet(terms: av.VideoFrame, rows: Sequence[Three]) -> bytes:
    """Rows of pictures whose planes hold colours as a frame's do, as a JPEG."""
    found = [np.concatenate([row[index] for row in rows]) for index in range(3)]
    height, width = found[0].shape
    sheet = av.VideoFrame(width, height, "yuv420p")
    sheet.colorspace, sheet.color_range = terms.colorspace, terms.color_range
    put(sheet, found)
    seen = sheet.reformat(
        format="rgba", src_colorspace=sheet.colorspace, interpolation=EXACT, threads=1
    )
    return jpeg(np.ascontiguousarray(seen.to_ndarray()))
