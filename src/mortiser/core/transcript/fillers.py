"""Fillers: sounds that somebody makes while thinking, by language."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence

from mortiser.core.transcript.words import Word, tokens, word_key

FILLERS: dict[str, tuple[str, ...]] = {
    "en": ("um", "umm", "uhm", "uh", "uhh", "er", "erm", "hm", "hmm", "mm", "mhm", "ah", "eh"),
    "de": ("äh", "ähm", "öh", "öhm", "ehm", "hm", "hmm", "mhm"),
    "es": ("eh", "em", "ehm", "mmm", "hum"),
    "fr": ("euh", "heu", "hum", "hmm", "mmh"),
    "it": ("ehm", "eh", "mmm", "uhm"),
    "pt": ("hum", "hã", "ahn", "ã", "hmm"),
    "nl": ("eh", "ehm", "uh", "uhm", "hm"),
    "pl": ("yyy", "eee", "hmm", "mmm"),
    "tr": ("ııı", "eee", "hmm", "ıı"),
    "ar": ("اه", "ام", "امم"),
    "hi": ("उम", "हम्म", "अह"),
    "ja": ("えーと", "えっと", "ええと", "えー", "うーん"),
    "zh": ("嗯", "呃", "唔"),
}
"""What is taken for a filler where nobody has said otherwise."""


def of_language(language: str) -> tuple[str, ...]:
    """A language's fillers; those of English for one that is not known."""
    return FILLERS.get(language, FILLERS["en"])


def filler_runs(words: Sequence[Word], fillers: Collection[str]) -> Iterator[tuple[int, int]]:
    """Stretches of neighbouring fillers, (first, last) word. A filler may be of several words."""
    known = {tuple(word_key(token) for token in tokens(text)) for text in fillers}
    longest = max((len(one) for one in known), default=0)
    keys = [word_key(word.text) for word in words]
    at, since = 0, None
    while at < len(words):
        count = next((n for n in range(longest, 0, -1) if tuple(keys[at : at + n]) in known), 0)
        if count:
            since = at if since is None else since
            at += count
            continue
        if since is not None:
            yield since, at - 1
            since = None
        at += 1
    if since is not None:
        yield since, len(words) - 1
