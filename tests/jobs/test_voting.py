"""Words heard a second time: voted on, doubted, laid anew, with what somebody has been at left alone."""

import itertools
from dataclasses import replace

from mortiser.core.edits.cutting.trimming import Passage, StrikeWords
from mortiser.core.edits.text.words import AcceptWord, RetypeCue
from mortiser.core.transcript.words import Word
from mortiser.jobs.ingest import Hearing, hear_again
from mortiser.speech.protocols import RATE, HeardChange, Relistened, Verdict
from mortiser.store import editing, projects, transcript
from mortiser.wiring import AppContext
from tests.contracts.test_speech import PlainRecogniser
from tests.jobs.inline import row, run, take_in
from tests.recordings import COUNTER


class Deaf:
    """Hears nothing in what is to be judged."""

    def listen(self, samples, from_us):
        return Relistened(samples, from_us)


def test_doubts_are_noted_but_not_on_words_that_were_settled(context: AppContext) -> None:
    class Harsh(Deaf):
        def judge(self, words, heard):
            assert len(heard.samples) > RATE // 10
            doubted = [replace(w, confidence=0.1, alternatives=("tome",)) for w in words]
            return Verdict(tuple(doubted), ())

    made = take_in(context, COUNTER)
    (doubting,) = run(context, made.jobs[0])
    cues = projects.piece_cues(context.database.connection, made.piece_id)
    typed, accepted = cues[0], cues[1]
    edits = [
        RetypeCue(cue_id=typed.id, text="typed by hand"),
        AcceptWord(cue_id=accepted.id, word_id=accepted.words[0].id),
    ]
    for revision, edit in enumerate(edits):
        editing.apply(context.database, made.project_id, revision, edit)
    tools = replace(context.tools, judge=lambda names, write: Harsh())
    replace(context, tools=tools).run(doubting)
    assert row(context, doubting).status == "done"
    words = {w.id: w for w in transcript.source_words(context.database.connection, made.source_id)}
    assert words[accepted.words[0].id].confidence == 1.0
    after = projects.piece_cues(context.database.connection, made.piece_id)
    assert all(w.confidence is None for w in after[0].words)
    others = [w for cue in after[1:] for w in cue.words if w.id != accepted.words[0].id]
    assert {(w.confidence, w.alternatives) for w in others} == {(0.1, ("tome",))}
    assert editing.undo(context.database, made.project_id, 2).label.startswith("accept")


class Voting(Deaf):
    """Hears “mended” in the place of every third word, two words in the place of the fifth, one more
    behind the seventh, and not the ninth."""

    def judge(self, words, heard):
        changes = []
        for index, word in enumerate(words):
            if index % 3 == 0 and index != 9:
                put = (replace(word, id=0, text="mended", confidence=0.7),)
                changes.append(HeardChange(index, index + 1, put))
            elif index == 5:
                middle = (word.start_us + word.end_us) // 2
                left = Word("kettle", word.start_us, middle, 0.6)
                changes.append(HeardChange(5, 6, (left, Word("lid", middle, word.end_us, 0.6))))
            elif index == 7:
                changes.append(HeardChange(8, 8, (Word("and", word.end_us, word.end_us, 0.6),)))
            elif index == 9:
                changes.append(HeardChange(9, 10, ()))
        return Verdict(tuple(words), tuple(changes))


def voted(words: list[str]) -> list[str]:
    result: list[str] = []
    for index, text in enumerate(words):
        if index == 9:
            continue
        if index == 5:
            result += ["kettle", "lid"]
            continue
        result.append("mended" if index % 3 == 0 else text)
        if index == 7:
            result.append("and")
    return result


def shown(context: AppContext, piece_id: int) -> list[Word]:
    cues = projects.piece_cues(context.database.connection, piece_id)
    assert all(a.end_us <= b.start_us for a, b in itertools.pairwise(cues))
    return [word for cue in cues for word in cue.words]


def vote(context: AppContext, made, doubting: int) -> None:
    tools = replace(context.tools, judge=lambda names, write: Voting())
    replace(context, tools=tools).run(doubting)
    assert row(context, doubting).status == "done"


