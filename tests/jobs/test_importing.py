"""Words that come another way: files, scripts, a stretch heard again; on real speech."""

import json
import shutil
from dataclasses import asdict
from pathlib import Path

import numpy as np
import pytest

from mortiser.core.common.errors import BadInput, Conflict
from mortiser.core.edits.text.words import RetypeCue
from mortiser.core.project.output import TextFile
from mortiser.core.transcript.words import word_key
from mortiser.formats import srt
from mortiser.formats.base import Caption, CaptionDocument
from mortiser.jobs.ingest import BroughtIn, Hearing, bring_in, hear_again
from mortiser.outputs.captions import caption_text
from mortiser.settings import Settings
from mortiser.store import editing, jobs, projects
from mortiser.wiring import AppContext, open_context
from tests.recordings import COUNTER, MEDIA, make_sound, make_video
from tests.store.fixtures import payload

TRUTH = json.loads((MEDIA / "counter.words.json").read_text())["words"]


@pytest.fixture(scope="module")
def context(tmp_path_factory: pytest.TempPathFactory) -> AppContext:
    return open_context(Settings(workspace=tmp_path_factory.mktemp("w")), inline_jobs=True)


def take_in(context: AppContext, recording: Path, **choices) -> BroughtIn:
    copy = context.workspace.new_upload()
    shutil.copyfile(recording, copy)
    return bring_in(
        context.database, context.workspace, copy, recording.name, hearing=Hearing(**choices)
    )


def do(context: AppContext, job: int):
    context.run(job)
    row = jobs.get(context.database.connection, job)
    assert row.status == "done", row.error
    return [asdict(note) for note in row.report]


def add(context: AppContext, made: BroughtIn, kind: str, **more) -> int:
    about = payload(kind, source_id=made.source_id, piece_id=made.piece_id, **more)
    return jobs.add(context.database, made.project_id, kind, about)


def cues(context: AppContext, made: BroughtIn):
    return projects.piece_cues(context.database.connection, made.piece_id)


