"""The sound of a plan: clips one behind another, each cut over into the next."""

from __future__ import annotations

from collections.abc import Iterator
from fractions import Fraction

import av
import numpy as np
import numpy.typing as npt

from mortiser.core.editing.timeline import Placed
from mortiser.media.forms import SoundForm
from mortiser.media.frames import Resampler, decoded_sound
from mortiser.media.opening import codec_name, open_media, origin_s
from mortiser.render.plan import Recording, RenderPlan

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
