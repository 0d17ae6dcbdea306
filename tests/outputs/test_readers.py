"""Caption files read by others: FFmpeg's demuxers and decoders, and a reader of IMSC."""

from pathlib import Path
from xml.etree import ElementTree

import av
import pytest
from hypothesis import given
from ttconv.imsc import reader as imsc

from mortiser.formats.base import Caption, CaptionDocument
from mortiser.formats.registry import FORMATS
from tests.formats.test_files import LOOK, SAID, captions

ENDINGS = {"srt": "srt", "vtt": "webvtt", "ass": "ass"}
TRICKY = [
    Caption(0, 999_600, ("Salt & pepper <3",)),
    Caption(1_000_000, 2_000_000, ("an arrow --> here", "and a second line")),
    SAID,
    Caption(3_599_999_900, 3_601_000_000, ("42", "über 🔧 ½")),
]


@pytest.mark.parametrize("timed", [False, True])
@pytest.mark.parametrize("kind", ENDINGS)
def test_ffmpeg_reads_what_was_written(tmp_path: Path, kind: str, timed: bool) -> None:
    file = tmp_path / f"a.{kind}"
    document = CaptionDocument(
        4_000_000_000, timed=timed, look=LOOK if timed else None, size=(1080, 1920)
    )
    file.write_text(FORMATS[kind](TRICKY, document), encoding="utf-8", newline="")
    with av.open(str(file), format=ENDINGS[kind]) as reading:
        (stream,) = reading.streams.subtitles
        found = []
        for packet in reading.demux(stream):
            for one in packet.decode():
                text = one.dialogue.decode() if isinstance(one.dialogue, bytes) else one.dialogue
                found.append((float(packet.pts * packet.time_base), text))
    assert len(found) == len(TRICKY)
    for (at_s, text), caption in zip(found, TRICKY, strict=True):
        assert at_s == pytest.approx(caption.start_us / 1e6, abs=0.006)
        words = " ".join(caption.lines).replace("-->", "").split()
        assert all(word in text for word in words if word.isalpha())


@given(captions())
def test_a_reader_of_imsc_finds_every_caption(made: list[Caption]) -> None:
    tree = ElementTree.ElementTree(
        ElementTree.fromstring(FORMATS["ttml"](made, CaptionDocument(10**7)))
    )
    document = imsc.to_model(tree)
    found = [one for one in document.get_body().dfs_iterator() if type(one).__name__ == "P"]
    assert len(found) == len(made)
    for one, caption in zip(found, made, strict=True):
        assert abs(float(one.get_begin() or 0) * 1e6 - caption.start_us) <= 500
        assert abs(float(one.get_end()) * 1e6 - caption.end_us) <= 500