def far_from_truth(context: AppContext, made: BroughtIn) -> list[int]:
    """Onset errors (ms) of words that are in the truth, by order."""
    found = [w for cue in cues(context, made) for w in cue.words]
    at, errors = 0, []
    for truth in TRUTH:
        match = next(
            (
                i
                for i in range(at, len(found))
                if word_key(found[i].text) == word_key(truth["text"])
            ),
            None,
        )
        if match is not None:
            errors.append(abs(found[match].start_us - truth["start_us"]) // 1_000)
            at = match + 1
    return errors


def imported(context: AppContext, made: BroughtIn, text: bytes):
    file = context.workspace.beside(
        projects.read_source(context.database.connection, made.source_id).path, "c.srt"
    )
    file.write_bytes(text)
    return do(context, add(context, made, "import", file=context.workspace.relative(file)))


def srt_of_truth() -> str:
    captions = []
    for i in range(0, len(TRUTH), 6):
        run = TRUTH[i : i + 6]
        line = " ".join(word["text"] for word in run)
        captions.append(Caption(run[0]["start_us"], run[-1]["end_us"], (line,)))
    return srt.write(captions, CaptionDocument(0))


def test_imported_captions_keep_their_times_and_their_words_are_found(context: AppContext) -> None:
    made = take_in(context, COUNTER, wanted=False)
    assert [jobs.get(context.database.connection, j).kind for j in made.jobs] == ["prepare"]
    notes = imported(
        context, made, (srt_of_truth() + "\n99\n00:09:00,000 --> 00:09:01,000\nnever\n").encode()
    )
    assert "1 captions begin after the end" in notes[-1]["text"]
    found = cues(context, made)
    assert len(found) == -(-len(TRUTH) // 6)
    assert all(c.start_pinned and c.end_pinned for c in found)
    assert abs(found[1].start_us - TRUTH[6]["start_us"]) < 1_000
    assert np.median(far_from_truth(context, made)) <= 60
    assert editing.undo(context.database, made.project_id, 1).label == "import captions"
    assert cues(context, made) == []


def test_lines_of_a_file_are_kept_and_written_again(context: AppContext) -> None:
    made = take_in(context, COUNTER, wanted=False)
    text = srt.write(
        [Caption(700_000, 2_300_000, ("Welcome", "back to the", "mending room."))],
        CaptionDocument(0),
    )
    imported(context, made, text.encode())
    (cue,) = cues(context, made)
    assert cue.line_starts == (1, 4)
    piece = projects.piece(context.database.connection, made.piece_id).in_shape()
    written = caption_text(TextFile(form="srt"), [cue], piece)
    assert "Welcome\nback to the\nmending room.\n" in written


def test_captions_that_cannot_be_used_change_nothing(context: AppContext) -> None:
    made = take_in(context, COUNTER, wanted=False)
    file = context.workspace.new_upload()
    file.write_text("1\n00:09:00,000 --> 00:09:01,000\nnever\n")
    job = add(context, made, "import", file=context.workspace.relative(file))
    context.run(job)
    assert "after the end" in jobs.get(context.database.connection, job).error


def script() -> str:
    text = " ".join(w["text"] for w in TRUTH)
    return text.replace(". ", ".\n").replace("? ", "?\n")


@pytest.mark.parametrize("first_heard", [True, False], ids=["heard first", "alone"])
def test_a_script_is_laid_over_the_sound(context: AppContext, first_heard: bool) -> None:
    made = take_in(context, COUNTER, wanted=first_heard)
    if first_heard:
        do(context, made.jobs[0])
    do(context, add(context, made, "script", text=script()))
    assert [cue.text for cue in cues(context, made)] == script().split("\n")
    errors = far_from_truth(context, made)
    assert len(errors) == len(TRUTH)
    assert np.median(errors) <= 60
    assert np.percentile(errors, 90) <= 150


def test_what_differs_from_the_script_is_pointed_out(context: AppContext) -> None:
    made = take_in(context, COUNTER)
    do(context, made.jobs[0])
    lines = script().split("\n")
    changed = [lines[0], *lines[2:]]
    notes = do(context, add(context, made, "script", text="\n".join(changed)))
    assert any("Not in the script" in n["text"] and "got for me" in n["text"] for n in notes)
    note = next(n for n in notes if "got for me" in n["text"])
    assert abs(note["at_us"] - TRUTH[6]["start_us"]) < 1_500_000


def test_a_script_for_a_recording_of_noise_still_has_times(
    context: AppContext, tmp_path: Path
) -> None:
    made = take_in(context, make_sound(tmp_path / "hum.ogg", "libopus", 6.0), wanted=False)
    do(context, add(context, made, "script", text="Lantern lane\nmend the kettle"))
    found = cues(context, made)
    assert [cue.text for cue in found] == ["Lantern lane", "mend the kettle"]
    assert found[0].end_us <= found[1].start_us


def test_a_stretch_is_heard_again_and_corrections_elsewhere_stay(context: AppContext) -> None:
    made = take_in(context, COUNTER, from_us=0, to_us=9_000_000)
    do(context, made.jobs[0])
    first = cues(context, made)
    assert first[-1].words[-1].end_us <= 9_000_000
    editing.apply(
        context.database, made.project_id, 0, RetypeCue(cue_id=first[0].id, text="Well come back")
    )
    (again,) = hear_again(
        context.database, made.project_id, Hearing(from_us=4_800_000, to_us=16_000_000)
    )
    with pytest.raises(Conflict, match="being heard"):
        hear_again(context.database, made.project_id, Hearing())
    do(context, again)
    after = cues(context, made)
    assert after[0].text == "Well come back"
    said = " ".join(cue.text for cue in after)
    assert said.count("grandmother") == 1
    assert "station" in said
    assert editing.undo(context.database, made.project_id, 2).label == "hear 00:04 to 00:16 again"
    assert [c.text for c in cues(context, made)][1:] == [c.text for c in first][1:]


def test_choices_a_recording_does_not_have_are_refused(context: AppContext, tmp_path: Path) -> None:
    two = make_video(tmp_path / "two.mp4", tracks=2)
    made = take_in(context, two, audio_track=1, from_us=500_000)
    assert projects.read_source(context.database.connection, made.source_id).audio_track == 1
    do(context, made.jobs[0])
    refused = [
        ({"audio_track": 2}, "no sound track 3"),
        ({"from_us": 9_000_000}, "range"),
        ({"from_us": 5, "to_us": 5}, "range"),
    ]
    for choices, why in refused:
        with pytest.raises(BadInput, match=why):
            take_in(context, two, **choices)
    with pytest.raises(BadInput, match="No engine here"):
        context.tools.recogniser("xx")
