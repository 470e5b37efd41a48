"""Pours: a weighing begun, its record written line by line, corrected and finished; and what past pours teach."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from secrets import token_hex

from ufrin.actions.job.open_job import OpenJob, opened_at
from ufrin.core.clocks.cure_factor import learn_factor
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.bench_plan import method_of, weigh_plan
from ufrin.core.job.job_state import next_pour
from ufrin.core.job.sign_off import Stop, refuse_open_stops
from ufrin.core.measures.display import say_amounts
from ufrin.core.rubber.cure_times import check_room
from ufrin.core.weighing.allowance import Allowance, learn
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.core.weighing.record_rules import LONGEST_TEXT, check_entry
from ufrin.core.weighing.weigh_plan import Ingredient
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Overtaken, Refused
from ufrin.language import Text
from ufrin.store import cure_factors, lots, moulds, pours, workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.lots import StoredLot
from ufrin.store.pours import Past, StoredPour
from ufrin.store.workshop_settings import Workshop

LONGEST_WHO, LONGEST_TOKEN = 80, 64


def new_token() -> str:
    """Make a token by which a line is recognised when it is sent again."""
    return token_hex(8)


@dataclass(frozen=True, slots=True, kw_only=True)
class Bench:
    """A pour as its page needs it: what is kept, its current state, and the tins that the next part may come from."""

    pour: StoredPour
    state: BenchState
    lots: tuple[StoredLot, ...]
    workshop: Workshop

    @property
    def lot(self) -> StoredLot | None:
        """The tin to use."""
        return _tin(self.lots)


def _tin(found: Sequence[StoredLot]) -> StoredLot | None:
    # the first that is good and not empty; an old one before none at all
    with_some = [one for one in found if one.lot.left_g > 0]
    return next((one for one in with_some if not one.lot.is_expired), with_some[0] if with_some else None)


@dataclass(frozen=True, slots=True, kw_only=True)
class JobPours:
    """A job at its Pour station: worked out, with its pours."""

    opened: OpenJob
    pours: tuple[tuple[StoredPour, BenchState], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class LearntAllowance:
    """The allowance and the pours behind it."""

    allowance: Allowance
    past: tuple[Past, ...]
    workshop: Workshop


def of_job(database: Database, job_id: int) -> JobPours:
    """Show a job's pours."""
    with database.reading() as connection:
        opened = opened_at(connection, job_id, "rubber")
        kept = pours.of_job(connection, job_id)
    return JobPours(opened=opened, pours=tuple((one, one.state) for one in kept))


def start(database: Database, job_id: int, *, who: str, temp_c: float | None, what: str, now: Moment) -> int:
    """Begin to weigh the pour that is next: of a mould in two parts the first half, then the second.

    Raises Refused when there is nothing to weigh yet, or a stop is neither settled nor signed off.
    """
    who = one_line(who)[:LONGEST_WHO]
    with database.transaction() as connection:
        opened = opened_at(connection, job_id, "rubber")
        if opened.plan.pour is None:
            raise Refused(
                "",
                Text("There is nothing to weigh yet: the box or the rubber is missing. Look at those stations first."),
            )
        states = opened.pour_states(now)
        if any(one.stage == "weighing" for one in states):
            raise Refused("", Text("A pour of this job is being weighed already. Go on with it, or finish it first."))
        all_stops = opened.bench_stops(now)
        refuse_open_stops(all_stops)
        settled, half = opened.plan.rubber_settled, next_pour(states)
        room_c = settled.room_temp_c if temp_c is None else temp_c
        check_room(room_c)
        planned = next(pour for pour in opened.plan.pours if pour.half == half)
        air = opened.plan.checks.air if opened.plan.checks else ""
        plan = weigh_plan(
            planned,
            settled,
            Text("{what}, {half} half", what=what, half=half) if half else what,
            method=method_of(planned, settled, opened.job.checks.settled(), air),
            style=opened.plan.style,
            slit_mm=opened.plan.opening.slit.length_mm if opened.plan.opening and opened.plan.opening.slit else None,
            factor=opened.shelf.cure_factor,
        )
        number = pours.start(
            connection, job_id=job_id, rubber_id=opened.job.rubber.rubber_id, who=who, plan=plan, wall_s=now.wall_s
        )
        pours.enter(connection, number, RecordEntry(number=1, at=now, kind="start", temp_c=room_c), "start")
        for number_of, stop in enumerate((stop for stop in all_stops if stop.signed), 2):
            pours.enter(
                connection,
                number,
                RecordEntry(number=number_of, at=now, kind="note", text=signed_text(stop)),
                f"signed-{stop.key}",
            )
    return number


def signed_text(stop: Stop) -> str:
    """Return the line of a record that tells who signed a stop off, and why."""
    if stop.signed is None:
        return ""
    sentence = Text(
        "Signed off by {who}: {reason} The stop was: {text}",
        who=stop.signed.who,
        reason=stop.signed.reason,
        text=say_amounts(stop.text),
    )
    return sentence if len(sentence) <= LONGEST_TEXT else f"{sentence[: LONGEST_TEXT - 1]}…"


def look(database: Database, number: int) -> Bench:
    """Show the current state of a pour."""
    with database.reading() as connection:
        return _bench(connection, pours.look(connection, number))


