"""The preview is the delivery: the browser's canvas against Skia, pixel by pixel."""

import base64
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import skia
from playwright.sync_api import Page

from mortiser import pictures
from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.layer import (
    Arrow,
    Bubble,
    Clock,
    Headline,
    PictureLayer,
    PlateLayer,
    ProgressBar,
    Wave,
    Waveform,
)
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import LayerPlace, Shape
from mortiser.core.scene import Scene, build_scene, scene_json
from mortiser.core.scene.layered import layer_readers
from mortiser.core.scene.waves import Heard
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.changes import look_text
from mortiser.core.style.finish.model import Finish
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from mortiser.paint.painter import Area, area_of, paint
from mortiser.paint.state import State, state_at
from tests.pieces import piece_of
from tests.serving import Server

SIZE = (1080, 1920)
MOST_DIFFERENCE = 4
LEAST_SHARE = 0.999
STAGES = ((236, 232, 224), (24, 28, 30))
# Entrance, word by word, rest, exit: shares of a caption's time.
MOMENTS = (0.002, 0.012, 0.03, 0.06, 0.12, 0.19, 0.25, 0.34, 0.5, 0.66, 0.93, 0.975)
SAID = {
    "Latin": ["before", "you", "throw", "it", "away:", "£5"],
    "Arabic": ["قبل", "أن", "ترمي", "الغلاية", "أصلحها", "معنا؟"],
    "Devanagari": ["फेंकने", "से", "पहले", "केतली", "ठीक", "करो।"],
    "emoji": ["mend", "🧵", "it", "🪡", "first👍🏽", "❤️"],
}

ABOVE = look_text({"companion.emoji": "🫖", "companion.place": "above", "companion.loop": "sway"})
BEFORE = look_text(
    {"companion.emoji": "🔧", "companion.place": "before", "companion.comes": "drop"}
)
BY_WORDS = ("", ABOVE, "", "", BEFORE, "")


def scene_of(finish: Finish, texts: list[str]) -> Scene:
    spans = Timeline([Clip(1, 0, 10**8)])
    starts = [400, 840, 1010, 1240, 1480, 2100]
    said = zip(texts, starts, [0, 0, 2, 4, 1, 5], BY_WORDS, strict=True)
    words = tuple(
        Shown(t, a * 1000, a * 1000 + 150_000, accent=mark, own=by) for t, a, mark, by in said
    )
    return build_scene(
        retime([Cue(1, words, 0, 1, id=1)], spans, PACES["quick"]),
        finish,
        SIZE,
        font_book(),
    )


PAINT = """async ([scene, moments]) => {
  const { Painter } = await import("/assets/parts.js");
  const painter = new Painter(scene);
  await painter.ready;
  const canvas = new OffscreenCanvas(scene.width, scene.height);
  const context = canvas.getContext("2d");
  const found = [];
  for (const [at, [r, g, b], [left, top, right, bottom]] of moments) {
    painter.paint(context, at);
    const stage = new OffscreenCanvas(right - left, bottom - top);
    const over = stage.getContext("2d");
    over.fillStyle = `rgb(${r},${g},${b})`;
    over.fillRect(0, 0, stage.width, stage.height);
    over.drawImage(canvas, -left, -top);
    const bytes = new Uint8Array(await (await stage.convertToBlob()).arrayBuffer());
    let text = "";
    for (let i = 0; i < bytes.length; i += 8192) {
      text += String.fromCharCode(...bytes.subarray(i, i + 8192));
    }
    found.push(btoa(text));
  }
  return found;
}"""


def with_room(area: Area) -> Area:
    """The area and what is around it, which has to stay empty in the browser too."""
    left, top, right, bottom = area
    return max(0, left - 40), max(0, top - 40), min(SIZE[0], right + 40), min(SIZE[1], bottom + 40)


def in_skia(state: State, colour: tuple[int, int, int], area: Area) -> np.ndarray:
    pixels = paint(state, area).astype(np.float32)
    return np.array(colour, np.float32) * (1 - pixels[..., 3:] / 255) + pixels[..., 2::-1]


def least_alike(page: Page, scene: Scene, moments: list[int], about: str) -> dict[str, Any]:
    """Where a scene's two pictures differ most, of those moments at which anything shows."""
    worst: dict[str, Any] = {"share": 1.0}
    shown = []
    for number, at in enumerate(moments):
        area = area_of(state_at(scene, at), *SIZE)
        if area[2] > area[0]:
            shown.append((at, STAGES[number % 2], area))
    assert len(shown) >= len(moments) - 2
    sent = [(at, colour, with_room(area)) for at, colour, area in shown]
    found = page.evaluate(PAINT, [scene_json(scene), sent])
    for (at, colour, area), (_, _, room), data in zip(shown, sent, found, strict=True):
        picture = skia.Image.MakeFromEncoded(skia.Data.MakeWithCopy(base64.b64decode(data)))
        canvas = picture.toarray(colorType=skia.kRGBA_8888_ColorType)[..., :3]
        wanted = in_skia(state_at(scene, at), colour, room)
        difference = np.abs(canvas.astype(np.float32) - wanted).max(axis=2)
        assert difference.max() < 120, f"{about}, at {at}"
        # Only the painted area counts: the empty frame around it would flatter the share.
        x, y = area[0] - room[0], area[1] - room[1]
        inside = (slice(y, y + area[3] - area[1]), slice(x, x + area[2] - area[0]))
        share = float((difference[inside] <= MOST_DIFFERENCE).mean())
        if share <= worst["share"]:
            worst = {"share": share, "at": at, "in": about, "max": float(difference.max())}
        difference[inside] = 0
        assert difference.max() <= 1, f"{about}, at {at}: outside its area"
    return worst


