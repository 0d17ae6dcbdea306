"""A script laid over a recording of ten minutes in which one sentence in ten is said otherwise.

The recording is the two voices' sentences one after another; in the script every tenth sentence is
another one. Measured on the words that script and sound have in common, against the voices' own times.
"""

from __future__ import annotations

import json
import tempfile
import time
from collections.abc import Iterator, Sequence
from pathlib import Path

import av
import numpy as np

from bench.report import at_least, at_most
from mortiser.core.project.job_payloads import ScriptPayload
from mortiser.core.transcript.words import Cue
from mortiser.jobs.ingest import bring_in
from mortiser.settings import Settings
from mortiser.store import jobs, projects
from mortiser.wiring import open_context

Truth = list[dict[str, str | int]]
MEDIA = Path(__file__).parent / "media"
CLIPS = ("joe", "names-heart", "heart", "names-joe")
OTHER = "Nobody had expected such a thunderstorm over the little harbour that evening."


def run() -> None:
    """Print the measurements of laying a script."""
    with tempfile.TemporaryDirectory() as folder:
        recording, truth = joined(Path(folder))
        context = open_context(Settings(workspace=Path(folder) / "w"), inline_jobs=True)
        made = bring_in(context.database, context.workspace, recording, "talk.ogg")
        context.run(made.jobs[0])
        lines = sentences([str(word["text"]) for word in truth])
        script = [OTHER if index % 10 == 5 else line for index, line in enumerate(lines)]
        payload = ScriptPayload(
            source_id=made.source_id, piece_id=made.piece_id, text="\n".join(script)
        )
        job = jobs.add(context.database, made.project_id, "script", payload)
        started = time.perf_counter()
        context.run(job)
        spent = time.perf_counter() - started
        row = jobs.get(context.database.connection, job)
        assert row.status == "done", row.error
        cues = projects.piece_cues(context.database.connection, made.piece_id)
    seconds = int(truth[-1]["end_us"]) / 1e6
    errors = onsets(truth, lines, script, iter(cues))
    against = f"{len(errors)} matching words of {seconds / 60:.1f} minutes"
    at_most("script, onset, median |error|", float(np.median(errors)), "ms", 60, against)
    at_most("script, onset, 95 % |error|", float(np.percentile(errors, 95)), "ms", 200, against)
    at_least("laid", seconds / spent, "×", 5, "real time", 1)
    told = sum("thunderstorm" in note.text for note in row.report)
    at_least(
        "changed sentences pointed out",
        100 * told / script.count(OTHER),
        "%",
        90,
        f"{script.count(OTHER)} of them",
    )


def joined(folder: Path) -> tuple[Path, Truth]:
    """The clips one after another as one file, and all their words with their true times."""
    truth: Truth = []
    out = folder / "talk.ogg"
    at = 0
    with av.open(str(out), "w") as writing:
        stream = writing.add_stream("libopus", rate=48_000, layout="mono")
        for clip in CLIPS:
            begin = at
            with av.open(str(MEDIA / f"{clip}.ogg")) as reading:
                resampler = av.AudioResampler(format="flt", layout="mono", rate=48_000)
                for frame in reading.decode(audio=0):
                    for piece in resampler.resample(frame):
                        piece.pts = at
                        at += piece.samples
                        writing.mux(stream.encode(piece))
            shift = begin * 1_000_000 // 48_000
            for word in json.loads((MEDIA / f"{clip}.words.json").read_text())["words"]:
                times = {edge: word[edge] + shift for edge in ("start_us", "end_us")}
                truth.append({"text": word["text"], **times})
        writing.mux(stream.encode(None))
    return out, truth


def sentences(words: list[str]) -> list[str]:
    """The words as one sentence a line."""
    text = " ".join(words)
    for mark in ".?!":
        text = text.replace(f"{mark} ", f"{mark}\n")
    return text.split("\n")


def onsets(
    truth: Truth, lines: Sequence[str], script: Sequence[str], cues: Iterator[Cue]
) -> list[float]:
    """Errors (ms) of the words of the sentences that script and sound have in common."""
    errors: list[float] = []
    at = 0
    for line, written in zip(lines, script, strict=True):
        right = truth[at : at + len(line.split())]
        at += len(right)
        cue = next((cue for cue in cues if cue.text == written), None)
        assert cue is not None, f"“{written}” is missing"
        if line == written:
            errors += [
                abs(word.start_us - int(true["start_us"])) / 1_000
                for word, true in zip(cue.words, right, strict=True)
            ]
    return errors


if __name__ == "__main__":
    run()
