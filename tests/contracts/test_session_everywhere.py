"""What holds wherever a word or a speaker occurs, on every session; and the way back from it."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.captions.pace import PACES
from mortiser.core.captions.standing import STORED, Standing
from mortiser.core.common.errors import BadInput
from mortiser.core.edits.captions.captions import AddCue, DeleteCues
from mortiser.core.edits.captions.pacing import Regroup, SetFilePace
from mortiser.core.edits.captions.shifting import Anchor, StretchCues
from mortiser.core.edits.captions.times import MoveCues, TypeCueTime
from mortiser.core.edits.look.dressing import DressCues, DressWords
from mortiser.core.edits.look.marking import MarkWords
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.everywhere import (
    DressEverywhere,
    DressSpeaker,
    MarkEverywhere,
    TakeBack,
)
from mortiser.core.edits.text.runs import RetypeRun
from mortiser.core.edits.text.speakers import SetSpeaker
from mortiser.core.edits.text.words import RetypeCue
from mortiser.core.style.finish.changes import look_of
from mortiser.core.transcript.words import Shown

GREEN = [0, 200, 0, 255]


def marks(session: EditSession) -> list[tuple[str, int]]:
    return [(w.text, w.accent) for cue in session.cues(1) for w in cue.words if w.accent]


def add_word(session: EditSession, index: int, text: str) -> None:
    cue = session.cues(1)[index]
    RetypeCue(cue_id=cue.id, text=f"{cue.text} {text}").apply(session)


def test_a_word_is_marked_everywhere_and_where_it_comes_later(session: EditSession) -> None:
    add_word(session, 0, "KETTLE!")
    edit = MarkEverywhere(piece_id=1, text="kettle", accent=2)
    assert edit.label(session) == "mark “kettle” everywhere"
    edit.apply(session)
    assert marks(session) == [("KETTLE!", 2), ("kettle", 2)]
    add_word(session, -1, "kettle,")
    assert marks(session)[-1] == ("kettle,", 2)
    # One place alone is unmarked, and stays so.
    cue = session.cues(1)[0]
    MarkWords(cue_ids=[cue.id], word_ids=[cue.words[-1].id], accent=0).apply(session)
    add_word(session, 0, "today")
    assert marks(session) == [("kettle", 2), ("kettle,", 2)]
    MarkEverywhere(piece_id=1, text="Kettle", accent=0).apply(session)
    add_word(session, 1, "kettle")
    assert marks(session) == []


def test_a_corrected_word_gets_what_stands_for_its_new_spelling(session: EditSession) -> None:
    MarkEverywhere(piece_id=1, text="hearth", accent=1).apply(session)
    cue = next(c for c in session.cues(1) if "stone" in c.text)
    RetypeCue(cue_id=cue.id, text=cue.text.replace("stone", "hearth")).apply(session)
    assert marks(session) == [("hearth", 1)]


def test_a_word_is_dressed_everywhere(session: EditSession) -> None:
    DressEverywhere(piece_id=1, text="kettle", changes={"live": GREEN}).apply(session)
    add_word(session, -1, "kettle")
    worn = [look_of(w.own) for c in session.cues(1) for w in c.words if w.own]
    assert worn == [{"live": GREEN}] * 2
    DressEverywhere(piece_id=1, text="kettle", changes={"live": None}).apply(session)
    assert not any(w.own for c in session.cues(1) for w in c.words)
    assert session.settings(1).standing == Standing()
    with pytest.raises(BadInput):
        DressEverywhere(piece_id=1, text="kettle", changes={"colour": 3}).apply(session)


def test_a_speaker_has_a_look_under_that_of_captions(session: EditSession) -> None:
    one, two, three = session.cues(1)[:3]
    SetSpeaker(cue_ids=[one.id, two.id], name="Ada").apply(session)
    edit = DressSpeaker(piece_id=1, name="Ada", changes={"live": GREEN, "size": 0.1})
    assert edit.label(session) == "live of Ada"
    edit.apply(session)
    DressCues(cue_ids=[two.id], changes={"size": 0.05}).apply(session)
    shown = session.settings(1).standing.shown([session.cue(c.id) for c in (one, two, three)])
    assert [look_of(c.look) for c in shown] == [
        {"live": GREEN, "size": 0.1},
        {"live": GREEN, "size": 0.05},
        {},
    ]
    with pytest.raises(BadInput, match="size"):
        DressSpeaker(piece_id=1, name="Ada", changes={"size": 9}).apply(session)
    DressSpeaker(piece_id=1, name="Ada", changes={"live": None, "size": None}).apply(session)
    assert session.settings(1).standing == Standing()


def test_marks_a_words_looks_and_overrides_are_each_taken_back_at_once(
    session: EditSession,
) -> None:
    MarkEverywhere(piece_id=1, text="kettle", accent=1).apply(session)
    MarkEverywhere(piece_id=1, text="fuse", accent=2).apply(session)
    cue = next(c for c in session.cues(1) if "kettle" in c.text)
    kettle = next(w for w in cue.words if w.text == "kettle")
    DressWords(cue_ids=[cue.id], word_ids=[kettle.id], changes={"tilt": 5}).apply(session)
    DressCues(cue_ids=[cue.id], changes={"size": 0.1}).apply(session)
    TakeBack(piece_id=1, what="word", text="Kettle").apply(session)
    assert marks(session) == [("fuse.", 2)]
    assert not any(w.own for c in session.cues(1) for w in c.words)
    assert session.cue(cue.id).look
    TakeBack(piece_id=1, what="overrides").apply(session)
    assert not any(c.look for c in session.cues(1))
    assert marks(session) == [("fuse.", 2)]
    TakeBack(piece_id=1, what="marks").apply(session)
    assert marks(session) == []
    assert session.settings(1).standing == Standing()
    with pytest.raises(BadInput, match="nothing"):
        TakeBack(piece_id=1, what="marks").apply(session)


@given(
    st.dictionaries(st.text(max_size=8), st.integers(0, 8)),
    st.dictionaries(st.text(max_size=8), st.text(max_size=8)),
)
def test_what_stands_is_stored_and_read(marks: dict[str, int], looks: dict[str, str]) -> None:
    standing = Standing(marks=marks, own=looks, speakers=looks)
    assert STORED.read(STORED.write(standing)) == standing
    word = Shown("tea", 0, 1, accent=3)
    assert Standing(marks={"tea": 1}).dressed(word).accent == 3


def test_files_have_a_pace_of_their_own(session: EditSession) -> None:
    SetFilePace(piece_id=1, pace=PACES["sentence"]).apply(session)
    assert session.settings(1).file_pace == PACES["sentence"]
    SetFilePace(piece_id=1, pace=None).apply(session)
    assert session.settings(1).file_pace is None


# Hidden captions


def test_a_run_leaves_hidden_captions_alone(session: EditSession) -> None:
    before = session.cues(1)[:5]
    shown = [before[0], before[2], before[4]]
    edit = RetypeRun(
        from_cue=shown[0].id,
        from_letter=2,
        to_cue=shown[-1].id,
        to_letter=len(shown[-1].text) - 1,
        text="",
        cue_ids=[c.id for c in shown],
        doing="delete",
    )
    edit.apply(session)
    texts = [c.text for c in session.cues(1)]
    assert texts[:4] == [
        before[0].text[:2],
        before[1].text,
        before[3].text,
        before[4].text[-1],
    ]
    assert session.cue(before[1].id).words == before[1].words
    assert session.cue(before[3].id).words == before[3].words


def test_all_text_can_be_deleted(session: EditSession) -> None:
    cues = session.cues(1)
    RetypeRun(
        from_cue=cues[0].id, from_letter=0, to_cue=cues[-1].id, to_letter=len(cues[-1].text),
        text="", doing="delete",
    ).apply(session)  # fmt: skip
    assert session.cues(1) == []


# Captions made by hand, and stretching


def hand_made(session: EditSession):
    desk_cues = session.cues(1)
    at = desk_cues[-1].words[-1].end_us + 2_000_000
    AddCue(piece_id=1, at_us=at, text="Mind the step").apply(session)
    return session.cues(1)[-1]


def test_typed_times_take_the_words_of_a_hand_made_caption_along(session: EditSession) -> None:
    made = hand_made(session)
    TypeCueTime(cue_id=made.id, edge="end", text="+4").apply(session)
    TypeCueTime(cue_id=made.id, edge="start", text="+2").apply(session)
    cue = session.cue(made.id)
    assert cue.words[0].start_us == cue.start_us
    assert cue.words[-1].end_us == cue.end_us
    MoveCues(cue_ids=[made.id], by_us=1_000_000).apply(session)
    moved = session.cue(made.id)
    assert moved.words[0].start_us == moved.start_us
    Regroup(piece_id=1, keep=False).apply(session)
    last = session.cues(1)[-1]
    assert last.text == "Mind the step"
    assert abs(last.start_us - moved.start_us) <= 300_000


def test_heard_words_stay_on_their_sound_when_times_are_typed(session: EditSession) -> None:
    cue = session.cues(1)[1]
    TypeCueTime(cue_id=cue.id, edge="end", text="+0.1").apply(session)
    assert session.cue(cue.id).words == cue.words


@pytest.mark.parametrize("outside", ["stay", "move"])
def test_what_lies_outside_of_a_stretch_stays_or_moves_along(
    session: EditSession, outside: str
) -> None:
    before = session.cues(1)
    first, last = before[1], before[3]
    DeleteCues(cue_ids=[before[4].id]).apply(session)
    StretchCues(
        first=Anchor(cue_id=first.id, starts="+0"),
        second=Anchor(cue_id=last.id, starts="+0.2"),
        outside=outside,
    ).apply(session)
    after = {c.id: c for c in session.cues(1)}
    assert after[before[0].id].words == before[0].words
    moved = after[before[5].id].words[0].start_us - before[5].words[0].start_us
    assert moved == (200_000 if outside == "move" else 0)
    assert after[last.id].words[0].start_us == last.words[0].start_us + 200_000
    lengths = [w.end_us - w.start_us for w in after[last.id].words]
    assert lengths == [w.end_us - w.start_us for w in last.words]
