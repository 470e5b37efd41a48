"""Routes: a module per page or station. Each reads the form, calls an action and renders."""

from typing import Annotated

from fastapi import Depends, Path, Request

from ufrin.actions import Database
from ufrin.devices.scales import Scales
from ufrin.web.frame.bench_events import BenchEvents
from ufrin.web.frame.pages import posted


# asynchronous though they await nothing: the framework would otherwise look each of them up in a thread of its own
async def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


async def _scales(request: Request) -> Scales:
    scales: Scales = request.app.state.scales
    return scales


async def _events(request: Request) -> BenchEvents:
    events: BenchEvents = request.app.state.events
    return events


TheDatabase = Annotated[Database, Depends(_database)]
TheScales = Annotated[Scales, Depends(_scales)]
TheBenchEvents = Annotated[BenchEvents, Depends(_events)]
Posted = Annotated[dict[str, str], Depends(posted)]
Number = Annotated[int, Path(ge=1, le=2**63 - 1)]
