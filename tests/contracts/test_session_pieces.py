"""Two pieces of two sources, clips out of order: the transcript is one, what is shown is each piece's."""

import pytest

from mortiser.core.captions.pace import PACES
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.captions.captions import BreakLine, DeleteCues, SplitCue
from mortiser.core.edits.captions.pacing import Regroup
from mortiser.core.edits.captions.times import SetCueTimes
from mortiser.core.edits.captions.word_times import MoveWordEdge
from mortiser.core.edits.look.marking import MarkWords
from mortiser.core.edits.projection import follow_times
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.laying import LayCaptions, grouped
from mortiser.core.edits.text.runs import RetypeRun
from mortiser.core.edits.text.words import ReplaceWord, RetypeCue
from mortiser.core.transcript.words import Cue, Shown
from tests.memory_session import DURATION_US
from tests.store.fixtures import FUSE, OTHER, before

STEP_US = 350_000
"""A word every 350 ms (see fixtures.spoken)."""


@pytest.fixture
def session(two_pieces: EditSession) -> EditSession:
    return two_pieces


def make(session: EditSession, edit: BaseEdit) -> None:
    """An edit, and what follows from it."""
    edit.apply(session)
    follow_times(session)
    for piece_id in (1, 2):
        shown = session.cues(piece_id)
        assert all(cue.words for cue in shown), "no caption is left without words"
        assert all(cue.start_us < cue.end_us for cue in shown)


def text_of(session: EditSession, piece_id: int) -> str:
    return " ".join(cue.text for cue in session.cues(piece_id))


def with_word(session: EditSession, piece_id: int, text: str) -> tuple[Cue, Shown]:
    return next(
        (cue, word) for cue in session.cues(piece_id) for word in cue.words if word.text == text
    )


def test_each_piece_shows_its_clips_in_its_own_time(session: EditSession) -> None:
    assert text_of(session, 2) == (
        f"{OTHER} Nine times out of ten it is the fuse. Good morning from Lantern Lane, "
        "Nine times out of ten"
    )
    words = [word for cue in session.cues(2) for word in cue.words]
    assert [word.start_us for word in words] == sorted(word.start_us for word in words)
    nine = [word for word in words if word.text == "Nine"]
    assert [word.start_us for word in nine] == [4_025_000, 4_000_000 + 14 * STEP_US + 25_000]
    assert nine[0].id == nine[1].id
    timeline = session.timeline(2)
    assert timeline.showings(1, before(10)) == []
    assert len(timeline.showings(1, before(FUSE) + 1)) == 2


def test_a_word_retyped_in_one_piece_is_right_in_the_other_whose_decisions_stay(
    session: EditSession,
) -> None:
    cue, ten = with_word(session, 2, "ten")
    make(session, MarkWords(cue_ids=[cue.id], word_ids=[ten.id], accent=2))
    fuse, _ = with_word(session, 2, "fuse.")
    make(session, SetCueTimes(cue_id=fuse.id, end_us=fuse.end_us - 20_000))
    if len(fuse.words) > 1:
        make(session, BreakLine(cue_id=fuse.id, before_word=1))
    mine, _ = with_word(session, 1, "ten")
    make(session, RetypeCue(cue_id=mine.id, text=mine.text.replace("ten", "tin")))
    mine, _ = with_word(session, 1, "fuse.")
    make(session, RetypeCue(cue_id=mine.id, text=mine.text.replace("fuse.", "few.")))
    cue, tin = with_word(session, 2, "tin")
    assert (tin.id, tin.accent) == (ten.id, 2)
    then = session.cue(fuse.id)
    assert then.words[-1].text == "few."
    assert then.end_pinned
    assert then.end_us == fuse.end_us - 20_000
    assert then.words[0].seam == ("line" if len(fuse.words) > 1 else then.words[0].seam)
    assert with_word(session, 1, "tin")[1].accent == 0
    assert text_of(session, 2).count("tin") == 2, "both showings are corrected"


def test_words_added_and_taken_out_come_and_go_wherever_the_moment_is_shown(
    session: EditSession,
) -> None:
    mine, _ = with_word(session, 1, "times")
    make(session, RetypeCue(cue_id=mine.id, text=mine.text.replace("times", "whole long times")))
    assert text_of(session, 2).count("Nine whole long times out") == 2
    cue, word = with_word(session, 2, "whole")
    make(session, ReplaceWord(cue_id=cue.id, word_id=word.id, text=""))
    for piece_id in (1, 2):
        assert "whole" not in text_of(session, piece_id)
        assert "Nine long times" in text_of(session, piece_id)
    cue, _ = with_word(session, 2, "radio")
    make(session, RetypeCue(cue_id=cue.id, text=cue.text.replace("radio", "rusty radio")))
    assert "rusty" not in text_of(session, 1), "that source is not in piece 1"


def test_a_caption_emptied_elsewhere_goes(session: EditSession) -> None:
    first, last = session.cues(1)[0], with_word(session, 1, "Lane,")[0]
    count = len(last.text)
    edit = RetypeRun(from_cue=first.id, from_letter=0, to_cue=last.id, to_letter=count, text="")
    make(session, edit)
    assert "Good morning" not in text_of(session, 1) + text_of(session, 2)
    assert text_of(session, 2).endswith("the fuse. Nine times out of ten")


def test_deleting_splitting_and_regrouping_stay_with_the_piece(session: EditSession) -> None:
    were = [(cue.text, cue.start_us, cue.end_us) for cue in session.cues(1)]
    cue = next(cue for cue in session.cues(2) if len(cue.words) > 1)
    make(session, SplitCue(cue_id=cue.id, before_word=1))
    make(session, DeleteCues(cue_ids=[session.cues(2)[-1].id]))
    make(session, Regroup(piece_id=2, pace=PACES["sentence"]))
    assert [(cue.text, cue.start_us, cue.end_us) for cue in session.cues(1)] == were


def test_a_word_moved_in_time_moves_in_every_piece(session: EditSession) -> None:
    cue, ten = with_word(session, 2, "ten")
    make(session, MoveWordEdge(cue_id=cue.id, word_id=ten.id, edge="end", by_us=-60_000))
    mine = with_word(session, 1, "ten")[1]
    assert mine.end_us == before(FUSE + 4) + 25_000 + 300_000 - 60_000
    shown = [w for c in session.cues(2) for w in c.words if w.id == ten.id]
    assert [w.end_us - w.start_us for w in shown] == [240_000, 240_000]
    for piece_id in (1, 2):
        for one in session.cues(piece_id):
            assert one.end_us >= min(one.words[-1].end_us, session.timeline(piece_id).duration_us)


def test_words_laid_anew_come_into_the_other_piece_grouped_its_way(session: EditSession) -> None:
    fresh = [
        Shown("Mostly", before(FUSE), before(FUSE + 3)),
        Shown("fuses.", before(FUSE + 4), before(FUSE + 8)),
    ]
    laid = grouped(fresh, PACES["quick"])
    make(
        session,
        LayCaptions(
            about="hear again", piece_id=1, from_us=before(FUSE), to_us=DURATION_US, captions=laid
        ),
    )
    assert text_of(session, 1).endswith("stone cold. Mostly fuses.")
    assert "Nine" not in text_of(session, 2)
    # The second showing ends before the second word does.
    assert text_of(session, 2) == f"{OTHER} Mostly fuses. Good morning from Lantern Lane, Mostly"
