"""Put right what the checks found, where that is safe."""

from __future__ import annotations

from collections.abc import Callable, Collection, Hashable, Sequence
from dataclasses import replace
from itertools import combinations, pairwise
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.captions.checks import Check, CheckKind, check
from mortiser.core.captions.cue_timing import SHORTEST_SHOWN_US, untimed_cue
from mortiser.core.captions.grouping import group
from mortiser.core.captions.pace import Pace, limits
from mortiser.core.common.errors import BadInput, NotFound
from mortiser.core.common.limits import Id, Ids
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.captions.captions import join
from mortiser.core.edits.captions.pacing import regroup
from mortiser.core.edits.captions.trial import CaptionFacts, Trial
from mortiser.core.edits.look.dressing import put_on
from mortiser.core.edits.projection import caption_fresh
from mortiser.core.edits.retiming import CONTEXT, retime_all, retime_of
from mortiser.core.edits.session import CaptionSession, EditSession
from mortiser.core.style.finish.changes import look_of, look_text
from mortiser.core.transcript.sentences import ends_sentence
from mortiser.core.transcript.unspaced import joined
from mortiser.core.transcript.words import Cue, Shown

Remedy = Callable[[CaptionSession, Cue, Pace], None]
SEEN: tuple[CheckKind, ...] = ("wide_line", "many_lines", "off_frame")
"""What is found on the picture."""
AROUND = 6
"""Captions on each side that a remedy may reach."""
MOST_KEPT = 100_000
REACH = AROUND + CONTEXT
"""Captions on each side that are looked at: times of those a remedy reaches are worked out from them."""


