"""A sound recorded apart that is heard in a recording's stead."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Microphone:
    """A moment t (µs) of the recording is ``t * (1 + drift_ppm / 1e6) + offset_us`` of the sound;
    ``sure`` (0 to 1) says how well the two were found to agree."""

    sound_id: int
    offset_us: int
    drift_ppm: float = 0.0
    sure: float = 1.0

    @property
    def key(self) -> str:
        """The same for the same sound laid the same way."""
        return f"{self.sound_id}_{self.offset_us}_{self.drift_ppm:.3f}"

    @property
    def file_name(self) -> str:
        """What the sound is called where it is laid, beside the recording."""
        return f"sound-{self.key}.flac"
