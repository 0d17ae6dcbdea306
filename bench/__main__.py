"""``python -m bench [hearing|doubting|naming|burning|editing …]``."""

import sys

from bench import burning, doubting, editing, hearing, naming

PARTS = {
    "hearing": hearing,
    "doubting": doubting,
    "naming": naming,
    "burning": burning,
    "editing": editing,
}

if __name__ == "__main__":
    for name in sys.argv[1:] or PARTS:
        print(f"\n{name}: {PARTS[name].__doc__ and PARTS[name].__doc__.splitlines()[0]}")
        PARTS[name].run()
