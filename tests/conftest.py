"""Every process of the tests hears by recorded engines, except where a test is about the engines."""

import os
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
RECORDED = ROOT / "tests" / "recorded"
os.environ["PYTHONPATH"] = os.pathsep.join(
    [str(RECORDED), str(ROOT), *filter(None, [os.environ.get("PYTHONPATH")])]
)
sys.path.insert(0, str(RECORDED))
import sitecustomize  # noqa: E402, F401
