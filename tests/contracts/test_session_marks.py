"""Marking words, on every session: marks outlive everything that is done to their words."""

import pytest

from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import NotFound
from mortiser.core.edits.captions.captions import JoinCue, SplitCue
from mortiser.core.edits.captions.pacing import SetPace
from mortiser.core.edits.look.marking import MarkWords
from mortiser.core.edits.look.settings import SetFinish
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.words import ReplaceWord, RetypeCue


def marks(session: EditSession) -> list[tuple[str, int]]:
    return [(w.text, w.accent) for cue in session.cues(1) for w in cue.words if w.accent]


def test_words_are_marked_in_several_captions_and_unmarked(session: EditSession) -> None:
    one, two = session.cues(1)[1:3]
    ids = [one.words[-1].id, two.words[0].id]
    edit = MarkWords(cue_ids=[one.id, two.id], word_ids=ids, accent=2)
    assert edit.label(session) == "mark 2 words"
    edit.apply(session)
    assert marks(session) == [(one.words[-1].text, 2), (two.words[0].text, 2)]
    off = MarkWords(cue_ids=[one.id], word_ids=ids[:1], accent=0)
    assert off.label(session) == f"unmark “{one.words[-1].text}”"
    off.apply(session)
    assert marks(session) == [(two.words[0].text, 2)]
    with pytest.raises(NotFound):
        MarkWords(cue_ids=[one.id], word_ids=[10**6], accent=1).apply(session)


def test_a_mark_outlives_retyping_grouping_splitting_and_another_finish(
    session: EditSession,
) -> None:
    cue = session.cues(1)[1]
    word = cue.words[1]
    MarkWords(cue_ids=[cue.id], word_ids=[word.id], accent=1).apply(session)
    ReplaceWord(cue_id=cue.id, word_id=word.id, text="Candle").apply(session)
    assert marks(session) == [("Candle", 1)]
    RetypeCue(cue_id=cue.id, text=session.cue(cue.id).text.replace("Candle", "Tea light")).apply(
        session
    )
    assert marks(session) == [("Tea", 1), ("light", 1)]
    SplitCue(cue_id=cue.id, before_word=2).apply(session)
    JoinCue(cue_id=session.cues(1)[2].id).apply(session)
    SetPace(piece_id=1, pace=PACES["sentence"]).apply(session)
    SetFinish(piece_id=1, finish="Pine").apply(session)
    assert marks(session) == [("Tea", 1), ("light", 1)]
