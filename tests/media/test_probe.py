import threading
from fractions import Fraction
from http.server import BaseHTTPRequestHandler, HTTPServer
from pathlib import Path
from struct import pack

import av
import pytest

from mortiser.core.common.errors import BadMedia, NoSpace
from mortiser.media import probe as probing
from mortiser.media.forms import AAC, OPUS
from mortiser.media.opening import limit_pixels, reason
from mortiser.media.picture import POSTER, save_poster
from mortiser.media.probe import probe
from tests.recordings import KETTLE, frame_pts, make_sound, make_video


@pytest.mark.parametrize(
    ("name", "codec", "audio", "playable"),
    [
        ("a.mp4", "libx264", "aac", True),
        ("a.mov", "libx264", "aac", True),
        ("a.webm", "libvpx", "libopus", True),
        ("a.mkv", "libx264", "flac", True),
        ("a.mkv", "ffv1", "mp3", False),
    ],
)
def test_what_a_video_is(tmp_path: Path, name: str, codec: str, audio: str, playable: bool) -> None:
    facts = probe(make_video(tmp_path / name, codec=codec, audio_codec=audio))
    assert facts.kind == "video"
    assert (facts.width, facts.height) == (160, 120)
    assert abs(facts.duration_us - 2_000_000) < 120_000
    assert len(facts.frame_pts_us) == 50
    assert facts.frame_rate == pytest.approx(25, abs=0.1)
    assert not facts.variable_rate
    assert facts.playable is playable


@pytest.mark.parametrize(
    ("name", "codec"),
    [
        ("a.wav", "pcm_s16le"),
        ("a.mp3", "mp3"),
        ("a.m4a", "aac"),
        ("a.ogg", "libopus"),
        ("a.flac", "flac"),
    ],
)
def test_what_a_sound_is(tmp_path: Path, name: str, codec: str) -> None:
    facts = probe(make_sound(tmp_path / name, codec))
    assert (facts.kind, facts.width, facts.frame_pts_us) == ("audio", 0, ())
    assert abs(facts.duration_us - 1_500_000) < 80_000
    assert facts.playable


def test_the_name_does_not_matter(tmp_path: Path) -> None:
    video = make_video(tmp_path / "real.mp4").rename(tmp_path / "holiday.txt")
    assert probe(video).kind == "video"


def test_a_turned_phone_video_is_upright(tmp_path: Path) -> None:
    facts = probe(make_video(tmp_path / "a.mp4", size=(160, 120), rotation=90))
    assert facts.rotation in (90, 270)
    assert (facts.width, facts.height) == (120, 160)


def test_a_variable_rate_is_noticed_and_its_times_kept(tmp_path: Path) -> None:
    times = [0.0, 0.02, 0.07, 0.1, 0.2, 0.21, 0.4, 0.9]
    video = make_video(tmp_path / "a.mp4", seconds=1.0, frame_times=times)
    facts = probe(video)
    assert facts.variable_rate
    assert [us / 1e6 for us in facts.frame_pts_us] == pytest.approx(frame_pts(video), abs=1e-6)
    assert [us / 1e6 for us in facts.frame_pts_us] == pytest.approx(times, abs=1e-4)


def test_several_sound_tracks_and_odd_sizes(tmp_path: Path) -> None:
    facts = probe(make_video(tmp_path / "a.mkv", tracks=3))
    assert facts.audio_tracks == 3
    odd = probe(make_video(tmp_path / "b.mkv", size=(161, 121), codec="ffv1", pixels="yuv444p"))
    assert (odd.width, odd.height, odd.playable) == (161, 121, False)


def test_no_sound_is_said(tmp_path: Path) -> None:
    with pytest.raises(BadMedia, match="no sound"):
        probe(make_video(tmp_path / "a.mp4", tracks=0))


@pytest.mark.parametrize("share", [0.3, 0.7, 0.95])
def test_a_cut_off_file_is_said(tmp_path: Path, share: float) -> None:
    whole = KETTLE.read_bytes()
    cut = tmp_path / "cut.mp4"
    cut.write_bytes(whole[: int(len(whole) * share)])
    with pytest.raises(BadMedia, match="cut off"):
        probe(cut)


@pytest.mark.parametrize(
    "data",
    [
        b"hello, this is a letter",
        b"\x00" * 5_000,
        b"\x89PNG\r\n\x1a\n" + b"\x00" * 200,
        KETTLE.read_bytes()[:40],
    ],
    ids=["text", "zeros", "picture", "header only"],
)
def test_what_is_no_recording_is_refused(tmp_path: Path, data: bytes) -> None:
    file = tmp_path / "a.mp4"
    file.write_bytes(data)
    with pytest.raises(BadMedia, match="Bring in MP4"):
        probe(file)


