"""Every process of the tests hears by recorded engines, except where a test is about the engines."""

import os
import sys
from pathlib import Path

from hypothesis import HealthCheck, settings

# No test depends on how busy the machine is.
settings.register_profile("patient", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("patient")
ROOT = Path(__file__).parents[1]
RECORDED = ROOT / "tests" / "recorded"
os.environ["PYTHONPATH"] = os.pathsep.join(
    [str(RECORDED), str(ROOT), *filter(None, [os.environ.get("PYTHONPATH")])]
)
sys.path.insert(0, str(RECORDED))
import sitecustomize  # noqa: E402, F401
