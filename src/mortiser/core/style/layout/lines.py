"""Break a caption into lines: as few as fit, then as even as can be, then heavier below."""

from __future__ import annotations

from collections.abc import Collection, Sequence


def break_lines(
    widths: Sequence[float], gap: float, limit: float, forced: Collection[int] = ()
) -> list[tuple[int, int]]:
    """Half-open word ranges of the lines, in order.

    ``widths`` are word widths, ``gap`` the space between words, ``limit`` the widest line, all in
    one unit. A word wider than the limit has a line of its own. Among the breaks with the fewest
    lines, the one whose lines differ least (sum of squared shortfalls) is taken. Lines
    always end before the words whose indexes are ``forced``.
    """
    count = len(widths)
    best: list[tuple[int, float, int]] = [(0, 0.0, 0)]
    for end in range(1, count + 1):
        options = []
        width = -gap
        for start in range(end - 1, -1, -1):
            width += widths[start] + gap
            if (width > limit and end - start > 1) or (start + 1 in forced and start + 1 < end):
                break
            lines, cost, _ = best[start]
            options.append((lines + 1, cost + max(0.0, limit - width) ** 2, start))
        best.append(min(options))
    ranges: list[tuple[int, int]] = []
    end = count
    while end:
        start = best[end][2]
        ranges.append((start, end))
        end = start
    return ranges[::-1]
