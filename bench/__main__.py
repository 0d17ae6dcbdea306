"""``python -m bench [hearing|doubting|…]``: measure all of it, or some parts."""

import importlib
import sys

PARTS = (
    "hearing",
    "doubting",
    "languages",
    "keys",
    "naming",
    "speaking",
    "following",
    "pacing",
    "dressing",
    "burning",
    "delivering",
    "framing",
    "subject",
    "waveform",
    "transitions",
    "segments",
    "trimming",
    "drifting",
    "matching",
    "repeating",
    "editing",
    "whole_piece",
    "growing",
    "screen",
)

if __name__ == "__main__":
    for name in sys.argv[1:] or PARTS:
        part = importlib.import_module(f"bench.{name}")
        print(f"\n{name}: {(part.__doc__ or '').splitlines()[0]}")
        part.run()
