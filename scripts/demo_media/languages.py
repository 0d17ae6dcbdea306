"""Speak a few sentences in many languages with the true time of every word, for measuring.

Spoken by espeak-ng (GPL 3; only its sound is kept), whose events say at which millisecond a word
begins. Chinese and Japanese are given word by word, with spaces that the truth does not keep.
"""

from __future__ import annotations

import ctypes
import json
from pathlib import Path
from typing import Any

import av
import numpy as np

OUT = Path("bench/media")
PAUSE_S = 0.6
WORD_EVENT = 1
SPEED = 140
SENTENCES: dict[str, tuple[str, list[str]]] = {
    "de": ("de", [
        "Guten Morgen aus der Werkstatt in der Laternengasse.",
        "Heute reparieren wir einen alten Wasserkocher und zwei Stühle.",
        "Bevor du etwas wegwirfst, öffne zuerst den Stecker.",
        "Die Sicherung kostet fast nichts und der Tee ist umsonst.",
        "Am Samstag zeigen wir allen Nachbarn, wie man ein Radio öffnet.",
        "Bitte bringt eure Lampen und eure kaputten Uhren mit.",
    ]),
    "es": ("es", [
        "Buenos días desde el taller de la calle de los faroles.",
        "Hoy vamos a reparar una radio vieja y dos sillas.",
        "Antes de tirar algo a la basura, abre primero el enchufe.",
        "El fusible cuesta muy poco y el té es gratis.",
        "El sábado enseñamos a todos los vecinos a coser un botón.",
        "Traed vuestras lámparas y vuestros relojes rotos.",
    ]),
    "fr": ("fr", [
        "Bonjour à tous depuis notre petit atelier de réparation.",
        "Aujourd'hui nous réparons une vieille radio et deux chaises.",
        "Avant de jeter un appareil, regardez toujours dans la prise.",
        "Le fusible ne coûte presque rien et le thé est gratuit.",
        "Samedi nous montrons aux voisins comment coudre un bouton.",
        "Apportez vos lampes et vos montres cassées.",
    ]),
    "it": ("it", [
        "Buongiorno dalla nostra piccola officina di quartiere.",
        "Oggi ripariamo una vecchia radio e due sedie.",
        "Prima di buttare via qualcosa, apri sempre la spina.",
        "Il fusibile costa pochissimo e il tè è gratis.",
        "Sabato insegniamo a tutti i vicini a cucire un bottone.",
        "Portate le vostre lampade e i vostri orologi rotti.",
    ]),
    "pt": ("pt", [
        "Bom dia da nossa pequena oficina de bairro.",
        "Hoje vamos consertar um rádio velho e duas cadeiras.",
        "Antes de deitar fora alguma coisa, abra primeiro a tomada.",
        "O fusível custa muito pouco e o chá é grátis.",
        "No sábado ensinamos todos os vizinhos a coser um botão.",
        "Tragam as vossas lâmpadas e os vossos relógios.",
    ]),
    "nl": ("nl", [
        "Goedemorgen vanuit onze kleine werkplaats in de buurt.",
        "Vandaag repareren wij een oude radio en twee stoelen.",
        "Voordat je iets weggooit, open je eerst de stekker.",
        "De zekering kost bijna niets en de thee is gratis.",
        "Op zaterdag laten we de buren zien hoe je een knoop aannaait.",
        "Breng je lampen en je kapotte horloges mee.",
    ]),
    "pl": ("pl", [
        "Dzień dobry z naszego małego warsztatu.",
        "Dzisiaj naprawiamy stare radio i dwa krzesła.",
        "Zanim coś wyrzucisz, otwórz najpierw wtyczkę.",
        "Bezpiecznik kosztuje bardzo mało, a herbata jest za darmo.",
        "W sobotę uczymy wszystkich sąsiadów przyszywać guziki.",
        "Przynieście swoje lampy i zepsute zegary.",
    ]),
    "tr": ("tr", [
        "Küçük tamir atölyemizden herkese günaydın.",
        "Bugün eski bir radyo ve iki sandalye tamir ediyoruz.",
        "Bir şeyi atmadan önce her zaman fişi açın.",
        "Sigorta çok ucuz ve çay bedava.",
        "Cumartesi günü komşulara düğme dikmeyi öğretiyoruz.",
        "Lambalarınızı ve bozuk saatlerinizi getirin.",
    ]),
    "ar": ("ar", [
        "صباح الخير من ورشتنا الصغيرة",
        "اليوم نصلح راديو قديم وكرسيين",
        "قبل أن ترمي أي شيء افتح القابس أولا",
        "يوم السبت نعلم الجيران كيف يصلحون الأشياء",
        "من فضلكم أحضروا المصابيح والساعات",
    ]),
    "hi": ("hi", [
        "हमारी छोटी दुकान से सबको नमस्ते।",
        "आज हम एक पुराना रेडियो और दो कुर्सियाँ ठीक करेंगे।",
        "कुछ भी फेंकने से पहले उसे खोलकर देखो।",
        "शनिवार को हम सब पड़ोसियों को सिखाते हैं।",
        "अपनी पुरानी घड़ी और लैंप लेकर आओ।",
    ]),
    "ja": ("ja", [
        "みなさん おはよう ございます",
        "今日は 古い ラジオを 直します",
        "土曜日に 隣の 人に 教えます",
        "お茶は 無料です",
        "古い 時計を 持って きて ください",
    ]),
    "zh": ("cmn", [
        "大家 早上 好",
        "今天 我们 修理 一台 旧 收音机",
        "星期六 我们 教 邻居 修 东西",
        "茶 是 免费 的",
        "请 把 旧 手表 带来",
    ]),
}  # fmt: skip


