"""Names at turns, and the edits that say who speaks."""

from dataclasses import replace
from itertools import pairwise

import pytest

from mortiser.core.captions.pace import PACES
from mortiser.core.common.errors import BadInput
from mortiser.core.edits.captions.pacing import SetPace
from mortiser.core.edits.captions.times import SetCueTimes
from mortiser.core.edits.session import EditSession
from mortiser.core.edits.text.speakers import NameSpeakers, RenameSpeaker, SetSpeaker, ShowSpeakers
from mortiser.core.transcript.speakers import turns, with_names
from mortiser.core.transcript.words import Cue, Shown
from mortiser.formats import srt, txt, vtt
from mortiser.formats.base import Caption, CaptionDocument
from tests.contracts.test_session import cues


def said(*names: str | None) -> list[Cue]:
    return [
        Cue(1, (Shown("Tea", at := i * 1_000_000, at + 300_000, speaker=name),), at, at + 900_000)
        for i, name in enumerate(names)
    ]


def test_a_name_is_shown_where_somebody_else_begins() -> None:
    assert turns(said("A", "A", "B", None, "B")) == ["A", None, "B", None, "B"]
    assert turns(said("A", "B"), before="A") == [None, "B"]


def test_a_shown_name_has_been_spoken_before_the_first_word() -> None:
    named = with_names(said("Ada Lee", "Ada Lee"))
    assert [w.text for w in named[0].words] == ["Ada", "Lee:", "Tea"]
    assert all(a.start_us <= b.start_us for a, b in pairwise(named[0].words))
    assert named[1].text == "Tea"
    later = with_names(said(None, "B"))[1]
    assert later.words[0].end_us < later.words[1].start_us


def test_files_name_speakers_their_own_way() -> None:
    caption = Caption(0, 1_000_000, ("Tea is", "free."), (), "Ada <1>", turn=True)
    again = replace(caption, turn=False)
    assert "<v Ada &lt;1&gt;>Tea is\nfree." in vtt.write([caption], CaptionDocument(0))
    assert "<v Ada" in vtt.write([again], CaptionDocument(0))
    assert "Ada <1>: Tea is\nfree." in srt.write([caption], CaptionDocument(0))
    assert "Ada" not in srt.write([again], CaptionDocument(0))
    assert (
        txt.write([caption, again], CaptionDocument(0)) == "Ada <1>: Tea is free.\nTea is free.\n"
    )


def test_a_caption_is_parted_where_another_one_speaks(session: EditSession) -> None:
    SetPace(piece_id=1, pace=PACES["sentence"]).apply(session)
    first = cues(session)[0]
    SetCueTimes(cue_id=first.id, start_us=first.start_us + 10_000).apply(session)
    before = cues(session)
    words = [w for cue in before for w in cue.words]
    edit = NameSpeakers(
        piece_id=1, names={"A": [w.id for w in words[:5]], "B": [w.id for w in words[5:]]}
    )
    assert edit.label(session) == "find 2 speakers"
    edit.apply(session)
    after = cues(session)
    assert len(after) == len(before) + 1
    assert [w.id for cue in after for w in cue.words] == [w.id for w in words]
    assert {w.speaker for w in after[0].words} == {"A"}
    assert after[0].start_pinned
    assert after[0].start_us == before[0].start_us
    assert all(a.end_us <= b.start_us for a, b in pairwise(after))


def test_speakers_are_renamed_merged_and_given_to_captions(session: EditSession) -> None:
    ids = [cue.id for cue in cues(session)]
    SetSpeaker(cue_ids=ids[:2], name=" Marlo  Finch ").apply(session)
    SetSpeaker(cue_ids=ids[2:4], name="Wanda").apply(session)
    assert session.cue(ids[0]).words[0].speaker == "Marlo Finch"
    RenameSpeaker(piece_id=1, old="Wanda", new="Marlo Finch").apply(session)
    assert {w.speaker for i in ids[:4] for w in session.cue(i).words} == {"Marlo Finch"}
    SetSpeaker(cue_ids=[ids[0]], name="").apply(session)
    assert session.cue(ids[0]).words[0].speaker is None
    with pytest.raises(BadInput, match="needs a name"):
        RenameSpeaker(piece_id=1, old="Marlo Finch", new=" ").apply(session)
    with pytest.raises(BadInput, match="Nobody called"):
        RenameSpeaker(piece_id=1, old="Wanda", new="Ines").apply(session)
    with pytest.raises(BadInput, match="40 letters"):
        SetSpeaker(cue_ids=[ids[0]], name="x" * 41).apply(session)
    ShowSpeakers(piece_id=1, shown=True).apply(session)
