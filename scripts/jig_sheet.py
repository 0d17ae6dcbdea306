"""Draw every jig of ours in each of its shapes, over the demo's recordings, as a sheet.

``python -m scripts.jig_sheet`` writes docs/screenshots/jigs.png.
"""

from __future__ import annotations

import tempfile
from dataclasses import dataclass
from pathlib import Path

import av
import skia
from scripts.contact_sheet import label
from scripts.said import captions_of, words_of

from mortiser.core.common.time import SECOND
from mortiser.core.delivery.order import OrderedSource
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import Shape
from mortiser.core.framing.subject import joined
from mortiser.core.project.jig import JIGS, Jig, behind, filled
from mortiser.core.project.piece import MediaFacts, Piece
from mortiser.core.project.settings import PieceSettings
from mortiser.media.faces import look_for_faces
from mortiser.outputs.plans import painted, plan_of
from mortiser.pictures import keep, use_pictures
from mortiser.pictures.checking import checked
from mortiser.render.still import still

OUT = Path("docs/screenshots/jigs.png")
MEDIA = Path("src/mortiser/demo/media")
COVER = MEDIA / "lantern.svg"
TALL, GAP, LABEL = 360, 16, 26
GROUND = skia.ColorSetRGB(244, 240, 232)


@dataclass(frozen=True)
class Shot:
    """A recording of the demo, a moment of it, the headline over it and who speaks."""

    file: str
    at_us: int
    headline: str
    speaker: str

    @property
    def path(self) -> Path:
        """Where the recording lies."""
        return MEDIA / self.file


SHOTS = {
    "Talk, tall": Shot("kettle.mp4", 1_700_000, "The cold kettle", "Odalys"),
    "Talk, wide and square": Shot("chair.mp4", 3_100_000, "A chair that rocks", "Odalys"),
    "Conversation, square": Shot("counter.m4a", 5_500_000, "At the counter", "Odalys"),
    "Lyrics beside a cover": Shot("lyric.m4a", 3_200_000, "Lantern Lane", "Odalys"),
}


def main() -> None:
    """Write the sheet."""
    pictures: list[tuple[str, skia.Image]] = []
    with tempfile.TemporaryDirectory() as folder:
        use_pictures(Path(folder) / "pictures")
        found = checked(COVER.read_bytes())
        keep(found)
        cover = OwnPicture(digest=found.digest, width=found.width, height=found.height)
        for jig in JIGS:
            for number, shape in enumerate(jig.shapes):
                name = "" if number else jig.name
                pictures.append((name, _picture(jig, shape, SHOTS[jig.name], cover)))
    half = -(-len(pictures) // 2)
    rows = [pictures[:half], pictures[half:]]
    width = max(sum(image.width() + GAP for _, image in row) for row in rows) + GAP
    surface = skia.Surface(width, len(rows) * (LABEL + TALL + GAP))
    canvas = surface.getCanvas()
    canvas.clear(GROUND)
    for index, row in enumerate(rows):
        left, top = GAP, index * (LABEL + TALL + GAP)
        for name, image in row:
            label(canvas, name, left, top + LABEL - 8)
            canvas.drawImage(image, left, top + LABEL)
            left += image.width() + GAP
    surface.makeImageSnapshot().save(str(OUT), skia.kPNG)


def _picture(jig: Jig, shape: Shape, shot: Shot, cover: OwnPicture) -> skia.Image:
    words = words_of(shot.path, shot.speaker)
    end_us = words[-1].end_us + SECOND
    line = Timeline([Clip(1, 0, end_us, id=1)])
    cues = captions_of(words, line, jig.pace)
    size = _size(shot.path)
    looks = look_for_faces(shot.path, end_us, lambda _: None) if size else []
    layers = filled(jig.layers, (), shot.headline, pictures=[cover])
    (shape,) = behind((shape,), layers)
    settings = PieceSettings("", (shape,), jig.finish, jig.pace, layers=layers)
    facts = MediaFacts(pictures={1: size} if size else {}, subjects={1: joined(looks)})
    piece = Piece(1, 1, settings, line, facts).in_shape()
    source = OrderedSource(id=1, path=str(shot.path), duration_us=end_us, sound=str(shot.path))
    plan = plan_of(piece, painted(piece, cues), [source], Path)
    image = skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(still(plan, shot.at_us)))
    share = TALL / image.height()
    smooth = skia.SamplingOptions(skia.FilterMode.kLinear, skia.MipmapMode.kLinear)
    return image.resize(round(image.width() * share), TALL, smooth)


def _size(path: Path) -> tuple[int, int] | None:
    with av.open(str(path)) as reading:
        videos = reading.streams.video
        return (videos[0].width, videos[0].height) if videos else None


if __name__ == "__main__":
    main()
