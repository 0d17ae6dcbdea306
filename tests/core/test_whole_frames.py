"""What is left out is as long as whole frames, and no word comes or goes by that."""

from itertools import pairwise

from hypothesis import example, given
from hypothesis import strategies as st

from mortiser.core.editing.strand import Strand, without
from mortiser.core.editing.timeline import Clip
from mortiser.core.editing.whole_frames import parting_of, whole_frames
from mortiser.core.edits.cutting.trimming import Passage, StrikeWords
from mortiser.core.edits.retiming import retime_all
from mortiser.core.transcript.words import Word
from tests.core.test_strand import STRANDS, WHOLE, kept_of, steps
from tests.memory_session import MemoryEditSession

MS = 1_000


@given(steps, steps, st.sampled_from((3.0, 7.3, 4.0)))
def test_what_is_newly_left_out_is_whole_frames_long(
    first: list[tuple[bool, Strand, int, int]],
    second: list[tuple[bool, Strand, int, int]],
    frame: float,
) -> None:
    def struck(clips: list[Clip], made: list[tuple[bool, Strand, int, int]]) -> list[Clip]:
        for _, strand, start, length in made:
            clips = without(clips, strand.id, start, start + length) or clips
        return clips

    before = struck(list(WHOLE), first)
    wanted = struck(before, second)
    clips = whole_frames(wanted, before, STRANDS, frame, parting_of({}))
    old = {(c.strand_id, c.start_us) for c in before}
    reached = {strand.id: strand.start_us for strand in STRANDS}
    for clip in clips:
        hole = clip.start_us - reached[clip.strand_id]
        assert hole >= 0
        near = abs(hole - round(round(hole / frame) * frame)) <= 1
        assert near or (clip.strand_id, clip.start_us) in old or clip.length_us <= frame
        reached[clip.strand_id] = clip.end_us
    # No edge is farther from where it was wanted than half a frame; where a clip is no longer than a
    # frame, there is not always room for that, and it is less than a whole one.
    lost = kept_of(wanted) ^ kept_of(clips)
    reach = frame if any(clip.length_us <= frame for clip in wanted) else frame / 2
    assert len(lost) <= (reach + 1) * max(1, len(wanted))
    assert whole_frames(before, before, STRANDS, frame, parting_of({})) == before


@given(
    st.lists(st.tuples(st.integers(40, 300), st.integers(0, 90)), min_size=6, max_size=14),
    st.lists(st.tuples(st.integers(0, 13), st.integers(0, 3)), min_size=1, max_size=6),
)
@example([(40, 0), (106, 0), (157, 90), (40, 0), (40, 0), (40, 0)], [(3, 0), (1, 1)])
def test_striking_words_strikes_no_others_and_brings_none_back(
    said: list[tuple[int, int]], runs: list[tuple[int, int]]
) -> None:
    words, at = [], 0
    for length, gap in said:
        words.append(Word("word", at * MS, (at + length) * MS))
        at += length + gap
    session = MemoryEditSession(words)
    retime_all(session, 1)
    known = sorted(session.transcript)
    stay = set(known)
    for start, more in runs:
        first = known[start % len(known)]
        run = [word for word in known if first <= word <= first + more]
        if not stay - set(run):
            continue
        passage = Passage(strand_id=1, first_word=run[0], last_word=run[-1])
        StrikeWords(piece_id=1, passages=[passage]).apply(session)
        stay -= set(run)
        assert {word.id for cue in session.cues(1) for word in cue.words} == stay
        clips = session.timeline(1).clips
        frame = session.frames(1).length_us
        holes = [b.start_us - a.end_us for a, b in pairwise(clips)]
        whole = [abs(hole - round(round(hole / frame) * frame)) <= len(runs) for hole in holes]
        assert sum(whole) >= len(holes) / 2, "most cuts leave what is behind them on its frames"