@pytest.mark.parametrize("name", FINISHES)
def test_canvas_and_skia_paint_the_same(page: Page, server: Server, name: str) -> None:
    page.goto(server.address)
    found = []
    for script, texts in SAID.items():
        scene = scene_of(FINISHES[name], texts)
        cue = scene.cues[0]
        length = cue.end_us - cue.start_us
        moments = [cue.start_us + int(length * share) for share in MOMENTS]
        found.append(least_alike(page, scene, moments, f"{name}, {script}"))
    worst = min(found, key=lambda one: one["share"])
    print(f"{name}: least share within {MOST_DIFFERENCE}/255 of the painted area: {worst}")
    assert worst["share"] >= LEAST_SHARE, worst


def test_layers_are_painted_the_same(page: Page, server: Server) -> None:
    page.goto(server.address)
    line = Timeline([Clip(1, 0, 20_000_000)])
    layers = (
        PlateLayer(id=1, colour=(30, 90, 120, 230), radius=0.3),
        Headline(id=2, text="Before you throw it\naway 🫖", opacity=0.8),
        ProgressBar(id=3, radius=0.5),
        Clock(id=4),
    )
    places = {2: LayerPlace(y=0.14, turn=-3, size=0.08)}
    shape = Shape(id=1, width=SIZE[0], height=SIZE[1], places=places)
    piece = piece_of(line, shape, finish="Lacquer", layers=layers).in_shape()
    readers = layer_readers(piece, [], SIZE, font_book())
    cues = [one for reader in readers for one in reader.between(0, 20_000_000)]
    moments = [50_000, 400_000, 3_333_333, 9_999_999, 15_000_001, 19_900_000]
    worst = least_alike(page, Scene(*SIZE, tuple(cues)), moments, "layers")
    assert worst["share"] >= LEAST_SHARE, worst


@pytest.fixture
def own_picture(server: Server) -> Iterator[OwnPicture]:
    """A picture with fine marks, known to the server and to the painter of this process."""
    with server.client() as client:
        data = Path("src/mortiser/demo/media/lantern.svg").read_bytes()
        made = client.post("/api/pictures", params={"name": "lantern.svg"}, content=data)
    before = pictures._folder
    pictures.use_pictures(server.workspace / "pictures")
    yield OwnPicture.model_validate(made.json())
    if before is not None:
        pictures.use_pictures(before)


def test_drawn_layers_pictures_and_waves_are_painted_the_same(
    page: Page, server: Server, own_picture: OwnPicture
) -> None:
    page.goto(server.address)
    line = Timeline([Clip(1, 0, 20_000_000)])
    layers = (
        PictureLayer(id=1, picture=own_picture, radius=0.1, coming="swell"),
        PictureLayer(id=2, picture=own_picture, opacity=0.7),
        Bubble(id=3, colour=(250, 250, 240, 220), tail="upper_right", radius=0.3),
        Arrow(id=4, colour=(200, 40, 40, 255), going="fade"),
        *(
            Waveform(id=number, wave=Wave(form=form, count=31), opacity=opacity)
            for number, (form, opacity) in enumerate(
                (("bars", 1.0), ("mirrored", 0.6), ("line", 1.0), ("ring", 1.0)), start=5
            )
        ),
    )
    places = {
        1: LayerPlace(x=0.25, y=0.1, width=0.3),
        2: LayerPlace(x=0.7, y=0.12, width=0.35, turn=12),
        3: LayerPlace(x=0.5, y=0.3, width=0.6, height=0.2, turn=-4),
        4: LayerPlace(x=0.5, y=0.42, width=0.3, height=0.15, turn=100),
        5: LayerPlace(y=0.52, height=0.12),
        6: LayerPlace(y=0.62, height=0.12, turn=3),
        7: LayerPlace(y=0.71, height=0.12),
        8: LayerPlace(y=0.86, width=0.4),
    }
    shape = Shape(id=1, width=SIZE[0], height=SIZE[1], places=places)
    piece = piece_of(line, shape, layers=layers).in_shape()
    peaks = np.random.default_rng(7).integers(0, 240, 1_000).astype(np.uint8)
    heard = Heard(0, 20_000, peaks.tobytes(), 250)
    readers = layer_readers(piece, [], SIZE, font_book(), heard)
    cues = [one for reader in readers for one in reader.between(0, 20_000_000)]
    moments = [60_000, 180_000, 3_333_333, 9_999_999, 15_000_001, 19_900_000]
    worst = least_alike(page, Scene(*SIZE, tuple(cues)), moments, "drawn layers")
    print(f"drawn layers: {worst}")
    assert worst["share"] >= LEAST_SHARE, worst


def test_the_browser_reads_tracks_as_the_vectors_say(page: Page, server: Server) -> None:
    page.goto(server.address)
    cases = json.loads(Path("tests/cases/tracks.json").read_text())
    found = page.evaluate(
        """async (cases) => {
          const { valueAt } = await import("/assets/parts.js");
          return cases.map((c) => valueAt(c.track, c.at));
        }""",
        cases,
    )
    for got, case in zip(found, cases, strict=True):
        assert got == pytest.approx(case["value"])
