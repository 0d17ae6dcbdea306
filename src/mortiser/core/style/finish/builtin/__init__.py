"""The finishes that come with Mortiser. To add one: a module beside these, named in FINISHES."""

from mortiser.core.style.finish.builtin.beeswax import BEESWAX
from mortiser.core.style.finish.builtin.bobbin import BOBBIN
from mortiser.core.style.finish.builtin.chalk import CHALK
from mortiser.core.style.finish.builtin.ember import EMBER
from mortiser.core.style.finish.builtin.lacquer import LACQUER
from mortiser.core.style.finish.builtin.linen import LINEN
from mortiser.core.style.finish.builtin.pine import PINE
from mortiser.core.style.finish.builtin.ribbon import RIBBON
from mortiser.core.style.finish.builtin.rivet import RIVET
from mortiser.core.style.finish.builtin.signal import SIGNAL
from mortiser.core.style.finish.builtin.tide import TIDE
from mortiser.core.style.finish.builtin.tinplate import TINPLATE
from mortiser.core.style.finish.builtin.veneer import VENEER
from mortiser.core.style.finish.builtin.walnut import WALNUT
from mortiser.core.style.finish.model import Finish

FINISHES: dict[str, Finish] = {
    finish.name: finish
    for finish in (
        LACQUER, PINE, LINEN, BEESWAX, VENEER, SIGNAL, EMBER, CHALK, TINPLATE, WALNUT, RIVET,
        RIBBON, TIDE, BOBBIN,
    )
}  # fmt: skip
DEFAULT_FINISH = LACQUER.name
