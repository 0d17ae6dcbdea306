"""A sound recorded apart is heard in a video's stead: found, moved by hand, dropped, delivered."""

from pathlib import Path

import av
import numpy as np
import pytest
from fastapi.testclient import TestClient

from mortiser.core.project.job_payloads import MicrophonePayload
from mortiser.jobs.ingest import bring_in
from mortiser.media.sound import RATE, stream_sound
from mortiser.store import jobs, transcript
from mortiser.wiring import AppContext
from tests.api.test_several_recordings import added
from tests.api.test_trim import client, context, edit, view
from tests.recordings import COUNTER, small_demo
from tests.store.fixtures import spoken

__all__ = ["client", "context"]
EARLIER_S = 0.75


def write_sound(file: Path, samples: np.ndarray, seconds: float) -> Path:
    """Half as loud, started earlier, as WAV."""
    early = np.zeros(int(EARLIER_S * RATE), np.float32)
    whole = np.concatenate([early, samples[: int(seconds * RATE)] * 0.5])
    with av.open(str(file), "w", format="wav") as out:
        stream = out.add_stream("pcm_s16le", rate=RATE, layout="mono")
        frame = av.AudioFrame.from_ndarray(
            (whole * 32767).astype(np.int16).reshape(1, -1), format="s16", layout="mono"
        )
        frame.sample_rate = RATE
        out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return file


@pytest.fixture
def project(context: AppContext, tmp_path: Path) -> int:
    file = small_demo(tmp_path / "clip.mp4", 9.0)
    samples = np.concatenate(list(stream_sound(file)))
    write_sound(tmp_path / "clip mic.wav", samples, 9.0)
    made = bring_in(context.database, context.workspace, file, "clip.mp4")
    context.run(made.jobs[1])
    transcript.append_line(context.database, made.source_id, spoken())
    return made.project_id


def texts(project: dict) -> list[str]:
    return [" ".join(word["text"] for word in cue["words"]) for cue in project["cues"]]


def sounds(client: TestClient, project: int) -> list[dict]:
    return view(client, project)["sources"]


def test_a_sound_is_found_to_belong_to_a_video_and_heard(
    client: TestClient, project: int, tmp_path: Path
) -> None:
    before = client.get("/api/pieces/1/peaks", params={"from_us": 0, "to_us": 2_000_000}).json()
    added(client, project, tmp_path / "clip mic.wav")
    now = view(client, project)
    video = now["sources"][0]
    assert video["microphone"]["offset_us"] == pytest.approx(EARLIER_S * 1e6, abs=2_000)
    assert video["microphone"]["laid"]
    assert video["microphone"]["sure"] > 0.8
    assert [piece["source_id"] for piece in now["pieces"]] == [1], "the sound is no piece"
    assert not now["pieces"][0]["untouched"], "it plays by stream, with the other sound"
    assert now["history"]["undo"] == "hear clip mic.wav"
    # What is shown and played of it is the other sound, half as loud.
    after = client.get("/api/pieces/1/peaks", params={"from_us": 0, "to_us": 2_000_000}).json()
    assert max(after["peaks"]) == pytest.approx(max(before["peaks"]) / 2, rel=0.1)
    part = client.get("/api/pieces/1/stream").json()["parts"][0]["url"]
    assert video["sound"] in part
    assert client.get(part).status_code == 200
    made = client.post("/api/pieces/1/deliveries").json()
    (delivery,) = view(client, project)["deliveries"]
    assert delivery["status"] == "done", delivery["error"]
    name = next(one["name"] for one in delivery["files"] if one["name"].endswith(".mp4"))
    file = tmp_path / "made.mp4"
    file.write_bytes(client.get(f"/api/deliveries/{made['id']}/files/{name}").content)
    heard = np.concatenate(list(stream_sound(file)))
    own = np.concatenate(list(stream_sound(tmp_path / "clip mic.wav")))[int(EARLIER_S * RATE) :]
    count = min(len(heard), len(own))
    alike = np.corrcoef(heard[:count], own[:count])[0, 1]
    assert alike > 0.98, "the delivery has it in its place to the sample"


