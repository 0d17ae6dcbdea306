"""Which of many things a text asks for: a few typed words, or what is said in captions."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence

from mortiser.core.common.stems import stems
from mortiser.core.library.found import PAGE, Found, FoundKind, FoundPage

LEAST = 3
"""Letters of a word that counts; shorter ones are in every sentence."""


def matching(have: Iterable[Found], text: str, kinds: Collection[FoundKind]) -> list[Found]:
    """Those of some kinds (all if none is named) that the text names, the likeliest first: by how many of its
    words are in a name or a tag. All of them, by their names, where the text has no words."""
    some = [one for one in have if not kinds or one.kind in kinds]
    asked = [word for word in stems(text) if len(word) >= LEAST] or stems(text)
    if not asked:
        return sorted(some, key=lambda one: one.name.casefold())
    scored = [(_score(one, asked), one) for one in some]
    hit = [(score, one) for score, one in scored if score]
    return [one for _, one in sorted(hit, key=lambda pair: (-pair[0], pair[1].name.casefold()))]


def page_of(found: Sequence[Found], page: int) -> FoundPage:
    """A page of all that was found."""
    end = (page + 1) * PAGE
    return FoundPage(
        found=tuple(found[page * PAGE : end]), next_page=page + 1 if end < len(found) else None
    )


def _score(one: Found, asked: Sequence[str]) -> int:
    mine = set(stems(" ".join((one.name, *one.tags))))
    whole = len(mine & set(asked))
    # The last word may still be being typed.
    begun = asked[-1] not in mine and any(word.startswith(asked[-1]) for word in mine)
    return whole + begun
