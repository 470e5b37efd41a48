"""A mould's card: what it is, what its cavities have made and will make, what is due, and what it costs."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ufrin.actions.casts.expected_life import keep_expected_life, prior_of
from ufrin.actions.job.open_job import OpenJob, opened_at
from ufrin.core.casting.shot_log import CavityRecord
from ufrin.core.money.making import MakingCosts
from ufrin.core.moulds.generations import ChainLink, ShownLink, chain
from ufrin.core.moulds.life_outlook import LifeLeft, LifeModel, life_model
from ufrin.core.moulds.life_prior import LifePrior
from ufrin.core.moulds.mould_life import LifeCurve, UsedMould, life_curve
from ufrin.core.moulds.retirement import CARES, CAUSES, SIGNS, Care, Due, MouldState, dues, mould_state
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Missing, Refused
from ufrin.language import Text
from ufrin.store import moulds, schedule, shots, workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.moulds import Ancestor, Descendant, MouldDetails, MouldRow, StoredMould, StoredSign, UsualAmount
from ufrin.store.workshop_settings import Workshop

MOULDS_A_PAGE = 20
LONGEST_SEARCH = 120
# what the model counts in: shares of the life to expect
SHARE = LifePrior(median_casts=1.0, factors=())


@dataclass(frozen=True, slots=True, kw_only=True)
class MouldLife:
    """The life of a mould.

    Parameters
    ----------
    prior : LifePrior
        To expect of a cavity.
    own : tuple of UsedMould
        The shop's cavities, in casts of this mould: as many of them as share of what was to be expected of them.
    model : LifeModel
        Of the lives of its cavities.
    left : LifeLeft
        Pieces that the cavities in use make together.
    """

    prior: LifePrior
    own: tuple[UsedMould, ...]
    model: LifeModel
    left: LifeLeft

    @property
    def curve(self) -> LifeCurve | None:
        """The shop's own retirements; None without a cavity."""
        return life_curve(self.own) if self.own else None

    @property
    def worn_out(self) -> int:
        """How many of the shop's cavities are worn out."""
        return sum(one.failed for one in self.own)


@dataclass(frozen=True, slots=True, kw_only=True)
class MouldCard:
    """A mould with all that its page shows."""

    mould: StoredMould
    opened: OpenJob
    cavities: tuple[CavityRecord, ...]
    causes: Mapping[int, str]
    working_days: frozenset[int]
    life: MouldLife
    signs: tuple[StoredSign, ...]
    dues: tuple[Due, ...]
    amounts: tuple[UsualAmount, ...]
    chain: tuple[ShownLink, ...]
    line: tuple[Ancestor, ...]
    children: tuple[Descendant, ...]
    lots: tuple[str, ...]
    others: tuple[tuple[int, str], ...]
    costs: MakingCosts | None
    photo: int | None

    @property
    def workshop(self) -> Workshop:
        """The workshop's settings."""
        return self.opened.workshop

    @property
    def is_usable(self) -> bool:
        """Whether any cavity can be cast in."""
        return self.mould.retired_at is None and any(not one.retired for one in self.cavities)

    @property
    def newest_amounts(self) -> tuple[UsualAmount, ...]:
        """What a shot takes of the kind that was cast last: each of its parts, as it was last made."""
        newest = [one for one in self.amounts if one.kind == self.amounts[0].kind]
        by_part: dict[str, UsualAmount] = {}
        for one in newest:
            if bool(one.part) == bool(newest[0].part):
                by_part.setdefault(one.part, one)
        return tuple(by_part.values())

    @property
    def state(self) -> MouldState:
        """What has come of it."""
        in_use = sum(not one.retired for one in self.cavities) if self.mould.retired_at is None else 0
        return mould_state(in_use, self.life.left.median, signs=len(self.signs), shots=self.shots)

    @property
    def shots(self) -> int:
        """Of the cavity that made the most, those before the log included."""
        return max((one.shots for one in self.cavities), default=0) + self.mould.details.shots_before

    @property
    def material(self) -> str:
        """What it is of, in words; empty where nobody knows."""
        return self.opened.rubber.name if self.opened.rubber else ""


@dataclass(frozen=True, slots=True, kw_only=True)
class ListedMould:
    """A mould in a list: how many cavities are in use, its shots, and what is left of it."""

    row: MouldRow
    in_use: int
    cavities: int
    shots: int
    left: LifeLeft

    @property
    def state(self) -> MouldState:
        """What has come of it."""
        return mould_state(self.in_use, self.left.median, signs=self.row.signs, shots=self.shots)


@dataclass(frozen=True, slots=True, kw_only=True)
class MouldList:
    """A page of moulds."""

    listed: tuple[ListedMould, ...]
    total: int
    page: int
    pages: int
    search: str
    workshop: Workshop


