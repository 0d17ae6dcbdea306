"""Make a video of a plan: read, paint and encode, each step ahead of the next."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Generic, TypeVar

import av
from av.video.reformatter import VideoReformatter

from mortiser.core.common.time import SECOND
from mortiser.core.scene import Shows
from mortiser.media.encode import UNKNOWN, Encoder, Sound
from mortiser.media.forms import Form, SoundForm, h264
from mortiser.media.opening import open_media, unfinished
from mortiser.paint.painter import NOWHERE, Area, area_of, even_area, paint
from mortiser.paint.state import State, changed, state_at
from mortiser.render import picture, sound
from mortiser.render.ahead import ahead
from mortiser.render.blend import Veil, inks_of, lay, veil
from mortiser.render.loudness import Level, levelled
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.source_readers import usual_rate

USUAL = h264()
Part = TypeVar("Part")
LEAD_US = SECOND // 2
"""Sound is written this much before the picture, so that neither waits long for the other."""


@dataclass(frozen=True)
class Texts:
    """Captions to be switched on: their language (ISO 639), and when each of them shows what, in order."""

    language: str
    captions: tuple[tuple[int, int, str], ...]


class Veils:
    """The veil for each moment; worked out anew only when something moved."""

    def __init__(self, captions: Shows) -> None:
        self._captions = captions
        self._state: State = ()
        self._veil: Veil | None = None
        self._reformatter = VideoReformatter()

    def put_on(self, frame: av.VideoFrame, at_us: int) -> None:
        """Blend the captions of a moment into a yuv420p frame; what others still read is copied."""
        state = state_at(self._captions, at_us)
        if state != self._state:
            self._veil = self._next(state, frame)
            self._state = state
        if self._veil is not None:
            frame.make_writable()
            lay(frame, self._veil)

    def _next(self, state: State, frame: av.VideoFrame) -> Veil | None:
        """The veil of another moment; where the same things show, only what moved is painted anew."""
        area = area_of(state, frame.width & ~1, frame.height & ~1)
        if area == NOWHERE:
            return None
        moved = changed(self._state, state)
        if self._veil is None or moved is None:
            return self._painted(state, area, frame)
        whole = _around(self._veil.area, area)
        if whole != self._veil.area:
            return self._painted(state, whole, frame)
        part = even_area(moved, whole)
        if part != NOWHERE:
            self._veil.take(self._painted(state, part, frame))
        return self._veil

    def _painted(self, state: State, area: Area, frame: av.VideoFrame) -> Veil:
        return veil(paint(state, area, inks_of(frame)), area, self._reformatter)


def _around(one: Area, other: Area) -> Area:
    return (
        min(one[0], other[0]),
        min(one[1], other[1]),
        max(one[2], other[2]),
        max(one[3], other[3]),
    )


def burn(
    plan: RenderPlan,
    out: Path,
    progress: Callable[[float], None],
    form: Form = USUAL,
    *,
    texts: Texts | None = None,
    level: Level | None = None,
    spoken: str = UNKNOWN,
) -> None:
    """Write a video of a plan with its captions in the picture, and sound in the language ``spoken``
    (ISO 639-2).

    Of an untouched recording every frame keeps its time, and sound is copied where the form can hold it
    and its level is not to change. ``progress`` gets 0..1 and may raise to stop. Raises BadMedia when a
    recording cannot be read, NoSpace on a full disk; ``out`` is then incomplete, to be thrown away by the caller.
    """
    try:
        _burn(plan, out, progress, form, texts, level, spoken)
    except av.error.FFmpegError as error:
        raise unfinished(error, "deliver") from error


def _burn(
    plan: RenderPlan,
    out: Path,
    progress: Callable[[float], None],
    form: Form,
    texts: Texts | None,
    level: Level | None,
    spoken: str,
) -> None:
    recording = plan.untouched
    base = picture.time_base(plan)
    rate = plan.rate if recording is None else usual_rate(recording)
    encoder = Encoder(out, plan.size, rate, base, form)
    encoder.speaks(spoken)
    try:
        heard = _Track(encoder.add_sound, _sound(plan, encoder, form.sound, level))
        tracks: list[_Track[Any]] = [heard]
        if texts is not None:
            encoder.tells(texts.language)
            said = ((one[0], one) for one in texts.captions)
            tracks.append(_Track(lambda one: encoder.add_text(*one), said))
        at_us = 0
        with closing(ahead(painted(plan))) as frames:
            for number, frame in enumerate(frames):
                if not number:
                    encoder.sees(frame)
                at_us = picture.moment_of(frame)
                for track in tracks:
                    track.go_to(at_us + LEAD_US)
                encoder.add_picture(frame)
                progress(min(1.0, at_us / plan.timeline.duration_us))
        for track in tracks:
            track.go_to(None)
        encoder.finish(max(1, plan.timeline.duration_us - at_us))
    except BaseException:
        encoder.drop()
        raise


def painted(plan: RenderPlan) -> Iterator[av.VideoFrame]:
    """The frames of a plan with what is painted over them."""
    veils = [Veils(one) for one in plan.shows]
    with closing(ahead(picture.frames(plan))) as frames:
        for frame in frames:
            for one in veils:
                one.put_on(frame, picture.moment_of(frame) + plan.shown_from_us)
            yield frame


def _sound(
    plan: RenderPlan, encoder: Encoder, form: SoundForm | None, level: Level | None
) -> Iterator[tuple[int, Sound]]:
    """Sound by the moment (µs) it begins at; copied where it can be."""
    if form is None:
        return iter(())
    recording = plan.whole
    if recording is not None and level is None and plan.unmixed and sound.can_copy(recording, form):
        return _copied(recording, encoder)
    return _made(plan, encoder, form, level or Level())


def _copied(recording: Recording, encoder: Encoder) -> Iterator[tuple[int, Sound]]:
    with open_media(recording.heard) as reading:
        stream = reading.streams.audio[recording.audio_track]
        encoder.copies(stream)
        for packet in reading.demux(stream):
            if packet.dts is not None and packet.time_base is not None:
                yield round(packet.dts * packet.time_base * SECOND), packet


def _made(
    plan: RenderPlan, encoder: Encoder, form: SoundForm, level: Level
) -> Iterator[tuple[int, Sound]]:
    rate, layout = sound.form(plan, form)
    encoder.hears(rate, layout)
    for frame in levelled(sound.frames(plan, rate, layout), level):
        yield round((frame.pts or 0) * SECOND / rate), frame


class _Track(Generic[Part]):
    """Writes sound, or captions, as far as the picture has come."""

    def __init__(self, write: Callable[[Part], None], parts: Iterator[tuple[int, Part]]) -> None:
        """Parts by the moment (µs) they begin at."""
        self._write = write
        self._parts = parts
        self._next = next(parts, None)

    def go_to(self, at_us: int | None) -> None:
        """Write what begins before a moment; all there is where None."""
        while self._next is not None and (at_us is None or self._next[0] <= at_us):
            self._write(self._next[1])
            self._next = next(self._parts, None)
