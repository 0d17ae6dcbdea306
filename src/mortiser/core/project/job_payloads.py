"""What jobs are queued with: a value for each kind, stored whole and sent to whoever does the work."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class JobPayload(BaseModel):
    """What a job is about. What older versions wrote beside it is passed over."""

    model_config = ConfigDict(frozen=True, extra="ignore")

    source_id: int | None = None
    """The recording it works on; no two jobs of a kind work on one at the same time."""

    def in_copy(self, ids: dict[str, dict[int, int]]) -> JobPayload:
        """The same in a copied project, from the copies of each field's ids."""
        mine = {name: ids[name].get(getattr(self, name)) for name in ids if hasattr(self, name)}
        return self.model_copy(update={name: new for name, new in mine.items() if new is not None})


class SourcePayload(JobPayload):
    """A recording."""

    source_id: int


class PiecePayload(SourcePayload):
    """A piece, and the recording it is of."""

    piece_id: int


class HearingPayload(PiecePayload):
    """What is to be heard of a recording (µs; all of it where None), into its piece; ``again`` where it has
    words already."""

    again: bool = False
    from_us: int | None = None
    to_us: int | None = None


class DoubtPayload(SourcePayload):
    """What is to be heard a second time; without a piece only doubts are noted. ``speakers`` where voices are
    to be told apart next."""

    piece_id: int | None = None
    from_us: int | None = None
    to_us: int | None = None
    speakers: bool = False


class ScriptPayload(PiecePayload):
    """A script, a line (or a verse) a caption."""

    text: str
    verses: bool = False


class ImportPayload(PiecePayload):
    """A caption file in the workspace, and its encoding where somebody has said it."""

    file: str
    encoding: str | None = None


class FollowPayload(SourcePayload):
    """A box in the picture at a moment (middle and size in shares of it), and the stretch it is followed in."""

    at_us: int
    box: tuple[float, float, float, float]
    from_us: int
    to_us: int


class MicrophonePayload(JobPayload):
    """A sound, and the recording it is heard in the stead of, where that is known; what is to be heard where it
    turns out to be no recording's sound. ``again`` where it is to be laid anew."""

    sound_id: int
    piece_id: int | None = None
    transcribe: bool = False
    from_us: int | None = None
    to_us: int | None = None
    again: bool = False


class FetchPayload(JobPayload):
    """A thing of a library that is fetched into the project; with captions of a piece it is seen over them as soon
    as it is there."""

    library: str
    ref: str
    name: str = ""
    piece_id: int | None = None
    cue_ids: tuple[int, ...] = ()


class DeliverPayload(JobPayload):
    """A piece; which file of it, the delivery says."""

    piece_id: int
