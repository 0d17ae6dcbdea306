"""The application: routes, errors and the built pages over one workspace."""

from __future__ import annotations

import asyncio
import logging
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse, JSONResponse
from fastapi.routing import APIRoute
from fastapi.staticfiles import StaticFiles

from mortiser import __version__
from mortiser.api import (
    assembly_routes,
    cut_list_routes,
    delivery_routes,
    dress_routes,
    edit_routes,
    errors,
    event_routes,
    framing_routes,
    glossary_routes,
    guide_routes,
    importing_routes,
    jig_routes,
    job_routes,
    legibility_routes,
    library_routes,
    media_routes,
    pace_routes,
    pairing,
    picture_routes,
    piece_routes,
    playing_routes,
    post_routes,
    project_routes,
    said_routes,
    trim_routes,
    word_routes,
)
from mortiser.api.guard import LOCAL, Guard
from mortiser.api.pairing import Pairing
from mortiser.api.routing import prepare_routes
from mortiser.api.schemas import Problem
from mortiser.core.common.errors import NotFound
from mortiser.jobs.cleaning import clean
from mortiser.jobs.worker import Supervisor
from mortiser.settings import is_local, own_names
from mortiser.wiring import AppContext

log = logging.getLogger(__name__)


def create_app(context: AppContext, *, with_worker: bool = True) -> FastAPI:
    """The server's application; with a worker process beside it unless told not to."""

    @asynccontextmanager
    async def life(_: FastAPI) -> AsyncIterator[None]:
        clean(context.database, context.workspace)
        prepare_routes(app)
        supervisor = Supervisor(context.workspace.root) if with_worker else None
        if supervisor:
            supervisor.start()
        taken_up = asyncio.create_task(run_in_threadpool(_take_up, context))
        yield
        await taken_up
        if supervisor:
            supervisor.stop()

    app = FastAPI(
        title="Mortiser",
        version=__version__,
        lifespan=life,
        generate_unique_id_function=_operation_id,
        responses={"4XX": {"model": Problem}},
        # Pages of documentation would load scripts from elsewhere, and describing all routes takes
        # a second; web/openapi.json is the description.
        openapi_url=None,
    )
    app.state.context = context
    beyond = not is_local(context.settings.host)
    phrase = context.settings.pass_phrase
    app.state.pairing = (
        Pairing(
            context.workspace.root / "pairing.json", phrase.get_secret_value() if phrase else None
        )
        if beyond
        else None
    )
    names = (*LOCAL, *own_names(context.settings)) if beyond else (*LOCAL, context.settings.host)
    app.add_middleware(Guard, names=names, pairing=app.state.pairing)
    errors.add_handlers(app)
    app.include_router(pairing.page_routes)
    for routes in (
        assembly_routes,
        cut_list_routes,
        project_routes,
        edit_routes,
        importing_routes,
        event_routes,
        media_routes,
        piece_routes,
        word_routes,
        delivery_routes,
        job_routes,
        playing_routes,
        post_routes,
        trim_routes,
        framing_routes,
        said_routes,
        pace_routes,
        dress_routes,
        legibility_routes,
        library_routes,
        glossary_routes,
        guide_routes,
        jig_routes,
        picture_routes,
        pairing,
    ):
        app.include_router(routes.router)
    _serve_pages(app, pages_folder(context))
    return app


def pages_folder(context: AppContext) -> Path:
    """Where the built pages are: beside the sources, or in the installed package."""
    package = Path(__file__).resolve().parents[1]
    built = package.parents[1] / "web" / "dist"
    inside = package / "pages"
    return context.settings.web or (inside if inside.exists() and not built.exists() else built)


def _serve_pages(app: FastAPI, pages: Path) -> None:
    if not (pages / "index.html").exists():

        @app.get("/", include_in_schema=False)
        def missing() -> JSONResponse:
            return errors.problem(
                503, "not_built", f"The pages are not built: {pages} is empty. Run make build."
            )

        return
    app.mount("/assets", StaticFiles(directory=pages / "assets"))

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        """Every address that is no file is the one page, which reads the address itself."""
        if path.startswith("api/"):
            raise NotFound("There is no such address.")
        file = (pages / path).resolve()
        inside = file.is_relative_to(pages.resolve()) and file.is_file()
        return FileResponse(file if inside else pages / "index.html")


def _operation_id(route: APIRoute) -> str:
    return route.name


def _take_up(context: AppContext) -> None:
    """Nothing of this keeps a server from starting."""
    try:
        context.take_up()
    except Exception:
        log.exception("what an earlier server left behind was not taken up")
