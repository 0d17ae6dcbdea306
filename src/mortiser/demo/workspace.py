"""A workspace with the sample recordings, transcribed for real."""

from __future__ import annotations

import shutil
from importlib.resources import as_file, files

from mortiser.core.pace import PaceName
from mortiser.jobs.bringing_in import bring_in
from mortiser.settings import Settings
from mortiser.store import projects
from mortiser.wiring import open_shop

CLIPS: tuple[tuple[str, str, str, PaceName], ...] = (
    ("lyric.m4a", "Lantern Lane lyric.m4a", "Pine", "quick"),
    ("counter.m4a", "At the counter.m4a", "Pine", "sentence"),
    ("kettle.mp4", "The cold kettle.mp4", "Lacquer", "quick"),
)


def make_demo(settings: Settings) -> None:
    """Bring the clips in and transcribe them, unless the workspace has projects already."""
    shop = open_shop(settings)
    if projects.list_projects(shop.database):
        return
    for clip, name, finish, pace in CLIPS:
        print(f"Listening to “{name}” …", flush=True)
        with as_file(files("mortiser.demo") / "media" / clip) as media:
            copy = shop.workspace.new_upload()
            shutil.copyfile(media, copy)
        made = bring_in(shop.database, shop.workspace, copy, name, finish=finish, pace=pace)
        for job in made.jobs:
            # What follows (the second listening) stays queued for the worker of the server.
            shop.run(job)
