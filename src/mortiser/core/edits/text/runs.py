"""Edits of text over several captions: typed over, cut, pasted, as in any text."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from itertools import accumulate, pairwise
from typing import Literal

from pydantic import Field

from mortiser.core.captions.cue_timing import untimed_cue
from mortiser.core.common.errors import BadInput
from mortiser.core.common.limits import Count, Id, Ids
from mortiser.core.edits.base import BaseEdit, seamed, short
from mortiser.core.edits.projection import rewrite
from mortiser.core.edits.retiming import CONTEXT, retime_run
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.carry import carry, tokens_like
from mortiser.core.transcript.glossary import corrections
from mortiser.core.transcript.words import Cue, Shown, tokens


class RetypeRun(BaseEdit):
    """Put a text in the place of what stands from one place to another, over captions.

    Places are letters in the captions' texts (words with single spaces). Each line of the text
    becomes a caption; its first line joins what is left before it, its last what is left behind.
    """

    kind: Literal["retype_run"] = "retype_run"
    from_cue: Id
    from_letter: Count
    to_cue: Id
    to_letter: Count
    text: str = Field(max_length=20_000)
    cue_ids: Ids | None = Field(
        default=None,
        max_length=20_000,
        description="The captions that are meant, where some between are hidden: those stay.",
    )
    doing: Literal["type", "cut", "delete", "paste"] = "type"

    def concerns(self) -> frozenset[int] | None:
        return super().concerns() if self.from_cue == self.to_cue else None

    def label(self, session: EditSession) -> str:
        fresh = " ".join(tokens(self.text))
        if self.doing == "paste":
            return f"paste “{short(fresh)}”" if fresh else "paste"
        if self.doing == "type" and fresh:
            return f"retype “{short(fresh)}”"
        return "cut text" if self.doing == "cut" else "delete text"

    def apply(self, session: EditSession) -> None:
        cues = cues_between(session, self.from_cue, self.to_cue)
        if cues[0].id == cues[-1].id and self.to_letter < self.from_letter:
            raise BadInput("The end of the text lies before its start.")
        head = cues[0].text[: self.from_letter]
        tail = cues[-1].text[self.to_letter :]
        runs = self._meant(cues)
        if len(runs) == 1:
            retype_run(session, runs[0], (head + self.text + tail).split("\n"))
            return
        # From the last to the first, so that what is before is where it was.
        retype_run(session, runs[-1], [tail])
        for run in runs[-2:0:-1]:
            retype_run(session, run, [])
        retype_run(session, runs[0], (head + self.text).split("\n"))

    def _meant(self, cues: Sequence[Cue]) -> list[list[Cue]]:
        """The captions that are meant, in runs of neighbours."""
        if self.cue_ids is None:
            return [list(cues)]
        wanted = {*self.cue_ids, cues[0].id, cues[-1].id}
        runs: list[list[Cue]] = [[]]
        for cue in cues:
            if cue.id in wanted:
                runs[-1].append(cue)
            elif runs[-1]:
                runs.append([])
        return [run for run in runs if run]


def cues_between(session: EditSession, first_id: int, last_id: int) -> list[Cue]:
    """The captions from one to another, both included, in time order. Raises NotFound, BadInput."""
    first, last = session.cue(first_id), session.cue(last_id)
    found = [
        cue
        for cue in session.cues(first.piece_id)
        if (first.start_us, first.id) <= (cue.start_us, cue.id) <= (last.start_us, last.id)
    ]
    if not found:
        raise BadInput("The end of the text lies before its start.")
    return found


def retype_run(session: EditSession, cues: Sequence[Cue], lines: Sequence[str]) -> None:
    """Give neighbouring captions new texts, a line a caption; words that stay keep their times.

    Captions that are not needed go, captions that are missing are made; where nothing is left,
    all of them go.
    """
    old = [word for cue in cues for word in cue.words]
    texts = [word.text for word in old]
    counts = [count for line in lines if (count := len(tokens_like(line, texts)))]
    whole = replace(cues[0], words=tuple(old))
    fresh = carry(old, " ".join(lines), session.word_room(whole)) if counts else []
    for heard, written in corrections(old, " ".join(lines)) if counts else ():
        session.note_correction(heard, written)
    before, _ = session.around(cues[0], CONTEXT)
    _, after = session.around(cues[-1], CONTEXT + len(counts))
    edges = list(accumulate(counts, initial=0))
    runs = [tuple(fresh[a:b]) for a, b in pairwise(edges)]
    # Lines that somebody put in are breaks made by hand.
    runs = [*(seamed(run, "break") for run in runs[:-1]), *runs[-1:]]
    saved = rewrite(
        session,
        cues,
        [
            _over(cues[index] if index < len(cues) else None, words, cues[0])
            for index, words in enumerate(runs)
        ],
    )
    if before or saved or after:
        retime_run(session, before, saved, after)


def _over(cue: Cue | None, words: tuple[Shown, ...], like: Cue) -> Cue:
    """A caption with other words; a pinned edge stays where its word does."""
    made = untimed_cue(like.piece_id, words)
    if cue is None:
        return made
    start_stays = cue.start_pinned and cue.words[0].id == words[0].id
    end_stays = cue.end_pinned and cue.words[-1].id == words[-1].id
    start = cue.start_us if start_stays else made.start_us
    end = cue.end_us if end_stays else made.end_us
    if end <= start:
        return replace(made, id=cue.id)
    return Cue(cue.piece_id, words, start, end, start_stays, end_stays, cue.id)
