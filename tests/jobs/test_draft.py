"""The draft of a recording: small, entered anywhere, and played frame by frame as the recording is."""

from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.jobs.bringing_in import bring_in
from mortiser.jobs.draft import draft_of
from mortiser.settings import Settings
from mortiser.store import jobs, projects
from mortiser.wiring import Shop, open_shop
from tests.recordings import COUNTER, make_video


@pytest.fixture
def shop(tmp_path: Path) -> Shop:
    return open_shop(Settings(workspace=tmp_path / "w"), inline_jobs=True)


def brightness(file: Path) -> list[float]:
    with av.open(str(file)) as reading:
        return [
            float(np.asarray(frame.to_ndarray(format="gray")).mean())
            for frame in reading.decode(video=0)
        ]


def segment(shop: Shop, source_id: int) -> Path:
    row = projects.source_row(shop.database.connection, source_id)
    return shop.segments.file(row, (2_040_000, 3_000_000), (160, 120))


def test_segments_are_the_same_frames_whether_there_is_a_draft_or_not(
    shop: Shop, tmp_path: Path
) -> None:
    file = make_video(tmp_path / "a.mp4", seconds=6.0)
    made = bring_in(shop.database, shop.workspace, file, "a.mp4")
    plain = brightness(segment(shop, made.source_id))
    shop.run(made.jobs[1])
    row = projects.source_row(shop.database.connection, made.source_id)
    draft = draft_of(shop.workspace, row)
    shop.queue.submit_orphans()
    assert draft.exists(), [job["kind"] for job in jobs.of_project(shop.database.connection, 1)]
    segment(shop, made.source_id).unlink()
    drafted = brightness(segment(shop, made.source_id))
    # One frame off would be 0.2 at each of them.
    assert float(np.abs(np.subtract(drafted, plain)).mean()) < 0.08
    assert plain[-1] > plain[0] + 4, "each frame is another one, brighter by 0.2"
    with av.open(str(draft)) as reading:
        keys = [
            number
            for number, packet in enumerate(reading.demux(video=0))
            if packet.is_keyframe and packet.pts is not None
        ]
    assert max(np.diff(keys)) <= 12


def test_a_sound_has_none(shop: Shop, tmp_path: Path) -> None:
    copy = tmp_path / "c.m4a"
    copy.write_bytes(COUNTER.read_bytes())
    made = bring_in(shop.database, shop.workspace, copy, "c.m4a")
    shop.run(made.jobs[1])
    kinds = {job["kind"] for job in jobs.of_project(shop.database.connection, made.project_id)}
    assert "draft" not in kinds
