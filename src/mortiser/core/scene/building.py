"""Build the scene: lay captions out and give every part its paints and its motion."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Sequence
from functools import lru_cache
from itertools import accumulate

from mortiser.core.scene.model import PathItem, RectItem, Scene, SceneCue, StampItem
from mortiser.core.scene.moving import Movement
from mortiser.core.scene.plates import standing_plates, word_plate
from mortiser.core.scene.words import stamps_of, word_items
from mortiser.core.style.finish.changes import dressed
from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Entrance
from mortiser.core.style.layout.block import lay_out_cue
from mortiser.core.style.layout.fonts import FontBook
from mortiser.core.style.motion.paints import plank_box
from mortiser.core.style.motion.timing import live_spans, lived_together
from mortiser.core.transcript.words import Cue

TOUCH_US = 50_000
"""Captions nearer than this touch: one may go while the other comes."""
KEPT = 64
"""Captions of a reel that stay built."""
MOST_OVER_US = 1_000_000
"""A caption goes on for this long beyond its end at most."""


FIRST_FRAME_US = 40_000
"""A caption that begins so soon is on the first frame."""


def build_scene(
    cues: Sequence[Cue], finish: Finish, size: tuple[int, int], fonts: FontBook
) -> Scene:
    """The scene of these captions in one finish on a frame of ``size`` (width, height) pixels."""
    follow = [*cues[1:], None]
    return Scene(
        *size,
        tuple(
            _scene_cue(cue, after, finish, size, fonts)
            for cue, after in zip(cues, follow, strict=False)
        ),
    )


def over_us(cue: Cue, after: Cue | None, finish: Finish) -> int:
    """How long a caption goes on beyond its end, over the entrance of the one that touches it."""
    leaving = finish.motion.exit
    if not leaving.overlap or leaving.kind == "none" or after is None:
        return 0
    if not 0 <= after.start_us - cue.end_us <= TOUCH_US:
        return 0
    return min(leaving.duration_ms * 1000, (after.end_us - after.start_us) // 2)


def _scene_cue(
    cue: Cue,
    after: Cue | None,
    finish: Finish,
    size: tuple[int, int],
    fonts: FontBook,
) -> SceneCue:
    finish = dressed(finish, cue.look)
    if cue.start_us < FIRST_FRAME_US and cue.id >= 0:  # Layers have ids below 0.
        finish = _standing(finish)
    beyond = over_us(cue, after, finish)
    block = lay_out_cue(cue, finish, size, fonts)
    starts = [word.start_us for word in cue.words]
    said = [word.end_us for word in cue.words]
    lives = live_spans(starts, cue.start_us, cue.end_us)
    boxes = [word.box for word in block.words]
    if finish.lit == "line":
        lives = lived_together(lives, block.lines)
        boxes = [block.line_boxes[word.line] for word in block.words]
    movement = Movement(finish, block, lives, said, (cue.start_us, cue.end_us), beyond)
    plates = list(standing_plates(finish, block, movement))
    paths: list[PathItem] = []
    stamps: list[StampItem] = []
    for index, word in enumerate(block.words):
        layers = movement.of_word(index)
        plates += word_plate(finish, word, block.size, layers, index)
        paths += word_items(finish, block, index, movement, layers)
        stamps += stamps_of(block, index, movement, layers)
    rects: tuple[RectItem, ...] = ()
    if finish.plank is not None:
        box = plank_box(finish.plank, boxes, lives, block.size)
        rects = (RectItem(box, finish.plank.radius * block.size, finish.plank.colour),)
    return SceneCue(
        cue.id,
        cue.start_us,
        cue.end_us + beyond,
        movement.whole_us,
        block.size,
        movement.of_caption(),
        tuple(plates),
        rects,
        tuple(paths),
        tuple(stamps),
    )


def _standing(finish: Finish) -> Finish:
    """A finish whose captions stand at once: feeds take a piece's first frame for its picture."""
    motion = finish.motion.model_copy(update={"entrance": Entrance(kind="none")})
    return finish.model_copy(update={"motion": motion})


class SceneReader:
    """The scene of a whole piece, worked out caption by caption as it is played forwards."""

    def __init__(
        self,
        cues: Sequence[Cue],
        finish: Finish,
        size: tuple[int, int],
        fonts: FontBook,
    ) -> None:
        self._cues = cues
        self._starts = [cue.start_us for cue in cues]
        self._ends = list(accumulate((cue.end_us for cue in cues), max))
        """When the last of all captions so far ends."""
        follow = [*cues[1:], None]
        self._build = lru_cache(maxsize=KEPT)(
            lambda index: _scene_cue(cues[index], follow[index], finish, size, fonts)
        )

    def at(self, at_us: int) -> list[SceneCue]:
        """The captions that show at a moment of the piece."""
        first = last = bisect_right(self._starts, at_us)
        # However many have begun since, one that lasts may still show.
        while first and self._ends[first - 1] + MOST_OVER_US > at_us:
            first -= 1
        near = range(first, last)
        possible = [self._build(i) for i in near if at_us < self._cues[i].end_us + MOST_OVER_US]
        return [cue for cue in possible if at_us < cue.end_us]
