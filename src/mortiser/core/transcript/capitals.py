"""Capitals that follow what begins a sentence: a cut may make another word do so.

Only how a piece shows the word changes; the transcript keeps it as it is, and so does every other
piece.
"""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.words import Word, first_letter


def takes_capital(word: Word, before: Word | None, said_before: Sequence[Word]) -> bool:
    """Whether a word is to be shown with a capital that it does not have in the transcript.

    ``before`` is the word in front of it in the piece; ``said_before`` are those in front of it in its
    source, in time order, as far as they may belong to its sentence. It is, where the words that
    began its sentence with a capital are cut away and it stands at the beginning now.
    """
    at = first_letter(word.text)
    if at is None or word.text != word.text.lower():
        return False
    if not said_before or ends_sentence(said_before[-1].text):
        return False
    if before is not None and (before.id == said_before[-1].id or not ends_sentence(before.text)):
        return False
    ends = [index for index, one in enumerate(said_before) if ends_sentence(one.text)]
    head = said_before[ends[-1] + 1 if ends else 0].text
    first = first_letter(head)
    return first is not None and head[first].isupper()
