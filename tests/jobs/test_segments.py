"""Segments for the preview: made once, refused where they are none, kept within bounds."""

import threading
from pathlib import Path

import pytest

from mortiser.core.common.errors import BadInput
from mortiser.jobs import segments
from mortiser.jobs.bringing_in import bring_in
from mortiser.settings import Settings
from mortiser.store import projects
from mortiser.store.projects import SourceRow
from mortiser.wiring import Shop, open_shop
from tests.recordings import make_video

SECOND = 1_000_000


@pytest.fixture
def shop(tmp_path: Path) -> Shop:
    return open_shop(Settings(workspace=tmp_path / "w"), inline_jobs=True)


@pytest.fixture
def source(shop: Shop, tmp_path: Path) -> SourceRow:
    file = make_video(tmp_path / "a.mp4", seconds=5.0)
    made = bring_in(shop.database, shop.workspace, file, "a.mp4")
    return projects.source_row(shop.database.connection, made.source_id)


def test_many_who_ask_get_one_file(
    shop: Shop, source: SourceRow, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = []
    write = segments.write_segment

    def counted(*args: object) -> None:
        made.append(args)
        write(*args)  # type: ignore[arg-type]

    monkeypatch.setattr(segments, "write_segment", counted)
    found: list[Path] = []
    threads = [
        threading.Thread(
            target=lambda: found.append(shop.segments.file(source, (0, 2 * SECOND), (160, 120)))
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
    shop: Shop, source: SourceRow, stretch: tuple[int, int]
) -> None:
    with pytest.raises(BadInput, match="two seconds"):
        shop.segments.file(source, stretch, (160, 120))


def test_those_used_longest_ago_go_first(
    shop: Shop, source: SourceRow, monkeypatch: pytest.MonkeyPatch
) -> None:
    first = shop.segments.file(source, (0, 2 * SECOND), (160, 120))
    monkeypatch.setattr(segments, "MOST_BYTES", round(first.stat().st_size * 1.5))
    second = shop.segments.file(source, (2 * SECOND, 4 * SECOND), (160, 120))
    assert second.exists()
    assert not first.exists()
    again = shop.segments.file(source, (0, 2 * SECOND), (160, 120))
    assert again == first
    assert again.exists()
