"""Edits of grouping and caption times, on every session."""

from dataclasses import replace
from itertools import pairwise

import pytest

from mortiser.core.captions.checks import check
from mortiser.core.captions.pace import PACES, Pace
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.captions.captions import (
    AddCue,
    BreakLine,
    DeleteCues,
    JoinCue,
    JoinCues,
    MoveWord,
    SplitAt,
    SplitCue,
)
from mortiser.core.edits.captions.fixing import Finding, FixChecks, LeaveOut, lines_by_hand
from mortiser.core.edits.captions.pacing import CheckBy, Regroup, SetPace
from mortiser.core.edits.captions.shifting import Anchor, ShiftCues, StretchCues
from mortiser.core.edits.captions.times import (
    CloseGaps,
    MoveCues,
    SetCueTimes,
    TypeCueTime,
    UnpinCues,
)
from mortiser.core.edits.captions.word_times import MoveWordEdge
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.words import RetypeCue
from mortiser.core.transcript.words import Cue, Shown, Word
from tests.memory_session import MemoryEditSession

FRAME = 1_000_000 / 30


def cues(session: EditSession) -> list[Cue]:
    return session.cues(1)


def texts(session: EditSession) -> list[str]:
    return [cue.text for cue in cues(session)]


def all_words(session: EditSession) -> list[Shown]:
    return [word for cue in cues(session) for word in cue.words]


def pace(**change: object) -> Pace:
    return PACES["quick"].model_copy(update=change)


def test_one_word_at_a_time_and_back_again(session: EditSession) -> None:
    before = texts(session)
    said = [word.id for word in all_words(session)]
    SetPace(piece_id=1, pace=pace(words=1)).apply(session)
    assert texts(session) == [word.text for word in all_words(session)]
    SetPace(piece_id=1, pace=PACES["quick"]).apply(session)
    assert texts(session) == before
    assert [word.id for word in all_words(session)] == said


def test_what_a_pace_changes_is_named(session: EditSession) -> None:
    assert SetPace(piece_id=1, pace=PACES["sentence"]).label(session) == "pace sentence"
    assert SetPace(piece_id=1, pace=pace(linger_us=90_000)).label(session) == "pace: linger"
    assert SetPace(piece_id=1, pace=pace(words=2, lines=1)).label(session) == "change pace"


def test_a_longer_linger_moves_ends_and_no_pinned_one(session: EditSession) -> None:
    last = cues(session)[-1]
    first = cues(session)[0]
    SetCueTimes(cue_id=first.id, end_us=first.end_us - 100_000).apply(session)
    pinned = session.cue(first.id)
    SetPace(piece_id=1, pace=pace(linger_us=1_500_000)).apply(session)
    assert session.cue(last.id).end_us > last.end_us
    assert session.cue(first.id) == pinned


def test_regrouping_keeps_breaks_joins_and_pinned_captions(session: EditSession) -> None:
    second = cues(session)[1]
    SplitCue(cue_id=second.id, before_word=1).apply(session)
    pinned = cues(session)[4]
    SetCueTimes(cue_id=pinned.id, start_us=pinned.start_us + 10_000).apply(session)
    held = session.cue(pinned.id)
    broken = session.cue(second.id).words[-1].id
    SetPace(piece_id=1, pace=PACES["sentence"]).apply(session)
    assert broken in {cue.words[-1].id for cue in cues(session)}
    still = session.cue(held.id)
    assert (still.words, still.start_us, still.start_pinned) == (held.words, held.start_us, True)
    Regroup(piece_id=1, keep=False).apply(session)
    assert broken not in {cue.words[-1].id for cue in cues(session)}
    assert not any(cue.start_pinned or cue.end_pinned for cue in cues(session))


def test_words_joined_by_hand_stay_together(session: EditSession) -> None:
    one, two = cues(session)[:2]
    pair = one.words[-1].id, two.words[0].id
    JoinCue(cue_id=one.id, to="after").apply(session)
    SetPace(piece_id=1, pace=pace(words=2)).apply(session)
    holder = next(cue for cue in cues(session) if any(w.id == pair[0] for w in cue.words))
    assert pair[1] in {word.id for word in holder.words}


