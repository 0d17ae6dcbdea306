"""The glossary: misheard names put right, and other words left alone.

Twenty made-up names in 72 sentences of two voices are heard by the real engine. The glossary knows
how they are written, nothing else. Other words are all the words around them and 2,100 more.
"""

from __future__ import annotations

import json
import time
from pathlib import Path

from scripts.demo_media.corpus import NAMES

from bench.report import at_least, at_most
from mortiser.core.transcript.glossary import Entry, Glossary, reworded
from mortiser.core.transcript.words import Word, word_key
from mortiser.media.sound import stream_sound
from mortiser.speech.moonshine import MoonshineRecogniser
from mortiser.speech.sounds import DictionarySounds
from mortiser.speech.sphinx import SphinxAligner
from mortiser.speech.transcribe import TimedLine, transcribe

MEDIA = Path(__file__).parent / "media"


def run() -> None:
    """Print the glossary's measurements."""
    glossary = Glossary([Entry(name) for name in NAMES], DictionarySounds())
    planted = misheard = fixed = touched = others = 0
    spent = 0.0
    for clip in ("names-joe", "names-heart", "joe", "heart"):
        heard = hear(MEDIA / f"{clip}.ogg")
        truth = json.loads((MEDIA / f"{clip}.words.json").read_text())["words"]
        started = time.perf_counter()
        lines = [(line, glossary.changes(line)) for line in heard]
        spent += time.perf_counter() - started
        before = [word for line in heard for word in line]
        after = [word for line, changes in lines for word in reworded(line, changes)]
        places = spoken_names(truth)
        for name, start, end in places:
            planted += 1
            if not written(name, before, start, end):
                misheard += 1
                right = written(name, after, start, end)
                fixed += right
                if not right:
                    print(f"      {clip}: {name} stayed “{text_at(after, start, end)}”")
        for line, changes in lines:
            for change in changes:
                run_ = line[change.first : change.last + 1]
                if not any(a < run_[-1].end_us and run_[0].start_us < b for _, a, b in places):
                    touched += len(run_)
                    print(
                        f"      {clip}: “{' '.join(w.text for w in run_)}” became “{change.text}”"
                    )
        others += len(before) - sum(len(name.split()) for name, _, _ in places)
    against = f"{misheard} of {planted} names that the engine misheard"
    at_least("misheard names put right", 100 * fixed / misheard, "%", 90, against)
    at_most("other words touched", 100 * touched / others, "%", 0.5, f"{others} other words", 2)
    print(f"      {1000 * spent / (others / 1000):.0f} ms for 1,000 words and {len(NAMES)} entries")


def hear(recording: Path) -> list[list[Word]]:
    """The lines of a recording, each a list of words."""
    items = transcribe(stream_sound(recording), MoonshineRecogniser(), SphinxAligner())
    return [list(item.words) for item in items if isinstance(item, TimedLine)]


def spoken_names(truth: list[dict[str, int | str]]) -> list[tuple[str, int, int]]:
    """(name, start µs, end µs) of every name that was really spoken."""
    keys = [word_key(str(word["text"])).removesuffix("s") for word in truth]
    found = []
    for name in NAMES:
        wanted = [word_key(token).removesuffix("s") for token in name.split()]
        for at in range(len(keys)):
            if keys[at : at + len(wanted)] == wanted:
                last = truth[at + len(wanted) - 1]
                found.append((name, int(truth[at]["start_us"]), int(last["end_us"])))
    return found


def text_at(words: list[Word], start: int, end: int) -> str:
    """What was heard in a stretch."""
    return " ".join(w.text for w in words if w.start_us < end and start < w.end_us)


def written(name: str, words: list[Word], start: int, end: int) -> bool:
    """Whether the words around a moment have the name as it is written."""
    return name in text_at(words, start - 100_000, end + 100_000)


if __name__ == "__main__":
    run()
