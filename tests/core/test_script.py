"""A script beside what was heard."""

from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.transcript.script import (
    ScriptPart,
    beside,
    difference,
    line_ends,
    spoken,
    verses,
)
from mortiser.core.transcript.words import Word, word_key


def heard(text: str) -> list[Word]:
    return [Word(t, i * 300_000, i * 300_000 + 250_000) for i, t in enumerate(text.split())]


def test_the_same_words_are_anchors_and_the_rest_lies_between() -> None:
    script = ["Good", "morning", "from", "Lantern", "Lane", "where", "we", "mend", "things"]
    parts = beside(script, heard("good morning um from lanthorn lane where we mend all things"))
    assert [(p.same, script[p.first : p.last]) for p in parts] == [
        (True, ["Good", "morning"]),
        (False, []),
        (True, ["from"]),
        (False, ["Lantern"]),
        (True, ["Lane", "where", "we", "mend"]),
        (False, []),
        (True, ["things"]),
    ]


def test_differences_are_said_as_what_they_are() -> None:
    words = heard("we mend all the things")
    script = ["we", "fix"]
    assert (
        difference(ScriptPart(False, 1, 2, 1, 2), script, words, kept=True)
        == "Heard “mend” where the script has “fix”"
    )
    assert (
        difference(ScriptPart(False, 1, 2, 1, 2), script, words, kept=False) == "Not spoken: “fix”"
    )
    assert (
        difference(ScriptPart(False, 2, 2, 1, 3), script, words, kept=False)
        == "Not in the script: “mend all”"
    )
    assert difference(ScriptPart(False, 1, 1, 2, 2), script, words, kept=False) is None


def test_words_without_time_were_not_spoken() -> None:
    part = ScriptPart(False, 0, 3, 0, 0)
    assert not spoken(part, (0, 200_000))
    assert spoken(part, (0, 210_000))


texts = st.lists(
    st.sampled_from(
        ["tea", "is", "free", "and", "the", "kettle", "sings", "we", "mend", "it", "all"]
    ),
    max_size=14,
)


@given(texts, texts)
def test_parts_cover_both_sides_in_order(script: list[str], said: list[str]) -> None:
    words = heard(" ".join(said))
    parts = beside(script, words)
    assert [t for p in parts for t in script[p.first : p.last]] == script
    assert [w for p in parts for w in words[p.from_ : p.to]] == words
    for part in parts:
        if part.same:
            assert [word_key(t) for t in script[part.first : part.last]] == [
                word_key(w.text) for w in words[part.from_ : part.to]
            ]


def test_verses_are_parted_by_empty_lines() -> None:
    found = verses("\n\nLantern Lane,\noh Lantern Lane\n \n\nmend the kettle\n")
    assert found == [[["Lantern", "Lane,"], ["oh", "Lantern", "Lane"]], [["mend", "the", "kettle"]]]
    assert line_ends(found) == {1}
    assert verses(" \n") == []
