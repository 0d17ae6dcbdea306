"""What a delivery tells and refuses: recordings that are gone, changed or damaged, encoders that are missing."""

from dataclasses import asdict, replace
from datetime import date
from pathlib import Path

import av
import pytest

from mortiser.core.project.output import STORED, VideoFile
from mortiser.core.transcript.words import Word
from mortiser.jobs.ingest import bring_in
from mortiser.media import forms
from mortiser.outputs import video
from mortiser.settings import Settings
from mortiser.store import deliveries, jobs, projects, transcript
from mortiser.wiring import AppContext, open_context
from tests.recordings import make_video


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    return open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)


@pytest.fixture
def piece(context: AppContext, tmp_path: Path) -> int:
    copy = context.workspace.new_upload()
    make_video(tmp_path / "a.mp4", seconds=4.0).rename(copy)
    made = bring_in(context.database, context.workspace, copy, "tea.mp4")
    transcript.append_line(context.database, made.source_id, [Word("mend", 200_000, 900_000)])
    one = STORED.write((VideoFile(),))
    context.database.connection.execute("UPDATE piece SET outputs = ?", (one,))
    return made.piece_id


def deliver(context: AppContext, piece: int) -> dict[str, object]:
    delivery, (job,) = deliveries.order(context.database, piece, date(2026, 11, 27))
    context.run(job)
    return asdict(jobs.get(context.database.connection, job)) | {"delivery": delivery}


def recording(context: AppContext) -> Path:
    row = projects.read_source(context.database.connection, 1)
    return context.workspace.path(row.path)


def test_a_recording_that_is_gone_or_changed_is_told(context: AppContext, piece: int) -> None:
    file = recording(context)
    away = file.rename(file.with_name("away"))
    gone = deliver(context, piece)
    assert gone["status"] == "failed"
    assert "tea.mp4 is not where it was" in str(gone["error"])
    file.write_bytes(away.read_bytes() + b"more")
    assert "tea.mp4 has changed since" in str(deliver(context, piece)["error"])
    away.replace(file)
    again = jobs.requeue(context.database, int(str(gone["id"])))
    context.run(again.id)
    assert jobs.get(context.database.connection, again.id).status == "done"


def test_what_cannot_be_read_is_gone_on_from_and_told(context: AppContext, piece: int) -> None:
    file = recording(context)
    data = bytearray(file.read_bytes())
    with av.open(str(file)) as reading:
        packets = [(p.pos, p.size) for p in reading.demux(video=0) if p.size]
    for place, size in packets[60:63]:
        data[place : place + size] = b"\xff" * size
    file.write_bytes(data)
    done = deliver(context, piece)
    assert done["status"] == "done", done["error"]
    assert "of the picture could not be read" in str(done["report"])
    assert "'at_us': 2" in str(done["report"])


def test_an_encoder_that_is_missing_is_told(
    context: AppContext, piece: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    strange = replace(forms.h264(), codec="libnothing")
    monkeypatch.setattr(video, "form_of", lambda *_: strange)
    failed = deliver(context, piece)
    assert "The encoder libnothing is missing on this machine" in str(failed["error"])
    assert not (context.workspace.root / "deliveries" / str(failed["delivery"])).exists()
