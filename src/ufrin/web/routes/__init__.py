"""Routes: a module per page or station. Each reads the form, calls an action and renders."""

from typing import Annotated

from fastapi import Depends, Path, Request

from ufrin.actions import Database
from ufrin.web.pages import posted


def _database(request: Request) -> Database:
    database: Database = request.app.state.database
    return database


TheDatabase = Annotated[Database, Depends(_database)]
Posted = Annotated[dict[str, str], Depends(posted)]
Number = Annotated[int, Path(ge=1, le=2**63 - 1)]
