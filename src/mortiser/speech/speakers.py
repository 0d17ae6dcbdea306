"""Who speaks: stretches of speech told apart by their spectra.

Stretches between pauses are modelled as Gaussians over mel cepstra and merged as long as one model
explains two of them as well as two do, by the Bayesian information criterion (Chen and
Gopalakrishnan, "Speaker, Environment and Channel Change Detection and Clustering via the BIC",
DARPA 1998). Then every word goes to the voice it is likeliest of, on the best path that changes
voices where people take turns: at pauses and ends of sentences.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import kaldi_native_fbank as knf
import numpy as np
import numpy.typing as npt

from mortiser.core.common.time import SECOND
from mortiser.core.transcript.words import Word
from mortiser.speech.protocols import RATE, Samples

FRAMES_S = 100
CEPSTRA = 20
PENALTY = 2.4
"""Weight of the number of parameters; the higher, the fewer voices."""
MOST_WEIGHT = 3_000
"""Frames that a voice counts for at most: in long recordings chance would exceed any penalty."""
PAUSE_US = 200_000
LEAST_FRAMES = 80
"""A stretch shorter than this says too little to be told apart and joins the one before."""
LEAST_SHARE, LEAST_S = 0.03, 3.0
"""A voice heard for less than both is no speaker but a noise or a laugh."""
TURN_COST, MID_SENTENCE_COST = 6.0, 60.0
Frames = npt.NDArray[np.float64]


class SpectralSpeakers:
    """SpeakerFinder without a trained model."""

    def find(self, sound: Iterable[Samples], words: Sequence[Word]) -> list[int]:
        """See SpeakerFinder."""
        spectra = cepstra(sound)
        each = [_frames_of(spectra, word) for word in words]
        voices = _voices(_stretches(words, each))
        if len(voices) < 2:
            return [0] * len(words)
        path = _path(words, each, voices)
        order = list(dict.fromkeys(path))
        return [order.index(voice) for voice in path]


def cepstra(sound: Iterable[Samples]) -> Frames:
    """Mel-frequency cepstra, shape (frames, CEPSTRA), a frame every 10 ms."""
    options = knf.MfccOptions()
    options.frame_opts.dither = 0
    options.frame_opts.snip_edges = False
    options.mel_opts.num_bins = 30
    options.num_ceps = CEPSTRA
    options.use_energy = False
    computer = knf.OnlineMfcc(options)
    done = 0
    rows: list[npt.NDArray[np.float32]] = []
    for samples in sound:
        computer.accept_waveform(RATE, (samples * 32_767).tolist())
        while done < computer.num_frames_ready:
            rows.append(np.array(computer.get_frame(done), np.float32))
            done += 1
        computer.pop(done)
    return np.asarray(rows, np.float64).reshape(-1, CEPSTRA)[:, 1:]


def _frames_of(spectra: Frames, word: Word) -> Frames:
    first = word.start_us * FRAMES_S // SECOND
    return spectra[first : max(first + 1, word.end_us * FRAMES_S // SECOND)]


def _takes_turn(before: Word, word: Word) -> bool:
    ends = before.text.rstrip("\"'”’)").endswith((".", "!", "?", "…"))
    return ends or word.start_us - before.end_us >= PAUSE_US


def _stretches(words: Sequence[Word], each: Sequence[Frames]) -> list[Frames]:
    """Frames of runs of words that one person says at a time."""
    runs: list[list[Frames]] = []
    size = 0
    for index, frames in enumerate(each):
        turn = index > 0 and _takes_turn(words[index - 1], words[index])
        if not runs or (turn and size >= LEAST_FRAMES):
            runs.append([])
            size = 0
        runs[-1].append(frames)
        size += len(frames)
    return [np.concatenate(run) for run in runs if sum(map(len, run)) >= CEPSTRA * 2]


class _Voice:
    """A Gaussian with the frames it stands for; their weight in comparisons is limited."""

    def __init__(self, heard: int, weight: float, mean: Frames, scatter: Frames) -> None:
        self.heard = heard
        self.weight = min(weight, MOST_WEIGHT)
        self.mean, self.scatter = mean, scatter * (self.weight / weight)
        self.cost = self.weight * _log_det(self.scatter / self.weight)

    @classmethod
    def of(cls, frames: Frames) -> _Voice:
        mean = frames.mean(axis=0)
        apart = frames - mean
        return cls(len(frames), len(frames), mean, apart.T @ apart)

    def with_(self, other: _Voice) -> _Voice:
        """Both voices as one."""
        weight = self.weight + other.weight
        apart = self.mean - other.mean
        scatter = self.scatter + other.scatter
        scatter = scatter + np.outer(apart, apart) * (self.weight * other.weight / weight)
        mean = (self.weight * self.mean + other.weight * other.mean) / weight
        return _Voice(self.heard + other.heard, weight, mean, scatter)

    def likelihoods(self, frames: Frames) -> Frames:
        """Log likelihood of each frame."""
        spread = self.scatter / self.weight + np.eye(len(self.mean)) * 1e-3
        apart = frames - self.mean
        far = np.einsum("ij,ij->i", apart @ np.linalg.inv(spread), apart)
        return np.asarray(-0.5 * (far + _log_det(spread)))


def _log_det(matrices: Frames) -> float:
    return float(_log_dets(matrices[None])[0])


def _log_dets(matrices: Frames) -> Frames:
    return np.asarray(np.linalg.slogdet(matrices + np.eye(matrices.shape[-1]) * 1e-3)[1])


def _voices(stretches: Sequence[Frames]) -> list[_Voice]:
    """Voices that are really different, each with enough speech."""
    voices = [_Voice.of(frames) for frames in stretches]
    if not voices:
        return []
    total = sum(voice.heard for voice in voices)
    size = len(voices[0].mean)
    penalty = PENALTY * 0.5 * (size + size * (size + 1) / 2) * np.log(2 * MOST_WEIGHT)
    apart = np.full((len(voices), len(voices)), np.inf)
    for index in range(len(voices)):
        apart[index, :index] = apart[:index, index] = _gains(voices[index], voices[:index])
    alive = list(range(len(voices)))
    while len(alive) > 1:
        part = apart[np.ix_(alive, alive)]
        one, other = divmod(int(part.argmin()), len(alive))
        if part[one, other] > penalty:
            break
        kept, gone = alive[min(one, other)], alive[max(one, other)]
        voices[kept] = voices[kept].with_(voices[gone])
        alive.remove(gone)
        others = [index for index in alive if index != kept]
        fresh = _gains(voices[kept], [voices[index] for index in others])
        apart[kept, others] = apart[others, kept] = fresh
    least = max(min(LEAST_S * FRAMES_S, total / 3), LEAST_SHARE * total)
    return [voices[index] for index in alive if voices[index].heard >= least]


def _gains(voice: _Voice, others: Sequence[_Voice]) -> Frames:
    """How much worse one model explains the voice and each other one than two do."""
    if not others:
        return np.zeros(0)
    weights = np.array([other.weight for other in others])
    means = np.array([other.mean for other in others]) - voice.mean
    scatter = voice.scatter + np.array([other.scatter for other in others])
    both = voice.weight + weights
    share = (voice.weight * weights / both)[:, None, None]
    scatter = scatter + share * means[:, :, None] * means[:, None, :]
    cost = both * _log_dets(scatter / both[:, None, None])
    return np.asarray(0.5 * (cost - voice.cost - np.array([other.cost for other in others])))


def _path(words: Sequence[Word], each: Sequence[Frames], voices: Sequence[_Voice]) -> list[int]:
    """The likeliest voice of every word, changing where turns are taken (Viterbi)."""
    # Neighbouring frames are alike: counting each in full would make single words too sure.
    likely = np.array([[v.likelihoods(f).sum() / 10 for v in voices] for f in each])
    best = likely[0]
    back = np.zeros(likely.shape, int)
    for index in range(1, len(words)):
        cost = TURN_COST if _takes_turn(words[index - 1], words[index]) else MID_SENTENCE_COST
        stay = best[None, :] - cost * (1 - np.eye(len(voices)))
        back[index] = stay.argmax(axis=1)
        best = stay.max(axis=1) + likely[index]
    path = [int(best.argmax())]
    for index in range(len(words) - 1, 0, -1):
        path.append(int(back[index][path[-1]]))
    return path[::-1]
