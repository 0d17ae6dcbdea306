"""Phones for words no dictionary has, by rules from letters to sounds.

A short form of the context rules of Elovitz, Johnson, McHugh and Shore, "Letter-to-Sound Rules
for Automatic Translation of English Text to Phonetics" (IEEE ASSP 24, 1976), in ARPAbet. For
alignment a phone that is nearly right is good enough: it only has to take its time.
"""

from __future__ import annotations

import unicodedata

_RULES: dict[str, str] = {
    "tion": "SH AH N", "sion": "ZH AH N", "ture": "CH ER", "ough": "AO", "augh": "AO",
    "eigh": "EY", "igh": "AY", "tch": "CH", "dge": "JH", "sch": "SH", "ear": "IH R",
    "air": "EH R", "are": "EH R", "eer": "IH R", "oor": "AO R", "our": "AO R", "ous": "AH S",
    "ing": "IH NG", "all": "AO L", "que": "K", "ch": "CH", "sh": "SH", "th": "TH", "ph": "F",
    "wh": "W", "gh": "G", "kn": "N", "wr": "R", "ck": "K", "ng": "NG", "qu": "K W", "ps": "P S",
    "ai": "EY", "ay": "EY", "au": "AO", "aw": "AO", "ea": "IY", "ee": "IY", "ei": "EY",
    "eu": "Y UW", "ew": "UW", "ey": "IY", "ie": "IY", "oa": "OW", "oe": "OW", "oi": "OY",
    "oo": "UW", "ou": "AW", "ow": "OW", "oy": "OY", "ue": "UW", "ui": "UW", "ar": "AA R",
    "er": "ER", "ir": "ER", "or": "AO R", "ur": "ER", "ce": "S EH", "ci": "S IH", "cy": "S IY",
    "ge": "JH EH", "gi": "JH IH", "bb": "B", "cc": "K", "dd": "D", "ff": "F", "gg": "G",
    "ll": "L", "mm": "M", "nn": "N", "pp": "P", "rr": "R", "ss": "S", "tt": "T", "zz": "Z",
    "a": "AE", "b": "B", "c": "K", "d": "D", "e": "EH", "f": "F", "g": "G", "h": "HH",
    "i": "IH", "j": "JH", "k": "K", "l": "L", "m": "M", "n": "N", "o": "AA", "p": "P", "q": "K",
    "r": "R", "s": "S", "t": "T", "u": "AH", "v": "V", "w": "W", "x": "K S", "y": "IY", "z": "Z",
}  # fmt: skip
_LONG = {"a": "EY", "e": "IY", "i": "AY", "o": "OW", "u": "UW"}
_VOWELS = set("aeiouy")
_LONGEST = max(map(len, _RULES))


def phones(word: str) -> str:
    """ARPAbet phones, separated by spaces; never empty."""
    text = "".join(ch for ch in unicodedata.normalize("NFKD", word.lower()) if "a" <= ch <= "z")
    if not text:
        return "AH"
    result: list[str] = []
    at = 0
    while at < len(text):
        if text[at] == "e" and at == len(text) - 1 and result and _has_vowel(text[:at]):
            break
        if _magic_e(text, at):
            result.append(_LONG[text[at]])
            at += 1
            continue
        if at == len(text) - 1 and text[at] == "o":
            result.append("OW")
            break
        size = next(n for n in range(_LONGEST, 0, -1) if text[at : at + n] in _RULES)
        result.append(_RULES[text[at : at + size]])
        at += size
    return " ".join(result)


def _magic_e(text: str, at: int) -> bool:
    """A vowel, one consonant and a last e: the vowel says its name."""
    return (
        text[at] in _LONG
        and len(text) == at + 3
        and text[at + 1] not in _VOWELS
        and text[at + 2] == "e"
    )


def _has_vowel(text: str) -> bool:
    return any(ch in _VOWELS for ch in text)
