"""One suite for every session that edits work on."""

from dataclasses import replace
from itertools import pairwise

import pytest

from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.captions.captions import (
    AddCue,
    DeleteCues,
    JoinCue,
    JoinCues,
    MoveWord,
    SplitAt,
    SplitCue,
)
from mortiser.core.edits.captions.pacing import CheckBy, Regroup, SetPace
from mortiser.core.edits.captions.shifting import ShiftCues
from mortiser.core.edits.captions.times import (
    CloseGaps,
    MoveCues,
    SetCueTimes,
    TypeCueTime,
    UnpinCues,
)
from mortiser.core.edits.captions.word_times import MoveWordEdge
from mortiser.core.edits.commands import EDIT
from mortiser.core.edits.look.settings import RenameProject, SetFinish
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.words import (
    AcceptAll,
    AcceptWord,
    ReplaceText,
    ReplaceWord,
    RetypeCue,
)
from mortiser.core.transcript.words import Cue


def cues(session: EditSession) -> list[Cue]:
    return session.cues(1)


def texts(session: EditSession) -> list[str]:
    return [cue.text for cue in cues(session)]


def test_regrouping_keeps_every_word_once(session: EditSession) -> None:
    before = [w.id for cue in cues(session) for w in cue.words]
    SetPace(piece_id=1, pace=PACES["sentence"]).apply(session)
    assert [w.id for cue in cues(session) for w in cue.words] == before
    assert "Nine times out of ten it is the fuse." in texts(session)
    assert all(a.end_us <= b.start_us for a, b in pairwise(cues(session)))


def test_retyping_keeps_the_times_of_unchanged_words(session: EditSession) -> None:
    cue = cues(session)[1]
    RetypeCue(cue_id=cue.id, text=cue.text.replace("Lane,", "Road,")).apply(session)
    after = session.cue(cue.id)
    assert [(w.id, w.start_us, w.end_us) for w in after.words] == [
        (w.id, w.start_us, w.end_us) for w in cue.words
    ]
    assert after.words[-1].text == "Road,"


def test_retyping_to_nothing_is_refused(session: EditSession) -> None:
    with pytest.raises(BadInput, match="delete it"):
        RetypeCue(cue_id=cues(session)[0].id, text="  ").apply(session)


def test_all_words_of_a_caption_can_be_replaced(session: EditSession) -> None:
    cue = cues(session)[0]
    RetypeCue(cue_id=cue.id, text="An entirely other greeting").apply(session)
    after = session.cue(cue.id)
    assert after.text == "An entirely other greeting"
    assert after.words[0].start_us == cue.words[0].start_us
    assert after.words[-1].end_us == cue.words[-1].end_us


def test_a_set_start_is_pinned_and_the_caption_before_gives_way(session: EditSession) -> None:
    before, cue = cues(session)[:2]
    SetCueTimes(cue_id=cue.id, start_us=cue.start_us - 150_000).apply(session)
    after = cues(session)
    assert after[1].start_us == cue.start_us - 150_000
    assert after[1].start_pinned
    assert not after[1].end_pinned
    assert after[0].end_us <= after[1].start_us
    assert after[0].start_us == before.start_us


def test_unpinning_goes_back_to_the_words(session: EditSession) -> None:
    cue = cues(session)[1]
    SetCueTimes(cue_id=cue.id, start_us=cue.start_us + 100_000, end_us=cue.end_us - 100_000).apply(
        session
    )
    UnpinCues(cue_ids=[cue.id]).apply(session)
    assert session.cue(cue.id) == cue


def test_a_typed_time_is_read_and_nonsense_refused(session: EditSession) -> None:
    cue = cues(session)[0]
    TypeCueTime(cue_id=cue.id, edge="start", text="0:00.250").apply(session)
    assert session.cue(cue.id).start_us == 250_000
    with pytest.raises(BadInput, match="is not a time"):
        TypeCueTime(cue_id=cue.id, edge="end", text="later").apply(session)


