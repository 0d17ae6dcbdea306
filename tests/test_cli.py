import errno
import itertools
import json
import subprocess
import sys
from pathlib import Path

import av
import pytest

from mortiser import captioning
from mortiser.cli import main
from tests.recordings import cut_demo, make_video

SHORT_S = 6.0


def run(*arguments: object) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "-m", "mortiser", *map(str, arguments)],
        capture_output=True,
        text=True,
        timeout=300,
        check=False,
    )


@pytest.fixture(scope="module")
def clip(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The first seconds of the demo, cut without encoding."""
    return cut_demo(tmp_path_factory.mktemp("clip") / "clip.mp4", SHORT_S)


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
    result = run("caption", clip, "--quiet", "--tighten", "quiet=0.3", "fillers", *options)
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
    result = run("caption", clip, "--quiet", "--glossary", names, "--txt", tmp_path / "t.txt")
    assert result.returncode == 0, result.stderr
    assert "Lanternlane" in (tmp_path / "t.txt").read_text().replace("\n", " ")


def test_what_is_heard_is_printed_and_compared(clip: Path, tmp_path: Path) -> None:
    heard = run("hear", clip, "--quiet")
    assert heard.returncode == 0, heard.stderr
    words = [line.split("\t") for line in heard.stdout.splitlines()]
    assert [word[2] for word in words[:5]] == ["Good", "morning", "from", "Lantern", "Lane,"]
    assert all(float(word[0]) < float(word[1]) for word in words)
    text = tmp_path / "said.txt"
    text.write_text(" ".join(word[2] for word in words).replace("morning", "evening") + " bye")
    compared = run("hear", clip, "--quiet", "--compare", text).stdout.splitlines()
    assert "said “evening”, heard “morning”" in compared[0]
    assert "said “bye”, not heard" in compared[1]
    assert f"{len(words) + 1} words said: 1 wrong, 1 missed, 0 added" in compared[2]
    timed = tmp_path / "said.json"
    shifted = [{"text": w[2], "start_us": round(float(w[0]) * 1e6) + 30_000} for w in words]
    timed.write_text(json.dumps({"words": shifted}))
    last = run("hear", clip, "--quiet", "--compare", timed).stdout.splitlines()[-1]
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
