import itertools
import shutil
import threading
import time
from dataclasses import replace
from datetime import date
from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.core.common.errors import BadMedia, Cancelled, NoSpace
from mortiser.core.delivery.naming import file_stem
from mortiser.core.edits.text.words import RetypeCue
from mortiser.core.transcript.words import Word
from mortiser.jobs import runner, task
from mortiser.jobs.bringing_in import copy_project, title
from mortiser.jobs.delivering import DELIVER, Ordered
from mortiser.jobs.queue import PRIORITY, Queue
from mortiser.jobs.task import Task
from mortiser.jobs.tools import Tools
from mortiser.media.sound import clip
from mortiser.outputs import video
from mortiser.render.programme import Programme
from mortiser.speech.protocols import RATE
from mortiser.store import deliveries, editing, jobs, projects, transcript
from mortiser.wiring import KINDS, Shop
from tests.jobs.inline import broker, row, run, take_in, working
from tests.recordings import COUNTER, make_video


def ordered(shop: Shop, piece_id: int) -> tuple[int, list[int]]:
    """A delivery of the usual files: the video's job comes first, though it is made last."""
    return deliveries.order(shop.database, piece_id, date(2026, 11, 27))


def test_a_job_runs_to_its_end(shop: Shop) -> None:
    made = take_in(shop, COUNTER)
    for job in made.jobs:
        following = run(shop, job)
        assert [row(shop, j)["kind"] for j in following] == (
            ["doubt"] if job == made.jobs[0] else []
        )
        assert row(shop, job)["status"] == "done"
        assert row(shop, job)["progress"] == 1
    assert transcript.source_words(shop.database.connection, made.source_id)


def test_faults_are_written_down(shop: Shop) -> None:
    def known(task: Task) -> None:
        raise BadMedia("The picture ends early.")

    def unforeseen(task: Task) -> None:
        raise ZeroDivisionError

    hear, prepare = take_in(shop, COUNTER).jobs
    run(shop, hear, transcribe=known)
    run(shop, prepare, prepare=unforeseen)
    assert (row(shop, hear)["status"], row(shop, hear)["error"]) == (
        "failed",
        "The picture ends early.",
    )
    assert row(shop, prepare)["status"] == "failed"
    assert "Your work is safe" in row(shop, prepare)["error"]


def test_a_fault_of_a_fresh_worker_is_tried_again(shop: Shop) -> None:
    """As where two threads load the same library at once."""
    tried: list[int] = []

    def fails_once(task: Task) -> None:
        tried.append(1)
        if len(tried) == 1:
            raise AttributeError("no such function yet")

    def fails(task: Task) -> None:
        raise AttributeError("no such function ever")

    hear, prepare = take_in(shop, COUNTER).jobs
    kinds = working("prepare", fails_once)
    again = runner.run(broker(shop, kinds), shop.tools, kinds, prepare, fresh=True)
    assert (again, row(shop, prepare)["status"]) == ([prepare], "queued")
    assert runner.run(broker(shop, kinds), shop.tools, kinds, prepare, fresh=True) == []
    assert row(shop, prepare)["status"] == "done"
    kinds = working("transcribe", fails)
    rounds = 1
    while runner.run(broker(shop, kinds), shop.tools, kinds, hear, fresh=True):
        rounds += 1
    assert rounds == jobs.MOST_ATTEMPTS
    assert row(shop, hear)["status"] == "failed"


def test_a_job_whose_project_is_deleted_just_ends(
    shop: Shop, caplog: pytest.LogCaptureFixture
) -> None:
    made = take_in(shop, COUNTER)

    def slow(task: Task) -> None:
        projects.delete_project(shop.database, made.project_id)
        raise FileNotFoundError("the recording is gone")

    assert run(shop, made.jobs[0], transcribe=slow) == []
    assert caplog.records == []


