"""The log of a job's mould: shots, what they teach of the next amount, cavities, and trials of two ways."""

import secrets
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ufrin.actions.casts.expected_life import keep_expected_life
from ufrin.actions.casts.places import cast_places
from ufrin.actions.job.open_job import OpenJob, opened_at
from ufrin.core.casting.cast_bench import CAST_ROLES
from ufrin.core.casting.next_amount import NextAmount, next_amount
from ufrin.core.casting.shot_log import CavityRecord, Shot, ShotPiece, check_cavities, trial_result
from ufrin.core.casting.two_ways import TrialResult, Way, laid_out
from ufrin.core.clocks.moment import Moment
from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.job.job_state import Stage
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import lots, moulds, shots
from ufrin.store.connection import Connection, Database
from ufrin.store.shots import StoredShot, StoredTrial

WHOLE_MOULD = Text("the mould is retired")
MOULD_RETIRED = Text("This mould is retired. Take it back into use on its card first.")
# a mould in these is not ready to be cast in
NOT_READY: frozenset[Stage] = frozenset({"pouring", "curing", "demould due"})


@dataclass(frozen=True, slots=True, kw_only=True)
class Trial:
    """A trial with its pieces until now, by shot, and the way of each cavity in the next one."""

    kept: StoredTrial
    shots: tuple[tuple[ShotPiece, ...], ...]
    result: TrialResult | None
    next_ways: Mapping[int, Way]

    @property
    def pieces(self) -> tuple[ShotPiece, ...]:
        """All of them."""
        return tuple(piece for shot in self.shots for piece in shot)

    def shots_of(self, way: Way) -> int:
        """Return how many shots were made one way, where a whole shot is."""
        return sum(any(piece.way == way for piece in shot) for shot in self.shots)

    @property
    def is_running(self) -> bool:
        """Whether it goes on."""
        return self.kept.ended_at is None


@dataclass(frozen=True, slots=True, kw_only=True)
class ShotLog:
    """A job with the log of its mould: the newest shots first, and before which one there may be ``older`` ones."""

    opened: OpenJob
    shots: tuple[StoredShot, ...]
    photos: Mapping[int, Sequence[int]]
    cavities: tuple[CavityRecord, ...]
    learnt: Mapping[str, NextAmount]
    trial: Trial | None
    stage: Stage
    older: int | None = None

    @property
    def in_use(self) -> tuple[int, ...]:
        """The cavities that can be filled."""
        return tuple(one.number for one in self.cavities if not one.retired)

    @property
    def is_early(self) -> bool:
        """Whether the mould is not ready to be cast in."""
        return self.stage in NOT_READY


def of_job(database: Database, job_id: int, now: Moment, *, before: int | None = None) -> ShotLog:
    """Show the log of a job's mould: its newest shots, or those before a given one."""
    with database.reading() as connection:
        return _log(connection, job_id, now, before=before)


def _log(connection: Connection, job_id: int, now: Moment, *, before: int | None = None) -> ShotLog:
    opened = opened_at(connection, job_id, "casts")
    found = shots.of_job(connection, job_id, before=before)
    counted, gone = shots.counts(connection, job_id), shots.retired(connection, job_id)
    numbers = sorted({*range(1, opened.cavities + 1), *counted, *gone})
    if moulds.retired(connection, job_id):
        gone = dict.fromkeys(numbers, WHOLE_MOULD) | gone
    cavities = tuple(
        CavityRecord(
            number=number,
            shots=counted.get(number, (0, 0))[0],
            good=counted.get(number, (0, 0))[1],
            retired=gone.get(number, ""),
        )
        for number in numbers
    )
    in_use = [one.number for one in cavities if not one.retired]
    return ShotLog(
        opened=opened,
        shots=tuple(found),
        photos=shots.photos(connection, [one.id for one in found if one.photos]),
        cavities=cavities,
        learnt=learnt(connection, opened),
        trial=_trial(connection, job_id, in_use),
        stage=opened.stage(now),
        older=found[-1].id if len(found) == shots.MOST_LISTED else None,
    )


def learnt(connection: Connection, opened: OpenJob) -> dict[str, NextAmount]:
    """Return what the log teaches of the next amount, for the kind of cast that is planned.

    It is by the part of the shot where its parts are mixed by themselves, and else under "".
    """
    kind, made = opened.job.casts.settled().cast_kind, opened.casts.plan if opened.casts else None
    fills_g: Mapping[str, float] = (made.part_fills_g or {"": made.fills_g}) if made else {"": 0.0}
    found = {}
    for part, least_g in fills_g.items():
        past = shots.past(connection, opened.job.id, kind, part)
        amount = next_amount(past, opened.workshop.confidence_pct, least_g=least_g)
        if amount is not None:
            found[part] = amount
    return found


