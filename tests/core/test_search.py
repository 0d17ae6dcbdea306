from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.search import find, replaced_texts
from mortiser.core.transcript.words import Cue, Shown
from tests.strategies import cues_of, spoken_words


def captions(*lines: str) -> list[Cue]:
    cues, at = [], 0
    for line in lines:
        words = tuple(
            Shown(t, (at + i) * 1000, (at + i) * 1000 + 500, id=at + i + 1)
            for i, t in enumerate(line.split())
        )
        at += len(words)
        cues.append(Cue(1, words, words[0].start_us, words[-1].end_us, id=len(cues) + 1))
    return cues


CUES = captions("Ask Marlowe at", "the front desk.", "Marlowe's tin of", "fuses, marlowe said")


def texts(cues: list[Cue], *arguments: str, **options: bool) -> dict[int, str]:
    wanted, put = arguments
    return {i: t for i, (_, t) in replaced_texts(cues, find(cues, wanted, **options), put).items()}


def test_all_places_are_found_whatever_their_case() -> None:
    assert [m.first for m in find(CUES, "marlowe")] == [1, 6, 10]
    assert [m.first for m in find(CUES, "marlowe", match_case=True)] == [10]
    assert [m.first for m in find(CUES, "in", whole_words=True)] == []
    assert len(find(CUES, "in")) == 1
    assert find(CUES, "  ") == []


def test_what_is_special_elsewhere_is_plain_here() -> None:
    assert len(find(captions("costs £5 (about $6.50)"), "$6.50)")) == 1
    assert find(captions("axb"), "a.b") == []


def test_a_phrase_is_found_over_the_edge_of_a_caption() -> None:
    (match,) = find(CUES, "at the front")
    assert (match.first, match.last) == (2, 4)


def test_points_and_endings_stay() -> None:
    assert texts(CUES, "Marlowe", "Marlo") == {
        1: "Ask Marlo at",
        3: "Marlo's tin of",
        4: "fuses, Marlo said",
    }


def test_a_replaced_phrase_stands_where_it_began() -> None:
    assert texts(CUES, "at the front desk", "over there") == {1: "Ask Marlowe over there.", 2: ""}
    assert texts(captions("a b", "c", "d e"), "b c d", "x") == {1: "a x", 2: "", 3: "e"}


@given(spoken_words(most=20), st.data())
def test_replacing_is_what_it_is_in_running_text(words: list[Shown], data: st.DataObject) -> None:
    cues = data.draw(cues_of(words))
    wanted = data.draw(st.sampled_from(["the", "a", "kettle", "it. of", "e", "fuse, the"]))
    changed = {
        i: t
        for i, (_, t) in replaced_texts(
            cues, find(cues, wanted, match_case=True), "new one"
        ).items()
    }
    got = " ".join(" ".join(changed.get(cue.id, cue.text) for cue in cues).split())
    running = " ".join(word.text for word in words)
    assert got == running.replace(wanted, "new one")
