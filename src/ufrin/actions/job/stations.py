"""Jobs: started, opened, changed station by station, undone, renamed, put away."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from ufrin.actions.job import meshes
from ufrin.actions.job.meshes import MeshState
from ufrin.actions.job.open_job import OpenJob, opened_at, worked_out_row
from ufrin.core.inputs.stations import Inputs, Station
from ufrin.core.weighing.allowance import learn
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.store import jobs, moulds, pours, workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.jobs import Job
from ufrin.store.workshop_settings import Workshop


def start_job(database: Database, name: str) -> int:
    """Start a job."""
    with database.transaction() as connection:
        return jobs.start(connection, checked_name(name))


def start_mould(database: Database, name: str, casts: Mapping[str, object], *, at_s: float) -> int:
    """Enter a mould that was made before, or elsewhere, with what is known of its cavities."""
    with database.transaction() as connection:
        number = jobs.start(connection, checked_name(name), is_mould_only=True)
        _, version = jobs.lock_station(connection, number, "casts")
        _change(connection, number, "casts", version, casts)
        moulds.born(connection, number, at_s=at_s)
    return number


def checked_name(name: str) -> str:
    """Refuse a name that can't be one.

    Raises Refused when it is empty or too long.
    """
    plain = one_line(name)
    if not plain:
        raise Refused("name", Text("Give it a name, such as the master's: you will look for it later."))
    if len(plain) > 120:
        raise Refused(
            "name",
            Text(
                "That name has {length} characters; 120 is the most. Shorten it and keep the rest for the description.",
                length=len(plain),
            ),
        )
    return plain


def open_job(database: Database, job_id: int, station: Station = "master") -> OpenJob:
    """Open a job at one of its stations."""
    with database.reading() as connection:
        return opened_at(connection, job_id, station)


@dataclass(frozen=True, slots=True, kw_only=True)
class StationForm:
    """A job as it is kept, with what is needed to read a form: the defaults that were shown in it."""

    job: Job
    mesh: MeshState | None
    workshop: Workshop
    spare_pct: float
    style: str
    cast_defaults: Mapping[str, float] = field(default_factory=dict)


def station_form(database: Database, job_id: int, station: Station = "master") -> StationForm:
    """Read a job; it is worked out only where a default follows from the kind of mould."""
    with database.reading() as connection:
        job, settings = jobs.load(connection, job_id, station), workshop_settings.load(connection)
        mesh = meshes.state_of(connection, job.master) if station == "master" else None
        spare_pct = job.rubber.learnt_spare_pct
        if spare_pct is None:
            spare_pct = learn(pours.past_over_pct(connection), settings.confidence_pct).spare_pct
        opened = opened_at(connection, job_id, station) if station in {"box", "casts"} else None
        return StationForm(
            job=job,
            mesh=mesh,
            workshop=settings,
            spare_pct=spare_pct,
            style=opened.plan.style if opened else "",
            cast_defaults=opened.cast_defaults if opened else {},
        )


def change_station(
    database: Database,
    job_id: int,
    station: Station,
    *,
    version: int,
    changes: Mapping[str, object],
    own_step: bool = False,
) -> OpenJob:
    """Save what was changed at a station; edits within seconds are undone together, unless it is a step of its own.

    Raises Stale when someone saved meanwhile and the two differ.
    """
    with database.transaction() as connection:
        _change(connection, job_id, station, version, changes, own_step=own_step)
        return _opened_and_advised(connection, job_id, station)


def _opened_and_advised(connection: Connection, job_id: int, station: Station) -> OpenJob:
    # the first advice is noted, so that the page can say what it was when it changes
    opened, _ = worked_out_row(connection, job_id, station)
    if opened.plan.kind and opened.job.advised_style is None:
        style = opened.plan.kind.advice[0].style
        jobs.note_advice(connection, job_id, style)
        return replace(opened, job=replace(opened.job, advised_style=style))
    return opened


def say_casting(database: Database, job_id: int, *, cast_material: str | None, shots_wanted: float | None) -> None:
    """Keep what will be cast in a job's mould, and how often; each figure stays at the station that it belongs to."""
    with database.transaction() as connection:
        wanted: tuple[tuple[Station, dict[str, object]], ...] = (
            ("checks", {"cast_material": cast_material}),
            ("rubber", {"shots_wanted": shots_wanted}),
        )
        for station, changes in wanted:
            _, version = jobs.lock_station(connection, job_id, station)
            _change(connection, job_id, station, version, changes)
        _opened_and_advised(connection, job_id, "master")


