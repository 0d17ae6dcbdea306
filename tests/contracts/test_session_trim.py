"""Cutting the talk on every session: two pieces, two sources, clips out of order."""

from dataclasses import replace
from pathlib import Path

import pytest

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.apart import carry_out
from mortiser.core.edits.captions.times import SetCueTimes
from mortiser.core.edits.cutting.pieces import DeletePiece, NamePiece, NewPiece
from mortiser.core.edits.cutting.putting import PutPassages, WordPlace
from mortiser.core.edits.cutting.recorded import PutRecorded, Recorded, UseTake
from mortiser.core.edits.cutting.trimming import (
    BringIn,
    CutStretches,
    MoveCut,
    Passage,
    RestoreStretches,
    RestoreWords,
    SetGoal,
    StrandStretch,
    StrikeWords,
)
from mortiser.core.edits.look.marking import MarkWords
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.words import RetypeCue
from mortiser.core.transcript.words import Word
from mortiser.store.sql_session import SqlEditSession
from tests.contracts.trimmed import make, passage, plain, text_of, with_word, words_of
from tests.memory_session import DURATION_US, MemoryEditSession
from tests.store.fixtures import OTHER, TEXT, open_project, spoken

MS = 1_000


@pytest.fixture
def session(two_pieces: EditSession) -> EditSession:
    return two_pieces


def test_struck_words_go_and_come_back_with_what_belongs_to_them(session: EditSession) -> None:
    cue, kettle = with_word(session, "kettle")
    make(session, MarkWords(cue_ids=[cue.id], word_ids=[kettle.id], accent=2))
    before = session.cues(1), session.timeline(1).duration_us
    words = {word.id: word for word in words_of(session)}
    said = passage(session, "Today", "cold.")
    make(session, StrikeWords(piece_id=1, passages=[said]))
    assert text_of(session) == TEXT.replace("Today this kettle came in stone cold. ", "")
    gone = before[1] - session.timeline(1).duration_us
    # Seven words of 350 ms, but for the gaps of 50 ms on both sides, which stay.
    assert gone == pytest.approx(7 * 350 * MS, abs=60 * MS)
    for word in words_of(session):
        moved = word.start_us - words[word.id].start_us
        assert moved in (0, -gone)
        assert word == replace(
            words[word.id], start_us=word.start_us, end_us=word.end_us, clip_id=word.clip_id
        )
    make(session, RestoreWords(piece_id=1, passages=[said]))
    assert text_of(session) == TEXT
    assert with_word(session, "kettle")[1].accent == 2
    after = {word.id: word for word in words_of(session)}
    assert after.keys() == words.keys()
    assert {w.id: (w.start_us, w.end_us) for w in after.values()} == {
        w.id: (w.start_us, w.end_us) for w in words.values()
    }


def test_captions_away_from_a_cut_stay_as_they_are(session: EditSession) -> None:
    first, last = session.cues(1)[0], session.cues(1)[-1]
    make(session, SetCueTimes(cue_id=last.id, end_us=last.end_us + 400 * MS))
    last = session.cue(last.id)
    make(session, StrikeWords(piece_id=1, passages=[passage(session, "kettle", "kettle")]))
    assert plain(session.cue(first.id)) == plain(first)
    now = session.cue(last.id)
    assert now.end_pinned
    assert now.end_us - now.start_us == last.end_us - last.start_us
    assert [w.start_us - now.start_us for w in now.words] == [
        w.start_us - last.start_us for w in last.words
    ]


def test_a_cut_in_one_piece_leaves_the_other_alone(session: EditSession) -> None:
    before = session.cues(1)
    make(session, StrikeWords(piece_id=2, passages=[passage(session, "out", "ten", 2, 1)]))
    assert session.cues(1) == before
    assert text_of(session, 2) == (
        f"{OTHER} Nine times out of ten it is the fuse. Good morning from Lantern Lane, Nine times"
    )
    cue, _ = with_word(session, "ten")
    make(session, RetypeCue(cue_id=cue.id, text=cue.text.replace("ten", "tin")))
    assert text_of(session, 2).count("tin") == 1
    make(session, RestoreWords(piece_id=2, passages=[_struck(session, "out", "tin")]))
    assert text_of(session, 2).endswith("Nine times out of tin")


