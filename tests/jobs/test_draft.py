"""The draft of a recording: small, entered anywhere, and played frame by frame as the recording is."""

from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.jobs.draft import draft_of
from mortiser.jobs.ingest import bring_in
from mortiser.settings import Settings
from mortiser.store import jobs, projects
from mortiser.wiring import AppContext, open_context
from tests.recordings import COUNTER, make_video


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    return open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)


def brightness(file: Path) -> list[float]:
    with av.open(str(file)) as reading:
        return [
            float(np.asarray(frame.to_ndarray(format="gray")).mean())
            for frame in reading.decode(video=0)
        ]


def segment(context: AppContext, source_id: int) -> Path:
    row = projects.read_source(context.database.connection, source_id)
    return context.segments.file(row, (2_040_000, 3_000_000), (160, 120))


def test_segments_are_the_same_frames_whether_there_is_a_draft_or_not(
    context: AppContext, tmp_path: Path
) -> None:
    file = make_video(tmp_path / "a.mp4", seconds=6.0)
    made = bring_in(context.database, context.workspace, file, "a.mp4")
    plain = brightness(segment(context, made.source_id))
    context.run(made.jobs[1])
    row = projects.read_source(context.database.connection, made.source_id)
    draft = draft_of(context.workspace, row)
    context.queue.submit_orphans()
    assert draft.exists(), [job.kind for job in jobs.of_project(context.database.connection, 1)]
    segment(context, made.source_id).unlink()
    drafted = brightness(segment(context, made.source_id))
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


def test_a_sound_has_none(context: AppContext, tmp_path: Path) -> None:
    copy = tmp_path / "c.m4a"
    copy.write_bytes(COUNTER.read_bytes())
    made = bring_in(context.database, context.workspace, copy, "c.m4a")
    context.run(made.jobs[1])
    kinds = {job.kind for job in jobs.of_project(context.database.connection, made.project_id)}
    assert "draft" not in kinds
