"""Segments for the preview: made once, refused where they are none, kept within bounds."""

import threading
from pathlib import Path

import pytest

from mortiser.core.common.errors import BadInput
from mortiser.core.project.source import Source
from mortiser.jobs import segments
from mortiser.jobs.ingest import bring_in
from mortiser.settings import Settings
from mortiser.store import projects
from mortiser.wiring import AppContext, open_context
from tests.recordings import make_video

SECOND = 1_000_000


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    return open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)


@pytest.fixture
def source(context: AppContext, tmp_path: Path) -> Source:
    file = make_video(tmp_path / "a.mp4", seconds=5.0)
    made = bring_in(context.database, context.workspace, file, "a.mp4")
    return projects.read_source(context.database.connection, made.source_id)


def test_many_who_ask_get_one_file(
    context: AppContext, source: Source, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = []
    write = segments.write_segment

    def counted(*args: object, **more: object) -> None:
        made.append(args)
        write(*args, **more)  # type: ignore[arg-type]

    monkeypatch.setattr(segments, "write_segment", counted)
    found: list[Path] = []
    threads = [
        threading.Thread(
            target=lambda: found.append(context.segments.file(source, (0, 2 * SECOND), (160, 120)))
        )
        for _ in range(4)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len(set(found)) == 1
    assert len(found) == 4
    assert len(made) == 1
    assert [file.suffix for file in found[0].parent.iterdir()] == [".mp4"]


@pytest.mark.parametrize("stretch", [(0, 3 * SECOND), (4 * SECOND, 6 * SECOND), (SECOND, SECOND)])
def test_what_is_no_stretch_is_refused(
    context: AppContext, source: Source, stretch: tuple[int, int]
) -> None:
    with pytest.raises(BadInput, match="two seconds"):
        context.segments.file(source, stretch, (160, 120))


def test_those_used_longest_ago_go_first(
    context: AppContext, source: Source, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = context.segments.file(source, (0, 2 * SECOND), (160, 120))
    monkeypatch.setattr(segments, "MOST_BYTES", round(first.stat().st_size * 1.5))
    second = context.segments.file(source, (2 * SECOND, 4 * SECOND), (160, 120))
    assert second.exists()
    assert not first.exists()
    again = context.segments.file(source, (0, 2 * SECOND), (160, 120))
    assert again == first
    assert again.exists()
