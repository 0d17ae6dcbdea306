"""The talk in order, what can go of it, and where cuts lie."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.core.common.frames import Frames
from mortiser.core.editing.cutting import SHARP_US, SILENT, Loudness, Room, stretch_of
from mortiser.core.editing.removals import Removal, Wanted, removals, tightened, tightening
from mortiser.core.editing.repeats import repeats
from mortiser.core.editing.strand import Strand
from mortiser.core.editing.talk import Quiet, TalkWord, rows, talk
from mortiser.core.editing.timeline import Clip, Timeline
from mortiser.core.transcript.fillers import FILLERS, filler_runs, of_language
from mortiser.core.transcript.words import Word

MS = 1_000
GAP = 100 * MS


def spoken(text: str, start_ms: int = 500, source_id: int = 1) -> list[Word]:
    """Words of 200 ms; a number in brackets is a quiet of so many ms before the next."""
    words: list[Word] = []
    at = start_ms * MS
    for number, token in enumerate(text.split(), start=1):
        if token.startswith("["):
            at += int(token.strip("[]")) * MS - GAP
            continue
        words.append(Word(token, at, at + 200 * MS, id=number, source_id=source_id))
        at += 200 * MS + GAP
    return words


def of_whole(words: list[Word], end_ms: int = 60_000) -> tuple[Timeline, list[Strand]]:
    return (
        Timeline([Clip(1, 0, end_ms * MS, 1, 1)]),
        [Strand(1, 1, 0, end_ms * MS)],
    )


def found(text: str, wanted: Wanted, end_ms: int = 60_000) -> list[Removal]:
    words = spoken(text)
    timeline, strands = of_whole(words, end_ms)
    return removals(talk(timeline, strands, {1: words}), timeline, {}, wanted)


def test_what_is_struck_stands_where_it_was() -> None:
    words = spoken("we mend [400] kettles and chairs")
    strand = Strand(1, 1, 0, 10_000 * MS)
    clips = [Clip(1, 0, 900 * MS, 1, 1), Clip(1, 1_900 * MS, 10_000 * MS, 2, 1)]
    items = talk(Timeline(clips), [strand], {1: words})
    said = [(item.word.text, item.at_us) for item in items if isinstance(item, TalkWord)]
    assert said[:3] == [("we", 500 * MS), ("mend", 800 * MS), ("kettles", None)]
    assert [text for text, _ in said] == ["we", "mend", "kettles", "and", "chairs"]
    before, between, behind = (item for item in items if isinstance(item, Quiet))
    assert (before.side, between.side, behind.side) == ("before", "between", "behind")
    assert between.kept_us == 0
    assert between.at_us is None
    assert before.kept_us == 500 * MS


def test_a_passage_put_between_is_read_between() -> None:
    words = spoken("one two three four five six")
    first, moved = Strand(1, 1, 0, 5_000 * MS), Strand(2, 1, 1_050 * MS, 1_350 * MS)
    clips = [
        Clip(1, 0, 750 * MS, 1, 1),
        Clip(1, 1_050 * MS, 1_350 * MS, 2, 2),
        Clip(1, 1_400 * MS, 5_000 * MS, 3, 1),
    ]
    items = talk(Timeline(clips), [first, moved], {1: words})
    read = [
        (item.strand_id, item.word.text, item.at_us is not None)
        for item in items
        if isinstance(item, TalkWord)
    ]
    assert read == [
        (1, "one", True),
        (2, "three", True),
        (1, "two", False),
        (1, "three", False),
        (1, "four", True),
        (1, "five", True),
        (1, "six", True),
    ]
    assert [row[0].strand_id for row in rows(items)] == [1, 2, 1]


def test_rows_end_with_sentences_and_at_long_quiet() -> None:
    words = spoken("It is cold. Mend it [900] with care and")
    timeline, strands = of_whole(words, 5_000)
    read = [
        " ".join(item.word.text for item in row if isinstance(item, TalkWord))
        for row in rows(talk(timeline, strands, {1: words}))
    ]
    assert read == ["It is cold.", "Mend it", "with care and"]


@given(st.integers(100, 2_000), st.integers(0, 500), st.integers(350, 3_000))
def test_quiet_longer_than_asked_is_cut_to_what_is_left(
    longer_ms: int, leave_ms: int, gap_ms: int
) -> None:
    wanted = Wanted(quiet_us=longer_ms * MS, leave_us=leave_ms * MS)
    quiet = [one for one in found(f"one [{gap_ms}] two", wanted) if one.kind == "quiet"]
    saves = gap_ms - leave_ms
    assert len(quiet) == (gap_ms > longer_ms and saves >= 80)
    for one in quiet:
        assert one.saves_us == saves * MS
        assert one.from_us >= 700 * MS
        assert one.to_us <= (700 + gap_ms) * MS
        assert (one.before, one.after) == ("one", "two")


def test_the_talks_edges_leave_room_for_its_words() -> None:
    before, behind = found("one two", Wanted(), 3_000)
    assert (before.kind, before.from_us, before.to_us) == ("ends", 0, 440 * MS)
    assert (behind.kind, behind.from_us, behind.to_us) == ("ends", 1_120 * MS, 3_000 * MS)
    assert before.reason == "0.5 s before the first word"


FILLED = "So um we open the uh um plug, hmm, and er look for the fuse. I mean you know it."


def test_fillers_are_found_and_nothing_else() -> None:
    words = spoken(FILLED)
    runs = [(words[a].text, words[b].text) for a, b in filler_runs(words, of_language("en"))]
    assert runs == [("um", "um"), ("uh", "um"), ("hmm,", "hmm,"), ("er", "er")]
    of_two = [*of_language("en"), "you know", "I mean"]
    runs = [(words[a].text, words[b].text) for a, b in filler_runs(words, of_two)]
    assert runs[-1] == ("I", "know")


def test_every_language_has_fillers_that_are_single_words() -> None:
    for language, fillers in FILLERS.items():
        assert fillers, language
        for text in fillers:
            word = Word(text, 0, 1)
            assert list(filler_runs([word], fillers)) == [(0, 0)], (language, text)


def test_quiet_beside_a_filler_goes_with_it() -> None:
    made = found("Today, um [600] this kettle", Wanted(fillers=("um",)), 2_800)
    assert [one.kind for one in made] == ["ends", "fillers", "ends"]
    filler = made[1]
    assert filler.text == "um"
    assert (filler.from_us, filler.to_us) == (800 * MS, 1_540 * MS)


KNOWN = [
    ("we can we can open the plug", "we can"),
    ("the the kettle is cold", "the"),
    ("So before you so before you throw it away", "So before you"),
    ("I took it to the um I took it to a shop on Monday", "I took it to the um"),
    ("we open the we open this lid first", "we open the"),
    ("Nine times out of ten it is the fuse. Nine times out of ten it is the plug. Look.",
     "Nine times out of ten it is the fuse."),
    ("You need a – you need a thin wire", "You need a –"),
    ("it was it was it was stone cold", "it was it was"),
]  # fmt: skip
GOOD = [
    "It is very very cold.",
    "No no, leave it.",
    "we mend chairs, we mend radios, we mend kettles",
    "He had had enough.",
    "Bring your kettle, your chair, or your radio.",
    "Open the plug. Open the window. Open the door.",
    "We know that that one is hot.",
    "Three amp and thirteen amp.",
    "the tea is free and the milk is free",
    "When it rains we stay, when it snows we go.",
]


@pytest.mark.parametrize(("text", "goes"), KNOWN)
def test_the_last_take_stays(text: str, goes: str) -> None:
    words = spoken(text)
    fillers = {at for a, b in filler_runs(words, of_language("en")) for at in range(a, b + 1)}
    first = repeats(words, fillers)[0]
    assert " ".join(w.text for w in words[first.first : first.last + 1]) == goes


@pytest.mark.parametrize("text", GOOD)
def test_what_is_said_twice_on_purpose_stays(text: str) -> None:
    assert repeats(spoken(text)) == []


@pytest.mark.parametrize(
    ("text", "gone"),
    [
        ("You can, you can You can buy a new one.", "You can, you can"),
        ("Put a little Put just a little glue on it.", "Put a little"),
        (
            "Cables break where they Cables nearly always break where they end.",
            "Cables break where they",
        ),
        ("A good clamp is A good clamp costs five pounds.", "A good clamp is"),
        ("I think we take the, we take a saw.", "we take the,"),
    ],
)
def test_what_is_begun_again_goes_as_one(text: str, gone: str) -> None:
    words = spoken(text)
    (found,) = repeats(words)
    assert " ".join(word.text for word in words[found.first : found.last + 1]) == gone


@pytest.mark.parametrize(
    "text",
    [
        "If you lose the spring, you lose the afternoon.",
        "Some people come for the tea, and some people come for the company.",
        "An hour is an hour, not ten minutes.",
        "My grandmother told me that a chair is never just a chair.",
        "What you need is time, what you need is a table.",
        "We are open in summer, we are open in winter.",
    ],
)
def test_what_is_said_alike_on_purpose_stays(text: str) -> None:
    assert repeats(spoken(text)) == []


def loud(*stretches: tuple[int, int]) -> Loudness:
    """Loud in these stretches (ms), near silence elsewhere."""
    peaks = np.full(2_000, 2, np.uint8)
    for start, end in stretches:
        peaks[start // 5 : end // 5] = 150
    return Loudness(5 * MS, peaks)


def test_a_cut_lies_at_the_quietest_place_with_room_around() -> None:
    words = [
        Word(t, a * MS, b * MS) for t, a, b in (("a", 0, 200), ("b", 500, 700), ("c", 900, 990))
    ]
    # Somebody breathes in between 205 and 280 ms.
    heard = loud((0, 200), (205, 280), (500, 700), (900, 990))
    start, end = stretch_of(words, 1, 1, (0, 2_000 * MS), heard, Room())
    assert 285 * MS <= start <= 320 * MS
    assert 840 * MS <= end <= 900 * MS
    start, end = stretch_of(words, 1, 1, (0, 2_000 * MS), SILENT, Room())
    assert (start, end) == (320 * MS, 840 * MS)


@given(
    st.lists(st.tuples(st.integers(0, 300), st.integers(20, 500)), min_size=3, max_size=12),
    st.data(),
    st.integers(0, 400),
    st.integers(0, 400),
)
def test_no_cut_is_inside_a_word_that_stays(
    lengths: list[tuple[int, int]], data: st.DataObject, before_ms: int, after_ms: int
) -> None:
    words: list[Word] = []
    at = 0
    for gap, length in lengths:
        words.append(Word("w", (at + gap) * MS, (at + gap + length) * MS))
        at += gap + length
    first = data.draw(st.integers(0, len(words) - 1))
    last = data.draw(st.integers(first, len(words) - 1))
    random = np.random.default_rng(len(words)).integers(0, 255, at // 5 + 5).astype(np.uint8)
    room = Room(before_ms * MS, after_ms * MS)
    bounds = (0, (at + 100) * MS)
    start, end = stretch_of(words, first, last, bounds, Loudness(5 * MS, random), room)
    assert all(not word.start_us < start < word.end_us for word in words[:first])
    assert all(not word.start_us < end < word.end_us for word in words[last + 1 :])
    assert all(start < (word.start_us + word.end_us) // 2 < end for word in words[first : last + 1])
    if first and words[first].start_us - words[first - 1].end_us > room.after_us:
        assert start - words[first - 1].end_us <= max(room.after_us, SHARP_US)


def test_struck_words_are_no_removals() -> None:
    words = spoken("um one um two")
    strand = Strand(1, 1, 0, 3_000 * MS)
    timeline = Timeline([Clip(1, 750 * MS, 3_000 * MS, 1, 1)])
    items = talk(timeline, [strand], {1: words})
    made = removals(items, timeline, {1: SILENT}, Wanted(fillers=("um",)))
    assert [one.kind for one in made] == ["fillers", "ends"]
    assert made[0].at_us == 350 * MS
    assert replace(made[0], before="").after == "two"


@pytest.mark.parametrize(
    ("asked", "kinds", "quiet_us"),
    [
        ([], {"quiet", "ends", "fillers", "repeats"}, 500 * MS),
        (["quiet=0.3"], {"quiet", "ends"}, 300 * MS),
        (["fillers", "repeats"], {"fillers", "repeats"}, 500 * MS),
    ],
)
def test_what_is_asked_for_by_name(asked: list[str], kinds: set[str], quiet_us: int) -> None:
    found = tightening(asked, "en")
    assert (found.kinds, found.wanted.quiet_us) == (kinds, quiet_us)


@pytest.mark.parametrize("asked", ["noise", "quiet=soon", "quiet=9", "fillers=3", ""])
def test_what_is_nothing_to_tighten_by_is_refused(asked: str) -> None:
    with pytest.raises(BadInput, match="quiet"):
        tightening([asked], "en")


def test_a_recording_is_tightened_by_whole_frames() -> None:
    words = spoken("So um we mend we mend [900] kettles")
    whole = Clip(1, 0, 6_000 * MS)
    cut = tightened(words, whole, SILENT, Frames(25.0), tightening([], "en"))
    assert " ".join(word.text for word in cut.shown(words)) == "So we mend kettles"
    edges = [0, *(at for clip in cut.clips for at in (clip.start_us, clip.end_us))][:-1]
    holes = [after - before for before, after in zip(edges[::2], edges[1::2], strict=True)]
    assert [hole % 40_000 for hole in holes] == [0] * len(holes)
    assert len({clip.id for clip in cut.clips}) == len(cut.clips)
    assert tightened(words, whole, SILENT, Frames(), tightening(["quiet=2"], "en")).duration_us > 0


def test_a_strand_nothing_is_kept_of_stands_beside_what_it_was_parted_from() -> None:
    words = spoken("one two three four")
    middle = words[2].start_us - 1
    strands = [
        Strand(1, 1, 0, middle),
        Strand(2, 1, middle, words[3].end_us + 1),
        Strand(3, 1, 0, middle),
    ]
    later = Clip(1, middle, words[3].end_us + 1, 2, 2)

    def said(*clips: Clip) -> str:
        items = talk(Timeline(clips), strands[:2], {1: words})
        return " ".join(item.word.text for item in items if isinstance(item, TalkWord))

    assert said(later) == "one two three four"
    assert said(Clip(1, 0, middle, 1, 1)) == "one two three four"


def heard_like(
    words: list[Word], end_ms: int, sounds: dict[tuple[int, int], int], room: int = 2
) -> Loudness:
    """Talk at 100 of 255 over a room, with other sounds (ms to ms: how loud)."""
    peaks = np.full(end_ms // 5, room, np.uint8)
    for word in words:
        peaks[word.start_us // (5 * MS) : word.end_us // (5 * MS)] = 100
    for (start, end), loud in sounds.items():
        peaks[start // 5 : end // 5] = loud
    return Loudness(5 * MS, peaks)


@pytest.mark.parametrize(
    ("sound", "room", "sounds"),
    [
        ({}, 2, False),
        ({(1_700, 2_000): 120}, 2, True),  # A bell.
        ({(1_300, 3_000): 40}, 2, True),  # Music.
        ({(1_700, 1_730): 200}, 2, False),  # A click.
        ({(1_700, 2_000): 6}, 2, False),  # A breath.
        ({}, 20, False),  # A noisy room.
        ({(1_200, 1_280): 90}, 2, False),  # The end of a word.
    ],
)
def test_silence_is_not_the_same_as_no_words(
    sound: dict[tuple[int, int], int], room: int, sounds: bool
) -> None:
    words = spoken("we mend kettles [2000] and chairs and radios here every day")
    timeline, strands = of_whole(words, 6_000)
    loud = {1: heard_like(words, 6_000, sound, room)}
    items = talk(timeline, strands, {1: words}, loud)
    (between,) = [i for i in items if isinstance(i, Quiet) and i.side == "between"]
    assert between.sounds is sounds
    kinds = [one.kind for one in removals(items, timeline, loud, Wanted()) if one.kind != "ends"]
    assert kinds == (["sounds"] if sounds else ["quiet"])
    asked = tightening(["quiet"], "en")
    left = tightened(words, timeline.clips[0], loud[1], Frames(), asked)
    assert (left.duration_us > 4_500 * MS) is sounds, "it is left in unless it is asked for"


@pytest.mark.parametrize(("ahead", "behind"), [(800, 500), (400, 900)])
def test_a_struck_sentence_leaves_one_pause(ahead: int, behind: int) -> None:
    words = spoken(f"we mend. [{ahead}] Kettles too. [{behind}] Then chairs.")
    plain = stretch_of(words, 2, 3, (0, 60_000 * MS), SILENT, Room())
    kept = stretch_of(words, 2, 3, (0, 60_000 * MS), SILENT, Room(), keep_pause=True)
    gap = words[4].start_us - words[1].end_us

    def left(cut: tuple[int, int]) -> int:
        return gap - (cut[1] - cut[0])

    assert left(plain) == 180 * MS
    assert max(ahead, behind) * MS <= left(kept) <= (max(ahead, behind) + 180) * MS