def _struck(session: EditSession, first: str, last: str) -> Passage:
    """Words of the last strand of the second piece, whether they show or not."""
    strand = session.strands(2)[-1]
    words = session.said_from(strand.source_id, strand.start_us, strand.end_us)
    a = next(word for word in words if word.text == first)
    b = next(word for word in words if word.text == last)
    return Passage(strand_id=strand.id, first_word=a.id, last_word=b.id)


def test_captions_that_lose_words_are_grouped_anew_only_there(session: EditSession) -> None:
    before = {cue.id: cue for cue in session.cues(1)}
    cues = [cue for cue in session.cues(1) if len(cue.words) > 1]
    one, other = cues[1], cues[3]
    strand = session.timeline(1).place_of(one.words[0]).clip.strand_id
    said = Passage(strand_id=strand, first_word=one.words[-1].id, last_word=other.words[0].id)
    make(session, StrikeWords(piece_id=1, passages=[said]))
    kept = [word.id for word in (*one.words[:-1], *other.words[1:])]
    texts = {word.id: word.text for cue in before.values() for word in cue.words}
    assert [w.id for w in words_of(session) if w.id in kept] == kept
    for cue in session.cues(1):
        if not {word.id for word in cue.words} & set(kept):
            assert [w.text for w in cue.words] == [texts[w.id] for w in before[cue.id].words]


def test_stretches_without_words_are_cut_and_come_back(session: EditSession) -> None:
    strand = session.strands(1)[0]
    last = words_of(session)[-1]
    stretch = StrandStretch(
        strand_id=strand.id, from_us=last.end_us + 120 * MS, to_us=strand.end_us
    )
    texts = [cue.text for cue in session.cues(1)]
    make(session, CutStretches(piece_id=1, stretches=[stretch], found="ends"))
    assert session.timeline(1).duration_us == last.end_us + 120 * MS
    assert [cue.text for cue in session.cues(1)] == texts
    make(session, RestoreStretches(piece_id=1, stretches=[stretch], found="ends"))
    assert session.timeline(1).duration_us == strand.end_us
    assert len(session.timeline(1).clips) == 1


def test_many_stretches_are_one_edit(session: EditSession) -> None:
    words = words_of(session)
    strand = session.strands(1)[0]
    stretches = [
        StrandStretch(strand_id=strand.id, from_us=w.end_us + 10 * MS, to_us=w.end_us + 40 * MS)
        for w in words
    ]
    edit = CutStretches(piece_id=1, stretches=stretches, found="quiet")
    assert edit.label(session) == f"take out {len(words)} quiet stretches"
    make(session, edit)
    # Of 30 ms each a frame goes, so that what comes behind stays on the frames.
    frame = session.frames(1).length_us
    gone = strand.end_us - session.timeline(1).duration_us
    assert gone == pytest.approx(len(words) * frame, abs=len(words))
    assert len(session.timeline(1).cuts) == len(words)
    assert text_of(session) == TEXT


def test_an_edge_moves_as_far_as_its_neighbours_let_it(session: EditSession) -> None:
    make(session, StrikeWords(piece_id=1, passages=[passage(session, "Today", "cold.")]))
    left, right = session.timeline(1).clips
    make(
        session,
        MoveCut(piece_id=1, clip_id=right.id, edge="start", to_us=right.start_us - 350 * MS),
    )
    assert "Cold. Nine" in text_of(session)
    make(session, MoveCut(piece_id=1, clip_id=right.id, edge="start", to_us=0))
    (one, other) = session.timeline(1).clips
    assert other.start_us == one.end_us == left.end_us
    assert text_of(session) == TEXT
    make(session, MoveCut(piece_id=1, clip_id=right.id, edge="end", to_us=10**12))
    assert session.timeline(1).clips[-1].end_us == session.strands(1)[0].end_us
    with pytest.raises(NotFound):
        MoveCut(piece_id=1, clip_id=10**6, edge="end", to_us=0).apply(session)


