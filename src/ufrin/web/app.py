"""The application: routes, guard and error handling put together."""

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager

from anyio import to_thread
from fastapi import Depends, FastAPI
from fastapi.exceptions import RequestValidationError
from starlette.exceptions import HTTPException
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware

from ufrin import __version__
from ufrin.actions import Database
from ufrin.actions.people.signing_in import SessionLimits
from ufrin.bounded.child import stop_all, take_work
from ufrin.certificates import shop_certificate
from ufrin.devices.scales import Scales
from ufrin.errors import UfrinError
from ufrin.network import names_served, shown_address
from ufrin.settings import Settings
from ufrin.web.contexts.interface import ERRORS
from ufrin.web.frame import access, errors
from ufrin.web.frame.bench_events import BenchEvents
from ufrin.web.frame.mesh_line import mesh_line
from ufrin.web.frame.pages import static_folder
from ufrin.web.frame.reading_language import ReadingLanguage
from ufrin.web.frame.request_guard import Guard
from ufrin.web.frame.room_watch import RoomWatch
from ufrin.web.frame.shipped_files import ShippedFiles
from ufrin.web.frame.sign_in import SignIn
from ufrin.web.frame.workshop_clock import WorkshopClock
from ufrin.web.routes.bench import after_pour, allowance_and_lots, bench, pour, practice, sequence
from ufrin.web.routes.interface import api_docs, box, cast, cure, degassing, jobs, mesh, mix, pairing, schedule
from ufrin.web.routes.interface import hardness as interface_hardness
from ufrin.web.routes.interface import moulds as interface_moulds
from ufrin.web.routes.interface import opening as interface_opening
from ufrin.web.routes.paper import exports, job_sheet, mould_card
from ufrin.web.routes.people import accounts, devices, language, sign_in
from ufrin.web.routes.shelf import csv_files, safety_sheets, things
from ufrin.web.routes.shop import (
    board,
    day_plan,
    example,
    faults,
    glossary,
    health,
    moulds,
    orders,
    pairings,
    parcels,
    plan_calendar,
    quick_sums,
    safekeeping,
    search,
    shop_people,
    workshop_settings,
)
from ufrin.web.routes.station import (
    box_comparison,
    cast_work,
    coupons,
    cut_off,
    hardness,
    mesh_upload,
    opening,
    remedies,
    shot_log,
    station,
)

# what is smaller goes out in one packet anyway
LEAST_COMPRESSED_BYTES = 1000


def create_app(database: Database, settings: Settings) -> FastAPI:
    """Make the application.

    Parameters
    ----------
    database : Database
        The database; opened when the application starts, closed when it stops.
    settings : Settings
        Limits and allowed hosts.

    Returns
    -------
    FastAPI
        Ready to serve.
    """

    @asynccontextmanager
    async def lifespan(_: FastAPI) -> AsyncIterator[None]:
        # more threads than connections would only wait for each other: requests wait in a line, first come first served
        to_thread.current_default_thread_limiter().total_tokens = settings.pool_size
        app.state.mesh_line = mesh_line()
        database.open()
        take_work()
        listener = database.listener("pour_entries", app.state.events.hear)
        listener.start()
        watch = RoomWatch(database)
        watch.start()
        yield
        await to_thread.run_sync(watch.stop)
        await to_thread.run_sync(listener.stop)
        release_devices(app)
        database.close()

    app = FastAPI(
        title="Ufrin",
        version=__version__,
        description="Plans, weighs, times and records mould making.",
        lifespan=lifespan,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        dependencies=[Depends(access.check)],
    )
    app.state.hosts = names_served(settings)
    app.state.address = shown_address(settings) if settings.sign_in else ""
    app.state.own_certificate = shop_certificate(settings)
    app.state.database, app.state.settings = database, settings
    app.state.scales, app.state.events = Scales(), BenchEvents()
    app.state.workshop_clock = WorkshopClock(database)
    app.mount("/static", ShippedFiles(directory=static_folder()), name="static")
    for routes in (  # fixed paths before those with a number in their place
        board,
        sign_in,
        language,
        accounts,
        devices,
        shop_people,
        plan_calendar,
        quick_sums,
        day_plan,
        example,
        orders,
        parcels,
        mould_card,
        moulds,
        job_sheet,
        box_comparison,
        cast_work,
        cut_off,
        mesh_upload,
        exports,
        hardness,
        pour,
        bench,
        practice,
        after_pour,
        sequence,
        opening,
        remedies,
        faults,
        shot_log,
        station,
        csv_files,
        allowance_and_lots,
        coupons,
        safety_sheets,
        things,
        workshop_settings,
        safekeeping,
        health,
        api_docs,
        pairings,
        glossary,
        quick_sums,
        search,
    ):
        app.include_router(routes.router)
    for calls in (
        *(mix, box, interface_hardness, mesh, interface_opening, pairing, degassing, cure, cast),
        *(interface_moulds, schedule, jobs),
    ):
        app.include_router(calls.router, responses=ERRORS)
    app.add_exception_handler(UfrinError, errors.ufrin_error)
    app.add_exception_handler(HTTPException, errors.http_error)
    app.add_exception_handler(RequestValidationError, errors.invalid)
    limits = SessionLimits(idle_h=settings.session_idle_h, longest_h=settings.session_longest_h)
    app.add_middleware(SignIn, database=database, limits=limits, is_required=settings.sign_in)
    app.add_middleware(GZipMiddleware, minimum_size=LEAST_COMPRESSED_BYTES, compresslevel=9)
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=list(app.state.hosts))
    app.add_middleware(Guard, body_limit_bytes=settings.body_limit_bytes, mesh_limit_bytes=settings.mesh_limit_bytes)
    app.add_middleware(ReadingLanguage)
    return app


def release_devices(app: FastAPI) -> None:
    """Release the scales, and end the work on files and the event streams of open pages.

    A server that stops would wait for those.

    Parameters
    ----------
    app : FastAPI
        The one that stops.
    """
    stop_all()
    app.state.events.close()
    app.state.scales.close()
