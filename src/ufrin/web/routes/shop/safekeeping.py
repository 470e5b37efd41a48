"""Safekeeping: backups with their age, how many are kept, and the room on the disk."""

from datetime import datetime, timedelta

from fastapi import APIRouter, Request
from starlette.responses import FileResponse, Response

from ufrin.actions import Database
from ufrin.actions.job import long_work
from ufrin.actions.safekeeping import backups
from ufrin.actions.safekeeping.disk_room import disk_room
from ufrin.errors import Refused
from ufrin.web.contexts.safekeeping_words import ago, size
from ufrin.web.frame.access import asks
from ufrin.web.frame.forms import whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/safekeeping")
@asks("run shop")
def show(request: Request, database: TheDatabase) -> Response:
    """Show the backups."""
    return _page(request, database, {}, {})


@router.post("/safekeeping")
@asks("run shop")
def wish(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Change how many are kept, and how old the newest may get."""
    typed = {key: form.get(key, "")[:12] for key in ("kept", "wish_days")}
    try:
        backups.wish(
            database,
            kept=whole_number(typed["kept"].strip(), most_digits=4),
            wish_days=whole_number(typed["wish_days"].strip(), most_digits=4),
        )
    except Refused as refused:
        return _page(request, database, {refused.field: str(refused)}, typed)
    return go_to(request, Links.safekeeping)


@router.post("/safekeeping/backup")
@asks("run shop")
def back_up(request: Request, database: TheDatabase) -> Response:
    """Ask a worker for a backup now."""
    backups.ask(database)
    return go_to(request, f"{Links.safekeeping}?asked=1")


@router.get("/safekeeping/{number}.zip")
@asks("run shop")
def download(request: Request, database: TheDatabase, number: Number) -> Response:
    """Give a backup, to be kept on another machine."""
    file = backups.file_of(database, number, request.app.state.settings.backups)
    return FileResponse(file, media_type="application/zip", filename=file.name)


def _page(request: Request, database: Database, errors: dict[str, str], typed: dict[str, str]) -> Response:
    overview, folder = backups.look(database), request.app.state.settings.backups
    kept = overview.standing
    context = {
        "overview": overview,
        "folder": folder,
        "age": ago(kept.now - kept.made_at) if kept.made_at else "",
        "size": size,
        "room": disk_room(folder, backup_bytes=kept.newest_bytes),
        "at_work": long_work.are_workers_at_work(database),
        "is_asked": "asked" in request.query_params and _is_awaited(kept.tried_at, kept.now),
        "errors": errors,
        "shown": {"kept": str(kept.backups_kept), "wish_days": str(kept.backup_wish_days)} | typed,
    }
    return render(request, "shop/safekeeping.html", context, status_code=422 if errors else 200)


def _is_awaited(tried_at: datetime | None, now: datetime) -> bool:
    return tried_at is None or now - tried_at > timedelta(seconds=20)
