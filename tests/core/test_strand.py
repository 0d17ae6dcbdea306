"""Clips of strands: taken away and put back, against a plain list of kept moments."""

from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.editing.strand import Strand, with_stretch, without, without_all
from mortiser.core.editing.timeline import Clip, Timeline, changed_stretches, shifts

STRANDS = (Strand(1, 1, 0, 100), Strand(2, 2, 10, 60), Strand(3, 1, 40, 90))
WHOLE = [Clip(s.source_id, s.start_us, s.end_us, s.id, s.id) for s in STRANDS]
steps = st.lists(
    st.tuples(st.booleans(), st.sampled_from(STRANDS), st.integers(0, 110), st.integers(0, 60)),
    max_size=25,
)


def kept_of(clips: list[Clip]) -> set[tuple[int, int]]:
    return {(clip.strand_id, at) for clip in clips for at in range(clip.start_us, clip.end_us)}


def stepped(made: list[tuple[bool, Strand, int, int]]) -> list[Clip]:
    """All clips after some stretches were taken out and put back."""
    clips = list(WHOLE)
    for back, strand, start, length in made:
        if back and strand.start_us < start + length and start < strand.end_us and length:
            clips = with_stretch(clips, strand, start, start + length)
        else:
            clips = without(clips, strand.id, start, start + length)
    return clips


@given(steps)
def test_what_is_kept_is_what_a_plain_list_keeps(
    made: list[tuple[bool, Strand, int, int]],
) -> None:
    clips = list(WHOLE)
    kept = kept_of(clips)
    for back, strand, start, length in made:
        stretch = range(start, start + length)
        if back and length:
            inside = [at for at in stretch if strand.start_us <= at < strand.end_us]
            if not inside:
                continue
            clips = with_stretch(clips, strand, start, start + length)
            kept |= {(strand.id, at) for at in inside}
        else:
            clips = without(clips, strand.id, start, start + length)
            kept -= {(strand.id, at) for at in stretch}
        assert kept_of(clips) == kept
        assert sum(clip.length_us for clip in clips) == len(kept), "no moment twice"
        for one in STRANDS:
            mine = [clip for clip in clips if clip.strand_id == one.id]
            assert mine == sorted(mine, key=lambda clip: clip.start_us), "in the source's order"
            assert all(a.end_us < b.start_us for a, b in pairwise(mine))
        ids = [clip.id for clip in clips if clip.id]
        assert len(ids) == len(set(ids)), "no clip is two"


@given(steps)
def test_all_at_once_is_one_after_another(made: list[tuple[bool, Strand, int, int]]) -> None:
    stretches = [(strand.id, start, start + length) for _, strand, start, length in made]
    one_by_one = list(WHOLE)
    for stretch in sorted(stretches):
        one_by_one = without(one_by_one, *stretch)
    assert without_all(WHOLE, stretches) == one_by_one


@given(steps, steps)
def test_shifts_say_where_everything_went_that_both_show(
    first: list[tuple[bool, Strand, int, int]], second: list[tuple[bool, Strand, int, int]]
) -> None:
    before, after = Timeline(stepped(first)), Timeline(stepped(second))

    def moments(timeline: Timeline) -> dict[tuple[int, int], int]:
        return {
            (one.clip.strand_id, at): one.to_piece(at)
            for one in timeline.placed
            for at in range(one.clip.start_us, one.clip.end_us)
        }

    was, now = moments(before), moments(after)
    moved = {
        at: shift.by_us
        for shift in shifts(before, after)
        for at in range(shift.from_us, shift.to_us)
    }
    assert moved == {was[key]: now[key] - was[key] for key in was.keys() & now.keys()}
    changed = {
        (s, at) for s, a, b in changed_stretches(before.clips, after.clips) for at in range(a, b)
    }
    assert changed == was.keys() ^ now.keys()


def test_what_comes_back_goes_to_its_place() -> None:
    clips = without(without(WHOLE, 1, 20, 30), 1, 60, 70)
    assert [(c.strand_id, c.start_us) for c in clips] == [
        (1, 0),
        (1, 30),
        (1, 70),
        (2, 10),
        (3, 40),
    ]
    assert [c.id for c in clips[:3]] == [0, 1, 0], "the longest part stays the clip it was"
    back = with_stretch(clips, STRANDS[0], 22, 25)
    assert [(c.start_us, c.end_us) for c in back[:3]] == [(0, 20), (22, 25), (30, 60)]
    gone = without(clips, 1, 0, 100)
    assert with_stretch(gone, STRANDS[0], 5, 9)[-1].start_us == 5