def settle_advice(database: Database, job_id: int, *, version: int, keep: bool) -> None:
    """Agree to the kind of mould that is advised now, or keep the one that was advised before."""
    with database.transaction() as connection:
        opened = opened_at(connection, job_id, "opening")
        before, kind = opened.advice_was, opened.plan.kind
        if before is None or kind is None:
            return
        if keep:
            _change(connection, job_id, "opening", version, {"style": before})
        jobs.note_advice(connection, job_id, kind.style)


def fill_in(database: Database, job_id: int, stations: Mapping[Station, Mapping[str, object]]) -> None:
    """Fill in stations of a job that nobody else works on; nothing is worked out."""
    with database.transaction() as connection:
        for station, inputs in stations.items():
            _, version = jobs.lock_station(connection, job_id, station)
            _change(connection, job_id, station, version, inputs)


def _change(
    connection: Connection,
    job_id: int,
    station: Station,
    version: int,
    changes: Mapping[str, object],
    *,
    own_step: bool = False,
) -> None:
    before, kept_version = jobs.lock_station(connection, job_id, station)
    differing = {name: value for name, value in changes.items() if getattr(before, name) != value}
    if differing and version != kept_version:
        raise Stale({name: getattr(before, name) for name in differing}, differing, kept_version)
    if differing:
        if station == "rubber" and differing.get("rubber_id"):
            differing = {**differing, **_learnt_now(connection)}
        after: Inputs = replace(before, **differing)  # type: ignore[arg-type]
        jobs.save_station(connection, job_id, station, after, before=before, version=kept_version, own_step=own_step)


def _learnt_now(connection: Connection) -> dict[str, object]:
    settings = workshop_settings.load(connection)
    learnt = learn(pours.past_over_pct(connection), settings.confidence_pct)
    return {"learnt_spare_pct": learnt.spare_pct, "learnt_spare_on": settings.today.isoformat()}


def take_newer_spare(database: Database, job_id: int, *, version: int) -> None:
    """Settle the spare anew by what past pours teach now."""
    with database.transaction() as connection:
        _change(connection, job_id, "rubber", version, {**_learnt_now(connection), "spare_pct": None})


def give_mesh(database: Database, job_id: int, name: str, data: bytes) -> None:
    """Give a job a mesh, in place of the one it has; its rotation is reset."""
    with database.reading() as connection:
        jobs.load(connection, job_id)
    mesh = meshes.take_in(database, name, data)
    with database.transaction() as connection:
        _, version = jobs.lock_station(connection, job_id, "master")
        fresh = {"mesh": mesh, "mesh_unit": None, "up": None, "spin_deg": None, "shrink_pct": None, "standin": None}
        _change(connection, job_id, "master", version, fresh)
        _opened_and_advised(connection, job_id, "master")


def use_way(
    database: Database,
    job_id: int,
    *,
    versions: Mapping[Station, int],
    master: Mapping[str, object],
    box: Mapping[str, object],
) -> None:
    """Take one way to box a master: its attitude and its box, in one step."""
    with database.transaction() as connection:
        _change(connection, job_id, "master", versions["master"], master)
        _change(connection, job_id, "box", versions["box"], box)
        _opened_and_advised(connection, job_id, "box")


def undo(database: Database, job_id: int, station: Station, *, version: int) -> OpenJob:
    """Bring back what a station held before its last change.

    Raises Stale when someone saved since the page was opened: their change is not the one that is to be undone.
    """
    with database.transaction() as connection:
        held, kept_version = jobs.lock_station(connection, job_id, station)
        if version != kept_version:
            raise Stale({}, {}, kept_version)
        earlier = jobs.take_earlier(connection, job_id, station)
        if earlier is not None:
            jobs.keep_undone(connection, job_id, station, held, kept_version)
            jobs.save_station(connection, job_id, station, earlier, before=None, version=kept_version)
        return worked_out_row(connection, job_id, station)[0]


def redo(database: Database, job_id: int, station: Station, *, version: int) -> OpenJob:
    """Bring back what a station held before its last undo.

    Raises Stale when someone saved since the page was opened.
    """
    with database.transaction() as connection:
        held, kept_version = jobs.lock_station(connection, job_id, station)
        if version != kept_version:
            raise Stale({}, {}, kept_version)
        later = jobs.take_undone(connection, job_id, station)
        if later is not None:
            jobs.save_station(
                connection, job_id, station, later, before=held, version=kept_version, own_step=True, is_redone=True
            )
        return worked_out_row(connection, job_id, station)[0]


def rename_job(database: Database, job_id: int, name: str) -> None:
    """Give a job another name."""
    with database.transaction() as connection:
        jobs.rename(connection, job_id, checked_name(name))


def put_job_away(database: Database, job_id: int, *, away: bool) -> None:
    """Take a job off the Board, or bring it back."""
    with database.transaction() as connection:
        jobs.put_away(connection, job_id, away=away)
