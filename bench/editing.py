"""Edits on a transcript of 10,000 words, over HTTP as the page makes them."""

from __future__ import annotations

import json
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np
from fastapi.testclient import TestClient

from bench.report import at_most
from mortiser.api.app import create_app
from mortiser.core.transcript.words import Word
from mortiser.services.serving import spare_collections
from mortiser.settings import Settings
from mortiser.store import projects, transcript
from mortiser.store.projects import NewSource
from mortiser.wiring import AppContext, open_context

WORDS = 10_000
EDITS = 120


def run() -> None:
    """Print the edit measurements."""
    with long_talk() as (client, project):
        _edits(client, project)


def talk_of(count: int) -> tuple[list[Word], NewSource]:
    """So many words of one recording, and what is known of it."""
    truth = json.loads(Path("src/mortiser/demo/media/kettle.words.json").read_text())["words"]
    words = [
        Word(w["text"], w["start_us"] + lap * 40_000_000, w["end_us"] + lap * 40_000_000, 0.9)
        for lap in range(count // len(truth) + 1)
        for w in truth
    ][:count]
    duration = words[-1].end_us + 1_000_000
    source = NewSource(
        "talk.mp4", "sources/x/recording", "video", 1, duration, 1080, 1920, 0, 1, 30.0, False, 1, "h264",
        "aac", True,
    )  # fmt: skip
    return words, source


def with_talk(context: AppContext, count: int) -> tuple[int, int, int]:
    """A project of one recording of so many words: its id, the source's and the piece's."""
    words, source = talk_of(count)
    made = projects.create_project(context.database, "Talk", source)
    transcript.append_line(context.database, made[1], words)
    return made


@contextmanager
def long_talk() -> Iterator[tuple[TestClient, int]]:
    """A server with a project of so many words of one recording, by its id."""
    with tempfile.TemporaryDirectory() as folder:
        context = open_context(Settings(workspace=Path(folder)), inline_jobs=True)
        project, _, _ = with_talk(context, WORDS)
        spare_collections()
        with TestClient(
            create_app(context, with_worker=False), base_url="http://127.0.0.1"
        ) as client:
            yield client, project


def _edits(client: TestClient, project: int) -> None:
    started = time.perf_counter()
    view = client.get(f"/api/projects/{project}").json()
    whole = (time.perf_counter() - started) * 1000
    revision, times = view["revision"], []
    cues = view["cues"]
    for number in range(EDITS):
        cue = cues[(number * 211) % len(cues)]
        text = " ".join(word["text"] for word in cue["words"])
        edit = (
            {"kind": "retype_cue", "cue_id": cue["id"], "text": f"{text} extra{number}"}
            if number % 2
            else {
                "kind": "set_cue_times",
                "cue_id": cue["id"],
                "start_us": cue["start_us"] + 20_000,
            }
        )
        started = time.perf_counter()
        answer = client.post(
            f"/api/projects/{project}/edits", json={"base_revision": revision, "edit": edit}
        )
        times.append((time.perf_counter() - started) * 1000)
        answer.raise_for_status()
        revision = answer.json()["revision"]
    most = float(np.percentile(times, 95))
    reference = f"reading all {WORDS:,} words takes {whole:.0f} ms"
    at_most("an edit, 95 % of answers within", most, "ms", 50, reference)
