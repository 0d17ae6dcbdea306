"""A glossary as CSV (RFC 4180): a line an entry, forms it is heard as in further columns.

Cells that a spreadsheet would take for a formula get an apostrophe in front, as the OWASP page on
CSV injection has it, which is taken off again when the file is read.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable

from mortiser.core.common.errors import BadInput
from mortiser.core.transcript.glossary import Entry

HEADER = ("written", "heard")
MOST_FORMS = 200
"""Columns of a line."""
MOST_ENTRIES = 20_000
_FORMULA = re.compile(r"'*[=+\-@\t\r]")


def write(entries: Iterable[Entry]) -> str:
    """The file's text, with a header line."""
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(HEADER)
    rows.writerows(map(_harmless, (entry.written, *entry.heard)) for entry in entries)
    return out.getvalue()


def read(text: str) -> list[tuple[int, Entry]]:
    """(line number, entry) of every line that is not empty; separators , ; and tab are found out.

    Raises BadInput for what is no CSV, or has more than MOST_ENTRIES entries.
    """
    lines = text.split("\n")
    separator = max(",;\t", key=lines[0].count)
    for number, line in enumerate(lines, start=1):
        if line.count(separator) > MOST_FORMS:
            raise BadInput(
                f"Line {number} has more than {MOST_FORMS} columns. A line has the written form and the forms "
                "it is heard as; nothing was taken."
            )
    found: list[tuple[int, Entry]] = []
    rows = csv.reader(io.StringIO(text), delimiter=separator)
    while True:
        try:
            row = next(rows)
        except StopIteration:
            return found
        except csv.Error as error:
            raise BadInput(
                f"Line {rows.line_num + 1} cannot be read ({error}): is a quotation mark left open?"
            ) from error
        cells = [_as_it_was(cell.strip()) for cell in row]
        if not any(cells) or (rows.line_num == 1 and cells[0].casefold() == HEADER[0]):
            continue
        if len(found) == MOST_ENTRIES:
            raise BadInput(
                f"That file has more than {MOST_ENTRIES:,} entries. Nothing was taken; send it in parts."
            )
        found.append((rows.line_num, Entry(cells[0], tuple(filter(None, cells[1:])))))


def _harmless(cell: str) -> str:
    return f"'{cell}" if _FORMULA.match(cell) else cell


def _as_it_was(cell: str) -> str:
    return cell[1:] if cell.startswith("'") and _FORMULA.match(cell) else cell
