"""What was heard against what was said: words wrong, missed and added, and how exact times are."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from rapidfuzz.distance import Levenshtein

Kind = Literal["wrong", "missed", "added"]
KINDS: dict[str, Kind] = {"replace": "wrong", "delete": "missed", "insert": "added"}
"""What the steps of a Levenshtein distance are here."""


@dataclass(frozen=True)
class Difference:
    """A place where they differ: the index of the word said and of the word heard there."""

    kind: Kind
    said: int
    heard: int


@dataclass(frozen=True)
class Comparison:
    """The differences in order, and (said, heard) indexes of the words that are the same."""

    said: int
    differences: tuple[Difference, ...]
    same: tuple[tuple[int, int], ...]

    @property
    def word_error(self) -> float:
        """Words wrong, missed and added as a share of those said (the word error rate)."""
        return len(self.differences) / max(1, self.said)

    def count(self, kind: Kind) -> int:
        """How many differences are of a kind."""
        return sum(one.kind == kind for one in self.differences)


def compare(said: Sequence[str], heard: Sequence[str]) -> Comparison:
    """Match two texts by the fewest changes; words are the same when they are spelled the same."""
    differences: list[Difference] = []
    same: list[tuple[int, int]] = []
    for step in Levenshtein.opcodes(said, heard):
        if step.tag == "equal":
            same += zip(
                range(step.src_start, step.src_end),
                range(step.dest_start, step.dest_end),
                strict=True,
            )
            continue
        kind = KINDS[step.tag]
        length = max(step.src_end - step.src_start, step.dest_end - step.dest_start)
        differences += [
            Difference(
                kind,
                step.src_start + (n if kind != "added" else 0),
                step.dest_start + (n if kind != "missed" else 0),
            )
            for n in range(length)
        ]
    return Comparison(len(said), tuple(differences), tuple(same))
