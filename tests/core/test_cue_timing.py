import itertools
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.captions.cue_timing import MOST_EARLY_US, SHORTEST_SHOWN_US
from mortiser.core.captions.cue_timing import retime as retime_by
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.common.frames import Frames
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.transcript.words import Cue, Shown
from tests.strategies import cues_of, spoken_words

WHOLE = Timeline([Clip(1, 0, 10**9)])
RULES = PACES["quick"]


def retime(cues: list[Cue], spans: Timeline, pace: Pace = RULES, rate: float = 0.0) -> list[Cue]:
    return retime_by(cues, spans, pace, Frames(rate))


def cue(*times: tuple[int, int]) -> Cue:
    words = tuple(Shown("word", a * 1000, b * 1000) for a, b in times)
    return Cue(1, words, words[0].start_us, words[-1].end_us + 1)


@given(spoken_words(most=20), st.data())
def test_captions_never_overlap_nor_leave_before_their_voice(
    words: list[Shown], data: st.DataObject
) -> None:
    cues = retime(data.draw(cues_of(words)), WHOLE)
    for this, after in itertools.pairwise(cues):
        assert this.end_us <= after.start_us
        gap = after.start_us - this.end_us
        assert gap == 0 or gap >= RULES.close_us
    for one in cues:
        assert one.end_us - one.start_us >= SHORTEST_SHOWN_US
        assert one.start_us >= one.words[0].start_us - MOST_EARLY_US
        assert one.end_us >= one.words[-1].end_us


@given(spoken_words(least=6, most=24), st.data())
def test_a_run_of_eleven_gives_the_middle_as_all_would(
    words: list[Shown], data: st.DataObject
) -> None:
    cues = data.draw(cues_of(words))
    whole = retime(cues, WHOLE)
    middle = data.draw(st.integers(0, len(cues) - 1))
    low, high = max(0, middle - 5), min(len(cues), middle + 6)
    part = retime([*whole[low:middle], cues[middle], *whole[middle + 1 : high]], WHOLE)
    crowded = any(
        b.start_us - a.start_us <= SHORTEST_SHOWN_US for a, b in itertools.pairwise(whole)
    )
    for index in range(max(0, middle - 1), min(len(cues), middle + 2)):
        assert crowded or part[index - low] == whole[index]


def test_a_caption_comes_a_little_early_and_lingers() -> None:
    (one,) = retime([cue((1000, 2500))], WHOLE)
    assert (one.start_us, one.end_us) == (960_000, 2_750_000)


def test_a_short_word_stays_readable() -> None:
    (one,) = retime([cue((1000, 1100))], WHOLE)
    assert one.end_us - one.start_us >= RULES.shortest_us


def test_small_gaps_close_and_long_ones_stay() -> None:
    first, second, third = retime([cue((0, 900)), cue((1300, 2200)), cue((4000, 5000))], WHOLE)
    assert first.end_us == second.start_us
    assert third.start_us - second.end_us > RULES.close_us


def test_pinned_edges_do_not_move() -> None:
    pinned = replace(
        cue((1000, 2000)), start_us=700_000, end_us=2_900_000, start_pinned=True, end_pinned=True
    )
    before, one, after = retime([cue((0, 650)), pinned, cue((3100, 3900))], WHOLE)
    assert (one.start_us, one.end_us) == (700_000, 2_900_000)
    assert before.end_us == 700_000
    assert after.start_us >= 2_900_000


def test_the_last_caption_ends_with_the_piece() -> None:
    (one,) = retime([cue((1000, 1900))], Timeline([Clip(1, 0, 2_000_000)]))
    assert one.end_us == 2_000_000


@given(spoken_words(most=20), st.data(), st.sampled_from([24.0, 25.0, 30000 / 1001, 60.0]))
def test_edges_lie_on_frames(words: list[Shown], data: st.DataObject, rate: float) -> None:
    times = [
        edge
        for one in retime(data.draw(cues_of(words)), WHOLE, RULES, rate)
        for edge in (one.start_us, one.end_us)
    ]
    assert all(abs(t - round(t * rate / 1e6) * 1e6 / rate) <= 1 for t in times)


def test_snapping_can_be_left_off() -> None:
    free = RULES.model_copy(update={"snap": False})
    (one,) = retime([cue((1000, 2500))], WHOLE, free, 30.0)
    assert (one.start_us, one.end_us) == (960_000, 2_750_000)
    (one,) = retime([cue((1000, 2500))], WHOLE, RULES, 30.0)
    assert (one.start_us, one.end_us) == (933_333, 2_766_667)