def test_only_picked_captions_are_grouped_anew(session: EditSession) -> None:
    before = texts(session)
    some = [cue.id for cue in cues(session)[2:4]]
    Regroup(piece_id=1, pace=pace(words=1), cue_ids=some).apply(session)
    after = texts(session)
    assert after[:2] == before[:2]
    assert after[-(len(before) - 4) :] == before[4:]
    assert after[2 : len(after) - len(before) + 4] == " ".join(before[2:4]).split()


def test_captions_that_stay_the_same_keep_their_ids(session: EditSession) -> None:
    before = {cue.text: cue.id for cue in cues(session)}
    SetPace(piece_id=1, pace=pace(chars_per_s=29)).apply(session)
    assert {cue.text: cue.id for cue in cues(session)} == before


def test_a_caption_is_added_where_nobody_speaks(session: EditSession) -> None:
    quiet = cues(session)[-1].end_us + 3_000_000
    AddCue(piece_id=1, at_us=quiet, text="Come and see us").apply(session)
    added = cues(session)[-1]
    assert (added.text, added.start_us, added.end_us) == (
        "Come and see us",
        quiet,
        quiet + 2_000_000,
    )
    assert added.start_pinned
    assert added.end_pinned
    SetPace(piece_id=1, pace=PACES["sentence"]).apply(session)
    assert session.cue(added.id) == added
    with pytest.raises(BadInput, match="caption here"):
        AddCue(piece_id=1, at_us=quiet + 100, text="Again").apply(session)
    with pytest.raises(BadInput, match="no room"):
        AddCue(piece_id=1, at_us=quiet - 200_000, text="Again").apply(session)
    with pytest.raises(BadInput, match="at least one word"):
        AddCue(piece_id=1, at_us=0, text=" ").apply(session)


def test_a_caption_is_split_at_the_word_nearest_to_a_moment(session: EditSession) -> None:
    cue = cues(session)[1]
    SplitAt(piece_id=1, at_us=cue.words[1].start_us + 30_000).apply(session)
    assert texts(session)[1:3] == [cue.words[0].text, " ".join(w.text for w in cue.words[1:])]
    with pytest.raises(BadInput, match="No caption shows"):
        SplitAt(piece_id=1, at_us=59_000_000).apply(session)


def test_several_captions_are_joined_when_they_follow_one_another(session: EditSession) -> None:
    three = cues(session)[1:4]
    said = " ".join(cue.text for cue in three)
    with pytest.raises(BadInput, match="follow one another"):
        JoinCues(cue_ids=[three[0].id, three[2].id]).apply(session)
    JoinCues(cue_ids=[cue.id for cue in three]).apply(session)
    assert texts(session)[1] == said


def test_words_move_to_the_neighbour_caption(session: EditSession) -> None:
    one, two = cues(session)[:2]
    MoveWord(cue_id=two.id, which="first").apply(session)
    assert [session.cue(one.id).words[-1].id, session.cue(two.id).words[0].id] == [
        two.words[0].id,
        two.words[1].id,
    ]
    MoveWord(cue_id=one.id, which="last").apply(session)
    assert [cue.text for cue in cues(session)[:2]] == [one.text, two.text]
    assert all(a.end_us <= b.start_us for a, b in pairwise(cues(session)))
    with pytest.raises(BadInput, match="no caption before"):
        MoveWord(cue_id=one.id, which="first").apply(session)


def test_the_only_word_takes_its_caption_along(session: EditSession) -> None:
    SetPace(piece_id=1, pace=pace(words=1)).apply(session)
    one, two = cues(session)[:2]
    MoveWord(cue_id=two.id, which="first").apply(session)
    assert session.cue(one.id).text == f"{one.text} {two.text}"
    with pytest.raises(NotFound):
        session.cue(two.id)


def test_a_line_is_broken_kept_through_edits_and_mended(session: EditSession) -> None:
    cue = cues(session)[1]
    BreakLine(cue_id=cue.id, before_word=1).apply(session)
    assert session.cue(cue.id).line_starts == (1,)
    RetypeCue(cue_id=cue.id, text=f"right {cue.text}").apply(session)
    assert session.cue(cue.id).line_starts == (2,)
    assert BreakLine(cue_id=cue.id, before_word=2).label(session) == "take line break out"
    BreakLine(cue_id=cue.id, before_word=2).apply(session)
    assert session.cue(cue.id).line_starts == ()
    with pytest.raises(BadInput, match="between two words"):
        BreakLine(cue_id=cue.id, before_word=9).apply(session)