def test_something_of_a_piece_stays(session: EditSession) -> None:
    every = StrandStretch(strand_id=session.strands(1)[0].id, from_us=0, to_us=DURATION_US)
    with pytest.raises(BadInput, match="nothing of the piece"):
        CutStretches(piece_id=1, stretches=[every], found="quiet").apply(session)


def test_labels_say_which_words(session: EditSession) -> None:
    said = passage(session, "stone", "cold.")
    assert StrikeWords(piece_id=1, passages=[said]).label(session) == "strike “stone cold.”"
    two = StrikeWords(piece_id=1, passages=[said, passage(session, "Nine", "Nine")])
    assert two.label(session) == "strike “stone cold.” and 1 more"
    assert RestoreWords(piece_id=1, passages=[said]).label(session) == "bring “stone cold.” back"
    assert SetGoal(piece_id=1, goal_us=1).label(session) == "goal for the length"


def test_a_strand_of_another_piece_is_not_found(session: EditSession) -> None:
    said = passage(session, "stone", "cold.")
    with pytest.raises(NotFound):
        StrikeWords(piece_id=2, passages=[said.model_copy(update={"strand_id": 999})]).apply(
            session
        )


def test_a_piece_of_some_passages_has_their_words_with_what_belongs_to_them(
    session: EditSession,
) -> None:
    cue, kettle = with_word(session, "kettle")
    make(session, MarkWords(cue_ids=[cue.id], word_ids=[kettle.id], accent=3))
    make(session, StrikeWords(piece_id=1, passages=[passage(session, "came", "in")]))
    said = [passage(session, "Nine", "ten"), passage(session, "Today", "cold.")]
    edit = NewPiece(piece_id=1, passages=said)
    assert edit.label(session) == "new piece Nine times out of ten"
    make(session, edit)
    assert text_of(session, 3) == "Nine times out of ten Today this kettle stone cold."
    assert with_word(session, "kettle", 3)[1].accent == 3
    assert session.settings(3).name == "Nine times out of ten"
    assert len(session.timeline(3).clips) == 3, "what was struck is struck there too"
    # A word corrected in one is right in all.
    cue, _ = with_word(session, "ten", 3)
    make(session, RetypeCue(cue_id=cue.id, text=cue.text.replace("ten", "tin")))
    assert "tin" in text_of(session)
    assert "tin" in text_of(session, 2)


def test_a_copy_of_a_piece_is_like_it_and_goes_its_own_way(session: EditSession) -> None:
    first = session.cues(1)[0]
    make(session, SetCueTimes(cue_id=first.id, start_us=first.start_us + 40 * MS))
    make(session, StrikeWords(piece_id=1, passages=[passage(session, "out", "ten")]))
    make(session, NewPiece(piece_id=1, name="  Another\n try "))
    assert session.settings(3).name == "Another try"
    assert session.timeline(3).duration_us == session.timeline(1).duration_us
    one, other = session.cues(1), session.cues(3)
    assert [(c.text, c.start_us, c.end_us, c.pinned) for c in other] == [
        (c.text, c.start_us, c.end_us, c.pinned) for c in one
    ]
    make(session, StrikeWords(piece_id=3, passages=[passage(session, "Good", "from", 3)]))
    assert [plain(cue) for cue in session.cues(1)] == [plain(cue) for cue in one]
    assert text_of(session, 3).startswith("Lantern")


def test_pieces_are_named_and_taken_away_but_one_stays(session: EditSession) -> None:
    make(session, NamePiece(piece_id=2, name="The fuse"))
    assert session.settings(2).name == "The fuse"
    with pytest.raises(BadInput, match="needs a name"):
        NamePiece(piece_id=2, name=" \n ").apply(session)
    assert DeletePiece(piece_id=2).label(session) == "delete piece The fuse"
    DeletePiece(piece_id=2).apply(session)
    with pytest.raises(NotFound):
        session.cues(2)
    assert text_of(session, 1) == TEXT
    with pytest.raises(BadInput):
        DeletePiece(piece_id=1).apply(session)


def behind(session: EditSession, text: str, piece_id: int = 1) -> WordPlace:
    word = next(word for word in words_of(session, piece_id) if word.text == text)
    strand = session.timeline(piece_id).place_of(word).clip.strand_id
    return WordPlace(strand_id=strand, word_id=word.id)