def test_closed_gaps_leave_some_frames_where_the_voice_lets_them() -> None:
    pace = RULES.model_copy(update={"gap_frames": 2})
    first, second, third = retime(
        [cue((0, 900)), cue((1300, 2200)), cue((2210, 3100))], WHOLE, pace, 25.0
    )
    assert second.start_us - first.end_us == 80_000
    assert second.end_us == third.start_us


def test_a_caption_stays_as_long_as_reading_takes_but_not_for_ever() -> None:
    slow = RULES.model_copy(update={"chars_per_s": 5, "longest_us": 1_500_000})
    (one,) = retime([cue((1000, 1300))], WHOLE, slow)
    assert one.end_us - one.start_us == 800_000
    words = (Shown("extraordinarily", 1_000_000, 1_300_000),)
    (one,) = retime([Cue(1, words, 0, 1)], WHOLE, slow)
    assert one.end_us - one.start_us == 1_500_000


def test_captions_do_not_hang_over_a_cut() -> None:
    spans = Timeline([Clip(1, 0, 2_000_000), Clip(1, 5_000_000, 9_000_000)])
    before, after = retime([cue((800, 1950)), cue((2020, 3000))], spans, RULES)
    assert before.end_us == after.start_us == 2_000_000


def test_a_pinned_end_is_not_cut_off_by_the_next_caption() -> None:
    held = replace(cue((1000, 1900)), end_us=2_600_000, end_pinned=True)
    one, two = retime([held, cue((2000, 3500))], WHOLE)
    assert one.end_us == two.start_us == 2_600_000


@given(spoken_words(least=2, most=24), st.sampled_from([300_000, 500_000, 833_000]))
def test_the_shortest_duration_is_kept_wherever_the_sound_allows_it(
    words: list[Shown], shortest: int
) -> None:
    """Grouped and timed: what stays shorter lies between voices, or could not be put together."""
    pace = RULES.model_copy(update={"words": 6, "line_chars": 40, "shortest_us": shortest})
    ranges = group(words, pace)
    made = [Cue(1, tuple(words[a:b]), 0, 1) for a, b in ranges]
    found = retime(made, WHOLE, pace)
    for index, one in enumerate(found[:-1]):
        if one.end_us - one.start_us >= shortest:
            continue
        before, after = found[index - 1] if index else None, found[index + 1]
        voice = before.words[-1].end_us if before else 0
        early = max(voice, one.words[0].start_us - MOST_EARLY_US)
        room = after.words[0].start_us - early
        taken = before is not None and before.end_us > voice
        assert room < shortest or taken or after.start_us >= after.words[0].start_us


def test_a_short_caption_borrows_from_its_neighbours() -> None:
    pace = RULES.model_copy(update={"shortest_us": 500_000})
    first, short, last = retime([cue((0, 900)), cue((1200, 1400)), cue((1460, 2500))], WHOLE, pace)
    assert short.end_us - short.start_us == 500_000
    assert first.end_us == short.start_us < 1_200_000
    assert first.end_us >= 900_000
    assert last.start_us <= 1_460_000
    tight = retime([cue((0, 900)), cue((910, 1200)), cue((1250, 2500))], WHOLE, pace)
    assert tight[2].start_us == 1_250_000
    assert tight[1].end_us - tight[1].start_us < 500_000


def test_the_next_lead_in_makes_room_for_the_gap() -> None:
    pace = RULES.model_copy(update={"gap_frames": 2, "lead_us": 100_000})
    first, second = retime([cue((0, 1000)), cue((1090, 2000))], WHOLE, pace, 25.0)
    assert second.start_us - first.end_us == 80_000


@given(
    st.sampled_from([(30_000, 1001), (24_000, 1001), (60_000, 1001), (25, 1)]), st.integers(2, 9)
)
def test_measured_rates_meet_every_frame(rate: tuple[int, int], minutes: int) -> None:
    """The rate is worked out from times rounded to a microsecond, as a recording gives them."""
    up, down = rate
    count = minutes * 60 * up // down
    last = round((count - 1) * down / up * 1e6)
    frames = Frames((count - 1) / last * 1e6)
    for number in (1, count // 3, count // 2, count - 2, count - 1):
        at = round(number * down / up * 1e6)
        assert (frames.before(at), frames.after(at)) == (at, at)
        assert frames.after(at - 5) == at


@given(
    st.sampled_from([24.0, 25.0, 30000 / 1001, 60.0]), st.integers(0, 90_000), st.integers(0, 10**8)
)
def test_edges_go_to_frames_wherever_the_first_one_lies(rate: float, origin: int, at: int) -> None:
    frames = Frames(rate, origin)
    before, after = frames.before(at), frames.after(at)
    assert before <= at + 1
    assert after >= at
    assert after - before <= frames.length_us + 1
    for moment in {before, after} - {0}:
        number = (moment - origin) / frames.length_us
        assert abs(number - round(number)) * frames.length_us <= 1
