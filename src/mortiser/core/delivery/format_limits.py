"""What of a piece a kind of file cannot hold: told before it is lost."""

from __future__ import annotations

from collections.abc import Sequence

from mortiser.core.project.output import Output, TextFile, VideoFile
from mortiser.core.project.piece import Piece
from mortiser.core.project.text_forms import TEXT_FORMS
from mortiser.core.style.finish.changes import look_of
from mortiser.core.transcript.words import Cue


def not_held(output: Output, piece: Piece, cues: Sequence[Cue]) -> list[str]:
    """What the piece has that the file will not have, in words."""
    if isinstance(output, VideoFile):
        return _of_video(output)
    if not isinstance(output, TextFile):
        return []
    lost: list[str] = []
    holds = TEXT_FORMS[output.form].holds
    words = [word for cue in cues for word in cue.words]
    if "marks" not in holds and any(word.accent for word in words):
        lost.append("the accents of marked words")
    looks = {path.split(".")[0] for text in {word.look for word in words} for path in look_of(text)}
    if "place" in looks and "places" not in holds:
        lost.append("the places that captions have of their own")
    if looks - {"place"} or any(word.own for word in words):
        lost.append("the looks that captions and words have of their own")
    if (
        output.form in ("ass", "vtt")
        and piece.settings.finish.motion != type(piece.settings.finish.motion)()
    ):
        lost.append("motion")
    if piece.settings.show_speakers and output.form == "csv":
        lost.append("where a speaker's name is shown")
    return lost


def _of_video(output: VideoFile) -> list[str]:
    lost: list[str] = []
    if not output.facts.sound and output.form != "overlay":
        lost.append("sound")
    if output.captions == "switchable":
        lost.append("the look and the motion of captions: the player chooses")
    if output.form == "overlay":
        lost.append("picture and sound: they are the other editor's")
    return lost
