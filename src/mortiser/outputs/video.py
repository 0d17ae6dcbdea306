"""Videos: captions in the picture, to be switched on, or on nothing for another editor."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import partial
from pathlib import Path

from langcodes import Language

from mortiser.core.common.time import SECOND
from mortiser.core.delivery.order import Order, OrderedFile
from mortiser.core.project.output import TextFile, VideoFile
from mortiser.media.encode import UNKNOWN
from mortiser.media.forms import Form, form_of
from mortiser.outputs.base import Files, Told, Unlike
from mortiser.outputs.captions import captions_of
from mortiser.outputs.plans import painted, plan_of
from mortiser.render import sound
from mortiser.render.burn import Texts, burn
from mortiser.render.loops import write_gif
from mortiser.render.loudness import Level, level_for
from mortiser.render.overlay import write_overlay
from mortiser.render.picture import frame_count
from mortiser.render.plan import RenderPlan, ignored
from mortiser.render.reading_back import (
    Facts,
    captions_missing,
    facts_of,
    loudness_of,
    overlay_missing,
)
from mortiser.render.sized import burn_within

SLACK_US = SECOND // 4
"""Sound comes in blocks, and a recording's own tracks end apart."""
NEAR_LU = 0.5


class Videos:
    """All forms of video."""

    def make(
        self,
        order: Order,
        part: OrderedFile,
        out: Path,
        files: Files,
        progress: Callable[[float], None],
    ) -> Sequence[Told]:
        """See Maker."""
        wanted = _video(part)
        unread: set[int] = set()
        plan = _plan(order, part, files, unread.add)
        form = form_of(wanted.form, wanted.quality)
        if wanted.form == "overlay":
            write_overlay(plan, out, progress, form)
        elif wanted.form == "gif":
            write_gif(plan, out, progress, form)
        else:
            texts = _texts(order, part, wanted) if wanted.switches else None
            level = _level(plan, form, wanted.loudness)
            make = partial(burn_within, most_bytes=wanted.most_bytes) if wanted.most_bytes else burn
            make(plan, out, progress, form, texts=texts, level=level, spoken=_spoken(order))
        if not unread:
            return ()
        frames = "a part" if len(unread) == 1 else f"{len(unread)} parts"
        return [
            Told(
                f"{frames} of the picture could not be read and shows what was before. Copy the "
                "recording again from the camera if that can be seen.",
                min(unread),
            )
        ]

    def verify(self, order: Order, part: OrderedFile, made: Path, files: Files) -> None:
        """The file has the frame that was ordered, its streams, the piece's length and its loudness, and
        captions where the scene has them."""
        wanted = _video(part)
        plan = _plan(order, part, files)
        facts = facts_of(made)
        what = _unlike(wanted, plan, facts)
        if 0 < wanted.most_bytes < made.stat().st_size:
            what = f"it is larger than {wanted.most_mb:g} MB"
        if what is None and wanted.loudness is not None:
            heard = loudness_of(made, facts.duration_us)
            if not heard.silent and abs(heard.lufs - wanted.loudness) > NEAR_LU:
                what = f"its loudness is {heard.lufs:.1f} LUFS"
        if what is None and wanted.burns:
            missing = overlay_missing if wanted.form == "overlay" else captions_missing
            at_us = missing(plan, made, _moments(order, part))
            if at_us is not None:
                what = f"its captions are not as they should be at {at_us / SECOND:.1f} s"
        if what is not None:
            raise Unlike(part.name, what)


def _moments(order: Order, part: OrderedFile) -> list[int]:
    """The middle of the first caption that is shown, and of the last one."""
    first, last = 0, order.piece.timeline.duration_us
    if part.stretch:
        first, last = part.stretch.start_us, min(last, part.stretch.end_us)
    middles = [(cue.start_us + cue.end_us) // 2 for cue in order.cues]
    shown = [at for at in middles if first <= at < last]
    return [shown[0], shown[-1]] if shown else []


def _unlike(wanted: VideoFile, plan: RenderPlan, facts: Facts) -> str | None:
    """What is not as it was ordered."""
    if facts.size != plan.size:
        return f"its picture is {facts.size[0]} × {facts.size[1]} pixels"
    length = plan.timeline.duration_us
    # A picture that moves by itself counts in hundredths of a second, frame by frame.
    slack = max(SLACK_US, length // 20) if wanted.facts.loops else SLACK_US
    if abs(facts.duration_us - length) > slack:
        return f"it lasts {facts.duration_us / SECOND:.2f} s"
    if plan.untouched is None and not wanted.facts.loops:
        count = frame_count(plan)
        if facts.frames != count:
            return f"it has {facts.frames} frames instead of {count}"
    if wanted.facts.sound != facts.sound:
        return "it has no sound" if wanted.facts.sound else "it has sound"
    return "its captions cannot be switched on" if wanted.switches and not facts.text else None


def _video(part: OrderedFile) -> VideoFile:
    assert isinstance(part.output, VideoFile)
    return part.output


def _plan(
    order: Order, part: OrderedFile, files: Files, damaged: Callable[[int], None] = ignored
) -> RenderPlan:
    wanted = _video(part)
    piece = order.piece.in_shape()
    shown = painted(piece, order.cues) if wanted.burns else []
    made = plan_of(piece, shown, order.sources, files, video=wanted, stretch=part.stretch)
    told = {key: replace(one, damaged=damaged) for key, one in made.recordings.items()}
    return replace(made, recordings=told)


def _texts(order: Order, part: OrderedFile, wanted: VideoFile) -> Texts:
    captions = captions_of(order.cues, order.piece.in_shape(), TextFile(), part.stretch)
    lines = tuple((one.start_us, one.end_us, "\n".join(one.named_lines)) for one in captions)
    return Texts(_spoken(order), lines)


def _spoken(order: Order) -> str:
    """The language of the talk (ISO 639-2)."""
    spoken = order.sources[0].language
    return Language.get(spoken).to_alpha3() if spoken else UNKNOWN


def _level(plan: RenderPlan, form: Form, target: float | None) -> Level | None:
    if target is None or form.sound is None:
        return None
    rate, layout = sound.form(plan, form.sound)
    return level_for(lambda: sound.frames(plan, rate, layout), target)
