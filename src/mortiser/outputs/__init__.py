"""Kinds of delivered files, one a module. To add one: a class as in ``base``, named here."""

from __future__ import annotations

from collections.abc import Mapping

from mortiser.outputs.base import Maker
from mortiser.outputs.captions import TextFiles
from mortiser.outputs.still import Stills
from mortiser.outputs.video import Videos

OUTPUTS: Mapping[str, Maker] = {"video": Videos(), "text": TextFiles(), "still": Stills()}
"""By the ``kind`` of an output."""
