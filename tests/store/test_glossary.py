"""The workspace's glossary in the database, and what corrections by hand bring up."""

from pathlib import Path

import pytest

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.edits.captions.captions import JoinCue
from mortiser.core.edits.text.glossary import ApplyGlossary, RefuseGlossary, Rewording
from mortiser.core.edits.text.words import AcceptWord, RetypeCue
from mortiser.core.transcript.glossary import Entry
from mortiser.store import editing, glossary, projects, transcript
from mortiser.store.database import Database
from tests.store.fixtures import open_project, rows


@pytest.fixture
def opened(tmp_path: Path) -> tuple[Database, int, int]:
    return open_project(tmp_path)


def test_entries_are_added_merged_changed_and_removed(opened) -> None:
    database, _, _ = opened
    db = database.connection
    marlo = glossary.add(database, Entry(" Marlo ", ("Marlow", "marlow", "Marlo")))
    assert glossary.entries(db) == [Entry("Marlo", ("Marlow",), marlo.id)]
    glossary.add(database, Entry("marlo", ("mar low",)))
    assert glossary.entries(db) == [Entry("marlo", ("Marlow", "mar low"), marlo.id)]
    other = glossary.add(database, Entry("Lantern Lane"))
    with pytest.raises(BadInput, match="already"):
        glossary.change(database, Entry("Marlo", (), other.id))
    glossary.change(database, Entry("Lantern Row", ("lantern raw",), other.id))
    assert [e.written for e in glossary.entries(db)] == ["Lantern Row", "marlo"]
    glossary.remove(database, other.id)
    with pytest.raises(NotFound):
        glossary.remove(database, other.id)
    with pytest.raises(NotFound):
        glossary.change(database, Entry("Lantern Row", (), other.id))


@pytest.mark.parametrize("written", ["", "…", "one two three four five", "x" * 90])
def test_what_cannot_be_an_entry_is_refused(opened, written: str) -> None:
    with pytest.raises(BadInput):
        glossary.add(opened[0], Entry(written))


def test_a_correction_made_twice_is_offered_once_it_is_not_known(opened) -> None:
    database, project, piece = opened
    cues = projects.piece_cues(database.connection, piece)
    kettle = next(cue for cue in cues if "kettle" in cue.text)
    fuse = next(cue for cue in cues if "fuse" in cue.text)
    lane = next(cue for cue in cues if "Lane" in cue.text)
    editing.apply(
        database, project, 0, RetypeCue(cue_id=lane.id, text=lane.text.replace("Lane", "Layne"))
    )
    assert glossary.offers(database.connection) == []
    made = editing.apply(
        database,
        project,
        1,
        RetypeCue(cue_id=kettle.id, text=kettle.text.replace("kettle", "Ketill")),
    )
    for cue in (fuse,):
        wrong = cue.text.replace("fuse.", "Lane,")
        database.connection.execute("UPDATE word SET text = 'lane' WHERE text = 'fuse.'")
        editing.apply(
            database,
            project,
            made.revision,
            RetypeCue(cue_id=cue.id, text=wrong.replace("Lane", "Layne")),
        )
    (offer,) = glossary.offers(database.connection)
    assert (offer.heard, offer.written, offer.times) == ("lane", "Layne", 2)
    editing.undo(database, project, 3)
    assert glossary.offers(database.connection) == []
    editing.redo(database, project, 4)
    glossary.add(database, Entry("Layne", ("lane",)))
    assert glossary.offers(database.connection) == []


def test_a_name_put_right_once_is_offered_where_it_was_heard_elsewhere(opened) -> None:
    database, project, piece = opened
    with database.transaction() as db:
        db.execute("UPDATE word SET text = 'lane' WHERE text IN ('fuse.', 'mend')")
        db.execute("UPDATE word SET text = 'Lane', confidence = 1.0 WHERE text = 'kettle'")
    lane = next(
        cue for cue in projects.piece_cues(database.connection, piece) if "Lane," in cue.text
    )
    text = lane.text.replace("Lane,", "Layne,")
    editing.apply(database, project, 0, RetypeCue(cue_id=lane.id, text=text))
    (offer,) = glossary.offers(database.connection, project)
    # What somebody has agreed to is not counted.
    assert (offer.heard, offer.written, offer.times, offer.elsewhere) == ("Lane", "Layne", 1, 2)
    assert glossary.offers(database.connection) == []
    assert glossary.offers(database.connection, project + 1) == []
    glossary.add(database, Entry("Layne", ("lane",)))
    assert glossary.offers(database.connection, project) == []


def test_a_declined_offer_stays_away(opened) -> None:
    database, project, _ = opened
    with database.transaction() as db:
        for _ in range(3):
            db.execute(
                "INSERT INTO correction (project_id, heard, written) VALUES (?, 'marlow', 'Marlo')",
                (project,),
            )
    assert [o.times for o in glossary.offers(database.connection)] == [3]
    glossary.decline(database, "Marlow", "Marlo")
    assert glossary.offers(database.connection) == []


def test_undo_of_the_glossary_leaves_what_jobs_noted_since(opened) -> None:
    database, project, piece = opened
    before = rows(database)
    words = [w for cue in projects.piece_cues(database.connection, piece) for w in cue.words]
    ids = [w.id for w in words[3:5]]
    edit = ApplyGlossary(piece_id=piece, changes=[Rewording(word_ids=ids, text="Lanternlane")])
    editing.apply(database, project, 0, edit)
    with database.transaction() as db:
        db.execute("UPDATE word SET speaker = 'Marlo' WHERE id = ?", (ids[0],))
    editing.undo(database, project, 1)
    word = next(w for w in transcript.source_words(database.connection, 1) if w.id == ids[0])
    assert (word.text, word.speaker) == (words[3].text, "Marlo")
    with database.transaction() as db:
        db.execute("UPDATE word SET speaker = NULL WHERE id = ?", (ids[0],))
    assert rows(database) == before


def test_a_refusal_is_remembered_and_can_be_undone(opened) -> None:
    database, project, piece = opened
    cue = projects.piece_cues(database.connection, piece)[1]
    change = Rewording(word_ids=[cue.words[1].id], text="Lanthorn")
    editing.apply(database, project, 0, ApplyGlossary(piece_id=piece, changes=[change]))
    editing.apply(database, project, 1, RefuseGlossary(cue_id=cue.id, word_id=cue.words[1].id))
    assert glossary.refused(database.connection) == ["Lantern"]
    assert glossary.offers(database.connection) == []
    editing.undo(database, project, 2)
    assert glossary.refused(database.connection) == []
    editing.apply(database, project, 3, AcceptWord(cue_id=cue.id, word_id=cue.words[1].id))
    editing.apply(database, project, 4, JoinCue(cue_id=cue.id))
