"""Edits over several captions and of the glossary, on every session."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.common.errors import BadInput
from mortiser.core.edits.captions.pacing import Regroup
from mortiser.core.edits.captions.times import SetCueTimes
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.glossary import ApplyGlossary, KeepGlossary, RefuseGlossary, Rewording
from mortiser.core.edits.text.runs import RetypeRun
from mortiser.core.edits.text.words import AcceptWord, RetypeCue
from mortiser.core.transcript.words import Cue
from tests.contracts.test_session import cues, texts
from tests.memory_session import MemoryEditSession
from tests.store.fixtures import spoken
from tests.strategies import new_text


def run(first: Cue, a: int, last: Cue, b: int, text: str = "", doing: str = "type") -> RetypeRun:
    return RetypeRun(
        from_cue=first.id, from_letter=a, to_cue=last.id, to_letter=b, text=text, doing=doing
    )


def test_cutting_over_captions_joins_what_is_left(session: EditSession) -> None:
    first, middle, last = cues(session)[1:4]
    a, b = len("from "), last.text.index(" ") + 1
    edit = run(first, a, last, b, doing="cut")
    assert edit.label(session) == "cut text"
    edit.apply(session)
    assert texts(session)[1] == f"from {last.text[b:]}"
    after = session.cue(first.id)
    assert after.words == (first.words[0], *last.words[1:])
    assert [c.id for c in cues(session)].count(middle.id) == 0
    assert all(x.end_us <= y.start_us for x, y in pairwise(cues(session)))


def test_everything_taken_away_takes_the_captions_away(session: EditSession) -> None:
    before = texts(session)
    first, last = cues(session)[0], cues(session)[2]
    run(first, 0, last, len(last.text), doing="delete").apply(session)
    assert texts(session) == before[3:]


def test_lines_become_captions_and_words_that_stay_keep_their_times(session: EditSession) -> None:
    first, last = cues(session)[1], cues(session)[2]
    old = [*first.words, *last.words]
    words = [w.text for w in old]
    text = "\n".join([words[0], f"brand new {words[1]}", *words[2:]])
    edit = run(first, 0, last, len(last.text), text, "paste")
    assert edit.label(session).startswith("paste “from")
    edit.apply(session)
    shown = texts(session)
    assert shown[1:3] == [words[0], f"brand new {words[1]}"]
    assert shown[3 : 1 + len(words)] == words[2:]
    times = {w.id: (w.start_us, w.end_us) for cue in cues(session) for w in cue.words}
    assert all(times[w.id] == (w.start_us, w.end_us) for w in old)


def test_a_pinned_edge_stays_with_its_word(session: EditSession) -> None:
    first, last = cues(session)[1], cues(session)[2]
    SetCueTimes(cue_id=first.id, start_us=first.start_us + 20_000).apply(session)
    run(first, len(first.text), last, len(last.text), " indeed").apply(session)
    after = session.cue(first.id)
    assert after.text == f"{first.text} indeed"
    assert (after.start_us, after.start_pinned) == (first.start_us + 20_000, True)


def test_a_run_backwards_is_refused(session: EditSession) -> None:
    first, last = cues(session)[1:3]
    for edit in (run(last, 0, first, 1), run(first, 3, first, 1)):
        with pytest.raises(BadInput, match="before its start"):
            edit.apply(session)


@given(st.data(), new_text)
def test_any_run_leaves_captions_in_order_with_exactly_the_text(
    data: st.DataObject, fresh: list[str]
) -> None:
    memory = MemoryEditSession(spoken())
    Regroup(piece_id=1).apply(memory)
    shown = memory.cues(1)
    i = data.draw(st.integers(0, len(shown) - 1))
    j = data.draw(st.integers(i, min(len(shown) - 1, i + 4)))
    a = data.draw(st.integers(0, len(shown[i].text)))
    b = data.draw(st.integers(a if i == j else 0, len(shown[j].text)))
    breaks = data.draw(st.lists(st.sampled_from([" ", "\n"]), min_size=len(fresh)))
    text = "".join(word + gap for word, gap in zip(fresh, breaks, strict=False))
    whole = (
        [c.text for c in shown[:i]],
        (shown[i].text[:a] + text + shown[j].text[b:]).split("\n"),
        [c.text for c in shown[j + 1 :]],
    )
    run(shown[i], a, shown[j], b, text).apply(memory)
    after = memory.cues(1)
    assert [c.text for c in after] == [
        " ".join(t.split()) for part in whole for t in part if t.split()
    ]
    assert all(x.start_us < x.end_us <= y.start_us for x, y in pairwise(after))
    words = [w for c in after for w in c.words]
    assert all(x.end_us <= y.start_us for x, y in pairwise(words))
    assert len({w.id for w in words}) == len(words) == len(memory.transcript)


def test_corrections_are_noted(session: EditSession) -> None:
    cue = cues(session)[1]
    RetypeCue(cue_id=cue.id, text=cue.text.replace("Lantern", "Lanthorn")).apply(session)
    if isinstance(session, MemoryEditSession):
        assert session.corrections == [("Lantern", "Lanthorn")]


@pytest.fixture
def reworded(session: EditSession) -> tuple[EditSession, Cue, Cue]:
    """The glossary has made one word of the last of a caption and the first of the next."""
    first, last = cues(session)[1:3]
    ids = [first.words[-1].id, last.words[0].id]
    edit = ApplyGlossary(piece_id=1, changes=[Rewording(word_ids=ids, text="Lanewhere")])
    assert edit.label(session) == "glossary: “Lanewhere”"
    edit.apply(session)
    return session, first, last


def test_the_glossary_may_reach_over_captions(reworded: tuple[EditSession, Cue, Cue]) -> None:
    session, first, last = reworded
    after = session.cue(first.id)
    assert after.words[-1].text == "Lanewhere"
    assert after.words[-1].heard_as == f"{first.words[-1].text} {last.words[0].text}"
    assert after.words[-1].end_us == last.words[0].end_us
    assert session.cue(last.id).words == last.words[1:]
    KeepGlossary(piece_id=1).apply(session)
    assert session.cue(first.id).words[-1].heard_as is None


def test_what_the_glossary_wrote_can_be_put_back(reworded: tuple[EditSession, Cue, Cue]) -> None:
    session, first, last = reworded
    word = session.cue(first.id).words[-1]
    edit = RefuseGlossary(cue_id=first.id, word_id=word.id)
    assert edit.label(session) == f"put back “{word.heard_as}”"
    edit.apply(session)
    after = session.cue(first.id)
    assert after.text == f"{first.text} {last.words[0].text}"
    assert [(w.origin, w.heard_as) for w in after.words[-2:]] == [("typed", None)] * 2
    with pytest.raises(BadInput, match="not changed that word"):
        RefuseGlossary(cue_id=first.id, word_id=after.words[0].id).apply(session)


def test_one_change_is_kept_by_accepting_its_word(session: EditSession) -> None:
    cue = cues(session)[1]
    ids = [word.id for word in cue.words[1:3]]
    ApplyGlossary(piece_id=1, changes=[Rewording(word_ids=ids, text="Lantern Lane,")]).apply(
        session
    )
    assert [w.heard_as for w in session.cue(cue.id).words[1:3]] == ["Lantern Lane,", ""]
    AcceptWord(cue_id=cue.id, word_id=ids[0]).apply(session)
    assert [w.heard_as for w in session.cue(cue.id).words[1:3]] == [None, None]


def test_words_that_moved_apart_are_not_reworded(session: EditSession) -> None:
    ids = [cues(session)[0].words[0].id, cues(session)[2].words[0].id]
    with pytest.raises(BadInput, match="together"):
        ApplyGlossary(piece_id=1, changes=[Rewording(word_ids=ids, text="x")]).apply(session)


def test_words_between_moments(session: EditSession) -> None:
    words = [w for cue in cues(session) for w in cue.words]
    found = session.words_between(1, words[2].start_us, words[4].end_us)
    assert found == words[2:5]
