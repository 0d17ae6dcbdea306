"""A microphone's sound by another clock: every click where it is asked for."""

from pathlib import Path

import av
import numpy as np
import pytest

from mortiser.core.common.errors import BadMedia
from mortiser.media.laid_sound import RATE, lay

CLICKS_S = (0.5, 1.5, 2.5, 3.5)


def clicks(file: Path, *, stereo: bool = False) -> Path:
    """Four seconds with clicks, in one or two channels."""
    samples = np.zeros((2 if stereo else 1, 4 * RATE), np.float32)
    for at in CLICKS_S:
        samples[:, int(at * RATE) : int(at * RATE) + 24] = 0.8
    with av.open(str(file), "w", format="wav") as out:
        stream = out.add_stream("pcm_s16le", rate=RATE, layout="stereo" if stereo else "mono")
        frame = av.AudioFrame.from_ndarray(
            (samples.T.reshape(1, -1) * 32767).astype(np.int16),
            format="s16",
            layout="stereo" if stereo else "mono",
        )
        frame.sample_rate = RATE
        out.mux(stream.encode(frame))
        out.mux(stream.encode(None))
    return file


def heard(file: Path) -> tuple[int, list[float]]:
    """How many samples there are, and where clicks begin (s)."""
    with av.open(str(file)) as reading:
        parts = [
            frame.to_ndarray().reshape(-1, frame.layout.nb_channels)[:, 0]
            for frame in reading.decode(audio=0)
        ]
    loud = np.abs(np.concatenate(parts).astype(np.float64)) > 8_000
    begins = np.flatnonzero(loud[1:] & ~loud[:-1]) + 1
    return len(loud), [at / RATE for at in begins]


@pytest.mark.parametrize("offset_us", [0, 400_000, -1_000_000, 250_007])
@pytest.mark.parametrize("stereo", [False, True])
def test_it_is_moved_and_filled_up_with_silence(
    tmp_path: Path, offset_us: int, stereo: bool
) -> None:
    lay(clicks(tmp_path / "m.wav", stereo=stereo), tmp_path / "o.flac", offset_us, 0.0, 5_000_000)
    count, found = heard(tmp_path / "o.flac")
    assert count == 5 * RATE
    wanted = [at - offset_us / 1e6 for at in CLICKS_S]
    assert found == pytest.approx([at for at in wanted if at > 0], abs=0.0001)


def test_it_is_stretched_to_the_other_clock(tmp_path: Path) -> None:
    # So much drift shows within seconds.
    lay(clicks(tmp_path / "m.wav"), tmp_path / "o.flac", 100_000, 5_000.0, 4_000_000)
    _, found = heard(tmp_path / "o.flac")
    assert found == pytest.approx([(at - 0.1) / 1.005 for at in CLICKS_S], abs=0.0001)


def test_what_is_no_sound_is_refused(tmp_path: Path) -> None:
    (tmp_path / "m.wav").write_bytes(b"nothing to hear")
    with pytest.raises(BadMedia):
        lay(tmp_path / "m.wav", tmp_path / "o.flac", 0, 0.0, 1_000_000)
