import random
from pathlib import Path
from tempfile import TemporaryDirectory

import av
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.media.peaks import FINEST_US, LEVELS, compute_peaks, piece_peaks, save_peaks
from mortiser.media.sound import RATE, read_sound, stream_sound
from tests.recordings import COUNTER, make_video


@pytest.mark.parametrize("delay", [0.0, 0.5])
@pytest.mark.parametrize("name", ["a.mp4", "a.mkv"])
def test_sound_is_heard_at_its_time(tmp_path: Path, name: str, delay: float) -> None:
    video = make_video(tmp_path / name, click_at=0.6, sound_delay=delay)
    sound = np.concatenate(list(stream_sound(video)))
    first = np.nonzero(np.abs(sound) > 0.3)[0][0] / RATE
    assert first == pytest.approx(0.6 + delay, abs=0.012)


def test_the_track_asked_for_is_heard(tmp_path: Path) -> None:
    video = make_video(tmp_path / "a.mkv", tracks=2)
    pitches = []
    for track in (0, 1):
        sound = np.concatenate(list(stream_sound(video, track)))
        spectrum = np.abs(np.fft.rfft(sound[:RATE]))
        pitches.append(int(spectrum.argmax()))
    assert pitches == pytest.approx([300, 500], abs=3)


@given(st.lists(st.integers(1, 400), min_size=1, max_size=12))
def test_peaks_do_not_depend_on_how_the_sound_comes(sizes: list[int]) -> None:
    sound = np.random.default_rng(3).uniform(-1, 1, sum(sizes)).astype(np.float32)
    parts = np.split(sound, np.cumsum(sizes)[:-1])
    for whole, pieces in zip(compute_peaks([sound]), compute_peaks(parts), strict=True):
        assert np.array_equal(whole, pieces)


def test_peaks_at_every_level_have_the_loudest_sample(tmp_path: Path) -> None:
    sound = np.zeros(RATE, np.float32)
    sound[RATE // 2] = -0.8
    levels = compute_peaks([sound])
    save_peaks(tmp_path / "p.npz", levels)
    assert [level.max() for level in levels] == [204] * len(LEVELS)
    files, whole = {1: tmp_path / "p.npz"}, Timeline([Clip(1, 0, 1_000_000)])
    for most in (201, 60, 15, 4):
        start, step, found = piece_peaks(files, whole, 0, 1_000_000, most)
        assert len(found) <= max(most, 4)
        loud = start + step * int(found.argmax())
        assert loud <= 500_000 < loud + step
    assert piece_peaks(files, whole, 100_000, 110_000, 50)[1] == FINEST_US


@given(
    st.lists(st.tuples(st.integers(0, 900), st.integers(1, 100)), min_size=1, max_size=8),
    st.integers(0, 700),
    st.sampled_from((4, 20, 200)),
)
def test_peaks_of_a_cut_piece_are_those_of_what_plays(
    stretches: list[tuple[int, int]], from_ms: int, most: int
) -> None:
    """Every bin is between the loudest moment that plays in it and what lies a bin around that."""
    loud = np.random.default_rng(5).uniform(0, 1, 1_000).astype(np.float32)
    sound = np.repeat(loud, RATE // 1_000)
    clips = [Clip(1, start * 1_000, (start + length) * 1_000) for start, length in stretches]
    timeline = Timeline(clips)
    plays = [at for start, length in stretches for at in range(start, min(1_000, start + length))]
    with TemporaryDirectory() as folder:
        file = Path(folder) / "p.npz"
        save_peaks(file, compute_peaks([sound]))
        start_us, step_us, found = piece_peaks(
            {1: file}, timeline, from_ms * 1_000, from_ms * 1_000 + 300_000, most
        )
    step = step_us // 1_000
    for number, value in enumerate(found):
        first = start_us // 1_000 + number * step
        inside = plays[first : first + step]
        near = {at for here in inside for at in range(here - step, here + step + 1)}
        most_near = max((loud[at] for at in near if 0 <= at < 1_000), default=0)
        assert round(255 * max((loud[at] for at in inside), default=0)) <= value
        assert value <= round(255 * most_near)


@pytest.mark.parametrize("name", ["a.mp4", "a.mkv"])
@pytest.mark.parametrize("stretch", [(0, 400_000), (350_000, 1_250_000), (1_500_000, 2_600_000)])
def test_a_stretch_is_the_same_sound_as_in_the_whole(
    tmp_path: Path, name: str, stretch: tuple[int, int]
) -> None:
    video = make_video(tmp_path / name, click_at=0.6, seconds=2.0)
    whole = np.concatenate(list(stream_sound(video)))
    start, end = stretch
    part = read_sound(video, start, end)
    assert len(part) == (end - start) * RATE // 1_000_000
    first = start * RATE // 1_000_000
    expected = whole[first : first + len(part)]
    assert np.abs(part[: len(expected)] - expected).max() < 0.05


@pytest.mark.parametrize("seed", range(8))
def test_damage_in_the_middle_is_passed_over(tmp_path: Path, seed: int) -> None:
    """Decoders call it by many names, no permission among them."""
    data = bytearray(COUNTER.read_bytes())
    chance = random.Random(seed)
    for _ in range(400):
        data[chance.randrange(4_000, len(data) - 20_000)] = chance.randrange(256)
    harmed = tmp_path / "harmed.m4a"
    harmed.write_bytes(data)
    heard = sum(len(samples) for samples in stream_sound(harmed))
    whole = sum(len(samples) for samples in stream_sound(COUNTER))
    assert heard > 0.5 * whole


def test_sound_whose_form_changes_is_heard_on(tmp_path: Path) -> None:
    parts = []
    for rate in (44_100, 22_050):
        part = tmp_path / f"{rate}.mp3"
        with av.open(str(part), "w") as out:
            stream = out.add_stream("mp3", rate=rate, layout="mono")
            for start in range(0, rate, 1_152):
                frame = av.AudioFrame(format="fltp", layout="mono", samples=1_152)
                frame.sample_rate, frame.pts = rate, start
                out.mux(stream.encode(frame))
            out.mux(stream.encode(None))
        parts.append(part.read_bytes())
    both = tmp_path / "both.mp3"
    both.write_bytes(b"".join(parts))
    heard = sum(len(samples) for samples in stream_sound(both))
    assert heard > 1.8 * RATE
    assert len(read_sound(both, 500_000, 1_500_000)) == RATE
