import itertools
import time
from collections import Counter

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.carry import carry, spread
from mortiser.core.transcript.words import Shown, tokens, word_key
from tests.strategies import new_text, spoken_words


def words(*spec: tuple[str, int, int]) -> list[Shown]:
    return [Shown(t, a * 1000, b * 1000, id=i) for i, (t, a, b) in enumerate(spec, start=1)]


OLD = words(
    ("throw", 0, 200), ("it", 220, 300), ("a", 300, 350), ("way,", 350, 600), ("open", 900, 1100)
)


def test_joining_a_split_word_takes_the_time_of_both() -> None:
    result = carry(OLD, "throw it away, open", (0, 2_000_000))
    away = result[2]
    assert [w.text for w in result] == ["throw", "it", "away,", "open"]
    assert (away.start_us, away.end_us) == (300_000, 600_000)
    assert away.origin == "typed"
    assert result[3] is OLD[4]


def test_a_replaced_word_keeps_its_place_and_identity() -> None:
    result = carry(OLD, "throw that a way, open", (0, 2_000_000))
    assert (result[1].id, result[1].start_us, result[1].end_us) == (2, 220_000, 300_000)
    assert result[1].confidence is None


def test_capitals_and_points_do_not_touch_times_or_confidence() -> None:
    result = carry(OLD, "Throw it a way. Open", (0, 2_000_000))
    assert [w.id for w in result] == [1, 2, 3, 4, 5]
    assert [w.origin for w in result] == ["heard"] * 5


def test_an_added_word_goes_into_the_quiet() -> None:
    result = carry(OLD, "throw it a way, now open", (0, 2_000_000))
    now = result[4]
    assert (now.text, now.start_us, now.aligned) == ("now", 600_000, False)
    assert now.end_us <= 900_000


def test_an_added_word_without_room_has_no_length() -> None:
    result = carry(OLD, "throw it such a way, open", (0, 2_000_000))
    such = result[2]
    assert such.start_us == such.end_us == 300_000


def test_a_word_added_in_front_lies_just_before_the_next() -> None:
    result = carry(words(("open", 900, 1100)), "please open", (0, 2_000_000))
    assert result[0].end_us == 900_000
    assert result[0].start_us >= 500_000


@given(spoken_words(), new_text, st.integers(0, 500_000))
def test_no_edit_breaks_the_rules(old: list[Shown], fresh: list[str], extra: int) -> None:
    text = " ".join(fresh)
    room = (max(0, old[0].start_us - extra), old[-1].end_us + extra)
    result = carry(old, text, room)
    assert [w.text for w in result] == fresh
    assert all(a.end_us <= b.start_us for a, b in itertools.pairwise(result))
    known = {w.id: w for w in old}
    kept = [w for w in result if w.id]
    assert len({w.id for w in kept}) == len(kept)
    for word in kept:
        was = known[word.id]
        assert (word.start_us, word.end_us) == (was.start_us, was.end_us)
    assert all(room[0] <= w.start_us and w.end_us <= room[1] for w in result)


@given(spoken_words())
def test_typing_the_same_text_changes_nothing(old: list[Shown]) -> None:
    assert carry(old, " ".join(w.text for w in old), (0, 10**9)) == old


@given(spoken_words(least=2), st.data())
def test_deleting_words_leaves_the_others_alone(old: list[Shown], data: st.DataObject) -> None:
    keep = data.draw(
        st.lists(st.sampled_from(range(len(old))), min_size=1, unique=True).map(sorted)
    )
    result = carry(old, " ".join(old[i].text for i in keep), (0, 10**9))
    counts = Counter(word_key(old[i].text) for i in keep)
    assert Counter(word_key(w.text) for w in result) == counts
    assert all(
        w in old or (w.start_us, w.end_us) in {(o.start_us, o.end_us) for o in old} for w in result
    )


@given(st.lists(st.sampled_from(["a", "kettle", "mending"]), min_size=1), st.integers(0, 10**6))
def test_spread_covers_its_stretch(texts: list[str], length: int) -> None:
    laid = spread(texts, 5, 5 + length)
    assert laid[0].start_us == 5
    assert laid[-1].end_us == 5 + length
    assert all(a.end_us == b.start_us for a, b in itertools.pairwise(laid))


def test_tokens_drop_control_characters_and_odd_spaces() -> None:
    assert tokens("a\u2028b\x00c \u00a0 d") == ["a", "b", "c", "d"]


def test_a_large_paste_takes_no_more_time_than_its_words() -> None:
    """Ten times the words on both sides: a hundred times the work if each were held against each."""

    def work(count: int) -> float:
        old = [
            Shown(f"word{n % 997}", n * 1000, n * 1000 + 900, id=n + 1) for n in range(3 * count)
        ]
        text = " ".join(f"word{n * 7 % 1009}" for n in range(count))
        times = []
        for _ in range(3):
            begun = time.thread_time()
            carry(old, text, (0, 10**10))
            times.append(time.thread_time() - begun)
        return min(times)

    assert work(2_000) <= 40 * work(200)
