"""Marking words, on every desk: marks outlive everything that is done to their words."""

import pytest

from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import NotFound
from mortiser.core.edits.captions.captions import JoinCue, SplitCue
from mortiser.core.edits.captions.pacing import SetPace
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.look.marking import MarkWords
from mortiser.core.edits.look.settings import SetFinish
from mortiser.core.edits.text.words import ReplaceWord, RetypeCue


def marks(desk: Desk) -> list[tuple[str, int]]:
    return [(w.text, w.accent) for cue in desk.cues(1) for w in cue.words if w.accent]


def test_words_are_marked_in_several_captions_and_unmarked(desk: Desk) -> None:
    one, two = desk.cues(1)[1:3]
    ids = [one.words[-1].id, two.words[0].id]
    edit = MarkWords(cue_ids=[one.id, two.id], word_ids=ids, accent=2)
    assert edit.label(desk) == "mark 2 words"
    edit.apply(desk)
    assert marks(desk) == [(one.words[-1].text, 2), (two.words[0].text, 2)]
    off = MarkWords(cue_ids=[one.id], word_ids=ids[:1], accent=0)
    assert off.label(desk) == f"unmark “{one.words[-1].text}”"
    off.apply(desk)
    assert marks(desk) == [(two.words[0].text, 2)]
    with pytest.raises(NotFound):
        MarkWords(cue_ids=[one.id], word_ids=[10**6], accent=1).apply(desk)


def test_a_mark_outlives_retyping_grouping_splitting_and_another_finish(desk: Desk) -> None:
    cue = desk.cues(1)[1]
    word = cue.words[1]
    MarkWords(cue_ids=[cue.id], word_ids=[word.id], accent=1).apply(desk)
    ReplaceWord(cue_id=cue.id, word_id=word.id, text="Candle").apply(desk)
    assert marks(desk) == [("Candle", 1)]
    RetypeCue(cue_id=cue.id, text=desk.cue(cue.id).text.replace("Candle", "Tea light")).apply(desk)
    assert marks(desk) == [("Tea", 1), ("light", 1)]
    SplitCue(cue_id=cue.id, before_word=2).apply(desk)
    JoinCue(cue_id=desk.cues(1)[2].id).apply(desk)
    SetPace(piece_id=1, pace=PACES["sentence"]).apply(desk)
    SetFinish(piece_id=1, finish="Pine").apply(desk)
    assert marks(desk) == [("Tea", 1), ("light", 1)]
