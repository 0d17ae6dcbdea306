"""A workspace whose jobs run inline, with an engine that hears “tone” wherever there is sound."""

from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from mortiser.jobs.broker import LeasedJob
from mortiser.jobs.sqlite_broker import SqliteBroker
from mortiser.settings import Settings
from mortiser.wiring import KINDS, AppContext, open_context
from tests.contracts.test_speech import EvenAligner, PlainRecogniser
from tests.jobs.travelling import adapters, sent


@pytest.fixture
def context(tmp_path: Path) -> AppContext:
    made = open_context(Settings(workspace=tmp_path / "w"), inline_jobs=True)
    tools = replace(
        made.tools, recogniser=lambda _: PlainRecogniser(), aligner=lambda _: EvenAligner()
    )
    return replace(made, tools=tools)


@pytest.fixture(autouse=True)
def travelled(monkeypatch: pytest.MonkeyPatch) -> set[str]:
    """Have all that jobs are given and give go through JSON; the kinds that did."""
    kinds: set[str] = set()
    given_by, keep_by = SqliteBroker.given, SqliteBroker.keep

    def given(self: SqliteBroker, taken: LeasedJob) -> Any:
        kinds.add(taken.kind)
        return sent(adapters(KINDS[taken.kind])[0], given_by(self, taken))

    def keep(self: SqliteBroker, taken: LeasedJob, was_given: Any, result: Any) -> None:
        keep_by(self, taken, was_given, sent(adapters(KINDS[taken.kind])[1], result))

    monkeypatch.setattr(SqliteBroker, "given", given)
    monkeypatch.setattr(SqliteBroker, "keep", keep)
    return kinds
