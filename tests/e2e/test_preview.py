"""What the preview paints when things around it change, and what it keeps of that."""

from playwright.sync_api import Page

from mortiser.core.scene import build_scene, scene_json
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book
from tests.e2e.pages import until
from tests.serving import Server

INK = """() => {
  const canvas = document.querySelector("[aria-label=Preview] canvas");
  const pixels = canvas.getContext("2d").getImageData(0, 0, canvas.width, canvas.height).data;
  return pixels.some((value, at) => at % 4 === 3 && value > 200);
}"""
WIDTH = "document.querySelector('[aria-label=Preview] canvas').width"


def test_the_caption_is_there_after_a_move_to_a_denser_screen(bench: Page) -> None:
    until(bench, INK)
    before = bench.evaluate(WIDTH)
    screen = bench.context.new_cdp_session(bench)
    about = {"width": 1279, "height": 800, "deviceScaleFactor": 2, "mobile": False}
    screen.send("Emulation.setDeviceMetricsOverride", about)
    until(bench, f"{WIDTH} >= {2 * before - 2}")
    until(bench, INK)
    screen.send("Emulation.clearDeviceMetricsOverride")
    until(bench, f"{WIDTH} <= {before + 2}")
    until(bench, INK)


KEEPS = """async (scene) => {
  const { Painter } = await import("/assets/parts.js");
  const painter = new Painter(scene);
  await painter.ready;
  const canvas = new OffscreenCanvas(scene.width, scene.height);
  const context = canvas.getContext("2d");
  let most = 0;
  for (const cue of scene.cues) {
    for (let part = 0; part < 4; part += 1) {
      painter.paint(context, cue.start_us + ((cue.end_us - cue.start_us) * part) / 4, 0.25);
      for (const name of Object.keys(painter)) {
        const kept = painter[name];
        if (kept instanceof Map || Array.isArray(kept)) {
          const canvases = [...kept.values()].filter(
            (one) => one instanceof OffscreenCanvas || one?.canvas || one?.picture?.canvas,
          );
          most = Math.max(most, canvases.length);
        }
      }
    }
  }
  return most;
}"""


def test_a_painter_keeps_so_many_pictures_and_no_more(page: Page, server: Server) -> None:
    page.goto(server.address)
    cues = []
    for number in range(60):
        start = number * 1_000_000
        words = tuple(
            Shown(f"w{number}x{at}", start + at * 200_000, start + at * 200_000 + 150_000)
            for at in range(4)
        )
        cues.append(Cue(1, words, start, start + 950_000, id=number + 1))
    for finish in ("Lacquer", "Tide"):
        scene = build_scene(cues, FINISHES[finish], (1080, 1920), font_book())
        most = page.evaluate(KEEPS, scene_json(scene))
        assert 0 < most <= 64, finish