def _trial(connection: Connection, job_id: int, in_use: Sequence[int]) -> Trial | None:
    kept = shots.trial(connection, job_id)
    if kept is None:
        return None
    found = tuple(shots.of_trial(connection, kept.id))
    # the layout goes on where the last shot left it, so that each way gets its half of the cavities or of the shots
    done = len(found) if kept.by_shot else sum(map(len, found))
    ways = laid_out(done + max(2, len(in_use)), kept.seed)[done:]
    next_ways = dict.fromkeys(in_use, ways[0]) if kept.by_shot else dict(zip(in_use, ways, strict=False))
    return Trial(
        kept=kept,
        shots=found,
        result=trial_result(found, by_shot=kept.by_shot, is_graded=kept.is_graded),
        next_ways=next_ways if kept.ended_at is None else {},
    )


def add(database: Database, job_id: int, shot: Shot, now: Moment, *, token: str, pour_id: int | None = None) -> None:
    """Log a shot, and take what it needed from the tins that are to be used first; sent twice, it counts once.

    What was weighed at the bench, as ``pour_id`` says, was taken from its tins there.

    Raises Refused for a mould that still cures, without a reason, and for cavities that can't be filled.
    """
    with database.transaction() as connection:
        log = _log(connection, job_id, now)
        _add(connection, log, shot, at_s=now.wall_s, token=token, pour_id=pour_id)


def _add(
    connection: Connection, log: ShotLog, shot: Shot, *, at_s: float, token: str, pour_id: int | None = None
) -> None:
    job_id = log.opened.job.id
    if moulds.retired(connection, job_id, by_s=at_s):
        raise Refused("cavities", MOULD_RETIRED)
    check_cavities(shot.pieces, log.opened.cavities, shots.retired(connection, job_id, by_s=at_s))
    if log.is_early and not shot.reason:
        raise Refused(
            "reason",
            Text(
                "This mould is not ready to be cast in: it still cures, or is still in its box. Cast "
                "in too early, it tears and its casts stay sticky. Wait, or say why it was cast in "
                "all the same."
            ),
        )
    running = log.trial if log.trial and log.trial.is_running else None
    if running:
        shot = _as_tried(shot, running)
    trial_id = running.kept.id if running else None
    number = shots.add(connection, job_id, shot, at_s=at_s, token=token, trial_id=trial_id, pour_id=pour_id)
    moulds.born(connection, job_id, at_s=at_s)
    keep_expected_life(connection, log.opened)
    if number is not None and pour_id is None:
        _take_from_tins(connection, log.opened, shot, number)


def _as_tried(shot: Shot, trial: Trial) -> Shot:
    # each piece by the way that was laid out for it; what a whole shot was made by is written down as such
    pieces = tuple(replace(piece, way=trial.next_ways.get(piece.cavity)) for piece in shot.pieces)
    if trial.kept.is_graded and any(piece.grade is None for piece in pieces):
        raise Refused("grade", Text("This trial is graded: give every piece a grade, from 1 to 5 for the best."))
    about, way = trial.kept.about, pieces[0].way
    if trial.kept.by_shot and about != "other" and way is not None:
        made_by = trial.kept.first if way == "first" else trial.kept.second
        shot = replace(shot, **{about: made_by})  # type: ignore[arg-type]
    return replace(shot, pieces=pieces)


def _take_from_tins(connection: Connection, opened: OpenJob, shot: Shot, number: int) -> None:
    inputs, made = opened.job.casts, opened.casts.plan if opened.casts else None
    if made is None or shot.kind != made.kind or not made.shot_g:
        return
    mixed_g = {one.part: one.mixed_g for one in shot.parts}
    times = {one.part: mixed_g[one.part] / one.g for one in made.parts if one.part in mixed_g}
    as_mixed = replace(
        made, cups=tuple(cup.times(times.get(cup.part, shot.mixed_g / made.shot_g)) for cup in made.cups)
    )
    places = cast_places(inputs)
    for key, one in as_mixed.totals.items():
        tins = [tin for tin in lots.at_place(connection, places[key], CAST_ROLES[key]) if tin.lot.left_g]
        if tins:
            why = Text("cast: {name}", name=opened.job.name)
            lots.moved(connection, tins[0].id, one.g, kind="cast", why=why, shot_id=number)


