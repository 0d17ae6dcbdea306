"""Where cutaways lie: they hang on words, go and move with them, and the last of two is seen."""

from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.assembly.assembled import Assembled
from mortiser.core.assembly.covering import Cover, covers, lies
from mortiser.core.assembly.cutaway import (
    STORED,
    Cutaway,
    PictureSeen,
    RecordingSeen,
    without_source,
)
from mortiser.core.assembly.stretch import within
from mortiser.core.common.time import SECOND
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.framing.shape import FramedStretch

KETTLE = OwnPicture(digest="a" * 32, name="kettle.png", width=40, height=30)


def cutaway(start: int, end: int, number: int = 1, **more) -> Cutaway:
    during = FramedStretch(source_id=1, start_us=start * SECOND, end_us=end * SECOND)
    values = {"seen": RecordingSeen(source_id=2, from_us=5 * SECOND), **more}
    return Cutaway(id=number, during=during, **values)


def seconds(found: tuple[Cover, ...]) -> list[tuple[float, float, int]]:
    return [(one.start_us / SECOND, one.end_us / SECOND, one.cutaway.id) for one in found]


def clips(*stretches: tuple[int, int]) -> Timeline:
    return Timeline([Clip(1, a * SECOND, b * SECOND) for a, b in stretches])


def test_it_lies_where_its_words_are_said_and_goes_with_them() -> None:
    one = cutaway(3, 6)
    assert seconds(covers(clips((0, 10)), [one])) == [(3, 6, 1)]
    assert seconds(covers(clips((2, 10)), [one])) == [(1, 4, 1)], "what is before went"
    assert seconds(covers(clips((0, 4), (5, 10)), [one])) == [(3, 5, 1)], "some of its words went"
    assert seconds(covers(clips((5, 10), (0, 5)), [one])) == [(0, 1, 1), (8, 10, 1)], "they parted"
    assert covers(clips((6, 10)), [one]) == ()
    assert covers(Timeline([Clip(2, 0, 10 * SECOND)]), [one]) == (), "words of another recording"


def test_what_is_seen_goes_on_over_a_cut_and_from_one_part_to_the_next() -> None:
    (whole,) = covers(clips((0, 4), (5, 10)), [cutaway(3, 6, speed=2.0)])
    assert whole.seen_us(3 * SECOND) == 5 * SECOND
    assert whole.seen_us(4 * SECOND) == 7 * SECOND, "twice as fast"
    first, second = covers(clips((5, 10), (0, 5)), [cutaway(3, 6)])
    assert (first.seen_us(0), second.seen_us(8 * SECOND)) == (5 * SECOND, 6 * SECOND)
    (still,) = covers(clips((0, 10)), [cutaway(3, 6, seen=PictureSeen(picture=KETTLE))])
    assert still.seen_us(4 * SECOND) == 0


def test_of_two_over_the_same_words_the_last_is_seen() -> None:
    low, high = cutaway(2, 8, 1), cutaway(4, 6, 2)
    found = covers(clips((0, 10)), [low, high])
    assert seconds(found) == [(2, 4, 1), (4, 6, 2), (6, 8, 1)]
    assert found[2].seen_us(6 * SECOND) == 9 * SECOND, "it went on meanwhile"


STRETCH = st.tuples(st.integers(0, 20), st.integers(1, 8)).map(lambda one: (one[0], sum(one)))


@given(st.lists(STRETCH, max_size=5), st.lists(STRETCH, min_size=1, max_size=5))
def test_no_moment_is_covered_twice_nor_outside_the_words(
    over: list[tuple[int, int]], played: list[tuple[int, int]]
) -> None:
    timeline = clips(*played)
    cutaways = [cutaway(a, b, n) for n, (a, b) in enumerate(over, start=1)]
    found = covers(timeline, cutaways)
    for one, after in pairwise(found):
        assert one.end_us <= after.start_us
    for half in range(2 * timeline.duration_us // SECOND):
        at = half * SECOND // 2 + 1
        shown = [one.cutaway.id for one in found if one.start_us <= at < one.end_us]
        hung = [one.id for one in cutaways for a, b in lies(timeline, one.during) if a <= at < b]
        assert shown == hung[-1:]


@given(st.integers(0, 9), st.integers(1, 9))
def test_a_part_shows_what_the_whole_shows(start: int, length: int) -> None:
    whole = covers(clips((0, 10)), [cutaway(2, 8, 1), cutaway(4, 6, 2)])
    parts = within(whole, start * SECOND, (start + length) * SECOND)
    for half in range(2 * length):
        at = half * SECOND // 2
        here = [
            (one.cutaway.id, one.seen_us(at)) for one in parts if one.start_us <= at < one.end_us
        ]
        there = [
            (one.cutaway.id, one.seen_us(at + start * SECOND))
            for one in whole
            if one.start_us <= at + start * SECOND < one.end_us
        ]
        assert here == there


def test_the_digest_says_what_is_seen_not_its_number() -> None:
    line = clips((0, 10))
    one, same, other = (covers(line, [c]) for c in (cutaway(1, 2), cutaway(1, 2, 7), cutaway(1, 3)))
    digests = [Assembled(found).digest for found in (one, same, other)]
    assert digests[0] == digests[1] != digests[2]
    assert Assembled().digest == ""


def test_they_are_kept_as_text_copied_and_go_with_a_recording() -> None:
    both = (cutaway(1, 2), cutaway(3, 4, 2, seen=PictureSeen(picture=KETTLE)))
    assert STORED.read(STORED.write(both)) == both
    assert STORED.read("") == ()
    copied = both[0].of_copies({1: 11, 2: 12})
    assert (copied.during.source_id, copied.seen.source_id) == (11, 12)
    assert without_source(both, 2) == both[1:]
    assert without_source(both, 1) == ()
