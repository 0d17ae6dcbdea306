"""Cut the shipped CJK font from Noto Sans CJK: ``python -m scripts.cjk_font NotoSansCJK-Bold.ttc``.

The font (package fonts-noto-cjk) has 65,000 glyphs; kept are the characters of the national standards
that everyday text is written in: GB 2312, Big5's first level, JIS X 0208 and KS X 1001.
"""

from __future__ import annotations

import sys
from pathlib import Path

from fontTools.subset import Options, Subsetter
from fontTools.ttLib import TTCollection

FAMILY = "Noto Sans CJK SC"
OUT = Path("src/mortiser/fonts/Noto-Sans-CJK_700Bold.otf")
BIG5_SECOND_LEVEL = 0xC9


def standard_characters() -> set[str]:
    """All two-byte characters of the four standards."""
    found: set[str] = set()
    for codec, last in (
        ("gb2312", 0xFF),
        ("big5", BIG5_SECOND_LEVEL),
        ("euc_jp", 0xFF),
        ("euc_kr", 0xFF),
    ):
        for lead in range(0xA1, last):
            for trail in range(0x40, 0xFF):
                found |= set(bytes((lead, trail)).decode(codec, errors="ignore"))
    return {ch for ch in found if ord(ch) > 0x2E7F}


def main() -> None:
    """Write the font."""
    fonts = TTCollection(sys.argv[1]).fonts
    font = next(one for one in fonts if one["name"].getDebugName(1) == FAMILY)
    options = Options()
    options.layout_features = ["kern", "ccmp", "locl", "mark", "mkmk"]
    options.hinting = False
    options.desubroutinize = False
    options.name_IDs = [0, 1, 2, 4, 6, 13, 14]
    subsetter = Subsetter(options)
    subsetter.populate(unicodes=[ord(ch) for ch in standard_characters()])
    subsetter.subset(font)
    font.save(OUT)
    print(f"{OUT}: {OUT.stat().st_size / 1e6:.1f} MB, {len(font.getBestCmap())} characters")


if __name__ == "__main__":
    main()
