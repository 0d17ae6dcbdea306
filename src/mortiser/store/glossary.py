"""The workspace's glossary, and what corrections made by hand suggest for it."""

from __future__ import annotations

import json
import sqlite3
from collections.abc import Sequence
from dataclasses import dataclass, replace

from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.transcript.glossary import MOST_WORDS, Entry, heard_at
from mortiser.core.transcript.words import Word, tokens
from mortiser.store.database import Database
from mortiser.store.transcript import source_words

OFFERED_AFTER = 2
LOOKED_FOR = 12
"""So many of a project's newest corrections are looked for in its other words."""
MOST_LETTERS = 80
MOST_NAMES = 40
"""An engine listens for no more words than go into its prompt."""


@dataclass(frozen=True)
class Offer:
    """A correction that was made several times, or once where the same was heard in other places."""

    heard: str
    written: str
    times: int
    elsewhere: int = 0
    """In how many places of the project the same was heard and stands as it was."""


@dataclass(frozen=True)
class Spellings:
    """The glossary at one moment: entries, and what was heard and is to stay as it was heard."""

    entries: tuple[Entry, ...] = ()
    refused: tuple[str, ...] = ()

    @property
    def names(self) -> list[str]:
        """What to listen for: how the entries are written, the newest first, not too many."""
        return [entry.written for entry in reversed(self.entries)][:MOST_NAMES]


def entries(db: sqlite3.Connection) -> list[Entry]:
    """All entries, by how they are written."""
    rows = db.execute("SELECT * FROM glossary_entry ORDER BY written COLLATE NOCASE")
    return [Entry(row["written"], tuple(json.loads(row["heard"])), row["id"]) for row in rows]


def spellings(db: sqlite3.Connection) -> Spellings:
    """All entries, and what is not to be changed by them."""
    return Spellings(tuple(entries(db)), tuple(refused(db)))


def add(database: Database, entry: Entry) -> Entry:
    """A new entry; forms are added to the entry that is written the same. Raises BadInput."""
    return add_all(database, [entry])[0]


def add_all(database: Database, many: Sequence[Entry]) -> list[Entry]:
    """Several entries in one step."""
    tidied = [checked(entry) for entry in many]
    with database.transaction() as db:
        return [_merge(db, entry) for entry in tidied]


def change(database: Database, entry: Entry) -> Entry:
    """Other contents for the entry of the same id. Raises NotFound, BadInput."""
    wanted = checked(entry)
    with database.transaction() as db:
        taken = db.execute(
            "SELECT 1 FROM glossary_entry WHERE written = ? AND id <> ?", (wanted.written, entry.id)
        ).fetchone()
        if taken:
            raise BadInput(f"“{wanted.written}” is in the glossary already.")
        row = db.execute(
            "UPDATE glossary_entry SET written = ?, heard = ? WHERE id = ? RETURNING id",
            (wanted.written, json.dumps(wanted.heard), entry.id),
        ).fetchone()
        if row is None:
            raise NotFound("That entry is not there any more.")
    return replace(wanted, id=entry.id)


def remove(database: Database, entry_id: int) -> None:
    """Take an entry out; words that it changed stay as they are. Raises NotFound."""
    with database.transaction() as db:
        gone = db.execute("DELETE FROM glossary_entry WHERE id = ? RETURNING id", (entry_id,))
        if gone.fetchone() is None:
            raise NotFound("That entry is not there any more.")


def offers(db: sqlite3.Connection, project_id: int | None = None) -> list[Offer]:
    """Corrections that the glossary does not know yet, most frequent first: those made again, and the
    newest of a project whose words were heard in other places of it too."""
    rows = db.execute(
        "SELECT heard, written, count(*) AS times, max(id) AS last, "
        "sum(project_id IS ?) AS here FROM correction WHERE NOT EXISTS "
        "(SELECT 1 FROM declined_offer AS no WHERE no.heard = correction.heard "
        "AND no.written = correction.written) AND heard <> written GROUP BY heard, written "
        "ORDER BY last DESC",
        (project_id,),
    ).fetchall()
    known = {(entry.written, form.casefold()) for entry in entries(db) for form in entry.heard}
    fresh = [row for row in rows if (row["written"], row["heard"].casefold()) not in known]
    newest = [row for row in fresh if row["here"]][:LOOKED_FOR]
    words = _heard(db, project_id) if newest else []
    elsewhere = {
        row["last"]: sum(len(heard_at(one, row["heard"])) for one in words) for row in newest
    }
    found = [
        Offer(row["heard"], row["written"], row["times"], elsewhere.get(row["last"], 0))
        for row in fresh
        if row["times"] >= OFFERED_AFTER or elsewhere.get(row["last"])
    ]
    return sorted(found, key=lambda offer: (-offer.times, offer.written))


def _heard(db: sqlite3.Connection, project_id: int | None) -> list[list[Word]]:
    """The words of each recording of a project, in time order."""
    ids = db.execute("SELECT id FROM source WHERE project_id = ?", (project_id,)).fetchall()
    return [source_words(db, row["id"]) for row in ids]


def refused(db: sqlite3.Connection) -> list[str]:
    """What was heard and put back where an entry had been written."""
    rows = db.execute("SELECT DISTINCT heard FROM correction WHERE heard = written")
    return [row["heard"] for row in rows]


def decline(database: Database, heard: str, written: str) -> None:
    """Do not offer this correction any more."""
    with database.transaction() as db:
        db.execute("INSERT OR IGNORE INTO declined_offer VALUES (?, ?)", (heard, written))


def checked(entry: Entry) -> Entry:
    """The entry tidied: single spaces, no form twice. Raises BadInput."""
    written = " ".join(tokens(entry.written))
    if not any(ch.isalnum() for ch in written):
        raise BadInput("An entry needs a word as it is to be written.")
    forms: dict[str, str] = {}
    for form in entry.heard:
        plain = " ".join(tokens(form))
        if plain and plain.casefold() != written.casefold():
            forms.setdefault(plain.casefold(), plain)
    for text in (written, *forms.values()):
        if len(text.split()) > MOST_WORDS or len(text) > MOST_LETTERS:
            raise BadInput(
                f"“{text[:40]}” is too long: an entry has up to {MOST_WORDS} words "
                f"and {MOST_LETTERS} letters."
            )
    return Entry(written, tuple(forms.values()), entry.id)


def _merge(db: sqlite3.Connection, entry: Entry) -> Entry:
    row = db.execute("SELECT * FROM glossary_entry WHERE written = ?", (entry.written,)).fetchone()
    if row is None:
        cursor = db.execute(
            "INSERT INTO glossary_entry (written, heard) VALUES (?, ?)",
            (entry.written, json.dumps(entry.heard)),
        )
        return replace(entry, id=int(cursor.lastrowid or 0))
    both = checked(Entry(entry.written, (*json.loads(row["heard"]), *entry.heard), row["id"]))
    db.execute(
        "UPDATE glossary_entry SET written = ?, heard = ? WHERE id = ?",
        (both.written, json.dumps(both.heard), row["id"]),
    )
    return both