def put(
    session: EditSession, said: Passage, where: WordPlace | None, piece_id: int = 1, source: int = 1
) -> None:
    edit = PutPassages(piece_id=piece_id, from_piece_id=source, passages=[said], behind=where)
    make(session, edit)


def test_a_passage_is_said_once_more_with_its_marks(session: EditSession) -> None:
    cue, kettle = with_word(session, "kettle")
    make(session, MarkWords(cue_ids=[cue.id], word_ids=[kettle.id], accent=2))
    said = passage(session, "kettle", "stone")
    assert PutPassages(piece_id=1, from_piece_id=1, passages=[said]).label(session) == (
        "put “kettle came in stone” here"
    )
    long = session.timeline(1).duration_us
    put(session, said, behind(session, "Nine"))
    assert text_of(session) == TEXT.replace("Nine times", "Nine kettle came in stone times")
    assert [w.accent for w in words_of(session) if w.text == "kettle"] == [2, 2]
    put_in = session.timeline(1).duration_us - long
    frames = put_in / session.frames(1).length_us
    assert frames == pytest.approx(round(frames), abs=0.001), "what is behind stays on its frames"
    # A word corrected in one place is right in both; struck in one, it stays in the other.
    cue, _ = with_word(session, "kettle")
    make(session, RetypeCue(cue_id=cue.id, text=cue.text.replace("kettle", "teapot")))
    assert text_of(session).count("teapot") == 2
    again = Passage(
        strand_id=session.strands(1)[-1].id, first_word=said.first_word, last_word=said.last_word
    )
    make(session, StrikeWords(piece_id=1, passages=[again]))
    assert text_of(session).count("teapot") == 1
    assert text_of(session).endswith("Nine times out of ten it is the fuse.")


def test_a_passage_is_moved_with_what_was_struck_with_it(session: EditSession) -> None:
    cue, kettle = with_word(session, "kettle")
    make(session, MarkWords(cue_ids=[cue.id], word_ids=[kettle.id], accent=3))
    said = passage(session, "Today", "cold.")
    make(session, StrikeWords(piece_id=1, passages=[said]))
    was = session.timeline(1).clips
    put(session, said, None)
    moved = "Today this kettle came in stone cold."
    assert text_of(session) == f"{moved} {TEXT.replace(moved + ' ', '')}"
    assert with_word(session, "kettle")[1].accent == 3
    now = [(clip.start_us, clip.end_us) for clip in session.timeline(1).clips[1:]]
    assert now == [(clip.start_us, clip.end_us) for clip in was], "it stays struck where it was"
    make(session, RestoreWords(piece_id=1, passages=[said]))
    assert text_of(session) == f"{moved} {TEXT}"


def test_a_passage_goes_from_one_piece_into_another(session: EditSession) -> None:
    said = passage(session, "Bring", "radio", 2)
    put(session, said, behind(session, "things."), source=2)
    assert "mend things. Bring your radio Today this" in text_of(session)
    assert {clip.source_id for clip in session.timeline(1).clips} == {1, 2}
    put(session, passage(session, "stone", "cold."), behind(session, "Bring", 2), piece_id=2)
    assert "Bring stone cold. Your radio" in text_of(session, 2)


def test_struck_words_come_back_where_a_passage_parts_them(session: EditSession) -> None:
    put(session, passage(session, "stone", "stone"), behind(session, "out"))
    put_text = TEXT.replace("out of", "out stone of")
    assert text_of(session) == put_text
    both = [passage(session, "times", "out"), passage(session, "of", "ten")]
    make(session, StrikeWords(piece_id=1, passages=both))
    assert text_of(session) == put_text.replace("times out stone of ten", "stone")
    make(session, RestoreWords(piece_id=1, passages=both[:1]))
    assert text_of(session) == put_text.replace(" of ten", "")
    make(session, RestoreWords(piece_id=1, passages=both[1:]))
    assert text_of(session) == put_text
    # Behind a struck word is behind what stands in front of it.
    make(session, StrikeWords(piece_id=1, passages=both))
    where = WordPlace(strand_id=both[1].strand_id, word_id=both[1].last_word)
    put(session, passage(session, "Good", "morning"), where)
    assert "Nine stone Good morning it" in text_of(session)


