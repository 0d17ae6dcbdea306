"""Let capitals follow what begins a sentence after a cut."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import replace
from itertools import chain, pairwise

from mortiser.core.common.time import SECOND
from mortiser.core.edits.session import EditSession
from mortiser.core.transcript.capitals import takes_capital
from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.words import Cue, Shown, capitalised

SENTENCE_US = 20 * SECOND
"""So far back the beginning of a word's sentence is looked for."""


def follow_capitals(
    session: EditSession, piece_id: int, cue_ids: Collection[int] | None = None
) -> None:
    """Give the words of captions capitals, or take them back, as their places in the piece want it.

    ``cue_ids`` are the captions that may have changed; all of the piece where none are given.
    """
    changed = []
    for before, cue in _with_before(session, piece_id, cue_ids):
        fresh: list[Shown] = []
        for word in cue.words:
            fresh.append(_as_it_stands(session, word, before))
            before = fresh[-1]
        if tuple(fresh) != cue.words:
            changed.append(cue.with_words(tuple(fresh)))
    if changed:
        session.save_cues(changed)


def _with_before(
    session: EditSession, piece_id: int, cue_ids: Collection[int] | None
) -> Iterator[tuple[Shown | None, Cue]]:
    """Captions, and the one behind each, with the word in front of them in the piece."""
    if cue_ids is None:
        cues = session.cues(piece_id)
        for one, other in pairwise(chain([None], cues)):
            if other:
                yield one.words[-1] if one else None, other
        return
    found = {cue.id: cue for cue in session.some(cue_ids)}
    for cue in list(found.values()):
        found |= {near.id: near for near in session.around(cue, 1)[1]}
    for cue in found.values():
        earlier = session.around(cue, 1)[0]
        yield earlier[0].words[-1] if earlier else None, cue


def _as_it_stands(session: EditSession, word: Shown, before: Shown | None) -> Shown:
    """A word with a capital or without, by what stands in front of it in the piece."""
    goes_on = before and (before.clip_id == word.clip_id or not ends_sentence(before.text))
    if goes_on and not word.capital:
        return word  # Of most words nothing has to be looked up.
    said = session.said(word.id)
    if said.text != said.text.lower():
        return word
    around = session.said_from(said.source_id, said.start_us - SENTENCE_US, said.end_us + 1)
    at = next((index for index, one in enumerate(around) if one.id == said.id), 0)
    capital = takes_capital(said, before, around[:at])
    if capital == word.capital:
        return word
    text = capitalised(said.text) if capital else said.text
    return replace(word, text=text, capital=capital)