def test_what_was_decided_behind_a_deleted_word_stays_at_its_place(session: EditSession) -> None:
    cue = cues(session)[1]
    BreakLine(cue_id=cue.id, before_word=2).apply(session)
    rest = [word.text for word in cue.words if word != cue.words[1]]
    RetypeCue(cue_id=cue.id, text=" ".join(rest)).apply(session)
    assert session.cue(cue.id).line_starts == (1,)


def test_neighbours_go_together_or_everything_behind_moves_along(session: EditSession) -> None:
    one, two, three = cues(session)[:3]
    assert one.end_us == two.start_us
    SetCueTimes(cue_id=two.id, start_us=two.start_us + 120_000, together=True).apply(session)
    assert session.cue(one.id).end_us == session.cue(two.id).start_us == two.start_us + 120_000
    end = session.cue(one.id).end_us
    SetCueTimes(cue_id=one.id, end_us=end + 50_000, ripple=True).apply(session)
    assert session.cue(two.id).start_us == two.start_us + 170_000
    assert session.cue(three.id).start_us == three.start_us + 50_000
    now = session.cue(three.id)
    with pytest.raises(BadInput, match="no time for the next"):
        SetCueTimes(cue_id=two.id, end_us=now.end_us, together=True).apply(session)


def test_a_whole_caption_moves_and_is_pinned(session: EditSession) -> None:
    last = cues(session)[-1]
    MoveCues(cue_ids=[last.id], by_us=500_000).apply(session)
    moved = session.cue(last.id)
    assert (moved.start_us, moved.end_us) == (last.start_us + 500_000, last.end_us + 500_000)
    assert moved.words == last.words
    with pytest.raises(BadInput, match="outside the recording"):
        MoveCues(cue_ids=[last.id], by_us=90_000_000).apply(session)
    with pytest.raises(BadInput, match="cover the caption in front"):
        MoveCues(cue_ids=[last.id], by_us=-4_000_000).apply(session)
    UnpinCues(cue_ids=[last.id]).apply(session)
    assert session.cue(last.id) == last


def test_all_captions_move_as_one(session: EditSession) -> None:
    before = cues(session)
    MoveCues(cue_ids=[before[0].id], by_us=300_000, ripple=True).apply(session)
    assert [c.start_us for c in cues(session)] == [c.start_us + 300_000 for c in before]


def test_shifting_takes_words_along(session: EditSession) -> None:
    before = cues(session)
    ShiftCues(cue_ids=[before[2].id], by="+0.25", onward=True).apply(session)
    after = cues(session)
    for old, new in zip(before, after, strict=True):
        by = 0 if old.start_us < before[2].start_us else 250_000
        assert [w.start_us for w in new.words] == [w.start_us + by for w in old.words]
    assert after[2].start_us - before[2].start_us == pytest.approx(250_000, abs=FRAME)
    with pytest.raises(BadInput, match="into"):
        ShiftCues(cue_ids=[before[4].id], by="+2").apply(session)
    with pytest.raises(BadInput, match="outside the recording"):
        ShiftCues(cue_ids=[before[0].id], by="-20f", onward=True).apply(session)
    with pytest.raises(BadInput, match="by how much"):
        ShiftCues(cue_ids=[before[0].id], by="0").apply(session)


def test_a_drift_is_stretched_away_between_two_anchors(session: EditSession) -> None:
    before = cues(session)
    first, last = before[0], before[-1]
    ends = first.words[0].start_us, last.words[0].start_us
    wanted = ends[0] + 100_000, round(ends[1] * 1.1)
    StretchCues(
        first=Anchor(cue_id=last.id, starts=f"{wanted[1] / 1e6:.6f}"),
        second=Anchor(cue_id=first.id, starts="+0.1"),
    ).apply(session)
    after = cues(session)
    assert (after[0].words[0].start_us, after[-1].words[0].start_us) == wanted
    scale = (wanted[1] - wanted[0]) / (ends[1] - ends[0])
    middle = before[3].words[1].start_us
    assert after[3].words[1].start_us == round(wanted[0] + (middle - ends[0]) * scale)
    anchor, far = Anchor(cue_id=first.id, starts="+0"), Anchor(cue_id=last.id, starts="50")
    with pytest.raises(BadInput, match="two different"):
        StretchCues(first=anchor, second=anchor).apply(session)
    with pytest.raises(BadInput, match="more than a half"):
        StretchCues(first=anchor, second=far).apply(session)


