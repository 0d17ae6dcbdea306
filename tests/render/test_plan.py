"""Plans of several clips, and recordings as they really are."""

from dataclasses import replace
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import ClipFraming
from mortiser.core.framing.shape import Backdrop
from mortiser.media.probe import probe
from mortiser.render.ahead import ahead
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, RenderPlan, of_one
from mortiser.render.still import still
from tests.recordings import first_loud, frame_pts, make_sound, make_video
from tests.render.test_burn import reader

SECOND = 1_000_000
FRAME = SECOND // 25


def ready(*_: float) -> None:
    """Nobody looks at the progress."""


def recording(path: Path, track: int = 0) -> Recording:
    return Recording(path, probe(path).duration_us, track)


def brightness(file: Path) -> list[tuple[float, float]]:
    """(time, mean of blue) of each frame: in test recordings it grows with the recording's own time."""
    with av.open(str(file)) as reading:
        return [
            (float(f.pts * f.time_base), f.to_ndarray(format="rgb24")[..., 2].mean())
            for f in reading.decode(video=0)
        ]


def sound_of(file: Path) -> tuple[np.ndarray, int]:
    with av.open(str(file)) as reading:
        parts = [(f.to_ndarray(), f.pts) for f in reading.decode(audio=0)]
        rate = reading.streams.audio[0].sample_rate
    first = min(at for _, at in parts)
    return np.concatenate([p for p, _ in parts], axis=1)[0][-first if first < 0 else 0 :], rate


def test_clips_out_of_order_show_and_sound_what_was_kept(tmp_path: Path) -> None:
    one = make_video(tmp_path / "a.mp4", seconds=4.0, click_at=3.1)
    two = make_video(tmp_path / "b.mkv", seconds=2.0, click_at=0.5, audio_codec="flac")
    clips = [
        Clip(1, 3 * SECOND, 3 * SECOND + 20 * FRAME),
        Clip(2, 10 * FRAME, 30 * FRAME),
        Clip(1, 0, 25 * FRAME),
    ]
    plan = RenderPlan(
        Timeline(clips),
        {1: recording(one), 2: recording(two)},
        (160, 120),
        rate=Fraction(25),
    )
    out = tmp_path / "out.mp4"
    burn(plan, out, ready)
    seen = brightness(out)
    assert len(seen) == 65
    assert [at for at, _ in seen] == pytest.approx([n / 25 for n in range(65)], abs=0.001)
    kept = [75 + n for n in range(20)] + [10 + n for n in range(20)] + list(range(25))
    lasts = [100] * 20 + [50] * 20 + [100] * 25
    wanted = [255 * number / count for number, count in zip(kept, lasts, strict=True)]
    assert [blue for _, blue in seen] == pytest.approx(wanted, abs=4)
    heard, rate = sound_of(out)
    loud = np.nonzero(np.abs(heard) > 0.3)[0] / rate
    starts = [loud[0], *(b for a, b in pairwise(loud) if b - a > 0.05)]
    assert starts == pytest.approx([0.1, 0.8 + 0.1], abs=0.005)


def test_microseconds_over_the_last_frame_are_no_frame_more(tmp_path: Path) -> None:
    source = recording(make_video(tmp_path / "a.mp4", seconds=2.0))
    clips = [Clip(1, 0, 10 * FRAME + 2), Clip(1, 20 * FRAME - 1, 30 * FRAME)]
    out = tmp_path / "out.mp4"
    burn(RenderPlan(Timeline(clips), {1: source}, (160, 120), rate=Fraction(25)), out, ready)
    assert len(brightness(out)) == 20


def test_cuts_make_no_step_in_the_sound(tmp_path: Path) -> None:
    source = recording(make_sound(tmp_path / "a.wav", "pcm_s16le", 3.0))
    clips = [Clip(1, n * 433_000, n * 433_000 + 211_300) for n in range(6)]
    plan = RenderPlan(Timeline(clips), {1: source}, (160, 120))
    out = tmp_path / "out.mp4"
    burn(plan, out, ready)
    heard, _ = sound_of(out)
    # A tone of 440 Hz at 0.4 changes by 0.023 from sample to sample at most.
    assert np.abs(np.diff(heard[2_000:-2_000])).max() < 0.035


