"""Limits of what is asked for: each value of a request is of one of these kinds or has its own.

They keep foolish values from the database and from the computations, and are far from any real
work: whole numbers stay exact in JSON, times end after some 115 days. A field that has one of these
types and a limit of its own of the same kind keeps the wider one alone (pydantic 2): it needs a type
of its own.
"""

from typing import Annotated

from pydantic import Field

LARGEST_WHOLE = 2**53 - 1
LONGEST_US = 10**13
MOST = 200_000
"""Of what is listed in one request: ids of words, captions."""

Id = Annotated[int, Field(ge=0, le=LARGEST_WHOLE)]
Micros = Annotated[int, Field(ge=0, le=LONGEST_US)]
"""A moment or a length, in µs."""
Shift = Annotated[int, Field(ge=-LONGEST_US, le=LONGEST_US)]
"""A way between two moments, in µs."""
Count = Annotated[int, Field(ge=0, le=1_000_000)]
"""A place in a list or a text, from 0."""
Behind = Annotated[int, Field(ge=1, le=1_000_000)]
"""A place in a list behind its first."""
Ids = Annotated[list[Id], Field(max_length=MOST)]
Name = Annotated[str, Field(max_length=200)]
"""What is called by a person: a speaker, a finish, a font, a file."""
