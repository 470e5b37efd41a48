"""Jobs as they are kept: their names, and the inputs of their stations with versions and what they held before."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields
from datetime import datetime
from typing import Any, cast

from psycopg.types.json import Jsonb
from pydantic import TypeAdapter, ValidationError

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.casts import CastInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.inputs.stations import INPUTS, STATIONS, Inputs, Station, is_filled_in
from ufrin.errors import Missing, Refused
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("jobs")
_READERS: Mapping[Station, TypeAdapter[Inputs]] = {station: TypeAdapter(kind) for station, kind in INPUTS.items()}
# raised by each migration that gives the inputs of a station another shape, and brings those that are kept into it
SHAPE = 8
ONE_STEP_S = 3.0
STEPS_KEPT = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class Job:
    """A job as it is kept. ``versions`` has the version of each station.

    ``is_mould_only`` is whether its mould was made before, so that only its casts are planned here; ``advised_style``
    is the kind of mould that was advised when somebody last agreed to it; ``can_undo`` and ``can_redo`` are about the
    station it was opened for.
    """

    id: int
    name: str
    created_at: datetime
    put_away_at: datetime | None
    advised_style: str | None
    inputs: Mapping[Station, Inputs]
    versions: Mapping[Station, int]
    can_undo: bool
    can_redo: bool
    wanted_at: datetime | None = None
    is_mould_only: bool = False

    @property
    def master(self) -> MasterInputs:
        """The Master station's inputs."""
        return cast(MasterInputs, self.inputs["master"])

    @property
    def opening(self) -> OpeningInputs:
        """The Opening station's inputs."""
        return cast(OpeningInputs, self.inputs["opening"])

    @property
    def box(self) -> BoxInputs:
        """The Box station's inputs."""
        return cast(BoxInputs, self.inputs["box"])

    @property
    def rubber(self) -> RubberInputs:
        """The Rubber station's inputs."""
        return cast(RubberInputs, self.inputs["rubber"])

    @property
    def checks(self) -> CheckInputs:
        """The Checks station's inputs."""
        return cast(CheckInputs, self.inputs["checks"])

    @property
    def casts(self) -> CastInputs:
        """The Casts station's inputs."""
        return cast(CastInputs, self.inputs["casts"])


def _job(row: Mapping[str, Any]) -> Job:
    stations = row["stations"]
    return Job(
        id=row["id"],
        name=row["name"],
        created_at=row["created_at"],
        put_away_at=row["put_away_at"],
        advised_style=row["advised_style"],
        inputs={
            station: _inputs(station, stations[station]["inputs"], stations[station]["shape"]) for station in STATIONS
        },
        versions={station: stations[station]["version"] for station in STATIONS},
        can_undo=row["can_undo"],
        can_redo=row["can_redo"],
        wanted_at=row["wanted_at"],
        is_mould_only=row["is_mould_only"],
    )


def _inputs(station: Station, plain: Mapping[str, Any], shape: int) -> Inputs:
    # a key that is not known is never dropped: what a maker filled in would be gone at the next save
    unknown = set(plain) - {one.name for one in fields(INPUTS[station])}
    if shape != SHAPE or unknown:
        raise Refused(
            "",
            Text(
                "The {station} station of this job was written by another version of Ufrin (shape "
                "{shape}, and this one reads {shape2}{unknown}). Run the version that wrote it, or "
                "bring the schema up to date with ./run schema.",
                station=station.capitalize(),
                shape=shape,
                shape2=SHAPE,
                unknown=": " + ", ".join(sorted(unknown)) if unknown else "",
            ),
        )
    try:
        return _READERS[station].validate_python(plain)
    except ValidationError as error:
        raise Refused(
            "",
            Text("The {station} station of this job can't be read: {error}", station=station.capitalize(), error=error),
        ) from error


def start(connection: Connection, name: str, *, is_mould_only: bool = False) -> int:
    """Keep a new job with empty stations."""
    values = {"name": name, "stations": list(STATIONS), "is_mould_only": is_mould_only}
    row = connection.execute(_SQL["start"], values).fetchone()
    return int(row["id"]) if row else 0