def test_the_chosen_track_is_heard(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mkv", tracks=4)
    for track, pitch in ((0, 300), (2, 700)):
        out = tmp_path / f"{track}.mp4"
        burn(of_one(recording(source, track), (160, 120)), out, ready)
        heard, rate = sound_of(out)
        spectrum = np.abs(np.fft.rfft(heard[: rate // 2]))
        assert spectrum.argmax() * 2 == pytest.approx(pitch, abs=6)


@pytest.mark.parametrize("rate", [6_000, 10_000, 24_000, 37_800])
def test_any_sample_rate_is_heard_in_time(tmp_path: Path, rate: int) -> None:
    source = tmp_path / ("a.mp3" if rate == 24_000 else "a.wav")
    at = np.arange(2 * rate) / rate
    click = np.where((at >= 1.0) & (at < 1.03), 0.9, 0.0).astype(np.float32)
    with av.open(str(source), "w") as out:
        stream = out.add_stream("mp3" if rate == 24_000 else "pcm_s16le", rate=rate, layout="mono")
        resampler = av.AudioResampler(format=stream.codec_context.format, layout="mono", rate=rate)
        for start in range(0, len(click), 1152):
            frame = av.AudioFrame.from_ndarray(click[None, start : start + 1152], "fltp", "mono")
            frame.sample_rate, frame.pts, frame.time_base = rate, start, Fraction(1, rate)
            for part in resampler.resample(frame):
                out.mux(stream.encode(part))
        out.mux(stream.encode(None))
    burn(of_one(recording(source), (108, 192)), tmp_path / "out.mp4", ready)
    assert first_loud(tmp_path / "out.mp4") == pytest.approx(1.0, abs=0.012)


def test_captions_appear_when_they_are_due_over_a_picture_that_rests(tmp_path: Path) -> None:
    size = (320, 240)
    source = make_video(tmp_path / "a.mp4", seconds=4.0, size=size, frame_times=[0.0])
    captions = reader(size, ("mend", 1500, 2000))
    out = tmp_path / "out.mp4"
    burn(of_one(recording(source), size, captions), out, ready)
    (cue,) = captions.at(1_700_000)
    with av.open(str(out)) as reading:
        seen = [
            (float(f.pts * f.time_base), f.to_ndarray(format="rgb24").astype(int))
            for f in reading.decode(video=0)
        ]
    plain = seen[0][1]
    shown = [at for at, picture in seen if np.abs(picture - plain).max() > 60]
    assert shown[0] == pytest.approx(cue.start_us / SECOND, abs=0.05)
    assert max(b - a for a, b in pairwise(shown)) < 0.04
    after = [at for at, _ in seen if at > shown[-1]]
    assert after
    assert after[0] == pytest.approx(cue.end_us / SECOND, abs=0.05)


def test_sound_may_last_longer_than_the_picture(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mp4", seconds=4.0, frame_times=[n / 25 for n in range(50)])
    size = (320, 240)
    out = tmp_path / "out.mp4"
    burn(of_one(recording(source), size, reader(size, ("late", 3000, 3500))), out, ready)
    assert abs(probe(out).duration_us - probe(source).duration_us) < 60_000
    assert frame_pts(out)[-1] > 3.0


def test_a_few_damaged_bytes_do_not_stop_a_delivery(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mp4", seconds=4.0)
    facts = probe(source)
    data = bytearray(source.read_bytes())
    with av.open(str(source)) as reading:
        places = [p.pos for p in reading.demux(video=0) if p.pos and p.size > 40]
    for place in places[40:44]:
        data[place + 4 : place + 12] = b"\xff" * 8
    source.write_bytes(data)
    out = tmp_path / "out.mp4"
    burn(of_one(Recording(source, facts.duration_us), (160, 120)), out, ready)
    assert len(frame_pts(out)) > 60


def test_frames_that_cannot_be_read_at_all_are_told(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mp4", seconds=4.0)
    data = bytearray(source.read_bytes())
    with av.open(str(source)) as reading:
        packets = [(p.pos, p.size, p.pts * p.time_base) for p in reading.demux(video=0) if p.size]
    lost = packets[50:53]
    for place, size, _ in lost:
        data[place : place + size] = b"\xff" * size
    source.write_bytes(data)
    told: list[int] = []
    whole = Recording(source, 4_000_000, damaged=told.append)
    burn(of_one(whole, (160, 120)), tmp_path / "out.mp4", ready)
    assert {round(float(at) * 1e6) for _, _, at in lost} & set(told)
    assert len(frame_pts(tmp_path / "out.mp4")) > 90


def test_pixels_that_are_not_square_are_seen_as_they_were_meant(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mkv", size=(160, 120), shape=Fraction(4, 3))
    facts = probe(source)
    assert (facts.width, facts.height) == (214, 120)
    out = tmp_path / "out.mp4"
    burn(of_one(recording(source), (214, 120)), out, ready)
    assert probe(out).width == 214


def test_another_shape_stands_whole_on_the_backdrop(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mp4", size=(320, 120))
    out = tmp_path / "out.mp4"
    plain = ClipFraming(backdrop=Backdrop(kind="colour"))
    plan = replace(of_one(recording(source), (160, 160)), framings=[plain])
    burn(plan, out, ready)
    with av.open(str(out)) as reading:
        picture = next(reading.decode(video=0)).to_ndarray(format="rgb24").astype(int)
    assert picture[10, 80] == pytest.approx((46, 60, 64), abs=4)
    assert picture[80, 150, 0] > picture[80, 10, 0] + 150


def test_a_still_is_the_frame_that_plays_then(tmp_path: Path) -> None:
    one = recording(make_video(tmp_path / "a.mp4", seconds=4.0))
    clips = [Clip(1, 2 * SECOND, 3 * SECOND), Clip(1, 0, SECOND)]
    plan = RenderPlan(Timeline(clips), {1: one}, (160, 120))
    for at_us, own in ((500_000, 2.5), (1_500_000, 0.5), (9 * SECOND, 0.96)):
        picture = tmp_path / "still.png"
        picture.write_bytes(still(plan, at_us))
        with av.open(str(picture)) as reading:
            blue = next(reading.decode(video=0)).to_ndarray(format="rgb24")[..., 2].mean()
        assert blue == pytest.approx(255 * own / 4, abs=4)


def test_steps_go_ahead_and_stop_when_nobody_waits() -> None:
    closed = []

    def numbers():
        try:
            yield from range(1_000)
        finally:
            closed.append(True)

    going = ahead(numbers(), 3)
    assert [next(going) for _ in range(5)] == list(range(5))
    going.close()
    assert closed == [True]

    def failing():
        yield 1
        raise KeyError("gone")

    found = ahead(failing())
    assert next(found) == 1
    with pytest.raises(KeyError):
        next(found)


def test_no_pixel_of_a_still_has_a_colour_of_its_own(tmp_path: Path) -> None:
    one = recording(make_video(tmp_path / "a.mp4", seconds=0.4, size=(1080, 1080)))
    plan = of_one(one, (1080, 1080))
    for _ in range(4):
        file = tmp_path / "still.png"
        file.write_bytes(still(plan, 0))
        with av.open(str(file)) as reading:
            rgb = next(reading.decode(video=0)).to_ndarray(format="rgb24").astype(int)
        assert np.abs(np.diff(rgb, axis=0)).max() < 40, "what is alike from row to row stays so"


def test_sound_alone_is_shown_on_its_backdrop(tmp_path: Path) -> None:
    one = recording(make_sound(tmp_path / "a.m4a", "aac"))
    red, blue = (200, 30, 30, 255), (20, 30, 210, 255)
    backdrop = Backdrop(kind="gradient", first=red, last=blue)
    plan = replace(of_one(one, (160, 240)), framings=[ClipFraming(backdrop=backdrop)])
    out = tmp_path / "out.mp4"
    burn(plan, out, ready)
    with av.open(str(out)) as reading:
        frame = next(reading.decode(video=0))
        rgb = (
            frame.reformat(format="rgb24", src_colorspace=frame.colorspace).to_ndarray().astype(int)
        )
    assert rgb[2, 80] == pytest.approx(red[:3], abs=12)
    assert rgb[-3, 80] == pytest.approx(blue[:3], abs=12)


@pytest.mark.parametrize(("size", "space"), [((1280, 720), 1), ((320, 240), 5)])
def test_a_smaller_copy_says_what_its_colours_are(
    tmp_path: Path, size: tuple[int, int], space: int
) -> None:
    one = recording(make_video(tmp_path / "a.mp4", seconds=0.4, size=size))
    out = tmp_path / "small.mp4"
    burn(of_one(one, (160, 90)), out, ready)
    with av.open(str(out)) as reading:
        assert next(reading.decode(video=0)).colorspace == space, "BT.709 is 1, BT.601 is 5"
