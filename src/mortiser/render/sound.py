"""The sound of a plan: clips one behind another, each cut over into the next."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

import av
import numpy as np
import numpy.typing as npt

from mortiser.core.assembly.covering import Cover
from mortiser.core.assembly.cutaway import RecordingSeen
from mortiser.core.editing.timeline import Clip, Placed
from mortiser.media.forms import SoundForm
from mortiser.media.frames import Resampler, decoded_sound
from mortiser.media.opening import codec_name, open_media, origin_s
from mortiser.render.plan import Recording, RenderPlan

FADE_US = 20_000
"""The sound of a cutaway comes and goes in this at least."""
GAINS = {"off": 0.0, "quiet": 0.2, "heard": 1.0}
"""Of the sound of cutaways; 0.2 is 14 dB less."""
BOTH_SIDES = np.float32(np.sqrt(2))
"""One channel is made 3 dB quieter where it goes to both sides; players play it on both as it is."""
CROSS_US = 8_000
"""How long one clip's sound goes over into the next one's."""
LEAD_US = 200_000
Samples = npt.NDArray[np.float32]
"""Of shape (channels, n)."""


def can_copy(recording: Recording, wanted: SoundForm) -> bool:
    """Whether the packets of a recording's sound can be written as they are."""
    with open_media(recording.heard) as reading:
        return codec_name(reading.streams.audio[recording.audio_track]) in wanted.kept


def form(plan: RenderPlan, wanted: SoundForm) -> tuple[int, str]:
    """Rate (Hz) and layout of the sound that is made: those of the first clip's, as its codec has them."""
    rate, layout = heard_in(plan.recordings[plan.timeline.clips[0].source_id])
    return wanted.rate_for(rate), layout


def heard_in(recording: Recording) -> tuple[int, str]:
    """Rate (Hz) and layout of a recording's sound, in one channel or two."""
    with open_media(recording.heard) as reading:
        context = reading.streams.audio[recording.audio_track].codec_context
        return context.sample_rate or 48_000, "mono" if context.channels == 1 else "stereo"


def frames(plan: RenderPlan, rate: int, layout: str) -> Iterator[av.AudioFrame]:
    """The plan's sound in frames, sample i heard at i / rate seconds of the piece."""
    if plan.unmixed:
        yield from _clips(plan, rate, layout)
        return
    over = Over(plan, rate, layout)
    for frame in _clips(plan, rate, layout):
        at = frame.pts or 0
        samples = np.asarray(frame.to_ndarray(), np.float32)
        yield _frame(over.mixed(samples, at), at, rate, layout)


def _clips(plan: RenderPlan, rate: int, layout: str) -> Iterator[av.AudioFrame]:
    """The sound of the clips."""
    at = 0
    over = _samples(CROSS_US, rate)
    going = _Going(np.zeros((1 if layout == "mono" else 2, 0), np.float32))
    for placed in plan.timeline.placed:
        recording = plan.recordings[placed.clip.source_id]
        # Counted from the beginning, so that roundings do not add up.
        end = _samples(placed.end_us, rate)
        beyond: list[Samples] = []
        for part in _blocks(recording, placed, end - at + over, rate, layout):
            mixed = going.under(part)
            keep = mixed[:, : max(0, end - at)]
            if keep.shape[1]:
                yield _frame(keep, at, rate, layout)
                at += keep.shape[1]
            beyond.append(mixed[:, keep.shape[1] :])
        going = _Going(np.concatenate(beyond, axis=1))


class Over:
    """What cutaways sound like, put over the sound of the clips; asked forwards."""

    def __init__(self, plan: RenderPlan, rate: int, layout: str) -> None:
        self._rate = rate
        self._heard = [
            _Heard(plan, cover, rate, layout)
            for cover in plan.assembled.covers
            if cover.heard
            and isinstance(cover.cutaway.seen, RecordingSeen)
            and cover.cutaway.seen.source_id in plan.recordings
        ]

    def mixed(self, samples: Samples, at: int) -> Samples:
        """Samples of the clips that begin at a sample of the plan, with what is heard over them."""
        made = samples.copy()
        for one in self._heard:
            start, end = max(at, one.start), min(at + samples.shape[1], one.end)
            if start < end:
                made[:, start - at : end - at] += one.samples(start, end)
        return np.clip(made, -1, 1)


