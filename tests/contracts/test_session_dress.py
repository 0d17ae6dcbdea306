"""Captions and words with a look of their own, on every session."""

import pytest

from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.captions.captions import SplitCue
from mortiser.core.edits.captions.pacing import SetPace
from mortiser.core.edits.look.dressing import (
    CopyLook,
    DressCues,
    DressEach,
    DressWords,
    OneLook,
    UndressCues,
)
from mortiser.core.edits.look.settings import ChangeFinish, SetFinish
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.words import RetypeCue
from mortiser.core.style.finish.builtin import FINISHES
from mortiser.core.style.finish.changes import look_of, worn


def looks(session: EditSession) -> list[dict]:
    return [look_of(cue.look) for cue in session.cues(1)]


def test_a_change_of_the_finish_keeps_its_name_and_the_rest(session: EditSession) -> None:
    edit = ChangeFinish(piece_id=1, changes={"shadow.blur": 0.3, "motion.entrance.kind": "drop"})
    assert edit.label(session) == "finish: shadow blur"
    edit.apply(session)
    finish = session.settings(1).finish
    assert finish.name == "Lacquer"
    assert finish.shadow
    assert (finish.shadow.blur, finish.motion.entrance.kind) == (0.3, "drop")
    assert finish.plank == FINISHES["Lacquer"].plank
    SetFinish(piece_id=1, finish=finish.model_copy(update={"name": "Mine"})).apply(session)
    assert session.settings(1).finish.name == "Mine"


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"size": 7}, "“size”"),
        ({"ahead": [0, 0, 300, 1]}, "“ahead.2”"),
        ({"colour": 1}, "no “colour”"),
        ({"outlines.4.width": 0.1}, "no “outlines.4.width”"),
        ({"name": "Other"}, "not part"),
        ({"motion.entrance.kind": "explode"}, "“motion.entrance.kind”"),
    ],
)
def test_what_cannot_be_set_is_refused_and_nothing_changes(
    session: EditSession, changes: dict, says: str
) -> None:
    before = session.settings(1).finish
    with pytest.raises(BadInput, match=says):
        ChangeFinish(piece_id=1, changes=changes).apply(session)
    cue = session.cues(1)[0]
    with pytest.raises(BadInput):
        DressCues(cue_ids=[cue.id], changes=changes).apply(session)
    assert session.settings(1).finish == before
    assert looks(session)[0] == {}


def test_captions_are_dressed_alone_and_go_back_setting_by_setting(session: EditSession) -> None:
    one, two = (cue.id for cue in session.cues(1)[1:3])
    edit = DressCues(cue_ids=[one, two], changes={"size": 0.12, "place.dy": -0.2})
    assert edit.label(session) == "size of 2 captions"
    edit.apply(session)
    DressCues(cue_ids=[one], changes={"plank": None}).apply(session)
    assert looks(session)[1:3] == [
        {"size": 0.12, "place.dy": -0.2, "plank": None},
        {"size": 0.12, "place.dy": -0.2},
    ]
    UndressCues(cue_ids=[one], paths=["size", "plank"]).apply(session)
    assert looks(session)[1] == {"place.dy": -0.2}
    # What is set to what the finish has is no override.
    DressCues(cue_ids=[one], changes={"place.dy": session.settings(1).finish.place.dy}).apply(
        session
    )
    assert looks(session)[1] == {}
    UndressCues(cue_ids=[two]).apply(session)
    assert not any(looks(session))


def test_several_captions_are_dressed_each_in_its_own_way(session: EditSession) -> None:
    one, two = (cue.id for cue in session.cues(1)[:2])
    gone = 99_999
    edit = DressEach(
        looks=[
            OneLook(cue_id=one, changes={"place.dy": -0.3}),
            OneLook(cue_id=gone, changes={"place.dy": -0.1}),
            OneLook(cue_id=two, changes={"plate": None, "size": 0.1}),
        ]
    )
    assert edit.label(session) == "place dy of 3 captions"
    edit.apply(session)
    assert looks(session)[:2] == [{"place.dy": -0.3}, {"size": 0.1}]
    with pytest.raises(NotFound, match="gone"):
        DressEach(looks=[OneLook(cue_id=gone, changes={"size": 0.1})]).apply(session)


def test_a_look_is_copied_whole(session: EditSession) -> None:
    one, two, three = (cue.id for cue in session.cues(1)[:3])
    DressCues(cue_ids=[one], changes={"place.turn": -6}).apply(session)
    DressCues(cue_ids=[two], changes={"size": 0.2}).apply(session)
    CopyLook(from_cue_id=one, cue_ids=[two, three]).apply(session)
    assert looks(session)[:3] == [{"place.turn": -6}] * 3


def test_looks_survive_retyping_splitting_regrouping_and_another_finish(
    session: EditSession,
) -> None:
    cue = session.cues(1)[1]
    DressCues(cue_ids=[cue.id], changes={"size": 0.2}).apply(session)
    dressed = {word.id for word in cue.words}
    RetypeCue(cue_id=cue.id, text=f"entirely {session.cue(cue.id).text} again").apply(session)
    assert all(word.look for word in session.cue(cue.id).words)
    SplitCue(cue_id=cue.id, before_word=2).apply(session)
    SetFinish(piece_id=1, finish="Linen").apply(session)
    SetPace(piece_id=1, pace=PACES["sentence"]).apply(session)
    held = {word.id for one in session.cues(1) for word in one.words if word.look}
    assert dressed <= held


def test_a_word_has_a_look_of_its_own_until_it_is_taken_back(session: EditSession) -> None:
    cue = session.cues(1)[0]
    word = cue.words[0]
    edit = DressWords(
        cue_ids=[cue.id], word_ids=[word.id], changes={"tilt": 9, "live": [1, 2, 3, 255]}
    )
    assert edit.label(session) == f"tilt of “{word.text}”"
    edit.apply(session)
    assert look_of(session.cue(cue.id).words[0].own) == {"live": [1, 2, 3, 255], "tilt": 9}
    with pytest.raises(BadInput, match="tilt"):
        DressWords(cue_ids=[cue.id], word_ids=[word.id], changes={"tilt": 500}).apply(session)
    DressWords(cue_ids=[cue.id], word_ids=[word.id], changes={"tilt": None}).apply(session)
    assert look_of(session.cue(cue.id).words[0].own) == {"live": [1, 2, 3, 255]}
    UndressCues(cue_ids=[cue.id]).apply(session)
    assert session.cue(cue.id).words[0].own == ""


def test_a_word_gets_a_plate_by_setting_something_of_it(session: EditSession) -> None:
    cue = session.cues(1)[0]
    DressWords(
        cue_ids=[cue.id], word_ids=[cue.words[0].id], changes={"plate.radius": 0.3}
    ).apply(session)  # fmt: skip
    worn_now = worn(None, session.cue(cue.id).words[0].own)
    assert worn_now
    assert worn_now.plate
    assert worn_now.plate.radius == 0.3
