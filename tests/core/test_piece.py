"""What a piece says of itself."""

import pytest

from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Clip, Timeline
from tests.pieces import piece_of


@pytest.mark.parametrize(
    ("goal", "over"),
    [(0, 0), (10, 0), (9.5, 0), (9.4, 0.6), (4, 6), (20, 0)],
    ids=["no goal", "as long", "half a second over", "more", "much more", "shorter"],
)
def test_a_piece_is_over_its_goal_by_more_than_half_a_second(goal: float, over: float) -> None:
    piece = piece_of(Timeline([Clip(1, 0, 10 * SECOND)]), goal_us=round(goal * SECOND))
    assert piece.over_us == round(over * SECOND)
