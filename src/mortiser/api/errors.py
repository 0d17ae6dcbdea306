"""Errors over the wire: every one is a Problem with a sentence a person can act on."""

from __future__ import annotations

import logging
import sqlite3

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect

from mortiser.core.common import errors

TOO_LARGE = "The request is larger than any that can be used here. Send it in parts."
log = logging.getLogger(__name__)
STATUS: list[tuple[type[errors.MortiserError], int]] = [
    (errors.BadMedia, 422),
    (errors.BadInput, 400),
    (errors.TooLarge, 413),
    (errors.NotFound, 404),
    (errors.Stale, 409),
    (errors.Conflict, 409),
    (errors.Busy, 503),
    (errors.OutOfReach, 502),
    (errors.NoSpace, 507),
    (errors.Damaged, 500),
]


def add_handlers(app: FastAPI) -> None:
    """Turn every error into a Problem."""

    @app.exception_handler(errors.MortiserError)
    async def _ours(_: Request, error: errors.MortiserError) -> JSONResponse:
        status = next((code for kind, code in STATUS if isinstance(error, kind)), 500)
        return problem(status, error.code, str(error))

    @app.exception_handler(OSError)
    @app.exception_handler(sqlite3.Error)
    async def _system(request: Request, error: Exception) -> JSONResponse:
        said = request.app.state.context.database.explained(error)
        return await (_ours(request, said) if said else _unforeseen(request, error))

    @app.exception_handler(ClientDisconnect)
    async def _broken_off(_: Request, error: ClientDisconnect) -> JSONResponse:
        # Nobody reads the answer any more.
        return problem(400, "broken_off", "The request broke off. Nothing was kept; send it again.")

    @app.exception_handler(RequestValidationError)
    async def _shape(_: Request, error: RequestValidationError) -> JSONResponse:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"][1:])
        return problem(400, "bad_input", f"{where or 'The request'}: {first['msg']}.")

    @app.exception_handler(HTTPException)
    async def _http(_: Request, error: HTTPException) -> JSONResponse:
        said = TOO_LARGE if error.status_code == 413 else str(error.detail)
        return problem(error.status_code, "http", said)

    @app.exception_handler(Exception)
    async def _unforeseen(_: Request, error: Exception) -> JSONResponse:
        log.error("unforeseen", exc_info=error)
        return problem(500, "error", errors.UNFORESEEN)


def problem(status: int, code: str, message: str) -> JSONResponse:
    """An error answer."""
    # Names out of a request are told back as they came, whole letters or not.
    whole = message.encode("utf-8", "replace").decode()
    return JSONResponse({"code": code, "message": whole}, status_code=status)