def load(connection: Connection, job_id: int, station: Station = "master") -> Job:
    """Read one job.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["open"], {"job_id": job_id, "station": station}).fetchone()
    if row is None:
        raise Missing(Text("this job"))
    return _job(row)


def some(connection: Connection, numbers: list[int]) -> list[Job]:
    """Read some jobs."""
    return [_job(row) for row in connection.execute(_SQL["some"], {"ids": numbers}).fetchall()] if numbers else []


def names(connection: Connection, *, besides: int) -> list[tuple[int, str]]:
    """Name the jobs whose masters could share a box."""
    return [(row["id"], row["name"]) for row in connection.execute(_SQL["names"], {"besides": besides}).fetchall()]


def rename(connection: Connection, job_id: int, name: str) -> None:
    """Give a job another name.

    Raises Missing when there is no such job.
    """
    if connection.execute(_SQL["rename"], {"job_id": job_id, "name": name}).fetchone() is None:
        raise Missing(Text("this job"))


def want(connection: Connection, job_id: int, wanted_at: datetime | None) -> None:
    """Keep when a job is wished to be ready.

    Raises Missing when there is no such job.
    """
    if connection.execute(_SQL["want"], {"job_id": job_id, "wanted_at": wanted_at}).fetchone() is None:
        raise Missing(Text("this job"))


def note_advice(connection: Connection, job_id: int, style: str) -> None:
    """Keep the kind of mould that is advised now."""
    connection.execute(_SQL["note_advice"], {"job_id": job_id, "style": style})


def put_away(connection: Connection, job_id: int, *, away: bool) -> None:
    """Take a job off the Board, or bring it back.

    Raises Missing when there is no such job.
    """
    if connection.execute(_SQL["put_away"], {"job_id": job_id, "away": away}).fetchone() is None:
        raise Missing(Text("this job"))


def lock_station(connection: Connection, job_id: int, station: Station) -> tuple[Inputs, int]:
    """Read a station and lock it against other saves until the transaction ends.

    Raises Missing when there is no such job.
    """
    row = connection.execute(_SQL["lock_station"], {"job_id": job_id, "station": station}).fetchone()
    if row is None:
        raise Missing(Text("this job"))
    return _inputs(station, row["inputs"], row["shape"]), row["version"]


def save_station(
    connection: Connection,
    job_id: int,
    station: Station,
    inputs: Inputs,
    *,
    before: Inputs | None,
    version: int,
    own_step: bool = False,
    is_redone: bool = False,
) -> None:
    """Keep new inputs of a station, and what it held before: a step of its own for undo, or one with the last edits.

    What was undone before can't be redone any more, unless this is one that is redone.
    """
    one_step_s = 0.0 if own_step else ONE_STEP_S
    values = {"job_id": job_id, "station": station, "version": version, "one_step_s": one_step_s, "keep": STEPS_KEPT}
    if before is not None:
        connection.execute(_SQL["keep_earlier"], {**values, "inputs": _json(before)})
        connection.execute(_SQL["forget_oldest"], values)
        if not is_redone:
            connection.execute(_SQL["forget_undone"], values)
    connection.execute(_SQL["save_station"], {**values, "inputs": _json(inputs)})


def take_earlier(connection: Connection, job_id: int, station: Station) -> Inputs | None:
    """Take the newest entry off a station's undo stack.

    Returns what it held before; None when nothing is left to undo.
    """
    row = connection.execute(_SQL["take_earlier"], {"job_id": job_id, "station": station}).fetchone()
    return _inputs(station, row["inputs"], row["shape"]) if row else None


def keep_undone(connection: Connection, job_id: int, station: Station, inputs: Inputs, version: int) -> None:
    """Put what a station holds on its stack for redo, before it is undone."""
    values = {"job_id": job_id, "station": station, "version": version, "inputs": _json(inputs)}
    connection.execute(_SQL["keep_undone"], values)


def take_undone(connection: Connection, job_id: int, station: Station) -> Inputs | None:
    """Take the newest entry off a station's stack for redo.

    Returns what it held before it was undone; None when nothing is left to redo.
    """
    row = connection.execute(_SQL["take_undone"], {"job_id": job_id, "station": station}).fetchone()
    return _inputs(station, row["inputs"], row["shape"]) if row else None


@dataclass(frozen=True, slots=True, kw_only=True)
class EarlierInputs:
    """What a station held before a change; when that was made, and by whom, empty where nobody signs in."""

    inputs: Inputs
    changed_at: datetime
    doer: str


def history(connection: Connection, job_id: int, station: Station) -> list[EarlierInputs]:
    """Read what a station held before each change that can be undone, the oldest first."""
    return [
        EarlierInputs(inputs=_inputs(station, row["inputs"], row["shape"]), changed_at=row["kept_at"], doer=row["doer"])
        for row in connection.execute(_SQL["history"], {"job_id": job_id, "station": station}).fetchall()
    ]


def _json(inputs: Inputs) -> Jsonb:
    # an input that was not filled in is not written, so that a later default applies to it
    return Jsonb({key: value for key, value in asdict(inputs).items() if is_filled_in(value)})
