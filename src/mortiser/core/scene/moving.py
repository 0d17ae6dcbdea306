"""The layers of motion of a caption and of each of its parts."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.style.finish.model import Finish
from mortiser.core.style.finish.motions import Loop
from mortiser.core.style.layout.block import Block
from mortiser.core.style.motion.emphases import emphasis_layer
from mortiser.core.style.motion.entrances import ENTRANCES, Coming
from mortiser.core.style.motion.exits import exit_layer
from mortiser.core.style.motion.layers import MotionLayer, kept
from mortiser.core.style.motion.loops import loop_layer
from mortiser.core.style.motion.track import fixed
from mortiser.core.style.motion.units import comings, leavings

COMPANION_US = 260_000
"""How long the emoji by a word's side takes to come at most."""
MIDDLE = 0.35
"""The middle of capitals above the baseline, share of the type size."""


class Movement:
    """One caption's motion: when its parts come and go, and the layers that make them.

    ``lives`` are the words' live spans, ``said`` when each has been said, ``span`` the caption's
    own, all in piece µs. It goes after its end, within ``over_us``, where that is not 0.
    """

    def __init__(
        self,
        finish: Finish,
        block: Block,
        lives: Sequence[tuple[int, int]],
        said: Sequence[int],
        span: tuple[int, int],
        over_us: int = 0,
    ) -> None:
        self._finish, self._block, self._span = finish, block, span
        self.lives = lives
        self.said_us = [max(1, end - live[0]) for end, live in zip(said, lives, strict=True)]
        entrance, leaving = finish.motion.entrance, finish.motion.exit
        self._comings: list[tuple[int, int]] = []
        if entrance.kind != "none":
            self._comings = comings(entrance, self._starts(), span)
        parts = len(block.words) if leaving.by == "word" else 1
        start, end = span
        self._leavings = (
            [(end, end + over_us)] * parts
            if over_us
            else leavings(leaving, parts, lives[-1][0], span)
        )
        """From when until when each part goes."""
        going = min(at for at, _ in self._leavings) if leaving.kind != "none" else end
        come = max((at + length for at, length in self._comings), default=start)
        self.whole_us = max(start, min(come, going - 1, end - 1))
        """The first moment at which all of it stands, or the last before it goes."""

    def of_caption(self) -> tuple[MotionLayer, ...]:
        """The layers of the caption as a whole, outermost first."""
        motion, block = self._finish.motion, self._block
        middle = block.box.middle
        turn = self._finish.place.turn
        found = [MotionLayer(middle, turn=fixed(turn))] if turn else []
        if motion.loop.by == "caption":
            found.append(loop_layer(motion.loop, self._span, block.size, middle))
        if motion.exit.by == "caption":
            found.append(exit_layer(motion.exit, self._leavings[0], block.size, middle))
        if motion.entrance.by == "caption":
            found.append(self._entrance(0, middle))
        return kept(*found)

    def of_line(self, line: int) -> tuple[MotionLayer, ...]:
        """The layers of what belongs to a line as a whole."""
        if self._finish.motion.entrance.by != "line":
            return ()
        return kept(self._entrance(line, self._block.line_boxes[line].middle))

    def of_word(self, index: int) -> tuple[MotionLayer, ...]:
        """The layers of a word, outermost first, its line's among them."""
        motion, word, size = self._finish.motion, self._block.words[index], self._block.size
        size *= word.scale
        middle = word.x + word.shaped.advance / 2, word.y - MIDDLE * size
        accent = word.accent
        found = [*self.of_line(word.line)]
        if motion.entrance.by == "word":
            found.append(self._entrance(index, middle))
        if motion.exit.by == "word":
            found.append(exit_layer(motion.exit, self._leavings[index], size, middle))
        if motion.loop.by == "word":
            found.append(loop_layer(motion.loop, self._span, size, middle, index))
        if accent is not None and accent.loop is not None:
            found.append(loop_layer(accent.loop, self._span, size, middle))
        if accent is not None and accent.tilt:
            found.append(MotionLayer(middle, turn=fixed(accent.tilt)))
        emphasis = (accent and accent.emphasis) or motion.emphasis
        found.append(emphasis_layer(emphasis, self.lives[index], size, middle))
        return kept(*found)

    def of_companion(self, index: int) -> tuple[MotionLayer, ...]:
        """The layers that only the emoji by a word's side has, inside those of the word."""
        word, size = self._block.words[index], self._block.size
        stamp = word.companion
        companion = word.accent.companion if word.accent else None
        if stamp is None or companion is None:
            return ()
        middle = word.x + stamp.x + stamp.side / 2, word.y + stamp.y + stamp.side / 2
        start, end = self.lives[index]
        found = [loop_layer(Loop(kind=companion.loop), self._span, size, middle)]
        make = ENTRANCES.get(companion.comes)
        if make is not None:
            length = min(COMPANION_US, (end - start) * 2 // 3)
            found.append(make(Coming(start, length, size, middle, 1.0, "over")))
        return kept(*found)

    def of_letter(self, index: int, letter: int) -> tuple[MotionLayer, ...]:
        """The layer that only one letter of a word has, inside those of its word."""
        word = self._block.words[index]
        before = sum(len(w.shaped.letters) for w in self._block.words[:index])
        x = word.x + word.shaped.letters[letter].x
        size = self._block.size * word.scale
        return kept(self._entrance(before + letter, (x + 0.3 * size, word.y - MIDDLE * size)))

    def _entrance(self, part: int, pivot: tuple[float, float]) -> MotionLayer:
        entrance = self._finish.motion.entrance
        make = ENTRANCES.get(entrance.kind)
        if make is None:
            return MotionLayer(pivot)
        at, length = self._comings[part]
        return make(Coming(at, length, self._block.size, pivot, entrance.strength, entrance.curve))

    def _starts(self) -> list[int]:
        """When the parts that come in one by one are said."""
        match self._finish.motion.entrance.by:
            case "caption":
                return [self._span[0]]
            case "line":
                return [self.lives[first][0] for first, _ in self._block.lines]
            case "word":
                return [start for start, _ in self.lives]
            case "letter":
                return [at for index in range(len(self.lives)) for at in self._letters(index)]

    def _letters(self, index: int) -> list[int]:
        """Letters are spread over what is said, two thirds of the word's time at most."""
        start, end = self.lives[index]
        length = min(self.said_us[index], (end - start) * 2 // 3)
        count = len(self._block.words[index].shaped.letters)
        return [start + length * part // count for part in range(count)]
