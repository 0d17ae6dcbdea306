"""What hypothesis draws: words in time order, sentences, cues."""

from itertools import accumulate

from hypothesis import strategies as st

from mortiser.core.transcript.words import Cue, Shown

SPELLINGS = [
    "kettle", "fuse,", "the", "Marlo", "mend", "it.", "of", "chair", "and", "radio!", "a", "ten",
    "solder", "Lantern", "plug;", "I", "wire", "you", "café", "12",
]  # fmt: skip


@st.composite
def spoken_words(draw: st.DrawFn, least: int = 1, most: int = 14) -> list[Shown]:
    """Words without overlaps, with ids from 1, now and then touching or of no length."""
    count = draw(st.integers(least, most))
    steps = draw(st.lists(st.integers(0, 900_000), min_size=2 * count, max_size=2 * count))
    edges = list(accumulate(steps))
    texts = draw(st.lists(st.sampled_from(SPELLINGS), min_size=count, max_size=count))
    return [
        Shown(text, edges[2 * i], edges[2 * i + 1], confidence=0.8, id=i + 1)
        for i, text in enumerate(texts)
    ]


@st.composite
def cues_of(draw: st.DrawFn, words: list[Shown]) -> list[Cue]:
    """The words cut into cues at random, some with pinned edges."""
    cues: list[Cue] = []
    at = 0
    while at < len(words):
        size = draw(st.integers(1, 4))
        run = tuple(words[at : at + size])
        start = run[0].start_us
        end = max(run[-1].end_us, start + 50_000)
        cues.append(Cue(1, run, start, end, id=len(cues) + 1))
        at += size
    return cues


new_text = st.lists(st.sampled_from([*SPELLINGS, "fresh", "new", "word"]), min_size=1, max_size=16)
