"""When each word of a caption is live, so that every word has its moment."""

from __future__ import annotations

from collections.abc import Sequence

SHORTEST_LIVE_US = 60_000


def live_spans(starts: Sequence[int], start_us: int, end_us: int) -> list[tuple[int, int]]:
    """Half-open live spans in piece time of the words that start at ``starts`` (in order).

    A word is live from its start until the next one's, the last until the caption ends, all
    inside the caption. Words that start (nearly) together, as a typed one does where the sound
    left no room, share the time until the next start evenly.
    """
    inside = [min(max(at, start_us), end_us) for at in starts]
    edges: list[int] = []
    index = 0
    while index < len(inside):
        last = index + 1
        while last < len(inside) and inside[last] - inside[index] < SHORTEST_LIVE_US:
            last += 1
        until = inside[last] if last < len(inside) else end_us
        share = last - index
        edges += [inside[index] + (until - inside[index]) * k // share for k in range(share)]
        index = last
    return list(zip(edges, [*edges[1:], end_us], strict=True))


def lived_together(
    lives: Sequence[tuple[int, int]], parts: Sequence[tuple[int, int]]
) -> list[tuple[int, int]]:
    """Live spans where all words of a part (half open, by number) are live as long as one of them is."""
    return [
        (lives[first][0], lives[last - 1][1]) for first, last in parts for _ in range(first, last)
    ]
