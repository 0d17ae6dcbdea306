"""A glossary as CSV (RFC 4180): a line an entry, forms it is heard as in further columns."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable

from mortiser.core.glossary import Entry

HEADER = ("written", "heard")


def write(entries: Iterable[Entry]) -> str:
    """The file's text, with a header line."""
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(HEADER)
    rows.writerows((entry.written, *entry.heard) for entry in entries)
    return out.getvalue()


def read(text: str) -> list[tuple[int, Entry]]:
    """(line number, entry) of every line that is not empty; separators , ; and tab are found out."""
    first = text.split("\n", 1)[0]
    separator = max(",;\t", key=first.count)
    found: list[tuple[int, Entry]] = []
    rows = csv.reader(io.StringIO(text), delimiter=separator)
    for row in rows:
        cells = [cell.strip() for cell in row]
        if not any(cells) or (rows.line_num == 1 and cells[0].casefold() == HEADER[0]):
            continue
        found.append((rows.line_num, Entry(cells[0], tuple(filter(None, cells[1:])))))
    return found