def test_a_word_lights_up_later_and_its_neighbour_stays_out_of_the_way(
    session: EditSession,
) -> None:
    cue = cues(session)[1]
    word = cue.words[1]
    MoveWordEdge(cue_id=cue.id, word_id=word.id, by_us=40_000).apply(session)
    assert session.cue(cue.id).words[1].start_us == word.start_us + 40_000
    before = cue.words[0]
    MoveWordEdge(cue_id=cue.id, word_id=word.id, to_us=before.start_us + 50_000).apply(session)
    assert session.cue(cue.id).words[0].end_us == before.start_us + 50_000
    # The two touch now, and go together.
    MoveWordEdge(cue_id=cue.id, word_id=word.id, by_us=30_000).apply(session)
    assert session.cue(cue.id).words[0].end_us == before.start_us + 80_000
    MoveWordEdge(cue_id=cue.id, word_id=word.id, to_us=0).apply(session)
    assert session.cue(cue.id).words[1].start_us == before.start_us + 20_000
    with pytest.raises(BadInput, match="no room"):
        MoveWordEdge(cue_id=cue.id, word_id=word.id, by_us=-10_000).apply(session)


def test_a_word_is_over_later(session: EditSession) -> None:
    cue = cues(session)[1]
    word, after = cue.words[:2]
    edge = MoveWordEdge(cue_id=cue.id, word_id=word.id, edge="end", to_us=after.start_us + 90_000)
    assert edge.label(session) == f"move end of “{word.text}”"
    edge.apply(session)
    fresh = session.cue(cue.id).words
    assert fresh[0].end_us == fresh[1].start_us == after.start_us + 90_000


def test_the_first_word_of_a_caption_takes_room_from_the_caption_before(
    session: EditSession,
) -> None:
    one, two = cues(session)[:2]
    at = one.words[-1].end_us - 100_000
    MoveWordEdge(cue_id=two.id, word_id=two.words[0].id, to_us=at).apply(session)
    assert session.cue(one.id).words[-1].end_us == at
    assert session.cue(two.id).start_us <= at


@pytest.mark.parametrize(
    ("typed", "by_us"), [("+0.2", 200_000), ("-2f", -66_667), ("+3f", 100_000), ("− 0.1", -100_000)]
)
def test_times_are_typed_relative_or_in_frames(
    session: EditSession, typed: str, by_us: int
) -> None:
    cue = cues(session)[-1]
    TypeCueTime(cue_id=cue.id, edge="end", text=typed).apply(session)
    assert session.cue(cue.id).end_us == cue.end_us + by_us


def test_gaps_are_closed_behind_picked_captions(session: EditSession) -> None:
    for cue in cues(session)[:2]:
        SetCueTimes(cue_id=cue.id, end_us=cue.end_us - 150_000).apply(session)
    one, two, three = cues(session)[:3]
    CloseGaps(cue_ids=[one.id]).apply(session)
    assert session.cue(one.id).end_us == two.start_us
    assert session.cue(two.id).end_us == two.end_us < three.start_us
    CloseGaps(cue_ids=[cue.id for cue in cues(session)]).apply(session)
    assert session.cue(two.id).end_us == three.start_us
    with pytest.raises(BadInput, match="no gap"):
        CloseGaps(cue_ids=[two.id]).apply(session)


def test_many_captions_are_deleted_as_one(session: EditSession) -> None:
    before = texts(session)
    gone = DeleteCues(cue_ids=[cue.id for cue in cues(session)[1:4]])
    assert gone.label(session) == "delete 3 captions"
    gone.apply(session)
    assert texts(session) == before[:1] + before[4:]
    with pytest.raises(NotFound):
        gone.apply(session)


def found(session: EditSession) -> list[tuple[str, int | None]]:
    checks = check(
        cues(session), session.pace(1), session.timeline(1).duration_us, session.frames(1)
    )
    return [(item.kind, item.cue_id) for item in checks]


