"""How written English words are said: pocketsphinx's dictionary, then rules from letters."""

from __future__ import annotations

from functools import cache
from pathlib import Path

from pocketsphinx import get_model_path

from mortiser.core.sounding import Phones
from mortiser.speech.letters import phones as by_rule
from mortiser.speech.spoken import spoken


class DictionarySounds:
    """Sounds (see core.sounding), of the dictionary in the aligner's wheel."""

    def phones(self, text: str) -> Phones:
        """See Sounds."""
        said = [word for token in text.split() for word in spoken(token)]
        return tuple(
            phone for word in said for phone in (_dictionary().get(word) or by_rule(word)).split()
        )

    def known(self, word: str) -> bool:
        """See Sounds."""
        return all(part in _dictionary() for part in spoken(word))


@cache
def _dictionary() -> dict[str, str]:
    """134,860 words with their first pronunciation; read once, when first asked for."""
    lines = Path(get_model_path("en-us/cmudict-en-us.dict")).read_text().splitlines()
    return dict(line.split(" ", 1) for line in lines)