def test_it_is_moved_dropped_and_all_of_that_undone(
    client: TestClient, project: int, tmp_path: Path
) -> None:
    added(client, project, tmp_path / "clip mic.wav")
    first = sounds(client, project)[0]["microphone"]
    label = edit(client, project, kind="move_microphone", source_id=1, by_us=12_000)["label"]
    assert label == "hear the sound 12 ms later"
    moved = sounds(client, project)[0]["microphone"]
    assert moved["offset_us"] == first["offset_us"] - 12_000
    assert moved["laid"]
    edit(client, project, kind="drop_microphone", source_id=1)
    assert sounds(client, project)[0]["microphone"] is None
    assert view(client, project)["pieces"][0]["untouched"]
    for left in (moved["offset_us"], first["offset_us"], None):
        base = view(client, project)["revision"]
        client.post(f"/api/projects/{project}/undo", json={"base_revision": base})
        found = sounds(client, project)[0]["microphone"]
        assert (found and found["offset_us"]) == left
    assert len(view(client, project)["pieces"]) == 2, "the sound is a piece again"
    # Asked for again by hand.
    answer = client.post(f"/api/projects/{project}/microphone", json={"sound_id": 2})
    assert answer.status_code == 202
    assert sounds(client, project)[0]["microphone"]["offset_us"] == first["offset_us"]


def test_what_was_to_be_laid_anew_and_is_dropped_meanwhile_stays_dropped(
    client: TestClient, context: AppContext, project: int, tmp_path: Path
) -> None:
    added(client, project, tmp_path / "clip mic.wav")
    edit(client, project, kind="drop_microphone", source_id=1)
    late = jobs.add(
        context.database,
        project,
        "microphone",
        MicrophonePayload(sound_id=2, source_id=1, again=True),
    )
    context.run(late)
    now = view(client, project)
    assert now["sources"][0]["microphone"] is None
    assert now["history"]["undo"] == "hear the recording's own sound"
    assert next(one for one in now["jobs"] if one["id"] == late)["status"] == "done"


def test_a_sound_of_something_else_is_refused_with_the_reason(
    client: TestClient, project: int
) -> None:
    added(client, project, COUNTER)
    now = view(client, project)
    assert now["sources"][0]["microphone"] is None
    assert len(now["pieces"]) == 2
    job = next(one for one in now["jobs"] if one["kind"] == "microphone")
    assert "stays a recording of its own" in job["report"][0]["text"]


def test_a_copy_of_the_project_hears_it_too(
    client: TestClient, project: int, tmp_path: Path
) -> None:
    added(client, project, tmp_path / "clip mic.wav")
    copy = client.post(f"/api/projects/{project}/duplicate").json()["project_id"]
    client.get(f"/api/projects/{copy}")
    found = sounds(client, copy)[0]["microphone"]
    assert found["laid"]
    assert found["sound_id"] == sounds(client, copy)[1]["id"]


def test_words_heard_by_the_own_sound_are_heard_again_by_the_microphone(
    client: TestClient, project: int, tmp_path: Path
) -> None:
    before = texts(view(client, project))
    added(client, project, tmp_path / "clip mic.wav", transcribe=True)
    now = view(client, project)
    assert now["history"]["undo"] == "hear 00:00 to 00:09 again"
    said = " ".join(texts(now))
    assert "kettle came in stone cold" in said
    base = now["revision"]
    client.post(f"/api/projects/{project}/undo", json={"base_revision": base})
    assert texts(view(client, project)) == before


def test_captions_that_were_worked_on_stay(
    client: TestClient, project: int, tmp_path: Path
) -> None:
    cue = view(client, project)["cues"][0]
    edit(client, project, kind="retype_cue", cue_id=cue["id"], text="Good evening")
    before = texts(view(client, project))
    added(client, project, tmp_path / "clip mic.wav", transcribe=True)
    now = view(client, project)
    assert texts(now) == before
    job = next(one for one in now["jobs"] if one["kind"] == "microphone")
    assert "Hear it again in Gather" in job["report"][0]["text"]
