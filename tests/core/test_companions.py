"""The emoji that stand by words: where, when, and what they leave alone."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.captions.cue_timing import retime
from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import BadInput
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.scene import build_scene
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.changes import changed_accent, look_text
from mortiser.core.style.layout.block import Block, lay_out_cue
from mortiser.core.style.layout.caption_lines import lay_out_all
from mortiser.core.style.motion.track import value_at
from mortiser.core.transcript.words import Cue, Shown
from mortiser.fonts import font_book

SIZE = (1080, 1920)
WHOLE = Timeline([Clip(1, 0, 10**9)])
PINE = FINISHES["Pine"]


def cue_with(place: str | None, texts: tuple[str, ...] = ("mend", "the", "kettle")) -> Cue:
    words = [Shown(t, n * 400_000, n * 400_000 + 350_000, id=n + 1) for n, t in enumerate(texts)]
    if place:
        own = look_text({"companion.emoji": "🫖", "companion.place": place})
        words[1] = replace(words[1], own=own)
    (cue,) = retime([Cue(1, tuple(words), 0, 1, id=1)], WHOLE, PACES["quick"])
    return cue


def laid(place: str | None, *texts: str) -> Block:
    return lay_out_cue(cue_with(place, texts or ("mend", "the", "kettle")), PINE, SIZE, font_book())


def span(block: Block, index: int) -> tuple[float, float]:
    """Left and right of a word with its companion."""
    word = block.words[index]
    xs = [word.x, word.x + word.shaped.advance]
    if word.companion:
        xs += [word.x + word.companion.x, word.x + word.companion.x + word.companion.side]
    return min(xs), max(xs)


@pytest.mark.parametrize("place", ["before", "after"])
def test_by_a_word_it_takes_room_and_touches_no_neighbour(place: str) -> None:
    block, plain = laid(place), laid(None)
    stamp = block.words[1].companion
    assert stamp
    assert (stamp.x < 0) == (place == "before")
    edges = [span(block, index) for index in range(3)]
    assert edges[0][1] < edges[1][0]
    assert edges[1][1] < edges[2][0]
    wider = block.line_boxes[0].width - plain.line_boxes[0].width
    assert wider == pytest.approx((1.15 + 0.14) * block.size, abs=1)


def test_in_lines_that_run_leftwards_before_is_to_the_right() -> None:
    stamp = laid("before", "قبل", "أن", "ترمي").words[1].companion
    assert stamp
    assert stamp.x > 0


def test_above_a_word_it_stands_in_the_free_room() -> None:
    texts = ("mend", "the", "kettle", "before", "you", "throw", "it", "out")
    block, plain = laid("above", *texts), laid(None, *texts)
    word = block.words[1]
    assert word.companion
    assert word.companion.x + word.companion.side / 2 == pytest.approx(word.shaped.advance / 2)
    assert word.companion.y + word.companion.side < -0.7 * block.size
    # The same lines, the second as far below the first as without it.
    assert block.lines == plain.lines
    apart = [b.line_boxes[1].top - b.line_boxes[0].top for b in (block, plain)]
    assert apart[0] == pytest.approx(apart[1])
    # What stands above the first line takes the free room: the caption stays where it was.
    assert [box.top for box in block.line_boxes] == [box.top for box in plain.line_boxes]


@given(st.sampled_from(["before", "after", "above"]), st.floats(0.3, 4))
def test_it_stays_on_the_frame_and_counts_for_the_safe_area(place: str, size: float) -> None:
    cue = cue_with(place)
    own = look_text({"companion.emoji": "🫖", "companion.place": place, "companion.size": size})
    words = tuple(replace(w, own=own if w.own else "") for w in cue.words)
    finish = PINE.model_copy(update={"place": PINE.place.model_copy(update={"dy": -0.5})})
    ((_, reach),) = lay_out_all([cue.with_words(words)], finish, SIZE, font_book())
    ((_, plain),) = lay_out_all([cue_with(None)], finish, SIZE, font_book())
    assert reach[1] >= 0
    assert reach[0] >= 0
    assert reach[2] <= SIZE[0]
    assert reach[3] - reach[1] >= plain[3] - plain[1] - 1


def test_it_comes_when_its_word_is_said_and_then_has_its_own_motion() -> None:
    cue = cue_with("above")
    (shown,) = build_scene([cue], PINE, SIZE, font_book()).cues
    (stamp,) = shown.stamps
    assert (stamp.emoji, stamp.word) == ("🫖", 1)
    hidden = [layer.opacity for layer in stamp.layers if layer.opacity]
    said = cue.words[1].start_us
    # Inside the layers of its word: the last is its own.
    assert value_at(hidden[-1], said - 10_000)[0] == 0
    assert value_at(hidden[-1], said + 260_000)[0] == 1
    bobbing = [layer.move for layer in stamp.layers if layer.move and len(layer.move) > 2]
    assert bobbing
    assert all(path.layers != stamp.layers for path in shown.paths)


def test_what_there_is_no_picture_of_is_left_out() -> None:
    words = cue_with(None).words
    own = look_text({"companion.emoji": "kettle"})
    cue = cue_with(None).with_words((replace(words[0], own=own), *words[1:]))
    assert lay_out_cue(cue, PINE, SIZE, font_book()).words[0].companion is None
    assert build_scene([cue], PINE, SIZE, font_book()).cues[0].stamps == ()


def test_sizes_beyond_sense_are_refused() -> None:
    with pytest.raises(BadInput, match=r"companion\.size"):
        changed_accent(None, {"companion.size": 40})
