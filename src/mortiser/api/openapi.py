"""Print the OpenAPI description, from which the page's types are made: ``make types``."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from mortiser.api.app import create_app
from mortiser.settings import Settings
from mortiser.wiring import open_context


def description() -> str:
    """The description as JSON text with a stable order."""
    with tempfile.TemporaryDirectory() as folder:
        context = open_context(Settings(workspace=Path(folder)))
        return json.dumps(create_app(context, with_worker=False).openapi(), indent=1) + "\n"


if __name__ == "__main__":
    print(description(), end="")