class Finding(BaseModel):
    """One finding as the checks named it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: CheckKind
    cue_id: Id | None = None
    word_ids: Ids = []


class FixChecks(BaseEdit):
    """Apply the remedies of some findings; those whose captions are gone are passed over."""

    kind: Literal["fix_checks"] = "fix_checks"
    piece_id: Id
    findings: list[Finding] = Field(min_length=1, max_length=20_000)

    def label(self, session: EditSession) -> str:
        kinds = {finding.kind.replace("_", " ") for finding in self.findings}
        count = len(self.findings)
        return f"fix {kinds.pop() if len(kinds) == 1 else 'findings'}" + (
            f" ({count})" if count > 1 else ""
        )

    def apply(self, session: EditSession) -> None:
        allowed = limits(session.settings(self.piece_id).checked_by, session.pace(self.piece_id))
        facts = CaptionFacts.of(session, self.piece_id)
        done = 0
        for finding in self.findings:
            if finding.kind == "unshown":
                words = set(finding.word_ids)
                done += caption_fresh(session, self.piece_id, words, allowed)
                continue
            try:
                cue = session.cue(finding.cue_id or 0)
            except NotFound:
                continue
            done += _helped(session, cue, finding.kind, facts, allowed)
        if not done:
            raise BadInput("These findings have no safe remedy. Look at them one by one.")
        retime_all(session, self.piece_id)


class LeaveOut(BaseEdit):
    """Take words that no caption shows out of the source: they are meant to have none."""

    kind: Literal["leave_out"] = "leave_out"
    piece_id: Id
    word_ids: list[Id] = Field(min_length=1, max_length=20_000)

    def label(self, session: EditSession) -> str:
        return "leave speech without a caption"

    def apply(self, session: EditSession) -> None:
        wanted = set(self.word_ids)
        loose = [word.id for word in session.unshown(self.piece_id) if word.id in wanted]
        if not loose:
            raise BadInput("These words are in a caption, or gone already.")
        session.delete_words(loose)


class Offers:
    """Which remedies help, tried in memory. What was tried is kept by all that it depends on, since findings are
    asked for after every edit and most captions are as they were."""

    def __init__(self) -> None:
        self._known: dict[int, bool] = {}

    def of(
        self,
        found: Sequence[Check],
        cues: Sequence[Cue],
        facts: CaptionFacts,
        allowed: Pace,
        worn: Hashable = None,
    ) -> list[Check]:
        """Findings in a piece's captions (all of them, in time order); a remedy is named where it leaves less to
        be found. ``worn`` is what the letters are measured by."""
        at = {cue.id: index for index, cue in enumerate(cues)}
        marks = [hash(cue) for cue in cues] if any(one.fix for one in found) else []
        rules = hash((facts.timeline.digest, facts.pace, facts.frames, allowed, worn))
        result = []
        for one in found:
            if one.fix and one.cue_id is not None:
                here = at[one.cue_id]
                near = slice(max(0, here - REACH), here + REACH + 1)
                key = hash((one.kind, marks[here], tuple(marks[near]), rules))
                helps = self._known.get(key)
                if helps is None:
                    helps = _tried(cues[near], cues[here], one.kind, facts, allowed) is not None
                    self._keep(key, helps)
                if not helps:
                    one = replace(one, fix=None)
            result.append(one)
        return result

    def _keep(self, key: int, helps: bool) -> None:
        if len(self._known) >= MOST_KEPT:
            self._known.clear()
        self._known[key] = helps


def _helped(
    session: EditSession, cue: Cue, kind: CheckKind, facts: CaptionFacts, allowed: Pace
) -> bool:
    """Whether a remedy left less to be found around a caption; else all is as it was."""
    before, after = session.around(cue, REACH)
    trial = _tried([*before, cue, *after], cue, kind, facts, allowed)
    if trial is not None:
        trial.carry_over(session)
    return trial is not None


def _tried(
    edges: Sequence[Cue], cue: Cue, kind: CheckKind, facts: CaptionFacts, allowed: Pace
) -> Trial | None:
    """What a remedy makes of neighbouring captions; None where it leaves no less to be found."""
    remedy = _REMEDIES.get(kind)
    if remedy is None:
        return None
    at = [one.id for one in edges].index(cue.id)
    before = edges[max(0, at - AROUND) : at + AROUND + 1]
    words = {(word.id, word.clip_id) for one in before for word in one.words}
    known = _found(edges, words, facts, allowed)
    # What stands on the picture is known to who found it alone.
    count = len(known) + (kind in SEEN and (kind, cue.id) not in known)
    trial = Trial(edges, facts)
    remedy(trial, cue, allowed)
    now = trial.cues(cue.piece_id)
    timed = retime_of(trial, now) if now else []
    return trial if len(_found(timed, words, facts, allowed)) < count else None


def _has(cue: Cue, words: Collection[tuple[int, int]]) -> bool:
    return any((word.id, word.clip_id) in words for word in cue.words)


def _found(
    cues: Sequence[Cue], words: Collection[tuple[int, int]], facts: CaptionFacts, allowed: Pace
) -> list[tuple[CheckKind, int | None]]:
    """What is found in those of some neighbouring captions that have some words; their lines end only where
    they are made to."""
    lines = [lines_by_hand(cue) for cue in cues]
    meant = {cue.id for cue in cues if _has(cue, words)}
    every = check(cues, allowed, facts.timeline.duration_us, facts.frames, lines=lines)
    return [(one.kind, one.cue_id) for one in every if one.cue_id in meant]


def lines_by_hand(cue: Cue) -> list[str]:
    """A caption's lines where they end only where they are made to."""
    return [joined([word.text for word in line]) for line in _lines(cue.words) if line]


def _lines(words: Sequence[Shown]) -> list[list[Shown]]:
    lines: list[list[Shown]] = [[]]
    for word in words:
        lines[-1].append(word)
        if word.seam == "line":
            lines.append([])
    return lines


