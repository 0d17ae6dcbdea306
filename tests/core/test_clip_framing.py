"""How clips are framed, moment by moment."""

from itertools import pairwise

import pytest

from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.clip_framing import ClipFraming, clip_framings, framing_of, recorded
from mortiser.core.framing.placing import matrix_of
from mortiser.core.framing.shape import (
    STORED,
    Framed,
    Framing,
    Move,
    Shape,
    shape_word,
    shapes_of,
)
from mortiser.core.framing.subject import Face, Track

SECOND = 1_000_000
WIDE = {1: (1920, 1080)}
TALL = Shape(id=1, width=1080, height=1920, framing=Framing(fit="fill"))


def whole(shape: Shape = TALL, seconds: int = 10) -> ClipFraming:
    (found,) = clip_framings(shape, Timeline([Clip(1, 0, seconds * SECOND)]), WIDE)
    return found


def move(way: str, start: int, end: int, zoom: float = 1.5) -> Move:
    return Move.model_validate(
        {"source_id": 1, "start_us": start, "end_us": end, "zoom": zoom, "way": way}
    )


def moving(*moves: Move) -> ClipFraming:
    return whole(TALL.model_copy(update={"moves": moves}))


def test_a_slow_move_in_is_all_there_at_its_end_and_goes_back_softly() -> None:
    found = moving(move("in", SECOND, 3 * SECOND))
    zooms = [found.at(at * SECOND // 10).zoom for at in range(50)]
    assert zooms[:10] == [1.0] * 10
    assert found.at(3 * SECOND).zoom == pytest.approx(1.5)
    assert zooms[10:30] == sorted(zooms[10:30])
    assert found.at(int(3.4 * SECOND)).zoom == 1.0
    steps = [b - a for a, b in pairwise(zooms)]
    assert max(steps) < 0.05


def test_a_quick_move_holds_over_the_word() -> None:
    found = moving(move("quick", SECOND, 2 * SECOND))
    assert found.at(SECOND).zoom == 1.0
    assert found.at(SECOND + 200_000).zoom == pytest.approx(1.5)
    assert found.at(2 * SECOND - 200_000).zoom == pytest.approx(1.5)
    assert found.at(2 * SECOND).zoom == 1.0


def test_a_quick_move_over_a_word_without_room_does_nothing() -> None:
    found = moving(move("quick", SECOND, SECOND + 1))
    assert [found.at(SECOND + by).zoom for by in (-1, 0, 1)] == [1.0, 1.0, 1.0]


def test_a_slow_move_out_begins_near() -> None:
    found = moving(move("out", SECOND, 2 * SECOND))
    assert found.at(SECOND).zoom == pytest.approx(1.5)
    assert found.at(2 * SECOND - 1).zoom == pytest.approx(1.0)


def test_what_does_not_move_keeps_its_digest() -> None:
    plain, moved = whole(), moving(move("in", SECOND, 2 * SECOND))
    assert moved.during(4 * SECOND, 6 * SECOND).rests
    assert moved.during(0, 2 * SECOND).digest != plain.during(0, 2 * SECOND).digest
    later = moving(move("in", SECOND, 2 * SECOND), move("out", 8 * SECOND, 9 * SECOND))
    assert later.during(0, 2 * SECOND).digest == moved.during(0, 2 * SECOND).digest


def test_a_framing_of_a_stretch_stays_with_what_is_left_of_it() -> None:
    own = Framing(fit="fill", x=0.1)
    framed = Framed(source_id=1, start_us=2 * SECOND, end_us=6 * SECOND, framing=own)
    shape = TALL.model_copy(update={"framed": (framed,)})
    assert framing_of(shape, Clip(1, 3 * SECOND, 4 * SECOND)) == own
    assert framing_of(shape, Clip(1, 0, SECOND)) == TALL.framing
    assert framing_of(shape, Clip(2, 3 * SECOND, 4 * SECOND)) == TALL.framing


def test_every_other_clip_is_nearer() -> None:
    shape = TALL.model_copy(update={"alternate": 1.2})
    clips = [Clip(1, at * SECOND, (at + 1) * SECOND) for at in (0, 4, 2)]
    found = clip_framings(shape, Timeline(clips), WIDE)
    assert [one.framing.zoom for one in found] == pytest.approx([1.0, 1.2, 1.0])


def still(x: float, y: float, looks: int = 60) -> Track:
    face = Face(x=x, y=y, width=0.1, height=0.2, score=0.9)
    return Track(looks=tuple(range(looks)), faces=(face,) * looks)


def face_in_frame(found: ClipFraming, x: float, y: float, at_us: int = 0) -> tuple[float, float]:
    a, b, c, d, e, f = matrix_of(found.at(at_us), WIDE[1], TALL.size)
    x, y = x * 1920, y * 1080
    return (a * x + b * y + c) / 1080, (d * x + e * y + f) / 1920


@pytest.mark.parametrize("x", [0.35, 0.5, 0.7])
@pytest.mark.parametrize("follow", ["calm", "close"])
def test_a_face_is_brought_to_its_point_and_stays_there(x: float, follow: str) -> None:
    framing = Framing.model_validate(
        {"fit": "fill", "zoom": 1.6, "follow": follow, "px": 0.4, "py": 0.35}
    )
    shape = TALL.model_copy(update={"framing": framing})
    line = Timeline([Clip(1, 0, 10 * SECOND)])
    (found,) = clip_framings(shape, line, WIDE, {1: (still(x, 0.4),)})
    assert found.rests
    place = face_in_frame(found, x, 0.4)
    # Pictures that rest are cut out at even pixels.
    assert place == pytest.approx((0.4, 0.35), abs=0.004)


def test_a_mirrored_face_lies_at_its_point_too() -> None:
    framing = Framing(fit="fill", zoom=1.6, follow="calm", px=0.4, py=0.35, mirror=True)
    shape = TALL.model_copy(update={"framing": framing})
    line = Timeline([Clip(1, 0, 10 * SECOND)])
    (found,) = clip_framings(shape, line, WIDE, {1: (still(0.3, 0.4),)})
    assert face_in_frame(found, 0.3, 0.4) == pytest.approx((0.4, 0.35), abs=0.004)


def test_moves_go_about_the_face() -> None:
    framing = Framing(fit="fill", zoom=1.6, follow="calm", px=0.4, py=0.35)
    moves = (move("in", SECOND, 3 * SECOND),)
    shape = TALL.model_copy(update={"framing": framing, "moves": moves})
    line = Timeline([Clip(1, 0, 10 * SECOND)])
    (found,) = clip_framings(shape, line, WIDE, {1: (still(0.6, 0.4),)})
    for at in (0, 2 * SECOND, 3 * SECOND):
        assert face_in_frame(found, 0.6, 0.4, at) == pytest.approx((0.4, 0.35), abs=0.001)


def test_a_face_at_the_edge_is_followed_as_far_as_the_picture_reaches() -> None:
    shape = TALL.model_copy(update={"framing": Framing(fit="fill", follow="calm")})
    line = Timeline([Clip(1, 0, 10 * SECOND)])
    (found,) = clip_framings(shape, line, WIDE, {1: (still(0.02, 0.4),)})
    assert matrix_of(found.at(0), WIDE[1], TALL.size)[2] == pytest.approx(0, abs=2)


def test_without_a_face_the_picture_stays_in_the_middle() -> None:
    shape = TALL.model_copy(update={"framing": Framing(fit="fill", follow="calm")})
    assert whole(shape).framing.x == pytest.approx(0.5, abs=0.001)


def test_a_recording_in_its_own_shape_is_shown_as_recorded() -> None:
    line = Timeline([Clip(1, 0, SECOND)])
    wide = Shape(id=1, width=1280, height=720)
    assert recorded(clip_framings(wide, line, WIDE), line, WIDE, wide.size)
    assert not recorded(clip_framings(TALL, line, WIDE), line, WIDE, TALL.size)


def test_shapes_are_kept_as_text() -> None:
    shape = TALL.model_copy(update={"moves": (move("in", 1, 2),), "look": {"place.dy": 0.3}})
    assert STORED.read(STORED.write((shape,))) == (shape,)
    assert [one.size for one in shapes_of("", 640, 480)] == [(640, 480)]
    assert shape.of_copies({1: 9}).moves[0].source_id == 9
    names = [(1080, 1920), (1080, 1350), (1000, 1010), (1920, 1080)]
    assert [shape_word(*size) for size in names] == ["tall", "portrait", "square", "wide"]
