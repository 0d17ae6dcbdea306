"""A video is kept to a size: as large as allowed, never larger, and left alone where it is smaller anyway."""

from pathlib import Path

import av
import pytest

from mortiser.core.common.errors import BadInput
from mortiser.core.project.output import MB, VideoFile
from mortiser.media.probe import probe
from mortiser.outputs import OUTPUTS
from tests.outputs.test_making import order
from tests.recordings import frame_pts, small_demo

SECONDS = 5.0


@pytest.fixture(scope="module")
def talk(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return small_demo(tmp_path_factory.mktemp("r") / "talk.mp4", SECONDS)


def size_of(folder: Path, talk: Path, output: VideoFile) -> tuple[int, Path]:
    wanted = order(talk, output, length_us=probe(talk).duration_us, rate=30.0)
    (part,) = wanted.parts()
    out = folder / part.name
    told: list[float] = []
    OUTPUTS["video"].make(wanted, part, out, Path, told.append)
    OUTPUTS["video"].verify(wanted, part, out, Path)
    assert told == sorted(told)
    return out.stat().st_size, out


@pytest.mark.parametrize("form", ["h264", "h265", "mkv"])
def test_it_is_as_large_as_allowed_to_within_two_hundredths(
    tmp_path: Path, talk: Path, form: str
) -> None:
    free, _ = size_of(tmp_path, talk, VideoFile(form=form, quality="fine", lines=360))
    most = round(free * 0.6 / MB, 4)
    kept, out = size_of(
        tmp_path, talk, VideoFile(form=form, quality="fine", lines=360, most_mb=most)
    )
    assert 0.98 * most * MB <= kept <= most * MB
    with av.open(str(out)) as reading:
        assert sum(1 for _ in reading.decode(video=0)) == len(frame_pts(talk))


def test_what_is_smaller_anyway_stays_as_its_quality_makes_it(tmp_path: Path, talk: Path) -> None:
    free, _ = size_of(tmp_path, talk, VideoFile())
    kept, _ = size_of(tmp_path, talk, VideoFile(most_mb=50))
    assert kept == free


def test_too_small_a_size_is_refused_with_what_is_needed(tmp_path: Path, talk: Path) -> None:
    assert VideoFile(most_mb=1).too_small_for(3_600 * 1_000_000) == 99.0
    assert VideoFile(most_mb=100).too_small_for(3_600 * 1_000_000) is None
    with pytest.raises(BadInput, match="sound alone fills"):
        size_of(tmp_path, talk, VideoFile(most_mb=0.05))


@pytest.mark.parametrize("form", ["vp9", "av1", "prores", "gif", "overlay"])
def test_other_forms_say_that_they_cannot(form: str) -> None:
    with pytest.raises(ValueError, match="cannot be kept to a size"):
        VideoFile(form=form, most_mb=5)