def test_what_is_not_there_cannot_be_put_anywhere(session: EditSession) -> None:
    said = passage(session, "Good", "morning")
    with pytest.raises(NotFound):
        PutPassages(piece_id=1, from_piece_id=9, passages=[said]).apply(session)
    nowhere = WordPlace(strand_id=999, word_id=said.first_word)
    with pytest.raises(NotFound):
        PutPassages(piece_id=1, from_piece_id=1, passages=[said], behind=nowhere).apply(session)


def recorded(session: EditSession, first: str, last: str, source_id: int) -> Recorded:
    """Words of a recording, whichever piece shows them."""
    words = session.said_from(source_id, 0, DURATION_US)
    start = next(at for at, word in enumerate(words) if word.text == first)
    end = next(at for at in range(start, len(words)) if words[at].text == last)
    return Recorded(first_word=words[start].id, last_word=words[end].id)


def test_a_passage_of_another_recording_is_put_in(session: EditSession) -> None:
    said = recorded(session, "Bring", "Saturday", 2)
    edit = PutRecorded(piece_id=1, said=said, behind=behind(session, "mend"))
    assert edit.label(session) == "put “Bring your radio on Sat…” here"
    make(session, edit)
    assert text_of(session) == TEXT.replace(
        "mend things", "mend Bring your radio on Saturday things"
    )
    (clip,) = [one for one in session.timeline(1).clips if one.source_id == 2]
    frames = clip.length_us / session.frames(1).length_us
    assert frames == pytest.approx(round(frames), abs=1e-3)
    make(session, PutRecorded(piece_id=1, said=said))
    assert text_of(session).startswith("Bring your radio on Saturday Good morning")
    mixed = Recorded(
        first_word=said.first_word, last_word=passage(session, "Nine", "Nine").last_word
    )
    with pytest.raises(NotFound):
        PutRecorded(piece_id=1, said=mixed).apply(session)


def test_another_take_plays_in_the_stead_of_one_and_back(session: EditSession) -> None:
    plays = passage(session, "Today", "cold.")
    other = recorded(session, "Bring", "together.", 2)
    make(session, UseTake(piece_id=1, instead=plays, take=other))
    swapped = TEXT.replace("Today this kettle came in stone cold.", OTHER)
    assert text_of(session) == swapped
    strands = len(session.strands(1))
    now = passage(session, "Bring", "together.")
    first = Recorded(first_word=plays.first_word, last_word=plays.last_word)
    edit = UseTake(piece_id=1, instead=now, take=first)
    assert edit.label(session).startswith("use another take: “Today this")
    make(session, edit)
    assert text_of(session) == TEXT
    assert len(session.strands(1)) == strands, (
        "it came back where it stood, and was not put in again"
    )
    make(session, UseTake(piece_id=1, instead=passage(session, "Today", "cold."), take=other))
    assert text_of(session) == swapped
    assert len(session.strands(1)) == strands


def test_the_sentence_beside_a_passage_is_brought_in(session: EditSession) -> None:
    said = passage(session, "Nine", "ten")
    make(session, NewPiece(piece_id=1, passages=[said]))
    (made,) = [one for one in (3, 4) if _is_there(session, one)]
    (strand,) = session.strands(made)
    edit = BringIn(piece_id=made, strand_id=strand.id, side="before")
    assert edit.label(session) == "bring in “Today this kettle came…”"
    make(session, edit)
    assert text_of(session, made) == "Today this kettle came in stone cold. Nine times out of ten"
    make(session, BringIn(piece_id=made, strand_id=strand.id, side="behind"))
    assert text_of(session, made).endswith("Nine times out of ten it is the fuse.")
    assert len(session.timeline(made).clips) == 1, "it plays on without a cut"
    with pytest.raises(NotFound):
        BringIn(piece_id=made, strand_id=strand.id, side="behind").apply(session)
    make(session, BringIn(piece_id=made, strand_id=strand.id, side="before"))
    assert text_of(session, made) == TEXT


def _is_there(session: EditSession, piece_id: int) -> bool:
    try:
        session.settings(piece_id)
    except NotFound:
        return False
    return True


