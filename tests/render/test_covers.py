"""Cutaways in what is delivered, in stills and in the preview: the right frames, while the talk goes on."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from pathlib import Path

import av
import cv2
import numpy as np
import pytest

from mortiser import pictures
from mortiser.core.assembly.assembled import Assembled, PartLook
from mortiser.core.assembly.covering import Cover, covers
from mortiser.core.assembly.cutaway import Cutaway, PictureSeen, RecordingSeen
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import FramedStretch, Framing
from mortiser.render.burn import burn
from mortiser.render.plan import Recording, RenderPlan
from mortiser.render.segments import write_segment
from mortiser.render.still import still
from tests.recordings import make_video
from tests.render.test_plan import SECOND, brightness, ready, recording, sound_of

SIZE = (160, 120)
LINE = Timeline([Clip(1, 0, 2 * SECOND)])
"""A talk of two seconds, whose blue grows to 255; what is seen over it lasts four."""


def over(from_s: float, to_s: float, seen: RecordingSeen | PictureSeen, **more) -> Sequence[Cover]:
    during = FramedStretch(
        source_id=1, start_us=round(from_s * SECOND), end_us=round(to_s * SECOND)
    )
    return covers(LINE, [Cutaway(id=1, during=during, seen=seen, **more)])


@pytest.fixture(scope="module")
def talk(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return make_video(tmp_path_factory.mktemp("talk") / "talk.mp4", seconds=2.0)


@pytest.fixture(scope="module")
def other(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return make_video(tmp_path_factory.mktemp("other") / "other.mp4", seconds=4.0)


def plan(talk: Path, other: Path, found: Sequence[Cover]) -> RenderPlan:
    both = {1: recording(talk), 2: recording(other)}
    return RenderPlan(LINE, both, SIZE, rate=Fraction(25), assembled=Assembled(tuple(found)))


def test_other_frames_are_seen_and_the_talk_is_heard(
    talk: Path, other: Path, tmp_path: Path
) -> None:
    found = over(0.6, 1.2, RecordingSeen(source_id=2, from_us=2 * SECOND), speed=2.0)
    burn(plan(talk, other, found), tmp_path / "out.mp4", ready)
    burn(plan(talk, other, ()), tmp_path / "plain.mp4", ready)
    seen = brightness(tmp_path / "out.mp4")
    assert [at for at, _ in seen] == pytest.approx([n / 25 for n in range(50)], abs=0.001)
    own = [255 * n / 50 for n in range(50)]
    cut = [255 * (50 + 2 * (n - 15)) / 100 for n in range(15, 30)]
    assert [blue for _, blue in seen] == pytest.approx([*own[:15], *cut, *own[30:]], abs=5)
    one, other_sound = (sound_of(tmp_path / f"{name}.mp4")[0] for name in ("out", "plain"))
    length = min(len(one), len(other_sound))
    assert np.abs(one[:length] - other_sound[:length]).max() < 0.02


def test_a_still_and_a_part_of_the_preview_show_the_same(
    talk: Path, other: Path, tmp_path: Path
) -> None:
    found = over(0.6, 1.2, RecordingSeen(source_id=2, from_us=2 * SECOND))
    for at, blue in ((0.4, 51), (0.8, 140), (1.4, 178)):
        png = still(plan(talk, other, found), round(at * SECOND))
        pixels = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_COLOR)
        assert pixels[..., 0].mean() == pytest.approx(blue, abs=4)
    part = tuple(one for cover in found if (one := cover.within(SECOND, 2 * SECOND)))
    out = tmp_path / "part.mp4"
    write_segment(
        recording(talk), (SECOND, 2 * SECOND), SIZE, out, Fraction(25),
        look=PartLook(assembled=Assembled(part)), seen={2: recording(other)},
    )  # fmt: skip
    blues = [blue for _, blue in brightness(out)]
    wanted = [255 * (60 + n) / 100 for n in range(5)] + [255 * n / 50 for n in range(30, 50)]
    assert blues == pytest.approx(wanted, abs=5)


def test_beyond_its_end_the_last_frame_stands(talk: Path, other: Path, tmp_path: Path) -> None:
    found = over(0.4, 1.6, RecordingSeen(source_id=2, from_us=38 * SECOND // 10))
    burn(plan(talk, other, found), tmp_path / "out.mp4", ready)
    blues = [blue for _, blue in brightness(tmp_path / "out.mp4")]
    assert blues[20:40] == pytest.approx([255 * 99 / 100] * 20, abs=4)


@pytest.fixture
def picture(tmp_path: Path) -> Iterator[OwnPicture]:
    digest, before = "b" * 32, pictures._folder
    pictures.use_pictures(tmp_path)
    half = np.zeros((61, 81, 4), np.uint8)
    half[..., 3] = 255
    half[:, :40, 2], half[:, 40:, 1] = 220, 180
    (tmp_path / f"{digest}.png").write_bytes(cv2.imencode(".png", half)[1].tobytes())
    yield OwnPicture(digest=digest, name="half.png", width=81, height=61)
    pictures._folder = before


def test_a_picture_fills_the_frame_and_can_be_shown_whole(
    talk: Path, other: Path, picture: OwnPicture
) -> None:
    found = over(0.0, 1.0, PictureSeen(picture=picture))
    png = still(plan(talk, other, found), SECOND // 2)
    seen = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_COLOR).astype(int)
    assert np.abs(seen[60, 20] - (0, 0, 220)).max() < 8
    assert np.abs(seen[60, 140] - (0, 180, 0)).max() < 8
    whole = over(0.0, 1.0, PictureSeen(picture=picture), framing=Framing(zoom=0.5))
    png = still(plan(talk, other, whole), SECOND // 2)
    small = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_COLOR).astype(int)
    assert np.abs(small[60, 60] - (0, 0, 220)).max() < 8
    assert small[60, 5].max() < 150, "the same, soft and dark, behind it"


def test_what_is_gone_leaves_the_talk(talk: Path, other: Path) -> None:
    gone = OwnPicture(digest="c" * 32, width=8, height=8)
    for seen in (PictureSeen(picture=gone), RecordingSeen(source_id=9)):
        png = still(plan(talk, other, over(0.0, 1.0, seen)), SECOND // 2)
        pixels = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_COLOR)
        assert pixels[..., 0].mean() == pytest.approx(255 / 4, abs=4)


def test_colours_stay_though_recordings_hold_them_otherwise(talk: Path, tmp_path: Path) -> None:
    """A file says once how its planes are meant: BT.601 here, since the talk is small."""
    large = tmp_path / "large.mp4"
    with av.open(str(large), "w") as out:
        stream = out.add_stream("libx264", rate=25)
        stream.width, stream.height, stream.pix_fmt = 960, 720, "yuv420p"
        red = np.zeros((720, 960, 3), np.uint8)
        red[...] = 200, 40, 40
        for number in range(10):
            frame = av.VideoFrame.from_ndarray(red, format="rgb24").reformat(
                format="yuv420p", dst_colorspace="itu709"
            )
            frame.pts = number
            out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    found = over(0.6, 1.2, RecordingSeen(source_id=2))
    both = {1: recording(talk), 2: Recording(large, SECOND)}
    burn(
        RenderPlan(LINE, both, SIZE, rate=Fraction(25), assembled=Assembled(tuple(found))),
        tmp_path / "out.mp4",
        ready,
    )
    with av.open(str(tmp_path / "out.mp4")) as reading:
        frames = list(reading.decode(video=0))
    shown = frames[20].to_ndarray(format="rgb24")
    assert np.abs(shown.reshape(-1, 3).mean(axis=0) - (200, 40, 40)).max() < 5


def test_a_still_comes_slowly_nearer(talk: Path, other: Path, tmp_path: Path) -> None:
    """A dark square in the middle of a bright picture grows while it is seen."""
    pixels = np.full((240, 320, 4), 220, np.uint8)
    pixels[80:160, 110:210] = 20
    pixels[..., 3] = 255
    digest, before = "c" * 32, pictures._folder
    pictures.use_pictures(tmp_path)
    cv2.imwrite(str(tmp_path / f"{digest}.png"), pixels)
    seen = PictureSeen(picture=OwnPicture(digest=digest, name="s", width=320, height=240))

    def dark(drift: float, at: float) -> int:
        found = over(0.4, 1.6, seen, drift=drift)
        png = still(plan(talk, other, found), round(at * SECOND))
        shown = cv2.imdecode(np.frombuffer(png, np.uint8), cv2.IMREAD_GRAYSCALE)
        return int((shown < 120).sum())

    try:
        first, middle, last = (dark(0.3, at) for at in (0.44, 1.0, 1.56))
        assert first < middle < last
        assert last / first == pytest.approx(1.3**2, rel=0.1)
        assert dark(-0.3, 0.44) > dark(-0.3, 1.56)
        assert dark(0, 0.44) == dark(0, 1.56)
    finally:
        pictures._folder = before
