"""Where a cutaway would help."""

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.assembly.cutaway import PictureSeen, RecordingSeen
from mortiser.core.assembly.ideas import LONG_US, Named, ideas
from mortiser.core.framing.own_picture import OwnPicture
from mortiser.core.transcript.words import Cue, Shown

SECOND = 1_000_000
LANTERN = Named(
    "lantern_blue.svg",
    PictureSeen(picture=OwnPicture(digest="a" * 32, name="lantern_blue.svg", width=9, height=9)),
)
KETTLES = Named("Kettles 2.mp4", RecordingSeen(source_id=4))


def cues(*texts: str, each_s: float = 2.0) -> list[Cue]:
    found, at = [], 0
    for number, text in enumerate(texts, start=1):
        words, length = [], round(each_s * SECOND)
        for index, word in enumerate(text.split()):
            start = at + index * 100_000
            words.append(Shown(word, start, start + 90_000, id=100 * number + index, source_id=1))
        found.append(Cue(1, tuple(words), at, at + length, id=number))
        at += length
    return found


def test_what_is_named_is_offered_where_it_is_said_first() -> None:
    said = cues("Good morning", "from Lantern Lane,", "this kettle", "a lantern again")
    found = ideas(said, 8 * SECOND, [], [], [LANTERN, KETTLES])
    assert [(one.cue_id, one.name, one.reason) for one in found] == [
        (2, "lantern_blue.svg", "“lantern” is said"),
        (3, "Kettles 2.mp4", "“kettle” is said"),
    ]
    assert found[0].seen == LANTERN.seen
    assert found[0].text == "from Lantern Lane,"


def test_short_parts_and_numbers_of_names_are_no_names() -> None:
    said = cues("it is a 2 to go", "the end")
    assert ideas(said, 4 * SECOND, [], [], [Named("it_2_to.mp4", KETTLES.seen)]) == []


def test_a_long_stretch_without_a_change_has_one_behind_its_middle() -> None:
    said = cues(*(f"word {n}" for n in range(6)))
    (found,) = ideas(said, 12 * SECOND, [], [], [])
    assert (found.cue_id, found.at_us, found.seen) == (4, 6 * SECOND, None)
    assert found.reason == "12.0 s without a change of picture"
    assert ideas(said, 12 * SECOND, [4 * SECOND, 8 * SECOND], [], []) == []


def test_nothing_is_offered_over_what_is_covered_already() -> None:
    said = cues("a lantern", "here", "and there", "we go")
    assert ideas(said, 8 * SECOND, [], [(0, 2 * SECOND), (3 * SECOND, 8 * SECOND)], [LANTERN]) == []


times = st.lists(st.integers(0, 40), max_size=8)


@given(st.integers(1, 20), times, st.lists(st.tuples(st.integers(0, 38), st.integers(1, 6))))
def test_ideas_are_free_captions_each_once_and_in_order(
    count: int, changes: list[int], covered: list[tuple[int, int]]
) -> None:
    said = cues(*(f"lantern {n}" for n in range(count)))
    length = 2 * count * SECOND
    over = [(a * SECOND, (a + n) * SECOND) for a, n in covered]
    found = ideas(said, length, [at * SECOND for at in changes], over, [LANTERN])
    assert [one.at_us for one in found] == sorted({one.at_us for one in found})
    by_id = {cue.id: cue for cue in said}
    for one in found:
        cue = by_id[one.cue_id]
        assert not any(a < cue.end_us and cue.start_us < b for a, b in over)
        assert one.seen is not None or length >= LONG_US