def page(database: Database, *, search: str = "", number: int = 1) -> MouldList:
    """Show a page of the shop's moulds, those in use first."""
    search, number = search.replace("\0", "").strip()[:LONGEST_SEARCH], max(1, min(number, 100_000))
    with database.reading() as connection:
        found, total = moulds.page(connection, search=search, limit=MOULDS_A_PAGE, offset=(number - 1) * MOULDS_A_PAGE)
        model = life_model(SHARE, moulds.lives(connection))
        settings = workshop_settings.load(connection)
    return MouldList(
        listed=tuple(_listed(row, model) for row in found),
        total=total,
        page=number,
        pages=max(1, -(-total // MOULDS_A_PAGE)),
        search=search,
        workshop=settings,
    )


def _listed(row: MouldRow, model: LifeModel) -> ListedMould:
    made = {cavity: row.made.get(cavity, (0, 0)) for cavity in {*range(1, row.cavities + 1), *row.made, *row.gone}}
    in_use = [cavity for cavity in made if cavity not in row.gone] if row.retired_at is None else []
    casts = [made[cavity][0] + row.shots_before for cavity in in_use]
    return ListedMould(
        row=row,
        in_use=len(in_use),
        cavities=len(made),
        shots=max(shots for shots, _ in made.values()) + row.shots_before,
        left=model.times(row.expected_casts).left(casts, row.id),
    )


def near_end(database: Database) -> list[ListedMould]:
    """Show the moulds in use that are near their end, the most worn twenty at most."""
    with database.reading() as connection:
        worn = moulds.most_worn(connection, limit=MOULDS_A_PAGE)
        found, _ = moulds.page(connection, among=worn, limit=MOULDS_A_PAGE)
        model = life_model(SHARE, moulds.lives(connection))
    return [one for one in (_listed(row, model) for row in found) if one.state == "near its end"]


def look(database: Database, number: int) -> MouldCard:
    """Show a mould's card."""
    with database.reading() as connection:
        return card_of(connection, number)


def number_of(database: Database, job_id: int) -> int:
    """Return the number of a job's mould.

    Raises Missing before it is there.
    """
    with database.reading() as connection:
        number = moulds.of_job(connection, job_id)
    if number is None:
        raise Missing(Text("this mould"))
    return number


def card_of(connection: Connection, number: int) -> MouldCard:
    """Gather a mould's card."""
    mould = moulds.look(connection, number)
    opened = opened_at(connection, mould.job_id, "casts")
    gone = moulds.gone(connection, mould.job_id)
    cavities = _cavities(opened, mould, gone)
    details = mould.details
    prior = prior_of(opened, details)
    in_use = [one.shots + details.shots_before for one in cavities if not one.retired]
    if mould.retired_at is not None:
        in_use = []
    shares = moulds.lives(connection)
    model = life_model(SHARE, shares).times(prior.median_casts)
    life = MouldLife(
        prior=prior,
        own=tuple(UsedMould(casts=one.casts * prior.median_casts, failed=one.failed) for one in shares),
        model=model,
        left=model.left(in_use, mould.id),
    )
    every: dict[Care, int | None] = {
        "release": details.release_every,
        "clean": details.clean_every,
        "rest": details.rest_every,
    }
    line = moulds.ancestors(connection, mould.id)
    newest = shots.of_job(connection, mould.job_id)
    photos = shots.photos(connection, [one.id for one in newest if one.photos])
    return MouldCard(
        mould=mould,
        opened=opened,
        cavities=cavities,
        causes={cavity: cause for cavity, (cause, _) in gone.items()},
        working_days=frozenset(schedule.hours(connection).days),
        life=life,
        signs=tuple(moulds.signs(connection, number)),
        dues=dues(every, moulds.since(connection, number)),
        amounts=tuple(moulds.usual_amounts(connection, mould.job_id)),
        chain=_chain(connection, mould, opened, line),
        line=tuple(line),
        children=tuple(moulds.children(connection, number)),
        lots=tuple(moulds.lots_of(connection, mould.job_id)),
        others=tuple(moulds.names(connection, besides=number)),
        costs=_costs(opened, details, life),
        photo=next((photos[one.id][0] for one in newest if photos.get(one.id)), None),
    )


def _cavities(opened: OpenJob, mould: StoredMould, gone: Mapping[int, tuple[str, str]]) -> tuple[CavityRecord, ...]:
    numbers = sorted({*range(1, opened.cavities + 1), *mould.made, *gone})
    return tuple(
        CavityRecord(
            number=number,
            shots=mould.made.get(number, (0, 0))[0],
            good=mould.made.get(number, (0, 0))[1],
            retired=(gone[number][1] or CAUSES.get(gone[number][0], gone[number][0])) if number in gone else "",
        )
        for number in numbers
    )


def _chain(
    connection: Connection, mould: StoredMould, opened: OpenJob, line: Sequence[Ancestor]
) -> tuple[ShownLink, ...]:
    # from the first master: each mould shrinks as its rubber does, each cast as its resin does
    first = opened if len(line) == 1 else opened_at(connection, line[0].job_id, "casts")
    size = first.plan.master.size_mm
    links = [ChainLink(kind="master", name=Text("the first master"))]
    for place, one in enumerate(line):
        of_it = opened if one.id == mould.id else first if place == 0 else opened_at(connection, one.job_id, "casts")
        links.append(
            ChainLink(
                kind="mould", name=one.name, shrink_pct=of_it.job.casts.settled().rubber_shrink_pct, finish=one.finish
            )
        )
        resin = of_it.casts.picks.resin if of_it.casts else None
        links.append(
            ChainLink(
                kind="cast",
                name=Text("cast of {name}", name=one.name),
                shrink_pct=(resin.shrinkage_pct or 0.0) if resin else 0.0,
            )
        )
    return chain(links, max(size) if size else None)


def _costs(opened: OpenJob, details: MouldDetails, life: MouldLife) -> MakingCosts | None:
    made = opened.casts.plan if opened.casts else None
    mould_cost = opened.plan.cost if details.mould_cost is None else details.mould_cost
    if made is None or made.piece_cost is None or mould_cost is None:
        return None
    new = life.model.left([0.0] * opened.cavities, 1).median
    return MakingCosts(
        master_cost=details.master_cost,
        mould_cost=mould_cost,
        mould_life_casts=max(1.0, new),
        unit_cost=made.piece_cost + details.work_cost,
    )


def save(database: Database, number: int, details: MouldDetails, *, version: int) -> None:
    """Keep what was filled in on a card.

    Raises Refused for a mould that would come from itself; Stale when somebody saved it meanwhile.
    """
    with database.transaction() as connection:
        if details.parent_id is not None and moulds.descends(connection, details.parent_id, number):
            raise Refused("parent_id", Text("That mould comes from this one itself. Choose another one, or none."))
        moulds.save(connection, number, details, version=version)
        keep_expected_life(connection, opened_at(connection, moulds.look(connection, number).job_id, "casts"))


def note_sign(
    database: Database, number: int, *, sign: str, cavity: int | None, note: str, photo: bytes | None = None
) -> None:
    """Note a sign of wear, with a picture that was made small before.

    Raises Refused for an unknown sign, or a cavity that the mould does not have.
    """
    if sign not in SIGNS:
        raise Refused("sign", Text("That is not one of the signs. Choose again."))
    with database.transaction() as connection:
        card = card_of(connection, number)
        if cavity is not None and cavity not in {one.number for one in card.cavities}:
            raise Refused("cavity", Text("This mould has no cavity {cavity}.", cavity=cavity))
        moulds.add_sign(connection, number, cavity=cavity, sign=sign, note=one_line(note)[:200], photo=photo)


def sign_photo(database: Database, number: int, sign_id: int) -> bytes:
    """Open the picture of a sign."""
    with database.reading() as connection:
        return moulds.sign_photo(connection, number, sign_id)


def forget_sign(database: Database, number: int, sign_id: int) -> None:
    """Forget a sign that was noted by mistake."""
    with database.transaction() as connection:
        moulds.forget_sign(connection, number, sign_id)


def care(database: Database, number: int, what: str) -> None:
    """Note that a mould was cared for now.

    Raises Refused for an unknown care.
    """
    known = next((one for one in CARES if one == what), None)
    if known is None:
        raise Refused("care", Text("That is not one of the ways to care for a mould."))
    with database.transaction() as connection:
        moulds.look(connection, number)
        moulds.care(connection, number, known)


def retire(
    database: Database, number: int, *, cavities: Sequence[int], cause: str, why: str, at_s: float | None = None
) -> None:
    """Retire cavities of a mould, or with none named all of it; now, unless another time is given.

    Raises Refused without a cause, or for a cavity that the mould does not have.
    """
    if cause not in CAUSES:
        raise Refused("cause", Text("Why is it retired? Choose a cause: it teaches how long moulds last."))
    why = one_line(why)[:200]
    with database.transaction() as connection:
        card = card_of(connection, number)
        known = {one.number for one in card.cavities}
        if not cavities:
            moulds.retire(connection, number, cause=cause, why=why, at_s=at_s)
            return
        for cavity in cavities:
            if cavity not in known:
                raise Refused("cavities", Text("This mould has no cavity {cavity}.", cavity=cavity))
            shots.retire(connection, card.mould.job_id, cavity, why or CAUSES[cause], cause=cause)


def use_again(database: Database, number: int, cavity: int | None) -> None:
    """Take a retirement back: of a cavity, or of the whole mould."""
    with database.transaction() as connection:
        mould = moulds.look(connection, number)
        if cavity is None:
            moulds.retire(connection, number, cause="", why="", at_s=None)
        else:
            shots.use_again(connection, mould.job_id, cavity)
