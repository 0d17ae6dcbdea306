"""What the workspace has that can be seen over a talk, as a library lists it."""

from __future__ import annotations

from mortiser.core.library.found import Credit, Found
from mortiser.core.project.source import Source
from mortiser.jobs.workspace import Workspace
from mortiser.library.own import OwnThing
from mortiser.store import pictures, projects
from mortiser.store.database import Database


def own_things(database: Database, workspace: Workspace) -> list[OwnThing]:
    """Pictures that were brought in, and recordings with a picture, of all projects."""
    with database.snapshot() as db:
        drawn, recorded = pictures.credited(db), projects.all_films(db)
    kept = [
        OwnThing(
            _found(
                Found(
                    ref=one.digest, name=one.name or "A picture", kind="picture",
                    width=one.width, height=one.height,
                ),
                credit,
            ),
            workspace.pictures / f"{one.digest}.png",
        )
        for one, credit in drawn
    ]  # fmt: skip
    return kept + [OwnThing(_of(one), workspace.path(one.path)) for one in recorded]


def own_ref(source: Source) -> str:
    """What the workspace's library calls a recording by."""
    return f"film-{source.id}"


def _of(source: Source) -> Found:
    found = Found(
        ref=own_ref(source),
        name=source.name[:120],
        kind="film",
        length_us=source.duration_us,
        width=source.width,
        height=source.height,
        size_bytes=source.size_bytes,
    )
    return _found(found, source.credit)


def _found(found: Found, credit: Credit | None) -> Found:
    if credit is None:
        return found
    return found.model_copy(
        update={"maker": credit.maker, "licence": credit.licence, "tags": credit.tags}
    )
