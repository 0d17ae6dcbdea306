"""Every form of output: made of a real recording, read back, and refused where it is not what was ordered."""

import json
import shutil
import subprocess
import sys
from dataclasses import replace
from pathlib import Path

import av
import numpy as np
import pytest
from PIL import Image

from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import MortiserError
from mortiser.core.common.frames import Frames
from mortiser.core.delivery.order import Order, OrderedFile, OrderedSource, PieceStretch
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.shape import Shape
from mortiser.core.project.output import VIDEO_FORMS, Output, StillFile, TextFile, VideoFile
from mortiser.core.transcript.words import Cue, Shown
from mortiser.outputs import OUTPUTS
from mortiser.outputs.base import Unlike
from mortiser.outputs.captions import caption_text, captions_of
from mortiser.render.reading_back import facts_of, loudness_of
from tests.pieces import piece_of
from tests.recordings import make_video

LENGTH = 2_000_000
SIZE = (320, 180)
WORDS = (
    Shown("mend", 200_000, 700_000, id=1, source_id=1),
    Shown("kettles", 800_000, 1_300_000, id=2, source_id=1),
    Shown("daily", 1_400_000, 1_800_000, id=3, source_id=1),
)


@pytest.fixture(scope="module")
def recording(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return make_video(tmp_path_factory.mktemp("r") / "a.mp4", seconds=2.0, size=SIZE)


def order(
    recording: Path,
    *outputs: Output,
    stretches: tuple[PieceStretch, ...] = (),
    length_us: int = LENGTH,
    rate: float = 25.0,
) -> Order:
    timeline = Timeline([Clip(1, 0, length_us)])
    shape = Shape(id=1, width=SIZE[0], height=SIZE[1])
    piece = piece_of(
        timeline, shape, finish="Lacquer", frames=Frames(rate), pictures={1: SIZE}, outputs=outputs,
        name="Kettle",
    )  # fmt: skip
    cues = retime([Cue(1, (word,), 0, 1) for word in WORDS], timeline, PACES["quick"], Frames(rate))
    sources = [OrderedSource(id=1, path=str(recording), duration_us=length_us, language="en")]
    return Order.of(piece, cues, sources, "{project}", (), stretches, {"project": "Kettle"})


def made(
    folder: Path, recording: Path, output: Output, stretch: PieceStretch | None = None
) -> tuple[Order, OrderedFile, Path]:
    wanted = order(recording, output, stretches=(stretch,) if stretch else ())
    (part,) = wanted.parts()
    out = folder / part.name
    told: list[float] = []
    OUTPUTS[output.kind].make(wanted, part, out, Path, told.append)
    assert all(0 <= one <= 1 for one in told)
    OUTPUTS[output.kind].verify(wanted, part, out, Path)
    return wanted, part, out


@pytest.mark.parametrize("form", VIDEO_FORMS)
def test_every_form_is_made_and_read_back(tmp_path: Path, recording: Path, form: str) -> None:
    output = VideoFile(form=form)
    _, part, out = made(tmp_path, recording, output)
    assert part.name == f"Kettle.{VIDEO_FORMS[form].ending}"
    facts = facts_of(out)
    assert facts.size == output.size_of(SIZE)
    assert facts.sound == VIDEO_FORMS[form].sound
    assert abs(facts.frames - part.frames) <= 1


@pytest.mark.parametrize(
    ("form", "codecs"),
    [
        ("h264", {"h264", "aac"}),
        ("h265", {"hevc", "aac"}),
        ("mkv", {"h264", "aac"}),
        ("vp9", {"vp9", "opus"}),
        ("av1", {"av1", "opus"}),
        ("prores", {"prores", "pcm_s16le"}),
        ("overlay", {"prores"}),
    ],
)
def test_forms_hold_the_codecs_they_are_named_by(
    tmp_path: Path, recording: Path, form: str, codecs: set[str]
) -> None:
    _, _, out = made(tmp_path, recording, VideoFile(form=form))
    with av.open(str(out)) as reading:
        found = {one.codec_context.codec.canonical_name for one in reading.streams}
        assert found == codecs
        if form == "h265":
            assert reading.streams.video[0].codec_tag == "hvc1"


@pytest.mark.parametrize("form", ["h264", "h265", "mkv", "vp9", "av1"])
@pytest.mark.parametrize("captions", ["switchable", "both"])
def test_captions_can_be_switched_on(
    tmp_path: Path, recording: Path, form: str, captions: str
) -> None:
    _, _, out = made(tmp_path, recording, VideoFile(form=form, captions=captions))
    with av.open(str(out)) as reading:
        (stream,) = reading.streams.subtitles
        assert stream.metadata["language"] == "eng"
        assert reading.streams.audio[0].metadata["language"] == "eng"
        texts = [bytes(packet) for packet in reading.demux(stream)]
    said = [one.removeprefix(one[:2]) if form in ("h264", "h265") else one for one in texts]
    assert [one.decode() for one in said if one.strip(b"\0")] == ["mend", "kettles", "daily"]


def test_a_video_without_captions_shows_none(tmp_path: Path, recording: Path) -> None:
    bare, with_them = (
        made(tmp_path, recording, VideoFile(captions=one))[2].rename(tmp_path / f"{one}.mp4")
        for one in ("none", "burned")
    )
    light = [frame_at(one, 1.0).astype(int) for one in (recording, bare, with_them)]
    assert np.abs(light[0] - light[1]).mean() < 3
    assert np.abs(light[0] - light[2]).max() > 100


def frame_at(file: Path, at_s: float) -> np.ndarray:
    with av.open(str(file)) as reading:
        for frame in reading.decode(video=0):
            if frame.time >= at_s - 1e-3:
                return frame.to_ndarray(format="gray")
    raise AssertionError


def test_size_and_rate_are_as_ordered(tmp_path: Path, recording: Path) -> None:
    _, part, out = made(tmp_path, recording, VideoFile(lines=120, rate=12))
    facts = facts_of(out)
    assert facts.size == (212, 120)
    assert facts.frames == part.frames == 24


@pytest.mark.parametrize("target", [-16.0, -23.0, -12.0])
def test_sound_is_brought_to_a_loudness(tmp_path: Path, recording: Path, target: float) -> None:
    _, _, out = made(tmp_path, recording, VideoFile(loudness=target))
    found = loudness_of(out, LENGTH)
    assert found.lufs == pytest.approx(target, abs=0.5)
    assert found.peak_db < 0


def test_a_stretch_is_cut_out_with_its_captions(tmp_path: Path, recording: Path) -> None:
    stretch = PieceStretch(start_us=760_000, end_us=1_360_000)
    out = made(tmp_path, recording, VideoFile(), stretch)[2].rename(tmp_path / "part.mp4")
    assert facts_of(out).duration_us == pytest.approx(600_000, abs=50_000)
    _, _, whole = made(tmp_path, recording, VideoFile(lines=180))
    difference = frame_at(out, 0.24).astype(int) - frame_at(whole, 1.0)
    assert np.abs(difference).mean() < 3
    _, _, text = made(tmp_path, recording, TextFile(form="json"), stretch)
    said = json.loads(text.read_text())
    assert said["duration_us"] == 600_000
    assert [cue["lines"] for cue in said["cues"]] == [["kettles"]]
    assert said["cues"][0]["start_us"] == 0


def test_an_overlay_laid_over_the_recording_is_the_burned_in_video(
    tmp_path: Path, recording: Path
) -> None:
    _, _, over = made(tmp_path, recording, VideoFile(form="overlay", quality="fine"))
    _, _, burned = made(tmp_path, recording, VideoFile(quality="fine"))
    with av.open(str(over)) as a, av.open(str(burned)) as b, av.open(str(recording)) as c:
        for laid, wanted, plain in zip(
            a.decode(video=0), b.decode(video=0), c.decode(video=0), strict=True
        ):
            top = laid.to_ndarray(format="rgba").astype(float)
            share = top[..., 3:] / 255
            behind = plain.to_ndarray(format="rgb24").astype(float)
            found = top[..., :3] * share + behind * (1 - share)
            off = np.abs(found - wanted.to_ndarray(format="rgb24")).mean(axis=2)
            assert np.mean(off < 24) > 0.98
            assert off.mean() < 4


@pytest.mark.parametrize("form", ["jpeg", "png"])
def test_a_cover_frame_is_taken_with_its_caption_or_without(
    tmp_path: Path, recording: Path, form: str
) -> None:
    seen = []
    for captions in (True, False):
        _, _, out = made(
            tmp_path, recording, StillFile(form=form, at_us=1_000_000, captions=captions)
        )
        with Image.open(out) as picture:
            assert picture.format == form.upper()
            assert picture.size == SIZE
            seen.append(np.asarray(picture.convert("L"), int))
    plain = frame_at(recording, 1.0).astype(int)
    assert np.abs(seen[1] - plain).mean() < 20
    assert np.abs(seen[0] - seen[1]).max() > 100


@pytest.mark.parametrize("form", ["srt", "vtt", "ass", "ttml", "txt", "csv", "json"])
def test_every_caption_file_is_made_and_read_back(
    tmp_path: Path, recording: Path, form: str
) -> None:
    options = {"form": form, "timed": True, "styled": True, "mark": True, "crlf": True}
    wanted, part, out = made(tmp_path, recording, TextFile(**options))
    assert out.read_bytes().startswith(b"\xef\xbb\xbf")
    assert out.read_bytes().count(b"\r\n") == out.read_bytes().count(b"\n") > 0
    assert "kettles" in out.read_text(encoding="utf-8-sig")
    text = out.read_text(encoding="utf-8-sig")
    out.write_text(text[: len(text) * 2 // 3] if form != "ttml" else text.replace("<p", "<q", 1))
    with pytest.raises(MortiserError):
        OUTPUTS["text"].verify(wanted, part, out, Path)


def test_what_is_not_as_ordered_is_no_success(tmp_path: Path, recording: Path) -> None:
    def refused(wanted: Order, part: OrderedFile, file: Path, says: str) -> None:
        with pytest.raises(Unlike, match=says):
            OUTPUTS["video"].verify(wanted, part, file, Path)

    wanted, part, out = made(tmp_path, recording, VideoFile())
    silent = make_video(tmp_path / "short.mp4", seconds=1.0, size=SIZE)
    refused(wanted, part, silent, r"it lasts 1\.0")
    refused(wanted, part, make_video(tmp_path / "b.mp4", seconds=2.0, size=(160, 90)), "160 × 90")
    # Right in all but what it shows: the recording has no captions.
    refused(wanted, part, recording, "captions are not as they should be at")
    softer = part.model_copy(update={"output": VideoFile(loudness=-35)})
    refused(wanted, softer, out, "its loudness is")
    switched = part.model_copy(update={"output": VideoFile(captions="both")})
    refused(wanted, switched, out, "cannot be switched on")
    slower = part.model_copy(update={"output": VideoFile(rate=10)})
    refused(wanted, slower, out, "frames instead of 20")
    still = part.model_copy(update={"output": StillFile()})
    with pytest.raises(Unlike, match="no picture"):
        OUTPUTS["still"].verify(wanted, still, out, Path)


def test_encoders_say_nothing_where_all_is_well(tmp_path: Path, recording: Path) -> None:
    code = (
        "import sys; from pathlib import Path; from mortiser.core.project.output import VideoFile\n"
        "from tests.outputs.test_making import made\n"
        "made(Path(sys.argv[1]), Path(sys.argv[2]), VideoFile(form='av1', captions='none'))\n"
        "made(Path(sys.argv[1]), Path(sys.argv[2]), VideoFile(form='h265'))"
    )
    run = subprocess.run(
        [sys.executable, "-c", code, str(tmp_path), str(recording)],
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert "info" not in run.stderr


def test_a_file_that_is_there_already_is_not_in_the_way(tmp_path: Path, recording: Path) -> None:
    shutil.copy(recording, tmp_path / "Kettle.mp4")
    made(tmp_path, recording, VideoFile())
    assert replace(facts_of(tmp_path / "Kettle.mp4"), duration_us=0).size == SIZE


@pytest.mark.parametrize("form", ["srt", "vtt", "ass", "ttml", "txt", "csv", "json"])
def test_a_stretch_has_the_words_said_in_it_alone(recording: Path, form: str) -> None:
    piece = order(recording, TextFile()).piece.in_shape()
    (cue,) = retime([Cue(1, WORDS, 0, 1)], piece.timeline, PACES["quick"], Frames(25.0))
    stretch = PieceStretch(start_us=900_000, end_us=1_100_000)
    text = caption_text(TextFile.model_validate({"form": form}), [cue], piece, stretch)
    assert "kettles" in text
    assert "mend" not in text
    assert "daily" not in text
    silent = PieceStretch(start_us=1_320_000, end_us=1_380_000)
    assert captions_of([cue], piece, TextFile(), silent) == []
