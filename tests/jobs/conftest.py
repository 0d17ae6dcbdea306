"""A workspace whose jobs run inline, with an engine that hears “tone” wherever there is sound."""

from dataclasses import replace
from pathlib import Path

import pytest

from mortiser.settings import Settings
from mortiser.wiring import AppContext, open_context
from tests.contracts.test_speech import EvenAligner, PlainRecogniser


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    made = open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)
    tools = replace(
        made.tools, recogniser=lambda _: PlainRecogniser(), aligner=lambda _: EvenAligner()
    )
    return replace(made, tools=tools)
