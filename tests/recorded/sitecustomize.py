"""Found by every Python process of the tests (this folder is on their PYTHONPATH): puts the recorded
engines in the place of the real ones as soon as those are imported."""

import importlib.abc
import importlib.util
import sys


class _Engines(importlib.abc.MetaPathFinder):
    def find_spec(self, name, path, target=None):
        if name != "mortiser.speech.engines":
            return None
        sys.meta_path.remove(self)
        spec = importlib.util.find_spec(name)
        load = spec.loader.exec_module

        def loaded(module) -> None:
            from tests.recorded.engines import put_in

            load(module)
            put_in(module)

        spec.loader.exec_module = loaded
        return spec


sys.meta_path.insert(0, _Engines())
