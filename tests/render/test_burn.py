import random
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import BadMedia
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.scene import NO_CAPTIONS, SceneReader
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from mortiser.media.probe import probe
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, of_one
from tests.recordings import first_loud, frame_pts, make_sound, make_video


def reader(size: tuple[int, int], *spoken: tuple[str, int, int]) -> SceneReader:
    spans = Timeline([Clip(1, 0, 10**9)])
    words = tuple(Shown(t, a * 1000, b * 1000, id=i) for i, (t, a, b) in enumerate(spoken))
    return SceneReader(
        retime([Cue(1, words, 0, 1)], spans, PACES["quick"]),
        FINISHES["Lacquer"],
        size,
        font_book(),
    )


def burn_all(source: Path, out: Path, scene=NO_CAPTIONS) -> None:
    facts = probe(source)
    size = (facts.width & ~1, facts.height & ~1) if facts.width else (108, 192)
    burn(of_one(Recording(source, facts.duration_us), size, scene), out, lambda _: None)


VFR = [0.0, 0.03, 0.04, 0.11, 0.3, 0.33, 0.5, 0.52, 0.8, 0.98, 1.2, 1.5, 1.9]


@pytest.mark.parametrize(
    ("name", "options"),
    [
        ("a.mp4", {}),
        ("a.mp4", {"frame_times": VFR}),
        ("a.mkv", {"audio_codec": "flac"}),
        ("a.webm", {"codec": "libvpx", "audio_codec": "libopus"}),
        ("a.mp4", {"sound_delay": 0.25}),
        ("a.mkv", {"codec": "ffv1", "pixels": "yuv444p", "size": (161, 121)}),
        ("a.mov", {"rotation": 90}),
    ],
    ids=["plain", "variable rate", "flac", "webm", "late sound", "odd size", "turned"],
)
def test_frames_duration_and_sound_stay(tmp_path: Path, name: str, options: dict) -> None:
    source = make_video(tmp_path / name, click_at=0.7, **options)
    out = tmp_path / "out.mp4"
    burn_all(source, out)
    was, now = frame_pts(source), frame_pts(out)
    assert len(now) == len(was)
    assert now == pytest.approx(was, abs=0.0012)
    assert abs(probe(out).duration_us - probe(source).duration_us) <= 40_000
    assert first_loud(out) - first_loud(source) == pytest.approx(0, abs=0.010)
    with av.open(str(out)) as reading:
        assert reading.streams.video[0].codec_context.name == "h264"
        assert reading.streams.audio[0].codec_context.name == "aac"
        frame = next(reading.decode(video=0))
        facts = probe(source)
        assert (frame.width, frame.height) == (facts.width & ~1, facts.height & ~1)


