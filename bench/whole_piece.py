"""Edits of a whole piece of 10,000 words, each undone again, and its checks, over HTTP."""

from __future__ import annotations

import time
from collections.abc import Callable

from fastapi.testclient import TestClient

from bench.editing import long_talk
from bench.report import at_most

LIMIT_MS = 500
CHECKS_MS = 300
ROUNDS = 3
"""The least of which counts."""


def run() -> None:
    """Print the measurements of edits that reach a whole piece."""
    with long_talk() as (client, project):
        talk = _Talk(client, project)
        whole = talk.took(talk.read)
        reference = f"reading all words takes {whole:.0f} ms"
        first = talk.took(talk.checks)
        print(f"  checks for the first time: {first:.0f} ms")
        for name, edit in talk.edits().items():
            made, checked, undone = (min(times) for times in zip(*talk.rounds(edit), strict=True))
            at_most(name, made, "ms", LIMIT_MS, reference)
            at_most(f"{name}: undone", undone, "ms", LIMIT_MS, reference)
            at_most(f"{name}: checks after it", checked, "ms", CHECKS_MS, reference)


class _Talk:
    def __init__(self, client: TestClient, project: int) -> None:
        self.client = client
        self.project = project
        view = self.read()
        self.revision: int = view["revision"]
        self.piece: int = view["pieces"][0]["id"]
        self.cues: list[dict] = view["cues"]

    @staticmethod
    def took(call: Callable[[], object]) -> float:
        started = time.perf_counter()
        call()
        return (time.perf_counter() - started) * 1000

    def rounds(self, edit: dict) -> list[tuple[float, float, float]]:
        """How long (ms) making it, the checks after it and its undo take, a few times."""
        return [
            (self.took(lambda: self.make(edit)), self.took(self.checks), self.took(self.undo))
            for _ in range(ROUNDS)
        ]

    def read(self) -> dict:
        return self.client.get(f"/api/projects/{self.project}").raise_for_status().json()

    def checks(self) -> None:
        self.client.get(f"/api/pieces/{self.piece}/checks").raise_for_status()

    def edits(self) -> dict[str, dict]:
        """By name, what is asked."""
        of = {"piece_id": self.piece}
        ids = [cue["id"] for cue in self.cues]
        return {
            "one word": {"kind": "retype_cue", "cue_id": ids[7], "text": "Another text here"},
            "replace a common word everywhere": {
                "kind": "replace_text", **of, "find": "the", "text": "that", "whole_words": True,
            },
            "replace a letter everywhere": {"kind": "replace_text", **of, "find": "e", "text": "ee"},
            "shift all": {"kind": "shift_cues", "cue_ids": ids[:1], "by": "+0.2", "onward": True},
            "a look for all captions": {
                "kind": "dress_cues", "cue_ids": ids, "changes": {"size": 0.05},
            },
            "mark a word everywhere": {"kind": "mark_everywhere", **of, "text": "the", "accent": 1},
            "another pace": {"kind": "set_pace", **of, "pace": {"words": 2}},
        }  # fmt: skip

    def make(self, edit: dict) -> None:
        body = {"base_revision": self.revision, "edit": edit}
        answer = self.client.post(f"/api/projects/{self.project}/edits", json=body)
        if answer.is_error:
            raise RuntimeError(answer.text)
        self.revision = answer.json()["revision"]

    def undo(self) -> None:
        body = {"base_revision": self.revision}
        answer = self.client.post(f"/api/projects/{self.project}/undo", json=body)
        self.revision = answer.raise_for_status().json()["revision"]