def test_an_edge_is_moved_beyond_what_was_put_in_but_not_into_what_follows(
    session: EditSession,
) -> None:
    said = recorded(session, "radio", "Saturday", 2)
    make(session, PutRecorded(piece_id=1, said=said, behind=behind(session, "mend")))
    (clip,) = [one for one in session.timeline(1).clips if one.source_id == 2]
    make(session, MoveCut(piece_id=1, clip_id=clip.id, edge="start", to_us=0))
    make(session, MoveCut(piece_id=1, clip_id=clip.id, edge="end", to_us=DURATION_US * 2))
    (now,) = [one for one in session.timeline(1).clips if one.source_id == 2]
    assert (now.start_us, now.end_us) == (0, DURATION_US)
    assert text_of(session) == TEXT.replace("mend things", f"mend {OTHER} Things")
    # What was parted by it goes on behind it: neither side is said twice.
    before, after = (one for one in session.timeline(1).clips if one.source_id == 1)
    make(
        session, MoveCut(piece_id=1, clip_id=before.id, edge="end", to_us=before.end_us + 900 * MS)
    )
    make(
        session,
        MoveCut(piece_id=1, clip_id=after.id, edge="start", to_us=after.start_us - 900 * MS),
    )
    assert text_of(session) == TEXT.replace("mend things", f"mend {OTHER} Things")


def test_a_struck_sentence_leaves_one_of_its_pauses(tmp_path: Path) -> None:
    texts, pause = ["We mend things.", "Today a kettle.", "Then a chair."], 600 * MS
    words: list[Word] = []
    for text in texts:
        words += spoken(text, (words[-1].end_us if words else 0) + pause)
    database, project, _ = open_project(tmp_path, words)
    with database.transaction() as db:
        for session in (MemoryEditSession(words), SqlEditSession(db, project)):
            said = [word.text for word in words_of(session)]
            before = session.timeline(1).duration_us
            sentence = passage(session, "Today", "kettle.")
            carry_out(StrikeWords(piece_id=1, passages=[sentence]), session)
            assert [word.text for word in words_of(session)] == said[:3] + said[6:]
            left = words_of(session)
            gap = left[3].start_us - left[2].end_us
            assert pause <= gap <= pause + 180 * MS
            carry_out(RestoreWords(piece_id=1, passages=[sentence]), session)
            assert session.timeline(1).duration_us == pytest.approx(before, abs=1)


def test_capitals_follow_what_begins_a_sentence_and_come_back_with_it(session: EditSession) -> None:
    said = session.said(with_word(session, "this")[1].id)
    today = passage(session, "Today", "Today")
    make(session, StrikeWords(piece_id=1, passages=[today]))
    assert "This kettle came in" in text_of(session)
    assert with_word(session, "This")[1].capital
    assert session.said(said.id) == said, "the transcript keeps its small letter"
    # A piece of it, and the same passage once more, have it too.
    make(session, NewPiece(piece_id=1, passages=[passage(session, "This", "cold.")], name="Kettle"))
    assert session.said(said.id) == said
    made = max(cue.piece_id for cue in session.elsewhere([said.id], ()))
    assert text_of(session, made) == "This kettle came in stone cold."
    make(session, RestoreWords(piece_id=1, passages=[today]))
    assert "Today this kettle" in text_of(session)
    assert text_of(session, made).startswith("This")
    assert session.said(said.id) == said


def test_a_capital_of_a_cut_stays_what_somebody_writes(session: EditSession) -> None:
    make(session, StrikeWords(piece_id=1, passages=[passage(session, "Today", "Today")]))
    cue, this = with_word(session, "This")
    make(session, RetypeCue(cue_id=cue.id, text=cue.text.replace("This kettle", "This pot")))
    assert session.said(this.id).text == "this"
    cue, this = with_word(session, "This")
    make(session, RetypeCue(cue_id=cue.id, text=cue.text.replace("This", "this")))
    cue, this = with_word(session, "this")
    assert not this.capital
    make(session, RetypeCue(cue_id=cue.id, text=cue.text.replace("this", "That")))
    assert session.said(with_word(session, "That")[1].id).text == "That"
