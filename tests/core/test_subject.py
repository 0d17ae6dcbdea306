"""Faces joined over time, and the path that follows one."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from hypothesis.extra.numpy import arrays

from mortiser.core.framing.subject import LOOK_US, Face, FacePath, Track, joined, path_of, taut

SECOND = 1_000_000


def face(x: float, y: float = 0.4, height: float = 0.2, score: float = 0.8) -> Face:
    return Face(x=x, y=y, width=height * 0.8, height=height, score=score)


def track(xs: list[float]) -> Track:
    return Track(looks=tuple(range(len(xs))), faces=tuple(face(x) for x in xs))


@given(
    arrays(np.float64, st.integers(2, 60), elements=st.floats(0, 1, width=32)),
    st.floats(0.001, 0.3),
)
def test_a_taut_line_stays_in_its_tube_and_is_no_longer_than_its_middle(
    middle: np.ndarray, room: float
) -> None:
    line = taut(middle - room, middle + room)
    assert np.all(line >= middle - room - 1e-9)
    assert np.all(line <= middle + room + 1e-9)
    assert np.abs(np.diff(line)).sum() <= np.abs(np.diff(middle)).sum() + 1e-9
    length = np.hypot(1, np.diff(line)).sum()
    assert length <= np.hypot(1, np.diff(middle)).sum() + 1e-9


def test_sway_within_the_room_moves_nothing() -> None:
    xs = [0.5 + 0.03 * np.sin(at / 3) for at in range(100)]
    path = path_of(track(xs), 0, 20 * SECOND, (0.035, 0.03))
    assert path.rests
    assert path_of(track(xs), 0, 20 * SECOND, (0.0, 0.0)).rests is False


def test_who_walks_is_followed_evenly() -> None:
    xs = [0.2 + 0.5 * at / 100 for at in range(101)]
    path = path_of(track(xs), 0, 20 * SECOND, (0.03, 0.03))
    places = np.array([path.at(at * SECOND // 10)[0] for at in range(200)])
    truth = np.interp(np.arange(200) / 2, np.arange(101), xs)
    assert np.abs(places - truth).max() < 0.035
    assert np.abs(np.diff(places, 2)).max() < 0.001


def test_one_wrong_look_counts_for_nothing() -> None:
    xs = [0.5] * 20 + [0.9] + [0.5] * 20
    path = path_of(track(xs), 0, 8 * SECOND, (0.0, 0.0))
    assert path.rests


def test_a_path_has_no_corners_in_between_and_can_be_parted() -> None:
    xs = [0.2] * 10 + [0.5] * 10 + [0.3] * 10
    path = path_of(track(xs), 0, 6 * SECOND, (0.01, 0.01))
    part = path.during(2 * SECOND, 3 * SECOND)
    assert len(part.xs) < len(path.xs)
    for at in range(2 * SECOND, 3 * SECOND, 40_000):
        assert part.at(at) == pytest.approx(path.at(at), abs=1e-9)
    # Also just before and behind a look.
    for look in range(1, 29):
        near = [path.at(look * LOOK_US + by)[0] for by in (-1, 1)]
        assert near[0] == pytest.approx(near[1], abs=1e-5)


def test_a_part_beyond_the_end_stays_where_it_ended() -> None:
    path = FacePath(0, (0.1, 0.2), (0.3, 0.3))
    assert path.during(20 * SECOND, 22 * SECOND).at(21 * SECOND) == (0.2, 0.3)


def test_two_faces_are_two_tracks_the_larger_one_first() -> None:
    looks = [[face(0.3, height=0.1), face(0.7 + 0.002 * at, height=0.25)] for at in range(50)]
    found = joined(looks)
    assert [len(one.looks) for one in found] == [50, 50]
    assert found[0].faces[0].x == 0.7


def test_who_turns_away_for_a_second_or_jumps_is_the_same() -> None:
    away = [[face(0.4)] for _ in range(20)] + [[]] * 5 + [[face(0.45)] for _ in range(20)]
    assert [len(one.looks) for one in joined(away)] == [40]
    jump = [[face(0.2)] for _ in range(20)] + [[face(0.8)] for _ in range(20)]
    assert [len(one.looks) for one in joined(jump)] == [40]


def test_what_is_seen_once_and_not_surely_is_nobody() -> None:
    looks = [[face(0.4)]] * 10 + [[face(0.4), face(0.9, score=0.2)]] + [[face(0.4)]] * 10
    assert len(joined(looks)) == 1
    assert joined([[], [], []]) == ()


def test_who_jumps_is_jumped_after_at_once() -> None:
    xs = [0.2] * 20 + [0.6] * 20
    path = path_of(track(xs), 0, 8 * SECOND, (0.02, 0.02))
    for at, x in ((3 * SECOND, 0.2), (19 * LOOK_US, 0.2), (20 * LOOK_US, 0.6), (7 * SECOND, 0.6)):
        assert path.at(at)[0] == pytest.approx(x, abs=0.021)
