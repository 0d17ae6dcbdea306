"""The finishes that come with Mortiser. To add one: a module beside these, named in FINISHES."""

from mortiser.core.finish.builtin.beeswax import BEESWAX
from mortiser.core.finish.builtin.bobbin import BOBBIN
from mortiser.core.finish.builtin.chalk import CHALK
from mortiser.core.finish.builtin.ember import EMBER
from mortiser.core.finish.builtin.lacquer import LACQUER
from mortiser.core.finish.builtin.linen import LINEN
from mortiser.core.finish.builtin.pine import PINE
from mortiser.core.finish.builtin.ribbon import RIBBON
from mortiser.core.finish.builtin.rivet import RIVET
from mortiser.core.finish.builtin.signal import SIGNAL
from mortiser.core.finish.builtin.tide import TIDE
from mortiser.core.finish.builtin.tinplate import TINPLATE
from mortiser.core.finish.builtin.veneer import VENEER
from mortiser.core.finish.builtin.walnut import WALNUT
from mortiser.core.finish.model import Finish

FINISHES: dict[str, Finish] = {
    finish.name: finish
    for finish in (
        LACQUER, PINE, LINEN, BEESWAX, VENEER, SIGNAL, EMBER, CHALK, TINPLATE, WALNUT, RIVET,
        RIBBON, TIDE, BOBBIN,
    )
}  # fmt: skip
DEFAULT_FINISH = LACQUER.name