def test_findings_are_put_right(session: EditSession) -> None:
    clean = found(session)
    one, two, three, four = cues(session)[:4]
    late = one.words[0].start_us + 200_000
    session.save_cue(Cue(1, one.words, late, one.end_us - 100_000, True, True, one.id))
    session.save_cue(
        Cue(1, three.words, three.start_us, four.start_us + 90_000, False, True, three.id)
    )
    kinds = {kind for kind, _ in found(session)}
    assert kinds >= {"late", "flicker", "overlap"}
    wrong = [item for item in found(session) if item not in clean]
    FixChecks(
        piece_id=1, findings=[Finding(kind=kind, cue_id=cue_id) for kind, cue_id in wrong]
    ).apply(session)
    assert [item for item in found(session) if item not in clean] == []
    assert session.cue(two.id) == two


def test_speech_without_a_caption_gets_one(session: EditSession) -> None:
    cue = cues(session)[2]
    before = texts(session)
    assert session.unshown(1) == []
    DeleteCues(cue_ids=[cue.id]).apply(session)
    ids = [word.id for word in cue.words]
    assert [word.id for word in session.unshown(1)] == ids
    FixChecks(piece_id=1, findings=[Finding(kind="unshown", word_ids=ids)]).apply(session)
    assert texts(session) == before
    with pytest.raises(BadInput, match="no safe remedy"):
        FixChecks(piece_id=1, findings=[Finding(kind="unshown", word_ids=ids)]).apply(session)


def test_speech_may_be_left_without_a_caption(session: EditSession) -> None:
    cue = cues(session)[2]
    ids = [word.id for word in cue.words]
    with pytest.raises(BadInput, match="in a caption"):
        LeaveOut(piece_id=1, word_ids=ids).apply(session)
    DeleteCues(cue_ids=[cue.id]).apply(session)
    LeaveOut(piece_id=1, word_ids=ids).apply(session)
    assert not {word.id for word in session.words_between(1, 0, 60_000_000)} & set(ids)


def test_too_long_a_line_is_broken_or_parted_and_a_lone_word_joined(session: EditSession) -> None:
    SetPace(piece_id=1, pace=PACES["sentence"]).apply(session)
    longest = max(cues(session), key=lambda cue: len(cue.text))
    count = len(cues(session))
    fixed = FixChecks(piece_id=1, findings=[Finding(kind="wide_line", cue_id=longest.id)])
    assert fixed.label(session) == "fix wide line"
    fixed.apply(session)
    broken = session.cue(longest.id)
    assert len(cues(session)) == count, "lines come first"
    assert len(lines_by_hand(broken)) == 2
    short = PACES["quick"].model_copy(update={"line_chars": 24, "lines": 1})
    session.save_settings(1, replace(session.settings(1), pace=short))
    fixed.apply(session)
    assert len(cues(session)) > count
    session.save_settings(1, replace(session.settings(1), pace=PACES["sentence"]))
    Regroup(piece_id=1, keep=False).apply(session)
    one = cues(session)[-1]
    SplitCue(cue_id=one.id, before_word=1).apply(session)
    lone = session.cue(one.id)
    FixChecks(piece_id=1, findings=[Finding(kind="orphan", cue_id=lone.id)]).apply(session)
    assert one.text in " ".join(texts(session))
    assert len(cues(session)) == count


def test_the_rule_set_is_chosen(session: EditSession) -> None:
    assert session.settings(1).checked_by == "own"
    CheckBy(piece_id=1, rules="course").apply(session)
    assert session.settings(1).checked_by == "course"


def test_a_word_edge_is_moved_where_captions_stand_in_another_order_than_their_words() -> None:
    words = [Shown("tea", 5_000_000, 5_400_000, id=1), Shown("free", 1_000_000, 1_400_000, id=2)]
    memory = MemoryEditSession([])
    for number, word in enumerate(words):
        memory.transcript[word.id] = Word(
            word.text, word.start_us, word.end_us, id=word.id, source_id=1
        )
        start = 500_000 + number * 500_000
        memory.save_cue(Cue(1, (word,), start, start + 400_000, True, True))
    second = memory.cues(1)[1]
    MoveWordEdge(cue_id=second.id, word_id=2, by_us=100_000).apply(memory)
    MoveWordEdge(cue_id=memory.cues(1)[0].id, word_id=1, edge="end", by_us=-100_000).apply(memory)
    assert [(w.start_us, w.end_us) for w in memory.transcript.values()] == [
        (5_000_000, 5_300_000),
        (1_100_000, 1_400_000),
    ]