def repeat(database: Database, job_id: int, now: Moment, *, token: str) -> None:
    """Log the last shot once more, filled as far, with every piece good and nothing short.

    Raises Refused before there is one.
    """
    with database.transaction() as connection:
        log = _log(connection, job_id, now)
        if not log.shots:
            raise Refused("", Text("There is no shot to repeat yet. Log the first one."))
        last = log.shots[0].shot
        pieces = tuple(ShotPiece(cavity=one.cavity) for one in last.pieces if one.cavity in log.in_use)
        parts = tuple(replace(one, was_short=False, missing_g=0.0) for one in last.parts)
        again = replace(last, pieces=pieces, parts=parts, was_short=False, missing_g=0.0, note="", reason="")
        _add(connection, log, again, at_s=now.wall_s, token=token)


def take_back(database: Database, job_id: int, number: int) -> None:
    """Let a shot that was logged by mistake count no more, and put back what it took from tins."""
    with database.transaction() as connection:
        shots.take_back(connection, job_id, number)
        for lot_id, grams in shots.moved_by(connection, number):
            lots.moved(connection, lot_id, -grams, kind="cast", why=Text("the shot was taken back"), shot_id=number)


def retire_cavity(database: Database, job_id: int, cavity: int, why: str, *, cause: str = "other") -> None:
    """Retire a cavity, or with no reason take it back into use.

    Raises Refused for a cavity that the mould does not have.
    """
    with database.transaction() as connection:
        opened = opened_at(connection, job_id, "casts")
        if not 1 <= cavity <= opened.cavities:
            raise Refused("cavities", Text("This mould has no cavity {cavity}.", cavity=cavity))
        if why:
            shots.retire(connection, job_id, cavity, why[:200], cause=cause)
        else:
            shots.use_again(connection, job_id, cavity)


TRIED: Mapping[str, str] = {
    "release": Text("Release"),
    "air": Text("Air out of the cast"),
    "attitude": Text("How the mould is held"),
    "other": Text("Something else"),
}
# a mould is under pressure, or tilted, as a whole
BY_SHOT = frozenset({"air", "attitude"})


def begin_trial(
    database: Database,
    job_id: int,
    *,
    about: str,
    what: str,
    first: str,
    second: str,
    by_shot: bool,
    is_graded: bool,
    is_blind: bool,
) -> None:
    """Begin to try two ways side by side.

    Raises Refused without names for the two, or while another trial runs.
    """
    if about not in TRIED:
        raise Refused("about", Text("That is not one of the things to try. Choose again."))
    names = [" ".join(text.split())[:60] for text in (what if about == "other" else TRIED[about], first, second)]
    if about == "air":
        names[1:] = [_school(name) for name in names[1:]]
    if not all(names):
        raise Refused("what", Text("Enter what is tried, and a name for each of the two ways."))
    if names[1].lower() == names[2].lower():
        raise Refused("second", Text("The two ways need different names."))
    with database.transaction() as connection:
        opened = opened_at(connection, job_id, "casts")
        running = shots.trial(connection, opened.job.id)
        if running is not None and running.ended_at is None:
            raise Refused("what", Text("A trial runs on this mould already. End it first."))
        values = {
            "about": about,
            "what": names[0],
            "first": names[1],
            "second": names[2],
            "by_shot": by_shot or about in BY_SHOT,
            "is_graded": is_graded,
            "is_blind": is_blind,
        }
        shots.begin_trial(connection, job_id, {**values, "seed": secrets.randbelow(2**31)})


def _school(name: str) -> str:
    # a school may be typed by the beginning of its words; anything else stays as it was typed
    found = (key for key, label in SCHOOLS.items() if name and label.lower().startswith(name.lower()))
    return next(found, name)[:40]


def end_trial(database: Database, job_id: int) -> None:
    """End the trial that runs."""
    with database.transaction() as connection:
        shots.end_trial(connection, job_id)


def keep_photo(database: Database, job_id: int, number: int, small: bytes, size_px: tuple[int, int]) -> None:
    """Keep a picture of a shot, made small before."""
    with database.transaction() as connection:
        shots.keep_photo(connection, job_id, number, small, size_px)


def photo(database: Database, job_id: int, number: int) -> bytes:
    """Open a picture."""
    with database.reading() as connection:
        return shots.photo(connection, job_id, number)