@pytest.mark.parametrize(
    ("start", "end", "why"),
    [
        (5_000_000, 5_000_000, "must end after"),
        (0, None, "in front"),
        (None, 59_000_000, "next caption"),
    ],
)
def test_impossible_times_are_refused(
    session: EditSession, start: int | None, end: int | None, why: str
) -> None:
    with pytest.raises(BadInput, match=why):
        SetCueTimes(cue_id=cues(session)[2].id, start_us=start, end_us=end).apply(session)


def test_splitting_and_joining_are_opposites(session: EditSession) -> None:
    cue = cues(session)[1]
    SplitCue(cue_id=cue.id, before_word=1).apply(session)
    first, second = cues(session)[1:3]
    assert [w.seam for w in first.words] == ["break"]
    assert [w.id for w in first.words + second.words] == [w.id for w in cue.words]
    assert first.end_us <= second.start_us
    JoinCue(cue_id=second.id).apply(session)
    joined = (replace(cue.words[0], seam="join"), *cue.words[1:])
    assert session.cue(cue.id) == cue.with_words(joined)


def test_a_split_needs_words_on_both_sides_and_a_join_a_caption_before(
    session: EditSession,
) -> None:
    first = cues(session)[0]
    with pytest.raises(BadInput, match="between two words"):
        SplitCue(cue_id=first.id, before_word=len(first.words)).apply(session)
    with pytest.raises(BadInput, match="no caption before"):
        JoinCue(cue_id=first.id).apply(session)


def test_deleting_takes_only_that_caption(session: EditSession) -> None:
    before = texts(session)
    DeleteCues(cue_ids=[cues(session)[1].id]).apply(session)
    assert texts(session) == before[:1] + before[2:]
    with pytest.raises(NotFound):
        session.cue(999_999)


def test_settings_are_checked(session: EditSession) -> None:
    SetFinish(piece_id=1, finish="Pine").apply(session)
    RenameProject(name="  Kettles ").apply(session)
    with pytest.raises(BadInput, match="Lacquer, Pine"):
        SetFinish(piece_id=1, finish="Varnish").apply(session)
    with pytest.raises(BadInput, match="needs a name"):
        RenameProject(name=" ").apply(session)


def test_one_word_is_replaced_and_another_accepted(session: EditSession) -> None:
    cue = cues(session)[1]
    ReplaceWord(cue_id=cue.id, word_id=cue.words[1].id, text="Lamp light").apply(session)
    after = session.cue(cue.id)
    assert after.text == cue.text.replace("Lantern", "Lamp light")
    assert after.words[0] == cue.words[0]
    assert after.words[2].end_us == cue.words[1].end_us
    AcceptWord(cue_id=cue.id, word_id=after.words[0].id).apply(session)
    assert session.cue(cue.id).words[0].confidence == 1.0
    with pytest.raises(NotFound):
        AcceptWord(cue_id=cue.id, word_id=10**6).apply(session)


def test_all_words_in_doubt_are_kept_at_once(session: EditSession) -> None:
    cue = cues(session)[1]
    shaky = [replace(w, confidence=0.2, alternatives=("form",)) for w in cue.words[:2]]
    session.save_cue(cue.with_words((*shaky, *cue.words[2:])))
    edit = AcceptAll(piece_id=1)
    assert edit.label(session) == "keep 2 doubtful words"
    edit.apply(session)
    after = session.cue(cue.id).words
    assert [(w.confidence, w.alternatives) for w in after[:2]] == [(1.0, ())] * 2
    assert after[2:] == cue.words[2:]


