"""The finishes that come with Mortiser. To add one: a module beside these with the finish under its own name in
capitals, named in ORDER."""

from importlib import import_module

from mortiser.core.style.finish.model import Finish

ORDER = (
    "lacquer", "pine", "linen", "beeswax", "veneer", "signal", "ember", "chalk", "tinplate", "walnut", "rivet",
    "ribbon", "tide", "bobbin",
)  # fmt: skip
"""The modules, in the order the finishes are offered in."""


def _found(module: str) -> Finish:
    finish = getattr(import_module(f"{__package__}.{module}"), module.upper())
    assert isinstance(finish, Finish)
    return finish


FINISHES: dict[str, Finish] = {finish.name: finish for finish in map(_found, ORDER)}
DEFAULT_FINISH = FINISHES["Lacquer"].name