class _Event(ctypes.Structure):
    _fields_ = (
        ("type", ctypes.c_int),
        ("unique_identifier", ctypes.c_uint),
        ("text_position", ctypes.c_int),
        ("length", ctypes.c_int),
        ("audio_position", ctypes.c_int),
        ("sample", ctypes.c_int),
        ("user_data", ctypes.c_void_p),
        ("id", ctypes.c_char * 8),
    )


def speaker() -> Any:
    """A function ``(voice, text) -> (samples at the rate, rate, [(letter, start s)])``."""
    library = ctypes.CDLL("libespeak-ng.so.1")
    rate = library.espeak_Initialize(2, 0, None, 0)
    heard: list[np.ndarray] = []
    starts: list[tuple[int, float]] = []
    kind = ctypes.CFUNCTYPE(
        ctypes.c_int, ctypes.POINTER(ctypes.c_short), ctypes.c_int, ctypes.POINTER(_Event)
    )

    def take(wave: Any, count: int, events: Any) -> int:
        if wave and count:
            heard.append(np.ctypeslib.as_array(wave, (count,)).astype(np.float32) / 32768)
        at = 0
        while events[at].type:
            if events[at].type == WORD_EVENT:
                starts.append((events[at].text_position - 1, events[at].audio_position / 1000))
            at += 1
        return 0

    callback = kind(take)
    library.espeak_SetParameter(1, SPEED, 0)

    def speak(voice: str, text: str) -> tuple[np.ndarray, int, list[tuple[int, float]]]:
        heard.clear()
        starts.clear()
        if library.espeak_SetVoiceByName(voice.encode()):
            raise RuntimeError(f"espeak-ng has no voice {voice}")
        library.espeak_SetSynthCallback(callback)  # Held by this function, so that it lives on.
        data = text.encode()
        library.espeak_Synth(data, len(data) + 1, 0, 1, 0, 1, None, None)
        library.espeak_Synchronize()
        return np.concatenate(heard), rate, list(starts)

    return speak


def words_of(
    text: str, starts: list[tuple[int, float]], length_s: float
) -> list[tuple[str, float]]:
    """(word, start s) for every word that has an event at its first letter."""
    found: list[tuple[str, float]] = []
    at = 0
    first = dict(reversed(starts))
    for word in text.split():
        at = text.index(word, at)
        if at in first and first[at] < length_s:
            found.append((word, first[at]))
        at += len(word)
    return found


def main() -> None:
    """Write a recording and the words of each language."""
    speak = speaker()
    for code, (voice, sentences) in SENTENCES.items():
        sounds: list[np.ndarray] = []
        words: list[dict[str, Any]] = []
        at = 0.0
        for text in sentences:
            sound, rate, starts = speak(voice, text)
            words += [
                {"text": word, "start_us": round((at + start) * 1e6)}
                for word, start in words_of(text, starts, len(sound) / rate)
            ]
            quiet = np.zeros(int(rate * PAUSE_S), np.float32)
            sounds += [sound, quiet]
            at += (len(sound) + len(quiet)) / rate
        _write(OUT / f"language-{code}.ogg", np.concatenate(sounds), rate)
        text = json.dumps({"words": words}, ensure_ascii=False)
        (OUT / f"language-{code}.words.json").write_text(text + "\n")


def _write(path: Path, samples: np.ndarray, rate: int) -> None:
    with av.open(str(path), "w") as out:
        stream = out.add_stream("libopus", rate=48_000, bit_rate=32_000, layout="mono")
        frame = av.AudioFrame.from_ndarray((samples * 32767).astype("<i2")[None], "s16", "mono")
        frame.sample_rate = rate
        resampler = av.AudioResampler("flt", "mono", 48_000, frame_size=960)
        for part in [*resampler.resample(frame), *resampler.resample(None)]:
            for packet in stream.encode(part):
                out.mux(packet)
        for packet in stream.encode(None):
            out.mux(packet)


if __name__ == "__main__":
    main()