class _Heard:
    """The sound of one cutaway, from sample ``start`` to ``end`` of the plan."""

    def __init__(self, plan: RenderPlan, cover: Cover, rate: int, layout: str) -> None:
        seen = cover.cutaway.seen
        assert isinstance(seen, RecordingSeen)
        self.start, self.end = (_samples(us, rate) for us in (cover.start_us, cover.end_us))
        self._cover, self._rate = cover, rate
        recording, from_us = plan.recordings[seen.source_id], cover.seen_us(cover.start_us)
        clip = Clip(seen.source_id, from_us, from_us + cover.end_us - cover.start_us)
        count = self.end - self.start
        self._parts = _blocks(recording, Placed(clip, cover.start_us), count, rate, layout)
        self._left: Samples = np.zeros((1 if layout == "mono" else 2, 0), np.float32)

    def samples(self, start: int, end: int) -> Samples:
        """The next ones, as loud as they are heard."""
        while self._left.shape[1] < end - start:
            self._left = np.concatenate([self._left, next(self._parts)], axis=1)
        found, self._left = self._left[:, : end - start], self._left[:, end - start :]
        return found * self._gain(start, end)

    def _gain(self, start: int, end: int) -> Samples:
        """How loud each sample is: it comes and goes with the picture, never with a click."""
        cutaway = self._cover.cutaway
        at_us = (np.arange(start, end) + 0.5) * (1_000_000 / self._rate)
        comes, goes = (
            max(FADE_US, how.length_us if how else 0) for how in (cutaway.comes, cutaway.goes)
        )
        shares = [(at_us - self._cover.from_us) / comes, (self._cover.to_us - at_us) / goes]
        faded = np.clip(np.minimum(*shares), 0, 1)
        return np.asarray(faded * GAINS[cutaway.sound], np.float32)


class _Going:
    """What of a clip sounds on beyond its end, getting softer as the next one gets louder."""

    def __init__(self, tail: Samples) -> None:
        count = tail.shape[1]
        self._comes = np.arange(1, count + 1, dtype=np.float32) / (count + 1)
        self._tail = tail * (1 - self._comes)

    def under(self, part: Samples) -> Samples:
        """The next samples of what comes, with what goes."""
        count = min(part.shape[1], self._tail.shape[1])
        if not count:
            return part
        mixed = part.copy()
        mixed[:, :count] = part[:, :count] * self._comes[:count] + self._tail[:, :count]
        self._tail, self._comes = self._tail[:, count:], self._comes[count:]
        return mixed


def _samples(us: int, rate: int) -> int:
    return us * rate // 1_000_000


def _blocks(
    recording: Recording, placed: Placed, count: int, rate: int, layout: str
) -> Iterator[Samples]:
    """Exactly ``count`` samples from the clip's start on; silence where the recording has none."""
    channels = 1 if layout == "mono" else 2
    written = 0
    with open_media(recording.heard) as reading:
        first = placed.clip.start_us / 1_000_000 + origin_s(reading)
        stream = reading.streams.audio[recording.audio_track]
        if placed.clip.start_us > LEAD_US:
            reading.seek(placed.clip.start_us - LEAD_US)
        resampler = Resampler("fltp", layout, rate)
        at: int | None = None
        for frame in _decoded(reading, stream):
            if frame.pts is not None and frame.time_base is not None:
                begins = round((float(frame.pts * frame.time_base) - first) * rate)
                if at is None or begins - at > rate // 20:
                    at = begins  # A track that starts late, or has a hole.
            if at is None:
                continue
            for piece in resampler.told(frame):
                samples = np.asarray(piece.to_ndarray(), np.float32).reshape(channels, -1)
                if channels > frame.layout.nb_channels:
                    samples = samples * BOTH_SIDES
                for part in _placed(samples, at - written, count - written):
                    yield part
                    written += part.shape[1]
                at += samples.shape[1]
            if written >= count:
                return
    while written < count:
        step = min(count - written, rate)
        yield np.zeros((channels, step), np.float32)
        written += step


def _placed(samples: Samples, ahead: int, room: int) -> Iterator[Samples]:
    """Samples that begin ``ahead`` of what is written, silence before them, no more than ``room``."""
    if ahead < 0:
        samples, ahead = samples[:, -ahead:], 0
    if ahead and samples.shape[1]:
        quiet = min(ahead, room)
        yield np.zeros((samples.shape[0], quiet), np.float32)
        room -= quiet
    if samples.shape[1] and room > 0:
        yield samples[:, :room]


def _decoded(
    reading: av.container.InputContainer, stream: av.AudioStream
) -> Iterator[av.AudioFrame]:
    for packet in reading.demux(stream):
        yield from decoded_sound(packet)


def _frame(samples: Samples, at: int, rate: int, layout: str) -> av.AudioFrame:
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(samples), format="fltp", layout=layout)
    frame.sample_rate, frame.pts, frame.time_base = rate, at, Fraction(1, rate)
    return frame
