"""What a maker does at the Opening station.

They search pulls and take one, tip the master, place gates, vents and keys, and hold the mould.
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ufrin.actions.job import long_work, meshes, stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.job.opening_station import Opening
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.master.turned_profiles import direction_vector, parse_direction
from ufrin.core.opening.point_lists import points_text, tipped
from ufrin.core.opening.pull_ranking import Ranking, direction_text, rankings
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store.connection import Database
from ufrin.store.meshes import Work

MOST_HOLES = 40
KINDS = ("gate", "vent", "key")


@dataclass(frozen=True, slots=True, kw_only=True)
class PullSearch:
    """The pull directions of a job's master, so far.

    ``work`` is the progress of the ranking, None where there is nothing to wait for.
    """

    opened: OpenJob
    ranking: Ranking | None
    work: Work | None


def pulls(database: Database, job_id: int) -> PullSearch:
    """Rank the pull directions of a job's master: a mesh's by a worker, a stand-in's at once."""
    opened = stations.open_job(database, job_id, "opening")
    form = opened.plan.master.form
    if form is None:
        return PullSearch(opened=opened, ranking=None, work=None)
    if form.is_standin:
        return PullSearch(opened=opened, ranking=_of_standin(form), work=None)
    if opened.mesh is None:
        return PullSearch(opened=opened, ranking=None, work=None)
    long_work.ask_for(database, opened.mesh.kept.hash, "directions")
    with database.reading() as connection:
        known = meshes.directions_of(connection, opened.job.master, opened.mesh)
        state = meshes.state_of(connection, opened.job.master)
    work = state.kept.work.get("directions") if state else None
    return PullSearch(opened=opened, ranking=known, work=work if work and work.state != "done" else None)


@kept_by_form(16)
def _of_standin(form: Form) -> Ranking:
    # a stand-in is simple: the first ranking takes a moment and is complete; directions are those of its description
    found = next(rankings(form.mesh))
    turned = [replace(one, pull=_own(form, one.pull)) for one in found.scored]
    own = [
        replace(pull, scored=replace(pull.scored, pull=_own(form, pull.scored.pull)), outward=pull.outward @ form.turn)
        for pull in found.pulls
    ]
    return Ranking(scored=tuple(turned), pulls=tuple(own), is_whole=True)


def _own(form: Form, pull: Sequence[float]) -> tuple[float, float, float]:
    x, y, z = np.array(pull) @ form.turn
    return (float(x), float(y), float(z))


def take_pull(database: Database, job_id: int, *, version: int, pull: str) -> None:
    """Lay the master so that it is pulled straight up."""
    stations.change_station(
        database, job_id, "master", version=version, changes={"up": parse_direction(pull), "spin_deg": None}
    )


def tip(database: Database, job_id: int, *, version: int, towards: str, degrees: float) -> None:
    """Tip the master a little.

    Raises Refused for an unknown side.
    """
    if towards not in {"front", "back", "left", "right"} or not 0 < degrees <= 90:
        raise Refused("up", Text("A master is tipped to the front, back, left or right, by up to 90 degrees."))
    way = tipped(direction_vector(stations.station_form(database, job_id).job.master.up), towards, degrees)
    stations.change_station(database, job_id, "master", version=version, changes={"up": direction_text(way)})


def hold(database: Database, job_id: int, *, version: int, up: str | None) -> None:
    """Hold the mould another way while it is cast in."""
    kept = parse_direction(up) if up else None
    stations.change_station(
        database, job_id, "opening", version=version, changes={"cast_up": kept, "gates": None, "vents": None}
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Placement:
    """A change to a gate, a vent or a key.

    Parameters
    ----------
    kind : "gate", "vent" or "key"
        The kind.
    number : int
        Which of them, from 1; 0 is a new one.
    act : "move", "take" or "auto"
        Place it there, remove it, or let all of that kind be proposed again.
    across_mm, up_mm, deep_mm : float or None
        The place: of a gate or vent as the mould is held, x to the right, z upwards, y to the back; of a key across
        and deep. None keeps it.
    """

    kind: str
    number: int
    act: str
    across_mm: float | None = None
    up_mm: float | None = None
    deep_mm: float | None = None

    def __post_init__(self) -> None:
        if self.kind not in KINDS or self.act not in {"move", "take", "auto"} or not 0 <= self.number <= MOST_HOLES:
            raise Refused("", Text("That is not something that can be placed. Open the page again."))
        for value in (self.across_mm, self.up_mm, self.deep_mm):
            if value is not None and not -10_000 <= value <= 10_000:
                raise Refused(
                    "", Text("That place is beyond any mould. Type a distance from the middle, such as 12 mm.")
                )


def place(database: Database, job_id: int, *, version: int, placing: Placement) -> None:
    """Place a gate, a vent or a key by hand; it is moved to the nearest surface of the cavity and checked again.

    Raises Refused where there is no mould to place it in.
    """
    opened = stations.open_job(database, job_id, "opening")
    opening, form = opened.plan.opening, opened.plan.master.form
    if (
        opening is None
        or form is None
        or (placing.kind == "key" and opening.parting_surface is None)
        or (placing.kind != "key" and opening.cavity is None)
    ):
        raise Refused(
            "",
            Text(
                "There is nothing to place it in yet: the master needs a mesh or a stand-in, and a "
                "key a mould in two parts."
            ),
        )
    field = {"gate": "gates", "vent": "vents", "key": "keys"}[placing.kind]
    if placing.act == "auto":
        kept: str | None = None
    elif placing.kind == "key":
        points = [(key.x_mm, key.y_mm) for key in opening.keys]
        changed = _changed(
            points, placing, lambda was: (_or(placing.across_mm, was[0]), _or(placing.deep_mm, was[1])), (0.0, 0.0)
        )
        kept = points_text(changed) if changed else None
    else:
        kept = points_text(_holes(opening, form, placing))
    stations.change_station(database, job_id, "opening", version=version, changes={field: kept})


def _or(typed: float | None, was: float) -> float:
    return was if typed is None else typed


Coordinates = tuple[float, ...]


def _changed(
    points: Sequence[Coordinates], placing: Placement, moved: Callable[[Coordinates], Coordinates], fresh: Coordinates
) -> list[Coordinates]:
    found = list(points)
    if placing.number == 0:
        if placing.act == "take" or len(found) >= MOST_HOLES:
            raise Refused("", Text("There is no such one to take away, or there are too many already."))
        return [*found, moved(fresh)]
    if placing.number > len(found):
        raise Refused("", Text("It is not there any more. Open the page again."))
    if placing.act == "take":
        del found[placing.number - 1]
    else:
        found[placing.number - 1] = moved(found[placing.number - 1])
    return found


def _holes(opening: Opening, form: Form, placing: Placement) -> list[list[float]]:
    if opening.cast is None or opening.cavity is None:
        return []
    risers = opening.cast.gates if placing.kind == "gate" else opening.cast.vents
    top = opening.cavity.highest()[0]
    cavity = opening.cavity

    def moved(was: Coordinates) -> Coordinates:
        wanted_mm = (_or(placing.across_mm, was[0]), _or(placing.deep_mm, was[1]), _or(placing.up_mm, was[2]))
        x, y, z = cavity.surface_near(np.array(wanted_mm))
        return (float(x), float(y), float(z))

    points = _changed([riser.at_mm for riser in risers], placing, moved, (float(top[0]), float(top[1]), float(top[2])))
    own = form.to_own_mm(np.array(points).reshape(-1, 3) @ opening.cast_turn)
    return [[float(number) for number in point] for point in own]