def test_a_word_that_was_never_said_is_taken_out_with_its_caption_if_need_be(
    session: EditSession,
) -> None:
    cue = cues(session)[1]
    for word in cue.words[1:]:
        out = ReplaceWord(cue_id=cue.id, word_id=word.id, text="")
        assert out.label(session) == f"take out “{word.text}”"
        out.apply(session)
    assert session.cue(cue.id).words == cue.words[:1]
    ReplaceWord(cue_id=cue.id, word_id=cue.words[0].id, text=" ").apply(session)
    with pytest.raises(NotFound):
        session.cue(cue.id)


def test_text_is_replaced_everywhere_or_in_one_place(session: EditSession) -> None:
    said = " ".join(texts(session))
    ReplaceText(piece_id=1, find="it is", text="it was").apply(session)
    ReplaceText(piece_id=1, find="e", text="é", only=2).apply(session)
    assert " ".join(texts(session)) == replaced_third_e(said.replace("it is", "it was"))
    with pytest.raises(BadInput, match="not in the captions"):
        ReplaceText(piece_id=1, find="lacquer", text="x").apply(session)


def replaced_third_e(text: str) -> str:
    at = -1
    for _ in range(3):
        at = text.lower().index("e", at + 1)
    return text[:at] + "é" + text[at + 1 :]


def test_a_caption_of_which_nothing_is_left_goes(session: EditSession) -> None:
    cue = cues(session)[1]
    count = len(cues(session))
    ReplaceText(piece_id=1, find=cue.text, text="").apply(session)
    assert len(cues(session)) == count - 1
    with pytest.raises(NotFound):
        session.cue(cue.id)


def test_neighbours_and_room(session: EditSession) -> None:
    all_cues = cues(session)
    before, after = session.around(all_cues[3], 2)
    assert [c.id for c in before] == [c.id for c in all_cues[1:3]]
    assert [c.id for c in after] == [c.id for c in all_cues[4:6]]
    cue = all_cues[3]
    left, right = session.word_room(cue)
    assert left == all_cues[2].words[-1].end_us
    assert right == all_cues[4].words[0].start_us


def test_a_word_left_out_of_a_saved_cue_stays_in_the_source(session: EditSession) -> None:
    cue = cues(session)[1]
    session.save_cue(replace(cue, words=cue.words[:1]))
    left, _ = session.word_room(cues(session)[2])
    assert left == cue.words[-1].end_us


def test_every_edit_has_a_label_and_survives_json(session: EditSession) -> None:
    cue = cues(session)[1].id
    for edit in (
        RetypeCue(cue_id=cue, text="from Lantern Road,"),
        ReplaceWord(cue_id=cue, word_id=cues(session)[1].words[0].id, text="of"),
        AcceptWord(cue_id=cue, word_id=cues(session)[1].words[0].id),
        ReplaceText(piece_id=1, find="kettle", text="pot"),
        SetCueTimes(cue_id=cue, start_us=1),
        TypeCueTime(cue_id=cue, edge="end", text="1"),
        UnpinCues(cue_ids=[cue]),
        DeleteCues(cue_ids=[cue]),
        SplitCue(cue_id=cue, before_word=1),
        JoinCue(cue_id=cue),
        SetPace(piece_id=1, pace=PACES["quick"]),
        Regroup(piece_id=1, cue_ids=[cue]),
        CheckBy(piece_id=1, rules="feed"),
        MoveCues(cue_ids=[cue], by_us=-10_000),
        CloseGaps(cue_ids=[cue]),
        ShiftCues(cue_ids=[cue], by="-1f", onward=True),
        MoveWordEdge(cue_id=cue, word_id=cues(session)[1].words[0].id, by_us=5),
        MoveWord(cue_id=cue, which="last"),
        SplitAt(piece_id=1, at_us=5),
        JoinCues(cue_ids=[cue, cues(session)[2].id]),
        AddCue(piece_id=1, at_us=5, text="x"),
        SetFinish(piece_id=1, finish="Pine"),
        RenameProject(name="x"),
    ):
        assert edit.label(session)
        assert EDIT.validate_json(edit.model_dump_json()) == edit
