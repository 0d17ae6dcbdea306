"""Draw every jig of ours in each of its shapes, on bright, dark and busy pictures, as a sheet.

``python -m scripts.jig_sheet`` writes docs/screenshots/jigs.png.
"""

from __future__ import annotations

import tempfile
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt
import skia

from mortiser.core.cue_timing import retime
from mortiser.core.edits.retiming import untimed_cue
from mortiser.core.grouping import group
from mortiser.core.jig import JIGS, Jig, behind, filled
from mortiser.core.order import OrderedSource
from mortiser.core.own_picture import OwnPicture
from mortiser.core.piece import Piece
from mortiser.core.shape import Shape
from mortiser.core.subject import joined
from mortiser.core.timeline import Clip, Timeline
from mortiser.core.words import Shown
from mortiser.media.faces import look_for_faces
from mortiser.outputs.programmes import painted, programme_of
from mortiser.pictures import keep, use_pictures
from mortiser.pictures.checking import checked
from mortiser.render.still import still

OUT = Path("docs/screenshots/jigs.png")
CLIP = Path("src/mortiser/demo/media/kettle.mp4")
SONG, COVER = CLIP.parent / "lyric.m4a", CLIP.parent / "lantern.svg"
SAID = "Before you throw it away, open the plug and look for a thin grey wire."
SIZE, SECONDS, FPS = (960, 540), 6, 10
LONG, GAP = 300, 12
AT_US = 1_200_000


def main() -> None:
    """Write the sheet."""
    rows: list[list[npt.NDArray[np.uint8]]] = []
    with tempfile.TemporaryDirectory() as folder:
        use_pictures(Path(folder) / "pictures")
        found = checked(COVER.read_bytes())
        keep(found)
        cover = OwnPicture(digest=found.digest, width=found.width, height=found.height)
        clips = [_make(Path(folder) / f"{kind}.mp4", kind) for kind in ("bright", "dark", "busy")]
        for jig in JIGS:
            heard = any(layer.kind == "waveform" for layer in jig.layers)
            rows.append(
                [
                    _picture(jig, shape, clip, cover)
                    for shape in jig.shapes
                    for clip in ([SONG] if heard else clips)
                ]
            )
    width = max(sum(one.shape[1] + GAP for one in row) for row in rows) + GAP
    height = sum(max(one.shape[0] for one in row) + GAP for row in rows) + GAP
    sheet = np.full((height, width, 4), (128, 128, 128, 255), np.uint8)
    top = GAP
    for row in rows:
        left = GAP
        for one in row:
            sheet[top : top + one.shape[0], left : left + one.shape[1]] = one
            left += one.shape[1] + GAP
        top += max(one.shape[0] for one in row) + GAP
    image = skia.Image.fromarray(sheet, skia.kRGBA_8888_ColorType)
    OUT.write_bytes(bytes(image.encodeToData()))


def _picture(jig: Jig, shape: Shape, clip: Path, cover: OwnPicture) -> npt.NDArray[np.uint8]:
    line = Timeline([Clip(1, 0, SECONDS * 1_000_000, id=1)])
    words = [
        Shown(text, 300_000 * i, 300_000 * i + 280_000, speaker="Odalys", clip_id=1)
        for i, text in enumerate(SAID.split())
    ]
    cues = retime([untimed_cue(1, words[a:b]) for a, b in group(words, jig.pace)], line, jig.pace)
    seen = clip is not SONG
    looks = look_for_faces(clip, SECONDS * 1_000_000, lambda _: None) if seen else []
    layers = filled(jig.layers, (), "The cold kettle", pictures=[cover])
    (shape,) = behind((shape,), layers)
    piece = Piece(
        1, 1, "", (shape,), jig.finish, jig.pace, line, pictures={1: SIZE} if seen else {},
        layers=layers, subjects={1: joined(looks)},
    )  # fmt: skip
    source = OrderedSource(id=1, path=str(clip), duration_us=SECONDS * 1_000_000, sound=str(SONG))
    programme = programme_of(piece, painted(piece, cues), [source], Path)
    image = skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(still(programme, AT_US)))
    share = LONG / max(image.width(), image.height())
    small = image.resize(
        round(image.width() * share),
        round(image.height() * share),
        skia.SamplingOptions(skia.FilterMode.kLinear, skia.MipmapMode.kLinear),
    )
    return np.asarray(small.toarray(colorType=skia.kRGBA_8888_ColorType), np.uint8)


def _make(out: Path, kind: str) -> Path:
    """The demo presenter in a wide room: a bright one, a dark one, one full of things."""
    with av.open(str(CLIP)) as reading:
        frame = next(reading.decode(video=0)).reformat(304, 540, "rgb24")
        presenter = np.ascontiguousarray(frame.to_ndarray(), np.uint8)
    colours = {"bright": (244, 240, 230), "dark": (26, 28, 34), "busy": (150, 150, 150)}
    room = np.full((SIZE[1], SIZE[0], 3), colours[kind], np.uint8)
    if kind == "busy":
        rng = np.random.default_rng(3)
        for _ in range(400):
            x, y = rng.integers(0, SIZE[0] - 60), rng.integers(0, SIZE[1] - 60)
            w, h = rng.integers(10, 60, 2)
            room[y : y + h, x : x + w] = rng.integers(20, 235, 3)
    room[:, 520 : 520 + presenter.shape[1]] = presenter
    with av.open(str(out), "w") as writing:
        picture = writing.add_stream("libx264", rate=FPS)
        picture.width, picture.height, picture.pix_fmt = *SIZE, "yuv420p"
        for number in range(FPS * SECONDS):
            shown = av.VideoFrame.from_ndarray(room, format="rgb24")
            shown.pts, shown.time_base = number, Fraction(1, FPS)
            writing.mux(picture.encode(shown))
        writing.mux(picture.encode(None))
    return out


if __name__ == "__main__":
    main()