def test_a_cancelled_job_stops_at_its_next_report(
    shop: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(task, "REPORT_S", 0.0)
    reached = []

    def slow(task: Task) -> None:
        for step in range(100):
            reached.append(step)
            if step == 3:
                threading.Thread(target=jobs.ask_cancel, args=(shop.database, task.job_id)).run()
            task.progress(step / 100)

    job = take_in(shop, COUNTER).jobs[0]
    run(shop, job, transcribe=slow)
    assert row(shop, job)["status"] == "cancelled"
    assert reached[-1] == 3


def test_an_end_that_cannot_be_noted_waits_until_it_can(
    shop: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(runner, "AGAIN_S", 0.0)
    tries = iter([NoSpace("The disk is full."), OSError(28, "No space left on device")])
    finish = jobs.finish

    def sometimes(*arguments, **named):
        if fault := next(tries, None):
            raise fault
        return finish(*arguments, **named)

    def full(task: Task) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(jobs, "finish", sometimes)
    job = take_in(shop, COUNTER).jobs[0]
    run(shop, job, transcribe=full)
    assert row(shop, job)["status"] == "failed"
    assert "free some space" in row(shop, job)["error"]


def test_a_job_that_cannot_be_begun_stays_queued(
    shop: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    job = take_in(shop, COUNTER).jobs[0]

    def full(*_: object) -> None:
        raise NoSpace("The disk is full.")

    monkeypatch.setattr(jobs, "take", full)
    assert run(shop, job) == []
    assert row(shop, job)["status"] == "queued"


def test_a_lease_outlives_times_when_it_cannot_be_renewed(
    shop: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(runner, "HEARTBEAT_S", 0.01)
    renewed = threading.Event()
    tries = iter([NoSpace("The disk is full.")])
    renew = jobs.renew

    def sometimes(*arguments):
        if fault := next(tries, None):
            raise fault
        renewed.set()
        return renew(*arguments)

    monkeypatch.setattr(jobs, "renew", sometimes)
    job = take_in(shop, COUNTER).jobs[0]
    run(shop, job, transcribe=lambda task: renewed.wait(10) and None)
    assert renewed.is_set()
    assert row(shop, job)["status"] == "done"


def test_work_that_never_stops_by_itself_is_cancelled_all_the_same(
    shop: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(runner, "HEARTBEAT_S", 0.01)
    monkeypatch.setattr(runner, "PATIENCE_S", 0.05)
    job = take_in(shop, COUNTER).jobs[0]
    ended = []

    def deaf(task: Task) -> None:
        threading.Thread(target=jobs.ask_cancel, args=(shop.database, job)).run()
        for _ in range(1000):
            if row(shop, job)["status"] == "cancelled":
                ended.append(task)
                return
            time.sleep(0.01)

    run(shop, job, transcribe=deaf)
    assert ended
    assert row(shop, job)["status"] == "cancelled"
    with pytest.raises(Cancelled):
        ended[0].still_wanted()


def test_transcription_goes_on_behind_the_last_word_and_keeps_corrections(shop: Shop) -> None:
    made = take_in(shop, COUNTER)
    run(shop, made.jobs[0])
    whole = transcript.source_words(shop.database.connection, made.source_id)
    again = take_in(shop, COUNTER)
    half = [replace(w, id=0) for w in whole[: len(whole) // 2]]
    transcript.append_line(shop.database, again.source_id, half)
    cue = projects.piece_cues(shop.database.connection, again.piece_id)[0]
    editing.apply(
        shop.database, again.project_id, 0, RetypeCue(cue_id=cue.id, text="corrected tone")
    )
    run(shop, again.jobs[0])
    words = transcript.source_words(shop.database.connection, again.source_id)
    assert words[0].text == "corrected"
    assert len(words) > len(half)
    assert all(a.end_us <= b.start_us for a, b in itertools.pairwise(words))
    assert words[len(half)].start_us >= half[-1].end_us
    assert editing.undo(shop.database, again.project_id, 1).label == "retype “corrected”"


def test_skipping_sound_is_exact() -> None:
    import numpy as np

    sound = [np.arange(i * 100, i * 100 + 100, dtype=np.float32) for i in range(50)]
    for from_us in (0, 1_000, 10_000, 62_500 * 3):
        left = np.concatenate(list(clip(iter(sound), from_us, 300_000)))
        assert left[0] == from_us * RATE // 1_000_000
        assert left[-1] == min(5_000, 300_000 * RATE // 1_000_000) - 1


def test_a_failed_delivery_leaves_no_half_file(
    shop: Shop, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = take_in(shop, make_video(tmp_path / "a.mp4"))
    transcript.append_line(shop.database, made.source_id, [Word("mend", 200_000, 900_000)])
    delivery, (job, *others) = ordered(shop, made.piece_id)
    for other in others:
        run(shop, other)
    folder = shop.workspace.root / "deliveries" / str(delivery)
    monkeypatch.setattr(task, "REPORT_S", 0.0)

    def stop_midway(tools: Tools, task: Task, given: Ordered):
        def progress(part: float) -> None:
            if part > 0.5:
                assert {f.suffix for f in folder.iterdir()} == {".partial", ".srt", ".vtt"}
                raise BadMedia("stopped")

        task.progress = progress
        yield from DELIVER.work(tools, task, given)

    shop.run(job, {**KINDS, "deliver": replace(DELIVER, work=stop_midway)})
    assert row(shop, job)["status"] == "failed"
    assert {f.suffix for f in folder.iterdir()} == {".srt", ".vtt"}
    jobs.requeue(shop.database, job)
    run(shop, job)
    files = deliveries.files_of(shop.database.connection, delivery)
    assert {f.name for f in folder.iterdir()} == {f["name"] for f in files}
    assert [f["kind"] for f in files] == ["mp4", "srt", "vtt"]


def test_a_project_copied_while_it_is_prepared_gets_all_the_same(
    shop: Shop, tmp_path: Path
) -> None:
    made = take_in(shop, make_video(tmp_path / "a.mkv", codec="ffv1", audio_codec="flac"))
    copied = copy_project(shop.database, shop.workspace, made.project_id)
    db = shop.database.connection
    assert [row(shop, job)["kind"] for job in copied.jobs] == ["prepare", "transcribe"]
    for job in copied.jobs:
        run(shop, job)
    (source,) = projects.source_rows(db, copied.project_id)
    assert source["proxy_path"]
    assert shop.workspace.beside(source["path"], "peaks.npz").exists()
    assert transcript.source_words(db, source["id"])
    assert not transcript.source_words(db, made.source_id)


def test_a_project_is_copied_whose_preview_was_made(shop: Shop, tmp_path: Path) -> None:
    made = take_in(shop, make_video(tmp_path / "a.mp4"))
    source = projects.source_row(shop.database.connection, made.source_id)
    shop.segments.file(source, (0, 1_000_000), (160, 120))
    copied = copy_project(shop.database, shop.workspace, made.project_id)
    (copy,) = projects.source_rows(shop.database.connection, copied.project_id)
    assert shop.segments.file(copy, (0, 1_000_000), (160, 120)).exists()


def test_the_chosen_track_is_what_the_page_plays(shop: Shop, tmp_path: Path) -> None:
    made = take_in(shop, make_video(tmp_path / "a.mp4", tracks=2))
    projects.choose_hearing(shop.database, made.source_id, "en", 1)
    run(shop, made.jobs[1])
    source = projects.source_row(shop.database.connection, made.source_id)
    assert source["proxy_path"]
    with av.open(str(shop.workspace.path(source["proxy_path"]))) as reading:
        (sound,) = reading.streams.audio
        heard = np.concatenate([f.to_ndarray() for f in reading.decode(sound)], axis=1)[0]
        assert np.abs(np.fft.rfft(heard[: sound.rate // 2])).argmax() * 2 == pytest.approx(
            500, abs=6
        )
    projects.choose_hearing(shop.database, made.source_id, "de", 1)
    source = projects.source_row(shop.database.connection, made.source_id)
    assert source["proxy_path"], "the language says nothing of the track"
    projects.choose_hearing(shop.database, made.source_id, "en", 0)
    source = projects.source_row(shop.database.connection, made.source_id)
    assert not source["proxy_path"]


def test_what_was_ordered_is_made_whatever_is_edited_meanwhile(shop: Shop, tmp_path: Path) -> None:
    made = take_in(shop, make_video(tmp_path / "a.mp4"))
    transcript.append_line(shop.database, made.source_id, [Word("mend", 200_000, 900_000)])
    delivery, made_by = ordered(shop, made.piece_id)
    (cue,) = projects.piece_cues(shop.database.connection, made.piece_id)
    editing.apply(shop.database, made.project_id, 0, RetypeCue(cue_id=cue.id, text="tea"))
    for job in made_by:
        run(shop, job)
    folder = shop.workspace.root / "deliveries" / str(delivery)
    (text,) = [file.read_text() for file in folder.glob("*.srt")]
    assert "mend" in text
    assert "tea" not in text
    row_now = deliveries.get(shop.database.connection, delivery)
    assert (row_now["revision"], row_now["ordered"]) == (0, "")


def test_a_made_file_that_is_not_what_was_ordered_is_no_success(
    shop: Shop, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    made = take_in(shop, make_video(tmp_path / "a.mp4"))
    transcript.append_line(shop.database, made.source_id, [Word("mend", 200_000, 900_000)])
    delivery, (job, *others) = ordered(shop, made.piece_id)
    for other in others:
        run(shop, other)

    def cut_short(programme: Programme, out: Path, *_: object, **__: object) -> None:
        shutil.copy(make_video(tmp_path / "short.mp4", seconds=1.0), out)

    monkeypatch.setattr(video, "burn", cut_short)
    run(shop, job)
    assert "it lasts 1.0" in row(shop, job)["error"]
    assert not list((shop.workspace.root / "deliveries" / str(delivery)).glob("*.mp4"))


def test_what_the_browser_cannot_play_gets_a_copy(shop: Shop, tmp_path: Path) -> None:
    made = take_in(
        shop, make_video(tmp_path / "a.mkv", codec="ffv1", pixels="yuv444p", audio_codec="flac")
    )
    run(shop, made.jobs[1])
    source = projects.source_row(shop.database.connection, made.source_id)
    from mortiser.media.probe import probe

    assert not source["playable"]
    assert probe(shop.workspace.path(source["proxy_path"])).playable


@pytest.mark.parametrize(
    ("name", "stem"),
    [
        ("The cold kettle", "The-cold-kettle"),
        ("../../etc", "etc"),
        ("Über: a/b?", "Über-ab"),
        ("***", "piece"),
    ],
)
def test_file_names_are_safe(name: str, stem: str) -> None:
    assert file_stem(name) == stem


@pytest.mark.parametrize(
    ("file", "name"),
    [("my_clip.final.mp4", "my clip.final"), ("C:\\x\\clip.mov", "clip"), ("", "Untitled")],
)
def test_projects_are_named_after_their_file(file: str, name: str) -> None:
    assert title(file) == name


def test_what_is_waited_for_goes_first(shop: Shop) -> None:
    assert set(PRIORITY) == set(KINDS)
    made = take_in(shop, COUNTER)
    delivery = ordered(shop, made.piece_id)[1][0]
    doubting = jobs.add(shop.database, made.project_id, "doubt", {"source_id": made.source_id})
    queue = Queue(broker(shop), shop.tools, KINDS)
    queue.submit(doubting, delivery, *made.jobs)
    order = []
    while (task := queue._huey.dequeue()) is not None:
        order.append(row(shop, task.args[0])["kind"])
    assert order == ["prepare", "transcribe", "deliver", "doubt"]


def test_second_listenings_take_one_worker_and_all_get_their_turn(shop: Shop) -> None:
    made = take_in(shop, COUNTER)
    doubts = [
        jobs.add(shop.database, made.project_id, "doubt", {"source_id": made.source_id})
        for _ in range(3)
    ]
    order: list[int] = []
    at_once: list[int] = []

    def slow(task: Task) -> None:
        at_once.append(1)
        order.append(task.job_id)
        others = [threading.Thread(target=queue._run, args=(job,)) for job in doubts]
        for other in others:
            other.start()
        for other in others:
            other.join()
        assert sum(at_once) == 1
        at_once.pop()

    kinds = working("doubt", slow)
    queue = Queue(broker(shop, kinds), shop.tools, kinds, inline=True)
    queue._run(doubts[0])
    assert order == doubts
    assert {row(shop, job)["status"] for job in doubts} == {"done"}