def _bench(connection: Connection, kept: StoredPour) -> Bench:
    state = kept.state
    return Bench(
        pour=kept,
        state=state,
        lots=lots_for(connection, state.step.ingredient),
        workshop=workshop_settings.load(connection),
    )


def lots_for(connection: Connection, ingredient: Ingredient | None) -> tuple[StoredLot, ...]:
    """Read the tins that an ingredient may come from."""
    return tuple(lots.at_place(connection, ingredient.shelf, ingredient.role)) if ingredient else ()


def codes_of(database: Database, bench: Bench) -> Mapping[int, str]:
    """Name the tins that a pour was taken from."""
    wanted = {entry.lot_id for entry in bench.state.entries if entry.lot_id}
    with database.reading() as connection:
        return {number: kept.lot.code for number, kept in lots.some(connection, wanted).items()}


def enter(database: Database, number: int, entry: RecordEntry, *, token: str, sure: bool = False) -> Bench:
    """Add a line to a pour's record. The same line sent again is taken once.

    Raises Refused when the line can't come next. Raises Overtaken when another bench has written a line meanwhile.
    """
    if not 0 < len(token) <= LONGEST_TOKEN or not token.isprintable():
        raise Refused("", Text("This page is out of date. Reload it: nothing is lost."))
    with database.transaction() as connection:
        kept = pours.look(connection, number, lock=True)
        if pours.has_token(connection, number, token):
            return _bench(connection, kept)
        state = kept.state
        if entry.number != state.next_number:
            raise Overtaken
        return _bench(connection, append(connection, kept, entry, token=token, sure=sure))


def append(
    connection: Connection, kept: StoredPour, entry: RecordEntry, *, token: str, sure: bool = False
) -> StoredPour:
    """Add a line to a record that is locked already, with all that follows from it, and return the pour with it.

    Raises Refused when the line can't come next.
    """
    state = kept.state
    entry = replace(entry, text=one_line(entry.text), ingredient=one_line(entry.ingredient), what=one_line(entry.what))
    check_entry(state, entry, sure=sure)
    entry = _from_tin(connection, kept, state, entry)
    pours.enter(connection, kept.id, entry, token)
    after = replace(kept, entries=(*kept.entries, entry))
    stands = after.state
    _follow(connection, after, state, stands, entry)
    if stands.is_finished:
        pours.settle(connection, kept.id, needed_g=stands.needed_g, used_g=stands.used_g, wall_s=entry.at.wall_s)
    return after


def _follow(
    connection: Connection, kept: StoredPour, before: BenchState, after: BenchState, entry: RecordEntry
) -> None:
    # what follows from a line besides the record itself
    if before.is_finished and not after.is_finished:
        pours.reopen(connection, kept.id)
    if before.is_demoulded != after.is_demoulded:
        pours.keep_demoulded(connection, kept.id, wall_s=entry.at.wall_s if after.is_demoulded else None)
        if kept.plan.how != "cast" and after.is_demoulded:
            moulds.born(connection, kept.job_id, at_s=entry.at.wall_s)
        elif kept.plan.how != "cast":
            moulds.unborn(connection, kept.job_id)
    if before.clocks.found != after.clocks.found and kept.rubber_id is not None:
        taught = pours.teaching(connection, kept.rubber_id)
        cure_factors.keep(connection, kept.rubber_id, learn_factor([one.state.clocks.found for one in taught]))


def _from_tin(connection: Connection, kept: StoredPour, state: BenchState, entry: RecordEntry) -> RecordEntry:
    # takes what was weighed out of its tin, and puts back what a correction cancels
    if entry.kind == "correction":
        about = next(one for one in state.entries if one.number == entry.of_number)
        if about.lot_id and about.kind != "leftover":
            earlier = [one.net_g for one in state.entries if one.kind == "correction" and one.of_number == about.number]
            was_g = earlier[-1] if earlier else about.net_g
            lots.moved(
                connection,
                about.lot_id,
                (entry.net_g or 0.0) - (was_g or 0.0),
                kind="corrected",
                why=Text("corrected: {text}", text=entry.text),
                pour_id=kept.id,
                entry=entry.number,
            )
        return entry
    if entry.kind not in {"weigh", "wrong"}:
        return replace(entry, lot_id=None)
    ingredient = next(one for one in state.batch if one.key == entry.ingredient)
    tins = lots_for(connection, ingredient)
    named = next((one for one in tins if one.id == entry.lot_id), None)
    if entry.lot_id is not None and named is None:
        raise Refused("lot_id", Text("This lot is not of that part. Choose the tin that it was poured from."))
    chosen = named or _tin(tins)
    if chosen is None:
        return replace(entry, lot_id=None)
    lots.moved(
        connection,
        chosen.id,
        entry.net_g or 0.0,
        kind="poured",
        why=Text("poured: {job_name}", job_name=kept.job_name),
        pour_id=kept.id,
        entry=entry.number,
    )
    return replace(entry, lot_id=chosen.id)


def learnt(database: Database) -> LearntAllowance:
    """Show the allowance with its evidence."""
    with database.reading() as connection:
        past, settings = pours.past(connection), workshop_settings.load(connection)
    return LearntAllowance(
        allowance=learn([one.pour.over_pct for one in past], settings.confidence_pct),
        past=tuple(past),
        workshop=settings,
    )
