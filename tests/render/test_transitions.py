"""Transitions and grades in planes: what is seen at their beginning, middle and end, at any size."""

from collections.abc import Sequence
from typing import get_args

import cv2
import numpy as np
import pytest

from mortiser.core.assembly.grade import GRADES, Grade
from mortiser.core.assembly.transition import TRANSITION_NAMES, Transition, TransitionKind
from mortiser.paint.inks import PlaneInks
from mortiser.render.blend import BT709
from mortiser.render.grading import graded
from mortiser.render.transitions import MIXES, mixed

INKS = PlaneInks(*BT709, full=False)
SIZE = (120, 200)
KINDS = [kind for kind in MIXES if kind != "picture"]


def flat(luma: int, blue: int = 128, red: int = 128, size: tuple[int, int] = SIZE):
    width, height = size
    half = (height // 2, width // 2)
    return [
        np.full((height, width), luma, np.uint8),
        np.full(half, blue, np.uint8),
        np.full(half, red, np.uint8),
    ]


def waves(size: tuple[int, int] = SIZE, turn: float = 0.0):
    width, height = size
    x, y = np.meshgrid(np.arange(width) / width, np.arange(height) / height)
    luma = 126 + 70 * np.sin(5 * x + 3 * y + turn)
    planes = [luma, 128 + 40 * np.cos(4 * x - turn), 128 - 30 * np.sin(3 * y + turn)]
    return [
        (plane if index == 0 else plane[::2, ::2]).round().astype(np.uint8)
        for index, plane in enumerate(planes)
    ]


def same(one: Sequence[np.ndarray], other: Sequence[np.ndarray]) -> bool:
    return all(np.array_equal(a, b) for a, b in zip(one, other, strict=True))


@pytest.mark.parametrize("kind", KINDS)
def test_it_begins_with_the_one_and_ends_with_the_other(kind: str) -> None:
    one, other, how = flat(40, 100), flat(200, 150), Transition(kind=kind)
    assert same(mixed(one, other, 0, how, INKS), one)
    assert same(mixed(one, other, 1, how, INKS), other)
    early, late = (mixed(one, other, share, how, INKS)[0] for share in (0.02, 0.98))
    assert np.median(np.abs(early.astype(int) - 40)) < 20
    assert np.median(np.abs(late.astype(int) - 200)) < 20


@pytest.mark.parametrize("kind", KINDS)
def test_a_large_frame_shows_what_a_small_one_shows(kind: str) -> None:
    """What the preview shows is the delivery, smaller."""
    how = Transition(kind=kind, direction="up", soft=0.2)
    large, small = (480, 800), (240, 400)
    for share in (0.25, 0.5, 0.8):
        made = [
            mixed(waves(size), waves(size, 2.0), share, how, INKS)[0] for size in (large, small)
        ]
        shrunk = cv2.resize(made[0], small, interpolation=cv2.INTER_AREA).astype(int)
        off = np.abs(shrunk - made[1])
        assert np.percentile(off, 99) <= 6, share


@pytest.mark.parametrize(
    ("way", "seen"),
    [("left", "right"), ("right", "left"), ("up", "bottom"), ("down", "top")],
)
@pytest.mark.parametrize("kind", ["slide", "push", "wipe"])
def test_the_other_comes_from_where_the_one_does_not_go(kind: str, way: str, seen: str) -> None:
    how = Transition(kind=kind, direction=way, soft=0)
    luma = mixed(flat(40), flat(200), 0.5, how, INKS)[0]
    edges = {
        "left": luma[:, :10], "right": luma[:, -10:], "top": luma[:10], "bottom": luma[-10:],
    }  # fmt: skip
    other_side = {"left": "right", "right": "left", "top": "bottom", "bottom": "top"}[seen]
    assert edges[seen].mean() == 200
    assert edges[other_side].mean() == 40


def test_a_push_moves_the_one_too() -> None:
    how = Transition(kind="push", direction="left")
    one = waves()
    found = mixed(one, flat(200), 0.25, how, INKS)
    assert np.array_equal(found[0][:, :90], one[0][:, 30:])
    assert np.array_equal(found[1][:, :45], one[1][:, 15:])


def test_through_a_colour_is_that_colour_in_the_middle() -> None:
    how = Transition(kind="colour", colour=(255, 0, 0, 255))
    middle = mixed(flat(40), flat(200), 0.5, how, INKS)
    assert [int(one.mean()) for one in middle] == list(INKS.colour((255, 0, 0, 255))[:3])


def test_an_iris_opens_in_the_middle() -> None:
    luma = mixed(flat(40), flat(200), 0.4, Transition(kind="iris", soft=0), INKS)[0]
    assert luma[100, 60] == 200
    assert luma[0, 0] == 40


def test_a_soft_edge_is_soft() -> None:
    def steps(soft: float) -> int:
        how = Transition(kind="wipe", soft=soft)
        return len(np.unique(mixed(flat(40), flat(200), 0.5, how, INKS)[0]))

    assert steps(0) <= 3 < 20 < steps(0.5)


def test_every_kind_has_a_name_and_its_mathematics() -> None:
    kinds = set(get_args(TransitionKind))
    assert set(MIXES) == kinds == {one.kind for one in TRANSITION_NAMES}


def test_no_grade_changes_nothing() -> None:
    planes = waves()
    assert graded(planes, Grade(), INKS, 0) is planes


def mean(grade: Grade, planes: Sequence[np.ndarray]) -> list[float]:
    return [float(one.mean()) for one in graded(planes, grade, INKS, 0)]


def test_each_part_of_a_grade_does_what_it_is_called() -> None:
    middle, dark, bright = flat(126, 120, 140), flat(50), flat(210)
    assert mean(Grade(exposure=1), middle)[0] == pytest.approx(16 + 110 * 2 ** (1 / 2.2), abs=1)
    assert mean(Grade(contrast=0.5), bright)[0] > 210
    assert mean(Grade(contrast=0.5), dark)[0] < 50
    lifted = mean(Grade(shadows=1), dark)[0] - 50, mean(Grade(shadows=1), bright)[0] - 210
    assert lifted[0] > 10 * max(1, lifted[1])
    lit = mean(Grade(lights=1), bright)[0] - 210, mean(Grade(lights=1), dark)[0] - 50
    assert lit[0] > 10 * max(1, lit[1])
    assert mean(Grade(saturation=-1), middle)[1:] == [128, 128]
    assert mean(Grade(saturation=1), middle)[1:] == [112, 152]
    warm, cool = mean(Grade(warmth=1), middle), mean(Grade(warmth=-1), middle)
    assert warm[1] < 120 < cool[1]
    assert warm[2] > 140 > cool[2]
    assert mean(Grade(tint=1), middle)[1] > 120
    assert mean(Grade(tint=1), middle)[2] > 140
    assert warm[0] == 126, "how bright it is does not change"


def test_black_stays_black_and_white_stays_white() -> None:
    for grade in GRADES.values():
        plain = grade.model_copy(update={"grain": 0.0, "exposure": 0.0})
        black = graded(flat(16), plain, INKS, 0)
        assert black[0].min() >= 16
        assert abs(int(black[1][0, 0]) - 128) < 8
        white = graded(flat(235), grade.model_copy(update={"grain": 0.0}), INKS, 0)
        assert white[0].max() <= 235


def test_a_vignette_darkens_the_corners_alone() -> None:
    luma = graded(flat(126), Grade(vignette=1), INKS, 0)[0]
    assert luma[100, 60] == 126
    assert luma[0, 0] < 60


def test_grain_moves_and_is_as_coarse_in_every_size() -> None:
    usual = flat(126, size=(540, 960))
    one, other = (graded(usual, Grade(grain=1), INKS, number)[0] for number in (0, 1))
    assert not np.array_equal(one, other)
    assert 8 < one.std() < 30
    large, small = (
        graded(flat(126, size=size), Grade(grain=1), INKS, 3)[0].astype(int)
        for size in ((1080, 1920), (540, 960))
    )
    shrunk = cv2.resize(large.astype(np.float32), (540, 960), interpolation=cv2.INTER_AREA)
    assert np.corrcoef(shrunk.ravel(), small.ravel())[0, 1] > 0.9


def test_grades_are_the_same_in_every_size() -> None:
    for name, grade in GRADES.items():
        large, small = (480, 800), (240, 400)
        made = [
            graded(waves(size), grade.model_copy(update={"grain": 0.0}), INKS, 0)[0]
            for size in (large, small)
        ]
        shrunk = cv2.resize(made[0], small, interpolation=cv2.INTER_AREA).astype(int)
        assert np.percentile(np.abs(shrunk - made[1]), 99.9) <= 3, name