def test_references_to_other_files_and_hosts_are_not_followed(tmp_path: Path) -> None:
    asked: list[str] = []

    class Trap(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            asked.append(self.path)
            self.send_error(404)

        def log_message(self, *_: object) -> None:
            pass

    server = HTTPServer(("127.0.0.1", 0), Trap)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    host = f"http://127.0.0.1:{server.server_port}"
    secret = make_video(tmp_path / "secret.mp4")
    crafted = {
        "list.m3u8": f"#EXTM3U\n#EXT-X-TARGETDURATION:5\n#EXTINF:5,\n{host}/a.ts\n#EXT-X-ENDLIST\n",
        "near.m3u8": f"#EXTM3U\n#EXT-X-TARGETDURATION:5\n#EXTINF:5,\nfile://{secret}\n#EXT-X-ENDLIST\n",
        "list.ffconcat": f"ffconcat version 1.0\nfile {secret}\n",
        "list.sdp": "v=0\nc=IN IP4 127.0.0.1\nm=video 9 RTP/AVP 96\na=rtpmap:96 H264/90000\n",
        "list.mpd": '<?xml version="1.0"?><MPD xmlns="urn:mpeg:dash:schema:mpd:2011">'
        f"<BaseURL>{host}/</BaseURL></MPD>",
    }
    for name, text in crafted.items():
        file = tmp_path / name
        file.write_text(text)
        with pytest.raises(BadMedia):
            probe(file)
        disguised = file.rename(tmp_path / f"{name}.mp4")
        with pytest.raises(BadMedia):
            probe(disguised)
    server.shutdown()
    assert asked == []


def test_a_poster_is_upright(tmp_path: Path) -> None:
    video = make_video(tmp_path / "a.mp4", rotation=90)
    save_poster(video, tmp_path / "p.jpg", 0.5)
    facts = frame_size(tmp_path / "p.jpg")
    assert facts == (360, 480)


def frame_size(path: Path) -> tuple[int, int]:
    import av

    with av.open(str(path)) as image:
        frame = next(image.decode(video=0))
        return frame.width, frame.height


@pytest.mark.parametrize("size", [(16, 16), (18, 640), (854, 480), (2000, 16), (16, 2000)])
def test_odd_shapes_get_a_poster(tmp_path: Path, size: tuple[int, int]) -> None:
    video = make_video(tmp_path / "a.mp4", seconds=0.2, size=size)
    assert (probe(video).width, probe(video).height) == size
    save_poster(video, tmp_path / "poster.jpg", 0.1)
    with av.open(str(tmp_path / "poster.jpg")) as poster:
        picture = poster.streams.video[0]
        assert 2 <= picture.width <= POSTER[0]
        assert 2 <= picture.height <= POSTER[1]


def few_frames(path: Path, size: tuple[int, int], codec: str = "libx264") -> Path:
    """A recording with the simplest picture of a size: a small file, however large."""
    pixels = "yuvj420p" if codec == "mjpeg" else "yuv420p"
    return make_video(
        path, seconds=0.1, frame_times=[0.0, 0.04], size=size, codec=codec, pixels=pixels
    )


@pytest.mark.parametrize(
    ("size", "codec", "says"),
    [
        ((1, 1), "ffv1", "Captions need sides from 16"),
        ((8, 640), "libx264", "Captions need sides from 16"),
        ((16000, 16), "libx264", "to 8192 pixels"),
        ((9000, 5000), "mjpeg", "more than 36 million"),
    ],
)
def test_pictures_beyond_use_are_refused_undecoded(
    tmp_path: Path, size: tuple[int, int], codec: str, says: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    video = few_frames(tmp_path / "a.mkv", size, codec)
    monkeypatch.setattr(probing, "_first_frame", None)
    with pytest.raises(BadMedia, match=says):
        probe(video)


def test_the_most_pixels_are_a_setting(tmp_path: Path) -> None:
    video = make_video(tmp_path / "a.mp4", size=(160, 120))
    limit_pixels(160 * 120 - 1)
    try:
        with pytest.raises(BadMedia, match="MORTISER_MOST_PIXELS"):
            probe(video)
    finally:
        limit_pixels(36_000_000)
    assert probe(video).width == 160


def test_a_full_disk_while_the_poster_is_written_is_said(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    video = make_video(tmp_path / "a.mp4")
    with pytest.raises(NoSpace, match="free some space"):
        save_poster(video, Path("/dev/full"), 0.1)


def test_what_counts_is_how_large_a_picture_is_shown(tmp_path: Path) -> None:
    wide = make_video(tmp_path / "a.mp4", size=(36, 36), shape=Fraction(4, 3))
    data = wide.read_bytes()
    wide.write_bytes(data.replace(b"pasp" + pack(">II", 4, 3), b"pasp" + pack(">II", 1000, 1)))
    with pytest.raises(
        BadMedia, match=r"36 × 36 pixels, shown as 36000 × 36\. Captions need sides"
    ):
        probe(wide)
    facts = probe(make_video(tmp_path / "b.mp4", size=(160, 120), shape=Fraction(4, 3)))
    assert (facts.width, facts.height) == (214, 120)


@pytest.mark.parametrize("rate", [192_000, 384_000])
def test_sound_of_very_many_samples_is_taken_and_encoded(rate: int) -> None:
    assert AAC.rate_for(rate) == 48_000
    assert OPUS.rate_for(rate) == 48_000
    assert AAC.rate_for(44_100) == 44_100


def test_what_no_caption_fits_is_refused_at_the_gate(tmp_path: Path) -> None:
    with pytest.raises(BadMedia, match=r"lasts 0\.\d+ s: too short"):
        probe(make_video(tmp_path / "a.mp4", seconds=0.09))
    with pytest.raises(BadMedia, match="times as long as it is wide"):
        probe(make_video(tmp_path / "b.mp4", size=(16, 8_192), seconds=0.5))
    sound = make_sound(tmp_path / "c.wav", "pcm_s16le")
    data = bytearray(sound.read_bytes())
    at = data.index(b"fmt ") + 12
    data[at : at + 4] = (2**31 - 1).to_bytes(4, "little")
    sound.write_bytes(data)
    with pytest.raises(BadMedia, match="2,147,483,647 samples a second"):
        probe(sound)


def test_words_of_the_system_are_not_told() -> None:
    assert reason(av.error.PermissionError(1, "Operation not permitted")) == ""
    assert reason(av.error.InvalidDataError(-1094995529, "Invalid data found")) != ""
