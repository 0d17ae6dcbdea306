"""Odd files brought in: each is taken and worked on, or refused with words that say what to do."""

from __future__ import annotations

import random
import tempfile
import time
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

import httpx

from tests.recordings import COUNTER, make_sound, make_video, small_demo
from tests.serving import Server
from tests.torture.state import INSIDE, jobs_ended, no_fault_inside, read, until
from tests.torture.tally import Tally

LONGEST_S = 20.0
JOBS_S = 400.0
"""Half a minute of talk that is heard twice takes a minute and a half of a machine with other work."""
SIZES = [(16, 16), (18, 640), (640, 18), (17, 33), (854, 480), (426, 240), (638, 360), (2000, 16),
         (8, 8), (16000, 16), (9000, 5000), (1, 1)]  # fmt: skip
BYTES = [b"", b"\0", b"RIFF", b"\x1a\x45\xdf\xa3" * 9, b"ftypisom" * 50, b"<html>" * 900,
         b"\x89PNG\r\n\x1a\n" * 40, b"%PDF-1.7" * 20, b"PK\3\4" * 99, b"OggS" * 400]  # fmt: skip
SPEECH = [("a.wav", "pcm_s16le"), ("a.mp3", "mp3"), ("a.ogg", "libopus"), ("a.flac", "flac")]


def attack(count: int, seed: int = 13) -> Tally:
    """So many files of each kind of oddness in turn, sent to one server."""
    tally = Tally("odd files")
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder) / "w")
        slowest = 0.0
        try:
            with server.client() as client:
                every = _chosen(Path(folder), count, seed)
                for number, (what, route, data) in enumerate(every, start=1):
                    began = time.monotonic()
                    with tally.trying(what):
                        slowest = max(slowest, _send(client, what, route, data))
                    took = time.monotonic() - began
                    print(f"  {number} of {len(every)}: {what}, {took:.0f} s", flush=True)
        finally:
            server.stop()
        tally.facts["slowest answer"] = f"{slowest:.1f} s"
    return tally


def _send(client: httpx.Client, what: str, route: str, data: bytes) -> float:
    began = time.monotonic()
    params = {"name": f"{what}.mp4"} if route == "/api/projects" else {}
    answer = client.post(route, params=params, content=data)
    took = time.monotonic() - began
    assert took < LONGEST_S, f"{took:.1f} s"
    assert answer.status_code < 500, answer.text[:300]
    said = answer.json()
    if answer.status_code >= 400:
        assert len(said["message"]) > 20, said
        assert INSIDE not in said["message"]
    elif route == "/api/projects":
        project = said["project_id"]
        until(lambda: jobs_ended(client, project), "a job never ends", JOBS_S)
        no_fault_inside(client, project)
        view = read(client, project)
        piece = view["pieces"][0]["id"]
        if view["cues"]:
            assert client.post(f"/api/pieces/{piece}/deliveries").is_success
            until(lambda: jobs_ended(client, project), "a delivery never ends", JOBS_S)
            no_fault_inside(client, project)
        still = client.get(f"/api/pieces/{piece}/still.png", params={"at_us": 10_000})
        assert still.status_code < 500, still.text[:300]
        client.delete(f"/api/projects/{project}")
    return took


def _chosen(folder: Path, count: int, seed: int) -> list[tuple[str, str, bytes]]:
    """A choice from all kinds, every kind in it."""
    everything = list(_files(folder, random.Random(seed)))
    step = max(1, len(everything) // count)
    return [everything[n % len(everything)] for n in range(0, step * count, step)][:count]


def _files(folder: Path, chance: random.Random) -> Iterator[tuple[str, str, bytes]]:
    recording = "/api/projects"
    whole = small_demo(folder / "whole.mp4", 2.0).read_bytes()
    for number, data in enumerate(BYTES):
        yield f"no recording {number}", recording, data
    for share in (0.02, 0.2, 0.5, 0.9, 0.99):
        yield f"cut at {share}", recording, whole[: int(len(whole) * share)]
    for number in range(24):
        harmed = bytearray(whole if number % 2 else COUNTER.read_bytes())
        for _ in range(4 ** (number % 5)):
            harmed[chance.randrange(len(harmed))] = chance.randrange(256)
        yield f"harmed {number}", recording, bytes(harmed)
    for size in SIZES:
        codec = "mjpeg" if max(size) > 4_000 else "libx264" if min(size) > 1 else "ffv1"
        pixels = "yuvj420p" if codec == "mjpeg" else "yuv420p"
        with suppress(Exception):  # What cannot even be made is no danger.
            video = make_video(folder / f"{size}.mkv", seconds=0.4, frame_times=[0.0, 0.1, 0.2],
                               size=size, codec=codec, pixels=pixels)  # fmt: skip
            yield f"picture of {size}", recording, video.read_bytes()
    for name, codec in SPEECH:
        yield f"tone {codec}", recording, make_sound(folder / name, codec, 0.3).read_bytes()
    for number, times in enumerate(([0.0], [0.0, 0.001, 0.9], [0.5, 0.6])):
        video = make_video(folder / f"times{number}.mp4", seconds=1.0, frame_times=times, tracks=3)
        yield f"frames at {times}", recording, video.read_bytes()
    pieces = ["<v ", "{\\k5", "-->", "00:00:01.000 --> 00:00:02.000\n", "Dialogue: 0,", "&#", "\n",
              "WEBVTT\n\n", "9" * 5_000, "🧵", "\ufeff", '"', ";", "=cmd|", "\r"]  # fmt: skip
    for number in range(24):
        text = "".join(chance.choices(pieces, k=4)) * 10 ** (number % 5)
        head = ("WEBVTT\n\n", "1\n00:00:01,000 --> 00:00:02,000\n", "[Events]\nDialogue: ")[
            number % 3
        ]
        coding = ("utf-8", "utf-16", "utf-8-sig")[number % 3]
        data = (head + text)[:4_000_000].encode(coding)
        yield f"captions {number}", "/api/projects/captions/preview", data
        yield f"glossary {number}", "/api/glossary.csv", data
    for number in range(8):
        font = bytearray(next(Path("src/mortiser/fonts").glob("Anton*.ttf")).read_bytes())
        for _ in range(3**number):
            font[chance.randrange(len(font))] = chance.randrange(256)
        yield f"font {number}", "/api/fonts", bytes(font)
    for number, data in enumerate((b"[]", b"{}", b'{"format": "mortiser-finishes"}', b"[" * 9_999)):
        yield f"finishes {number}", "/api/finishes/file", data