def test_aac_is_copied_bit_by_bit(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mp4")
    burn_all(source, tmp_path / "out.mp4")
    packets = []
    for file in (source, tmp_path / "out.mp4"):
        with av.open(str(file)) as reading:
            packets.append([bytes(p) for p in reading.demux(audio=0) if p.size])
    assert packets[0] == packets[1]


def test_the_index_comes_first(tmp_path: Path) -> None:
    burn_all(make_video(tmp_path / "a.mp4"), tmp_path / "out.mp4")
    data = (tmp_path / "out.mp4").read_bytes()
    assert 0 < data.index(b"moov") < data.index(b"mdat")


def test_the_picture_is_turned_as_players_turn_it(tmp_path: Path) -> None:
    """The pattern brightens to the right (red) and downwards (green) before it is turned."""
    source = make_video(tmp_path / "a.mp4", rotation=90)
    burn_all(source, tmp_path / "out.mp4")
    with av.open(str(source)) as reading:
        frame = next(reading.decode(video=0))
        upright = np.rot90(frame.to_ndarray(format="rgb24"), round(frame.rotation / 90) % 4)
    with av.open(str(tmp_path / "out.mp4")) as reading:
        burned = next(reading.decode(video=0)).to_ndarray(format="rgb24")
    assert np.abs(burned.astype(int) - upright.astype(int)).mean() < 4


def test_captions_show_when_they_are_said_and_nothing_else_changes(tmp_path: Path) -> None:
    size = (320, 240)
    source = make_video(tmp_path / "a.mp4", size=size)
    burn_all(source, tmp_path / "plain.mp4")
    burn_all(source, tmp_path / "out.mp4", reader(size, ("mend", 800, 1200)))
    with av.open(str(tmp_path / "plain.mp4")) as a, av.open(str(tmp_path / "out.mp4")) as b:
        for plain, burned in zip(a.decode(video=0), b.decode(video=0), strict=True):
            first, second = (f.to_ndarray(format="rgb24").astype(int) for f in (plain, burned))
            changed = np.abs(first - second).max(axis=2) > 60
            if 0.9 < plain.time < 1.4:
                assert changed.sum() > 200
                rows = np.nonzero(changed.any(axis=1))[0]
                assert 0.55 * size[1] < rows.mean() < 0.85 * size[1]
            elif not 0.7 < plain.time < 1.8:
                assert changed.sum() == 0


def test_sound_alone_gets_a_plain_picture_of_the_right_colour(tmp_path: Path) -> None:
    source = make_sound(tmp_path / "a.wav", "pcm_s16le", 1.0)
    burn_all(source, tmp_path / "out.mp4")
    with av.open(str(tmp_path / "out.mp4")) as reading:
        frames = list(reading.decode(video=0))
    assert len(frames) == 30
    red, green, blue = frames[10].to_ndarray(format="rgb24").reshape(-1, 3).mean(axis=0)
    assert (red, green, blue) == pytest.approx((46, 60, 64), abs=3)


def test_stopping_and_damage_are_told(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mp4")

    def stop(_: float) -> None:
        raise InterruptedError

    with pytest.raises(InterruptedError):
        burn(of_one(Recording(source, 2_000_000), (160, 120)), tmp_path / "out.mp4", stop)
    broken = tmp_path / "b.mp4"
    broken.write_bytes(source.read_bytes()[:2_000])
    with pytest.raises(BadMedia):
        burn(of_one(Recording(broken, 2_000_000), (160, 120)), tmp_path / "out.mp4", lambda _: None)


@pytest.mark.parametrize("seed", range(4))
@pytest.mark.parametrize("name", ["a.webm", "a.mkv"])
def test_damaged_packets_are_passed_over(tmp_path: Path, name: str, seed: int) -> None:
    options = {"codec": "libvpx", "audio_codec": "libopus"} if name == "a.webm" else {}
    source = make_video(tmp_path / name, **(options or {"audio_codec": "flac"}))
    facts = probe(source)
    data = bytearray(source.read_bytes())
    chance = random.Random(seed)
    for _ in range(20):
        data[chance.randrange(len(data) // 3, len(data) * 3 // 4)] = chance.randrange(256)
    source.write_bytes(data)
    out = tmp_path / "out.mp4"
    burn(of_one(Recording(source, facts.duration_us), (160, 120)), out, lambda _: None)
    assert len(frame_pts(out)) > 5


def test_a_picture_that_changes_its_size_keeps_the_first(tmp_path: Path) -> None:
    def raw(size: tuple[int, int], begins: int) -> list[tuple[bytes, int]]:
        encoder = av.CodecContext.create("mpeg4", "w")
        encoder.width, encoder.height, encoder.pix_fmt = *size, "yuv420p"
        encoder.time_base = Fraction(1, 25)
        packets = []
        for number in range(10):
            frame = av.VideoFrame(*size, "yuv420p")
            frame.pts = begins + number
            packets += [(bytes(p), begins + number) for p in encoder.encode(frame)]
        return packets

    source = tmp_path / "a.mkv"
    with av.open(str(make_video(tmp_path / "sound.mkv", seconds=0.8))) as tones:
        sound = [bytes(p) for p in tones.demux(tones.streams.audio[0]) if p.dts is not None]
        with av.open(str(source), "w") as out:
            picture = out.add_stream("mpeg4", rate=25)
            picture.width, picture.height, picture.pix_fmt = 160, 120, "yuv420p"
            heard = out.add_stream_from_template(tones.streams.audio[0])
            for number, data in enumerate(sound):
                packet = av.Packet(data)
                packet.stream, packet.pts = heard, number * 1024
                packet.dts, packet.time_base = packet.pts, Fraction(1, 48_000)
                out.mux(packet)
            for data, at in raw((160, 120), 0) + raw((320, 240), 10):
                packet = av.Packet(data)
                packet.stream, packet.pts, packet.dts = picture, at, at
                packet.time_base = Fraction(1, 25)
                out.mux(packet)
    burn(of_one(Recording(source, 800_000), (160, 120)), tmp_path / "out.mp4", lambda _: None)
    assert probe(tmp_path / "out.mp4").width == 160
    assert len(frame_pts(tmp_path / "out.mp4")) == 20


def test_a_picture_that_begins_late_stands_from_the_beginning(tmp_path: Path) -> None:
    late = make_video(tmp_path / "a.mp4", seconds=4.0, frame_times=[3 + i / 25 for i in range(25)])
    duration = probe(late).duration_us
    captions = SceneReader(
        [Cue(1, (Shown("We", 500_000, 900_000, id=1),), 500_000, 1_500_000, id=1)],
        FINISHES["Lacquer"], (160, 120), font_book(),
    )  # fmt: skip
    out = tmp_path / "out.mp4"
    burn(of_one(Recording(late, duration), (160, 120), captions), out, lambda _: None)
    times = frame_pts(out)
    assert times[0] == 0
    assert len([at for at in times if 0.5 <= at < 1.5]) >= 10, "the caption shows"
    assert next(at for at in times if at >= 2.99) == pytest.approx(3, abs=0.02)
