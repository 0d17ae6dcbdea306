"""Captions laid over a piece that was cut and added to while they were worked out."""

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.editing.timeline import Timeline
from mortiser.core.edits.text.laying import LaidCaption, LaidWord, LayCaptions
from mortiser.core.edits.text.overtaken import brought_up
from tests.core.test_strand import STRANDS, WHOLE, stepped, steps

BEFORE = Timeline(WHOLE)
LENGTH = 4
Place = tuple[int, int]


def laid(text: str, start: int, length: int = LENGTH) -> LaidWord:
    return LaidWord(text=text, start_us=start, end_us=start + length)


def lay(words: list[LaidWord], start: int, end: int, *, by: int = 3) -> LayCaptions:
    captions = [LaidCaption(words=words[at : at + by]) for at in range(0, len(words), by)]
    return LayCaptions(about="hear", piece_id=1, from_us=start, to_us=end, captions=captions)


def place(timeline: Timeline, at: int) -> Place:
    found = timeline.to_source(at)
    assert found
    return found[0].strand_id, found[1]


@given(steps, st.integers(0, 180), st.integers(8, 200))
def test_words_go_with_their_sound(made: list, start: int, length: int) -> None:
    end = min(start + length, BEFORE.duration_us)
    starts = range(start, end - LENGTH, LENGTH)
    words = [laid(str(at), at) for at in starts]
    after = Timeline(stepped(made))
    found = brought_up(lay(words, start, end), BEFORE, after)
    heard = {place(BEFORE, at) for at in range(start, end)}
    here = {at for at in range(after.duration_us) if place(after, at) in heard}
    if found is None:
        assert not here
        return
    replaced = {
        at
        for at in range(found.from_us, found.to_us)
        if not any(a <= at < b for a, b in found.spared)
    }
    assert replaced == here
    shown = [word for caption in found.captions for word in caption.words]
    middle = {str(at): place(BEFORE, at + LENGTH // 2) for at in starts}
    assert {word.text for word in shown} == {
        text for text, (strand, at) in middle.items() if after.shows(strand, at)
    }
    for word in shown:
        showing = after.shows(*middle[word.text])
        assert showing
        inside = showing.at_us <= word.start_us <= word.end_us <= showing.end_us
        assert inside or after == BEFORE, "words over a cut stay as they are"
    for caption in found.captions:
        steps_by = {word.start_us - int(word.text) for word in caption.words}
        assert len(caption.words) == 1 or len(steps_by) <= 2


def test_nothing_changed_leaves_all_as_it_was() -> None:
    edit = lay([laid("one", 4), laid("two", 10)], 0, 50)
    assert brought_up(edit, BEFORE, Timeline(WHOLE)) == edit


def test_stretches_that_are_kept_get_no_words() -> None:
    edit = lay([laid("one", 4), laid("two", 10), laid("three", 20)], 0, 50, by=2)
    found = brought_up(edit, BEFORE, BEFORE, kept=[(9, 15), (120, 130)])
    assert found
    assert found.spared == [(9, 15)]
    assert [[word.text for word in caption.words] for caption in found.captions] == [
        ["one"],
        ["three"],
    ]


def test_times_set_by_hand_go_along_with_a_caption_that_moves_as_a_whole() -> None:
    pinned = LaidCaption(words=[laid("one", 60), laid("two", 66)], start_us=58, end_us=75)
    edit = LayCaptions(about="x", piece_id=1, from_us=0, to_us=200, captions=[pinned])
    cut = [(False, STRANDS[0], 10, 5)]
    found = brought_up(edit, BEFORE, Timeline(stepped(cut)))
    assert found
    assert [(c.start_us, c.end_us) for c in found.captions] == [(53, 70)]
    through = [(False, STRANDS[0], 64, 2)]
    found = brought_up(edit, BEFORE, Timeline(stepped(through)))
    assert found
    assert [(c.start_us, c.end_us, len(c.words)) for c in found.captions] == [
        (None, None, 1),
        (None, None, 1),
    ]


def test_where_all_was_cut_away_there_is_nothing_to_lay() -> None:
    gone = [(False, STRANDS[0], 0, 100)]
    assert brought_up(lay([laid("one", 4)], 0, 90), BEFORE, Timeline(stepped(gone))) is None