def test_what_the_vote_changes_takes_its_place_quietly(context: AppContext) -> None:
    made = take_in(context, COUNTER)
    (doubting,) = run(context, made.jobs[0])
    before = shown(context, made.piece_id)
    vote(context, made, doubting)
    after = shown(context, made.piece_id)
    first = before[:20]
    # The first stretch has these words; the vote counts them anew in every stretch.
    assert [w.text for w in after[:20]] == voted([w.text for w in first])[:20]
    assert all(a.end_us <= b.start_us for a, b in itertools.pairwise(after))
    assert {w.id for w in after} == {
        w.id for w in transcript.source_words(context.database.connection, made.source_id)
    }
    # One word for one keeps its number, so that the page keeps its place.
    assert after[0].id == before[0].id
    assert projects.read_project(context.database.connection, made.project_id).revision == 0


def test_the_vote_leaves_alone_what_somebody_has_been_at(context: AppContext) -> None:
    made = take_in(context, COUNTER)
    (doubting,) = run(context, made.jobs[0])
    cues = projects.piece_cues(context.database.connection, made.piece_id)
    editing.apply(
        context.database, made.project_id, 0, RetypeCue(cue_id=cues[0].id, text="tone by hand")
    )
    editing.undo(context.database, made.project_id, 1)
    vote(context, made, doubting)
    after = projects.piece_cues(context.database.connection, made.piece_id)
    assert after[0].text == cues[0].text
    assert "mended" in " ".join(cue.text for cue in after[1:])
    # Undo and redo put rows back as they were: both still can.
    editing.redo(context.database, made.project_id, 2)
    again = projects.piece_cues(context.database.connection, made.piece_id)
    assert again[0].text == "tone by hand"


def test_a_stretch_heard_again_is_voted_on_before_it_is_laid(context: AppContext) -> None:
    made = take_in(context, COUNTER)
    run(context, made.jobs[0])
    (again,) = hear_again(context.database, made.project_id, Hearing())
    tools = replace(context.tools, judge=lambda names, write: Voting())
    following = replace(context, tools=tools).run(again)
    assert row(context, again).status == "done", row(context, again).error
    texts = [word.text for word in shown(context, made.piece_id)]
    assert texts.count("mended") > 3
    assert editing.undo(context.database, made.project_id, 1).label.startswith("hear 00:00")
    assert [row(context, job).kind for job in following] == ["doubt"]


def test_what_is_cut_and_corrected_while_a_stretch_is_heard_again_stays(
    context: AppContext,
) -> None:
    made = take_in(context, COUNTER)
    run(context, made.jobs[0])
    (again,) = hear_again(context.database, made.project_id, Hearing())
    before = shown(context, made.piece_id)
    piece = projects.piece(context.database.connection, made.piece_id)
    strand = piece.timeline.clips[0].strand_id
    last = projects.piece_cues(context.database.connection, made.piece_id)[-1]

    class Meanwhile(PlainRecogniser):
        edits = iter(
            [
                RetypeCue(cue_id=last.id, text="put right"),
                StrikeWords(
                    piece_id=made.piece_id,
                    passages=[
                        Passage(strand_id=strand, first_word=before[4].id, last_word=before[7].id)
                    ],
                ),
            ]
        )

        def hear(self, samples):
            for edit in self.edits:
                editing.apply_now(context.database, made.project_id, edit)
            return [replace(line, text="bell bell") for line in super().hear(samples)]

    replace(context, tools=replace(context.tools, recogniser=lambda _: Meanwhile())).run(again)
    assert row(context, again).status == "done", row(context, again).error
    cues = projects.piece_cues(context.database.connection, made.piece_id)
    assert cues[-1].text == "put right"
    words = [word for cue in cues[:-1] for word in cue.words]
    assert {word.text for word in words} == {"bell"}
    length = sum(word.end_us - word.start_us for word in before[4:8])
    whole = projects.piece(context.database.connection, made.piece_id).timeline.duration_us
    assert piece.timeline.duration_us - whole >= length / 2
    # The word behind the cut is said where its sound plays now.
    kept = [word for word in before[:4] + before[8:] if word.end_us <= last.words[0].start_us]
    assert len(words) == len(kept)
    by = piece.timeline.duration_us - whole
    assert [word.start_us for word in words[5:]] == [word.start_us - by for word in kept[5:]]
