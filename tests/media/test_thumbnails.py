from pathlib import Path

import numpy as np
import pytest

from mortiser.core.common.errors import BadMedia
from mortiser.media.thumbnails import EVERY_US, SHORT_SIDE, Thumbnails, make_thumbnails
from tests.recordings import make_sound, make_video


def seen(source: Path, out: Path) -> Thumbnails:
    make_thumbnails(source, out, 2_000_000, lambda _: None)
    return Thumbnails(out)


@pytest.mark.parametrize(
    ("name", "options"),
    [
        ("a.mp4", {}),
        ("a.mp4", {"frame_times": [0.0, 0.04, 0.3, 0.52, 0.98, 1.2, 1.5, 1.9]}),
        ("a.webm", {"codec": "libvpx", "audio_codec": "libopus"}),
    ],
    ids=["plain", "variable rate", "webm"],
)
def test_the_picture_is_that_of_its_moment(tmp_path: Path, name: str, options: dict) -> None:
    thumbnails = seen(make_video(tmp_path / name, **options), tmp_path / "g.mkv")
    times = options.get("frame_times", [n / 25 for n in range(50)])
    # Blue rises with time, red from left to right, whichever order the moments are asked for in.
    for at_s in (1.5, 0.0, 1.0, 0.5):
        picture = thumbnails.at(int(at_s * 1_000_000))
        shows = max(time for time in times if time <= at_s)
        assert picture[..., 2].mean() == pytest.approx(255 * shows / 2, abs=16)
        assert picture[:, -8:, 0].mean() - picture[:, :8, 0].mean() > 200
    assert np.array_equal(thumbnails.at(EVERY_US + 90_000), thumbnails.at(EVERY_US))
    assert thumbnails.at(99_000_000).shape == thumbnails.at(0).shape


def test_pictures_are_small_and_upright(tmp_path: Path) -> None:
    source = make_video(tmp_path / "a.mov", size=(960, 720), rotation=90)
    picture = seen(source, tmp_path / "g.mkv").at(0)
    assert picture.shape == (round(SHORT_SIDE * 4 / 3 / 2) * 2, SHORT_SIDE, 3)


def test_what_has_no_picture_or_ends_early_is_said(tmp_path: Path) -> None:
    with pytest.raises(BadMedia, match="no picture"):
        seen(make_sound(tmp_path / "a.m4a", "aac"), tmp_path / "g.mkv")
    (tmp_path / "b.mp4").write_bytes(b"not a recording")
    with pytest.raises(BadMedia, match="no recording"):
        seen(tmp_path / "b.mp4", tmp_path / "g.mkv")
