import errno
import io
import itertools
import json
import subprocess
import sys
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path

import av
import pytest

from mortiser.cli import main
from mortiser.core.project.output import TextFile
from mortiser.jobs.ingest import bring_in
from mortiser.services import captioning
from mortiser.settings import Settings
from mortiser.store import output_sets, transcript
from mortiser.wiring import open_context
from tests.recordings import make_video, small_demo
from tests.store.fixtures import spoken

SHORT_S = 6.0
ONCE = ("--quiet", "--engine", "moonshine-tiny")
"""By the quick engine alone, for what does not depend on the words."""


def run(*arguments: object) -> subprocess.CompletedProcess[str]:
    """The command in this process: what it loads is loaded once."""
    words = [*map(str, arguments)]
    out, told = io.StringIO(), io.StringIO()
    with redirect_stdout(out), redirect_stderr(told):
        try:
            code = main(words)
        except SystemExit as ended:  # Wrong use.
            code = int(ended.code or 0)
    return subprocess.CompletedProcess(words, code, out.getvalue(), told.getvalue())


@pytest.fixture(scope="module")
def clip(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The first seconds of the demo, cut without encoding."""
    return small_demo(tmp_path_factory.mktemp("clip") / "clip.mp4", SHORT_S)


def test_everything_is_written(clip: Path, tmp_path: Path) -> None:
    outs = {kind: tmp_path / f"out.{kind}" for kind in ("srt", "vtt", "txt", "json", "burn")}
    options = [part for kind, file in outs.items() for part in (f"--{kind}", file)]
    result = run("caption", clip, "--group", "sentence", "--finish", "Pine", *options)
    assert result.returncode == 0, result.stderr
    assert "100%" in result.stderr
    assert result.stdout == ""
    data = json.loads(outs["json"].read_text())
    assert set(data) == {"duration_us", "words", "cues"}
    assert set(data["words"][0]) == {"text", "start_us", "end_us", "confidence", "speaker"}
    assert outs["txt"].read_text().startswith("Good morning from Lantern Lane")
    assert outs["srt"].read_text().startswith("1\n00:00:00,")
    assert outs["vtt"].read_text().startswith("WEBVTT")
    with av.open(str(outs["burn"])) as video:
        assert [s.codec_context.name for s in video.streams] == ["h264", "aac"]
    assert sorted(f.name for f in tmp_path.iterdir()) == sorted(f.name for f in outs.values())


def test_a_recording_is_tightened(clip: Path, tmp_path: Path) -> None:
    outs = {kind: tmp_path / f"out.{kind}" for kind in ("json", "burn")}
    options = [part for kind, file in outs.items() for part in (f"--{kind}", file)]
    result = run("caption", clip, *ONCE, "--tighten", "quiet=0.3", "fillers", *options)
    assert result.returncode == 0, result.stderr
    data = json.loads(outs["json"].read_text())
    with av.open(str(clip)) as before, av.open(str(outs["burn"])) as after:
        assert before.duration - after.duration > 500_000
        assert after.duration == pytest.approx(data["duration_us"], abs=60_000)
    assert data["words"][0]["start_us"] < 200_000
    gaps = [b["start_us"] - a["end_us"] for a, b in itertools.pairwise(data["words"])]
    assert max(gaps) < 340_000


def test_names_of_a_glossary_are_written_right(clip: Path, tmp_path: Path) -> None:
    names = tmp_path / "names.csv"
    names.write_text("written,heard\nLanternlane,lantern lane\n")
    result = run("caption", clip, *ONCE, "--glossary", names, "--txt", tmp_path / "t.txt")
    assert result.returncode == 0, result.stderr
    assert "Lanternlane" in (tmp_path / "t.txt").read_text().replace("\n", " ")


def test_what_is_heard_is_printed_and_compared(clip: Path, tmp_path: Path) -> None:
    heard = run("hear", clip, *ONCE)
    assert heard.returncode == 0, heard.stderr
    words = [line.split("\t") for line in heard.stdout.splitlines()]
    assert [word[2] for word in words[:5]] == ["Good", "morning", "from", "Lantern", "Lane,"]
    assert all(float(word[0]) < float(word[1]) for word in words)
    text = tmp_path / "said.txt"
    text.write_text(" ".join(word[2] for word in words).replace("morning", "evening") + " bye")
    compared = run("hear", clip, *ONCE, "--compare", text).stdout.splitlines()
    assert "said “evening”, heard “morning”" in compared[0]
    assert "said “bye”, not heard" in compared[1]
    assert f"{len(words) + 1} words said: 1 wrong, 1 missed, 0 added" in compared[2]
    timed = tmp_path / "said.json"
    shifted = [{"text": w[2], "start_us": round(float(w[0]) * 1e6) + 30_000} for w in words]
    timed.write_text(json.dumps({"words": shifted}))
    last = run("hear", clip, *ONCE, "--compare", timed).stdout.splitlines()[-1]
    assert "median 30 ms off, 95 % within 30 ms" in last


def test_quiet_is_quiet(clip: Path, tmp_path: Path) -> None:
    result = run("caption", clip, "--quiet", "--txt", tmp_path / "t.txt")
    assert (result.returncode, result.stdout, result.stderr) == (0, "", "")


@pytest.mark.parametrize(
    ("arguments", "code", "says"),
    [
        ((), 2, "COMMAND"),
        (("caption", "CLIP"), 2, "nothing to write"),
        (("caption", "nowhere.mp4", "--srt", "x.srt"), 1, "no such file"),
        (("caption", "CLIP", "--srt", "/nowhere/x.srt"), 1, "folder does not exist"),
        (("caption", "CLIP", "--burn", "CLIP"), 1, "the recording itself"),
        (("caption", "pyproject.toml", "--srt", "TMP/x.srt"), 1, "no recording that can be read"),
        (("caption", "CLIP", "--finish", "Varnish", "--srt", "x"), 2, "invalid choice"),
        (("caption", "CLIP", "--language", "xx", "--srt", "TMP/x.srt"), 1, "No engine here knows"),
        (
            ("caption", "CLIP", "--engine", "loud", "--srt", "TMP/x.srt"),
            1,
            "There are: moonshine-tiny",
        ),
        (("caption", "CLIP", "--tighten", "noise", "--srt", "TMP/x.srt"), 1, "Try quiet=0.3"),
        (("hear", "CLIP", "--compare", "no.txt"), 1, "no such file"),
        (("hear", "CLIP", "--compare", "web/package.json"), 1, "no words with times"),
        (("hear", "nowhere.mp4"), 1, "no such file"),
        (("caption", "CLIP", "--glossary", "no.csv", "--srt", "TMP/x.srt"), 1, "no such file"),
        (
            ("serve", "--port", "1", "--host", "198.51.100.7", "--workspace", "TMP/w"),
            1,
            "cannot be used",
        ),
    ],
)
def test_mistakes_are_explained(
    clip: Path, tmp_path: Path, arguments: tuple[str, ...], code: int, says: str
) -> None:
    named = [a.replace("CLIP", str(clip)).replace("TMP", str(tmp_path)) for a in arguments]
    result = run(*named)
    assert result.returncode == code
    assert says in result.stderr
    assert "Traceback" not in result.stderr


def test_a_recording_without_speech_is_said(tmp_path: Path) -> None:
    silent = make_video(tmp_path / "a.mp4", click_at=0.5)
    result = run("caption", silent, "--srt", tmp_path / "a.srt")
    assert result.returncode == 1
    assert "No speech" in result.stderr
    assert not (tmp_path / "a.srt").exists()


@pytest.mark.parametrize(
    ("fault", "says"),
    [
        (OSError(errno.ENOSPC, "No space left on device"), "free some space and try again"),
        (PermissionError(errno.EACCES, "Permission denied", "out.srt"), "out.srt"),
    ],
)
def test_faults_of_the_system_are_told_without_their_traces(
    clip: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
    fault: OSError,
    says: str,
) -> None:
    def full(*_: object, **__: object) -> None:
        raise fault

    monkeypatch.setattr(captioning, "caption", full)
    assert main(["caption", str(clip), "--srt", "out.srt"]) == 1
    assert says in capsys.readouterr().err


@pytest.fixture(scope="module")
def workspace(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A workspace with one short project of two shapes."""
    folder = tmp_path_factory.mktemp("w")
    context = open_context(Settings(workspace=folder / "w"), inline_jobs=True)
    file = make_video(folder / "tea.mp4", seconds=2.0, size=(160, 90))
    made = bring_in(context.database, context.workspace, file, "Tea.mp4")
    context.run(made.jobs[1])
    transcript.append_line(context.database, made.source_id, spoken("We mend kettles and chairs."))
    output_sets.save(context.database, "Texts", [TextFile(), TextFile(form="ass", timed=True)])
    return folder / "w"


def test_a_project_is_delivered_with_its_progress_as_json(workspace: Path, tmp_path: Path) -> None:
    done = run("deliver", "Tea", "--workspace", workspace, "--out", tmp_path, "--progress", "json")
    assert done.returncode == 0, done.stderr
    lines = [json.loads(line) for line in done.stdout.splitlines()]
    made = [Path(line["made"]) for line in lines if "made" in line]
    assert [path.name for path in made] == ["Tea.mp4", "Tea.srt", "Tea.vtt"]
    assert all(path.stat().st_size == line["size"] for path, line in zip(
        made, [line for line in lines if "made" in line], strict=True
    ))  # fmt: skip
    told = [line["progress"] for line in lines if line.get("doing") == "Tea.mp4"]
    assert told == sorted(told)
    assert told[-1] == 1
    assert sorted(path.name for path in tmp_path.iterdir()) == ["Tea.mp4", "Tea.srt", "Tea.vtt"]


def test_projects_come_through_a_pipe_and_files_by_a_set(workspace: Path, tmp_path: Path) -> None:
    command = [sys.executable, "-m", "mortiser", "deliver", "-", "--quiet", "--preset", "texts"]
    command += ["--workspace", str(workspace), "--out", str(tmp_path), "--piece", "Tea"]
    done = subprocess.run(
        command, input="1\n\nTea\n", capture_output=True, text=True, timeout=100, check=False
    )
    assert done.returncode == 0, done.stderr
    assert done.stdout.splitlines() == [str(tmp_path / f"Tea.{end}") for end in ("srt", "ass")] * 2
    assert "kettles" in (tmp_path / "Tea.ass").read_text()


@pytest.mark.parametrize(
    ("options", "says"),
    [
        (("Coffee",), "There are: 1 Tea."),
        (("Tea", "--piece", "Other"), "There is no piece “Other”. There are: 1 Tea."),
        (("Tea", "--shape", "tall"), "is not in that shape. It is: wide."),
        (("Tea", "--preset", "Nothing"), "There are: Feed, Course player"),
        (("Tea", "--out", "/nowhere"), "the folder does not exist"),
        (("Tea", "--workspace", "/nowhere"), "is no workspace"),
    ],
)
def test_what_cannot_be_delivered_is_told(
    workspace: Path, tmp_path: Path, options: tuple[str, ...], says: str
) -> None:
    given = options if "--workspace" in options else (*options, "--workspace", workspace)
    done = run("deliver", *given, *(() if "--out" in options else ("--out", tmp_path)))
    assert done.returncode == 1
    assert says in done.stderr
    assert "Traceback" not in done.stderr
    assert list(tmp_path.iterdir()) == []


def test_a_recording_is_captioned_by_a_jig_into_a_folder(clip: Path, tmp_path: Path) -> None:
    named = run(
        "caption", clip, *ONCE, "--jig", "talk, wide and square", "--preset", "Message",
        "--out", tmp_path, "--progress", "json",
    )  # fmt: skip
    assert named.returncode == 0, named.stderr
    lines = [json.loads(line) for line in named.stdout.splitlines()]
    assert {line["doing"] for line in lines if "doing" in line} >= {"listening", "clip-wide.mp4"}
    found = sorted(path.name for path in tmp_path.iterdir())
    assert found == ["clip-square.jpg", "clip-square.mp4", "clip-wide.jpg", "clip-wide.mp4"]
    with av.open(str(tmp_path / "clip-wide.mp4")) as video:
        assert (video.streams.video[0].width, video.streams.video[0].height) == (1280, 720)
    wrong = run("caption", clip, "--jig", "Loud", "--out", tmp_path)
    assert wrong.returncode == 1
    assert "There is no jig “Loud”" in wrong.stderr


SRT = "1\n00:00:01,000 --> 00:00:02,500\n<i>We</i> mend\nkettles\n"


def test_caption_files_are_converted_through_pipes(tmp_path: Path) -> None:
    file, out = tmp_path / "a.srt", tmp_path / "a.vtt"
    file.write_text(SRT)
    done = run("convert", file, out)
    assert (done.returncode, done.stdout) == (0, "")
    assert "Not kept in vtt: italics." in done.stderr
    assert out.read_text() == "WEBVTT\n\n00:00:01.000 --> 00:00:02.500\nWe mend\nkettles\n"
    command = [sys.executable, "-m", "mortiser", "convert", "-", "-", "--to", "csv"]
    piped = subprocess.run(
        command, input=SRT.encode(), capture_output=True, timeout=100, check=False
    )
    rows = piped.stdout.decode().splitlines()
    assert [row.split(",")[1] for row in rows] == ["word", "We", "mend", "kettles"]


@pytest.mark.parametrize(
    ("arguments", "code", "says"),
    [
        (("convert", "SRT", "TMP/a.doc"), 1, "There is no caption format “doc”"),
        (("convert", "SRT", "-"), 2, "--to"),
        (("convert", "nowhere.srt", "-", "--to", "vtt"), 1, "no such file"),
        (("convert", "web/package.json", "-", "--to", "vtt"), 1, "No caption could be read"),
    ],
)
def test_what_cannot_be_converted_is_told(
    tmp_path: Path, arguments: tuple[str, ...], code: int, says: str
) -> None:
    file = tmp_path / "a.srt"
    file.write_text(SRT)
    done = run(*(a.replace("SRT", str(file)).replace("TMP", str(tmp_path)) for a in arguments))
    assert done.returncode == code
    assert says in done.stderr
    assert "Traceback" not in done.stderr
