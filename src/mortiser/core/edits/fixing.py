"""Put right what the checks found, where that is safe."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from mortiser.core.checks import CheckKind
from mortiser.core.cue_timing import SHORTEST_SHOWN_US
from mortiser.core.edits.base import BaseEdit
from mortiser.core.edits.captions import JoinCue
from mortiser.core.edits.desk import Desk
from mortiser.core.edits.dressing import UndressCues
from mortiser.core.edits.pacing import regroup
from mortiser.core.edits.projection import caption_fresh
from mortiser.core.edits.retiming import retime_all
from mortiser.core.errors import BadInput, NotFound
from mortiser.core.finish.changes import look_of
from mortiser.core.grouping import ends_sentence
from mortiser.core.limits import Id, Ids
from mortiser.core.pace import Pace, limits
from mortiser.core.words import Cue


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

    def label(self, desk: Desk) -> str:
        kinds = {finding.kind.replace("_", " ") for finding in self.findings}
        count = len(self.findings)
        return f"fix {kinds.pop() if len(kinds) == 1 else 'findings'}" + (
            f" ({count})" if count > 1 else ""
        )

    def apply(self, desk: Desk) -> None:
        allowed = limits(desk.checked_by(self.piece_id), desk.pace(self.piece_id))
        done = 0
        for finding in self.findings:
            if finding.kind == "unshown":
                words = set(finding.word_ids)
                done += caption_fresh(desk, self.piece_id, words, allowed)
                continue
            try:
                cue = desk.cue(finding.cue_id or 0)
            except NotFound:
                continue
            remedy = _REMEDIES.get(finding.kind)
            if remedy:
                remedy(desk, cue, allowed)
                done += 1
        if not done:
            raise BadInput("These findings have no safe remedy. Look at them one by one.")
        retime_all(desk, self.piece_id)


class LeaveOut(BaseEdit):
    """Take words that no caption shows out of the source: they are meant to have none."""

    kind: Literal["leave_out"] = "leave_out"
    piece_id: Id
    word_ids: list[Id] = Field(min_length=1, max_length=20_000)

    def label(self, desk: Desk) -> str:
        return "leave speech without a caption"

    def apply(self, desk: Desk) -> None:
        wanted = set(self.word_ids)
        loose = [word.id for word in desk.unshown(self.piece_id) if word.id in wanted]
        if not loose:
            raise BadInput("These words are in a caption, or gone already.")
        desk.delete_words(loose)


def _follow(desk: Desk, cue: Cue, allowed: Pace) -> None:
    desk.save_cue(cue.unpinned())


def _follow_both(desk: Desk, cue: Cue, allowed: Pace) -> None:
    before, _ = desk.around(cue, 1)
    for one in (*before, cue):
        _follow(desk, one, allowed)


def _back_to_place(desk: Desk, cue: Cue, allowed: Pace) -> None:
    moved = [path for path in look_of(cue.look) if path.split(".")[0] in ("place", "size")]
    if moved:
        UndressCues(cue_ids=[cue.id], paths=moved).apply(desk)


def _end_at_next(desk: Desk, cue: Cue, allowed: Pace) -> None:
    _, after = desk.around(cue, 1)
    if not after:
        return
    if after[0].start_us - cue.start_us >= SHORTEST_SHOWN_US:
        desk.save_cue(replace(cue, end_us=after[0].start_us))
    else:
        _follow(desk, cue, allowed)
        _follow(desk, after[0], allowed)


def _close(desk: Desk, cue: Cue, allowed: Pace) -> None:
    _, after = desk.around(cue, 1)
    if after and after[0].start_us > cue.start_us:
        gap = desk.frames(cue.piece_id).last(allowed.gap_frames)
        end = max(after[0].start_us - gap, cue.end_us)
        desk.save_cue(replace(cue, end_us=end, end_pinned=True))


def _leave_gap(desk: Desk, cue: Cue, allowed: Pace) -> None:
    _, after = desk.around(cue, 1)
    if not after:
        return
    end = after[0].start_us - desk.frames(cue.piece_id).last(allowed.gap_frames)
    voice = cue.words[-1].end_us
    if end >= max(voice, cue.start_us + SHORTEST_SHOWN_US):
        desk.save_cue(replace(cue, end_us=end, end_pinned=True))


def _end_with_piece(desk: Desk, cue: Cue, allowed: Pace) -> None:
    end = desk.timeline(cue.piece_id).duration_us
    if end - cue.start_us >= SHORTEST_SHOWN_US:
        desk.save_cue(replace(cue, end_us=end))
    else:
        _follow(desk, cue, allowed)


def _part(desk: Desk, cue: Cue, allowed: Pace) -> None:
    desk.save_cue(cue.unpinned())
    longest = max(len(word.text) for word in cue.words)
    half = max(longest, len(cue.text) // 2 + 1)
    # At least in two: what is delivered may have wider lines than the rules count.
    chars = min(allowed.line_chars, max(6, half))
    pace = allowed.model_copy(update={"line_chars": chars, "lines": 1})
    regroup(desk, cue.piece_id, pace, {cue.id}, keep=True)


def _shorten(desk: Desk, cue: Cue, allowed: Pace) -> None:
    voice = cue.words[-1].end_us - cue.words[0].start_us
    (_part if voice > allowed.longest_us else _follow)(desk, cue, allowed)


def _join(desk: Desk, cue: Cue, allowed: Pace) -> None:
    before, after = desk.around(cue, 1)
    back = bool(before) and not ends_sentence(before[0].text)
    if back or after:
        JoinCue(cue_id=cue.id, to="before" if back else "after").apply(desk)


def _delete(desk: Desk, cue: Cue, allowed: Pace) -> None:
    desk.delete_cue(cue)


_REMEDIES: dict[CheckKind, Callable[[Desk, Cue, Pace], None]] = {
    "order": _follow_both,
    "overlap": _end_at_next,
    "flicker": _close,
    "touching": _leave_gap,
    "too_short": _follow,
    "too_long": _shorten,
    "wide_line": _part,
    "many_lines": _part,
    "orphan": _join,
    "late": _follow,
    "early": _follow,
    "beyond": _end_with_piece,
    "off_frame": _back_to_place,
    "empty": _delete,
}