def _follow(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    session.save_cue(cue.unpinned())


def _follow_both(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    before, _ = session.around(cue, 1)
    for one in (*before, cue):
        _follow(session, one, allowed)


def _back_to_place(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    left = {
        path: value
        for path, value in look_of(cue.look).items()
        if path.split(".")[0] not in ("place", "size")
    }
    put_on(session, [cue], [look_text(left)])


def _end_at_next(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    _, after = session.around(cue, 1)
    if not after:
        return
    if after[0].start_us - cue.start_us >= SHORTEST_SHOWN_US:
        session.save_cue(replace(cue, end_us=after[0].start_us))
    else:
        _follow(session, cue, allowed)
        _follow(session, after[0], allowed)


def _close(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    _, after = session.around(cue, 1)
    if after and after[0].start_us > cue.start_us:
        gap = session.frames(cue.piece_id).last(allowed.gap_frames)
        end = max(after[0].start_us - gap, cue.end_us)
        session.save_cue(replace(cue, end_us=end, end_pinned=True))


def _leave_gap(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    _, after = session.around(cue, 1)
    if not after:
        return
    end = after[0].start_us - session.frames(cue.piece_id).last(allowed.gap_frames)
    voice = cue.words[-1].end_us
    if end >= max(voice, cue.start_us + SHORTEST_SHOWN_US):
        session.save_cue(replace(cue, end_us=end, end_pinned=True))


def _end_with_piece(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    end = session.timeline(cue.piece_id).duration_us
    if end - cue.start_us >= SHORTEST_SHOWN_US:
        session.save_cue(replace(cue, end_us=end))
    else:
        _follow(session, cue, allowed)


def _break_lines(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    """Break a caption's lines where they are even; part it where it does not fit into as many as are allowed."""
    fitting = with_even_lines(cue, allowed)
    if fitting is not None:
        session.save_cue(fitting)
        return
    loose = tuple(replace(word, seam="free") if word.seam == "line" else word for word in cue.words)
    _part(session, cue.with_words(loose), allowed)


def with_even_lines(cue: Cue, allowed: Pace) -> Cue | None:
    """A caption with its lines broken anew, as few and as even as they can be; None where it does not fit."""
    for count in range(1, allowed.lines + 1):
        if len(cue.text) >= count * (allowed.line_chars + 1):
            continue  # However it is broken: of a long text there are very many ways.
        for inner in sorted(
            combinations(range(1, len(cue.words)), count - 1),
            key=lambda ends: max(map(len, _texts(cue.words, ends))),
        ):
            if max(map(len, _texts(cue.words, inner))) > allowed.line_chars:
                break
            words = [
                replace(word, seam="line")
                if at in inner
                else replace(word, seam="free")
                if word.seam == "line"
                else word
                for at, word in enumerate(cue.words, start=1)
            ]
            return cue.with_words(tuple(words))
    return None


def _texts(words: Sequence[Shown], ends: Sequence[int]) -> list[str]:
    edges = [0, *ends, len(words)]
    return [joined([word.text for word in words[a:b]]) for a, b in pairwise(edges)]


def _part(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    """Part a caption into as few as fit, two at least, each with its lines broken where they do not."""
    loose = session.save_cue(cue.unpinned())
    pace, ruler = allowed, session.ruler(cue.piece_id)
    for count in range(2, len(loose.words) + 1):
        most = min(allowed.words, -(-len(loose.words) // count))
        pace = allowed.model_copy(update={"words": most})
        parts = [loose.words[a:b] for a, b in group(loose.words, pace, ruler)]
        if all(with_even_lines(untimed_cue(0, part), allowed) for part in parts):
            break
    ids = {word.id for word in loose.words}
    regroup(session, cue.piece_id, pace, {cue.id}, keep=True)
    before, after = session.around(session.cue(cue.id), AROUND)
    near = [one for one in (*before, session.cue(cue.id), *after) if one.words[0].id in ids]
    for one in near:
        if len(one.text) > allowed.line_chars and (even := with_even_lines(one, allowed)):
            session.save_cue(even)


def _shorten(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    voice = cue.words[-1].end_us - cue.words[0].start_us
    (_part if voice > allowed.longest_us else _follow)(session, cue, allowed)


def _join(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    before, after = session.around(cue, 1)
    back = bool(before) and not ends_sentence(before[0].text)
    if back or after:
        join(session, *((before[0], cue) if back else (cue, after[0])))


def _delete(session: CaptionSession, cue: Cue, allowed: Pace) -> None:
    session.delete_cues([cue])


_REMEDIES: dict[CheckKind, Remedy] = {
    "order": _follow_both,
    "overlap": _end_at_next,
    "flicker": _close,
    "touching": _leave_gap,
    "too_short": _follow,
    "too_long": _shorten,
    "wide_line": _break_lines,
    "many_lines": _break_lines,
    "orphan": _join,
    "late": _follow,
    "early": _follow,
    "beyond": _end_with_piece,
    "off_frame": _back_to_place,
    "empty": _delete,
}
