"""The text beside a video: proposed from what is said, with reasons."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from mortiser.core.project.post import (
    LONGEST_TAG,
    STORED,
    TAGS,
    TEXT,
    TITLE,
    Post,
    proposed,
)
from mortiser.core.transcript.words import Cue, Shown

SAID = (
    "Um, good morning from Lantern Lane, where we mend things. This kettle came in cold. "
    "A kettle has a fuse. Nine times out of ten it is the kettle fuse, not the heating element."
)


def cues(text: str) -> list[Cue]:
    words = tuple(
        Shown(word, number * 300_000, number * 300_000 + 250_000)
        for number, word in enumerate(text.split())
    )
    return [Cue(1, words, 0, len(words) * 300_000, id=1)] if words else []


def test_the_first_sentence_is_the_title_without_fillers() -> None:
    found = proposed(cues(SAID), "Kettle")
    assert found.post.title == "Good morning from Lantern Lane, where we mend things"
    assert found.post.text.endswith("it is the kettle fuse, not the heating element.")
    assert found.reasons[0] == "Title: the first sentence."


def test_tags_are_what_is_said_most_each_with_its_reason() -> None:
    found = proposed(cues(SAID), "Kettle")
    assert found.post.tags[0] == "kettle"
    assert "heatingelement" in found.post.tags
    assert not {"nine", "ten", "from", "ninetimes"} & set(found.post.tags)
    assert any(reason.startswith("#kettle: “kettle”, said ") for reason in found.reasons)


def test_nothing_said_is_named_by_the_piece() -> None:
    found = proposed([], "Tea and toast")
    assert (found.post.title, found.post.text, found.post.tags) == ("Tea and toast", "", ())


@pytest.mark.parametrize("language", ["en", "de", "ja", ""])
@given(text=st.text(max_size=600))
def test_whatever_is_said_a_proposal_keeps_its_limits(language: str, text: str) -> None:
    found = proposed(cues(text), "Piece", language)
    assert len(found.post.title) <= TITLE
    assert len(found.post.text) <= TEXT
    assert len(found.post.tags) <= TAGS
    assert all(0 < len(tag) <= LONGEST_TAG for tag in found.post.tags)
    assert len(set(found.post.tags)) == len(found.post.tags)
    assert STORED.read(STORED.write(found.post)) == found.post


def test_nothing_written_is_stored_as_nothing() -> None:
    assert STORED.read("") == Post()
