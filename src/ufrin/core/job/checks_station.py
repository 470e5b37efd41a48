"""The Checks station: what touches what, what is put on and when, air, finish, protection."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.degassing.bubbles import ATMOSPHERE_KPA
from ufrin.core.degassing.schools import School
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.air_removal import AirRemovalContext, air_removal, chosen_school
from ufrin.core.job.opening_station import Opening
from ufrin.core.job.parts_that_meet import master_surface, parts_that_meet
from ufrin.core.job.preparation import with_tins
from ufrin.core.job.rubber_station import Pour
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.job.sign_off import SignOff
from ufrin.core.materials.kinds import SEALED
from ufrin.core.pairing.cautions import Caution, UsedInJob, cautions
from ufrin.core.pairing.contacts import Contact, JudgedContact, PartsThatMeet, Phase, Surface, contacts_of, judged
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.core.pairing.preparation_steps import steps_for
from ufrin.core.pairing.releases import Product, ReleaseOffer, release_offers
from ufrin.core.pairing.rules import VERDICT_WORDS, OwnRule
from ufrin.core.pairing.surface_finish import Finish, finish_findings, finish_of
from ufrin.core.rubber.tins import Rubber
from ufrin.core.wording.findings import Finding, worst_first

LONGEST_TEST_MIN = 24 * 60.0
HARD_COATS = frozenset({"clear-coat", "shellac"})


@dataclass(frozen=True, slots=True, kw_only=True)
class ShopWays:
    """How a shop does things, and what it found out.

    Parameters
    ----------
    own_rules : tuple of OwnRule
        Its own tests.
    air, release : str
        Its schools.
    products : tuple of Product
        Releases and sealers on its Shelf.
    signed : tuple of SignOff
        Stops of this job that somebody signed off.
    scale_step_g, room_temp_c : float or None
        Of the scale at the bench, and of the room: set once for all jobs.
    air_kpa : float
        The pressure of the air where it stands.
    """

    own_rules: tuple[OwnRule, ...] = ()
    air: str = "clear"
    release: str = "spare"
    products: tuple[Product, ...] = ()
    signed: tuple[SignOff, ...] = ()
    scale_step_g: float | None = None
    room_temp_c: float | None = None
    air_kpa: float = ATMOSPHERE_KPA


@dataclass(frozen=True, slots=True, kw_only=True)
class Checks:
    """The Checks station worked out.

    Parameters
    ----------
    pairs : tuple of JudgedContact
        Everything that meets.
    release_offers : mapping of contact key to tuple of ReleaseOffer
        What could lie between, best first.
    steps : tuple of PrepStep
        By pour, earliest first.
    finish : Finish
        From the master to the cast.
    airing : tuple of School
        All schools for this rubber; empty where they can't be compared.
    air, air_is_shop : str, bool
        The school that counts, and whether the shop's default decided.
    cautions : tuple of Caution
        For the people who do the work.
    findings : tuple of Finding
        Worst first.
    """

    pairs: tuple[JudgedContact, ...]
    release_offers: Mapping[str, tuple[ReleaseOffer, ...]]
    steps: tuple[PrepStep, ...]
    finish: Finish
    airing: tuple[School, ...]
    air: str
    air_is_shop: bool
    cautions: tuple[Caution, ...]
    findings: tuple[Finding, ...]

    @property
    def school(self) -> School | None:
        """The school that counts, worked out."""
        return next((one for one in self.airing if one.key == self.air), None)

    def pair(self, key: str) -> JudgedContact | None:
        """Find a contact.

        Parameters
        ----------
        key : str
            "master", "board" and so on.

        Returns
        -------
        JudgedContact or None
            None where the two do not meet in this job.
        """
        return next((one for one in self.pairs if one.contact.key == key), None)


@dataclass(frozen=True, slots=True, kw_only=True)
class JobSoFar:
    """All that the Checks station goes by: the stations as filled in, and what was worked out from them."""

    master: MasterInputs
    box: BoxInputs
    opening: OpeningInputs
    rubber: RubberInputs
    checks: CheckInputs
    shelf: ShelfPicks
    mixed: Rubber | None
    others: tuple[Surface, ...]
    box_plan: BoxPlan | None
    fill_mm: float | None
    opens: Opening | None
    pour: Pour | None


def check(job: JobSoFar, shop: ShopWays) -> Checks | None:
    """Work out the Checks station.

    Parameters
    ----------
    job : JobSoFar
        Its other stations.
    shop : ShopWays
        How the shop does things.

    Returns
    -------
    Checks or None
        None while there is no rubber: its contacts can't be judged.
    """
    rubber = job.mixed
    if rubber is None:
        return None
    is_always_released = shop.release == "always"
    contacts = contacts_of(_parts(job, rubber))
    shop = replace(shop, own_rules=_rules_about(shop.own_rules, contacts))
    pairs = tuple(judged(contact, shop.own_rules, always_release=is_always_released) for contact in contacts)
    finish, finish_found = _finish(job, shop, pairs)
    air_context = AirRemovalContext(
        checks=job.checks,
        rubber=job.rubber,
        shelf=job.shelf,
        mixed=job.mixed,
        pour=job.pour,
        fill_mm=job.fill_mm,
        air_kpa=shop.air_kpa,
    )
    air, air_is_shop = chosen_school(air_context, shop.air)
    airing, air_found = air_removal(air_context, air)
    found = [finding for pair in pairs if (finding := pair.finding())]
    found += [_own_tests_differ(pair) for pair in pairs if pair.ruling.against]
    return Checks(
        pairs=pairs,
        release_offers={
            pair.contact.key: _offers(pair, job, shop, always=is_always_released)
            for pair in pairs
            if pair.contact.phase == "cast" or pair.bare.verdict != "fine"
        },
        steps=_steps(pairs, rubber, shop),
        finish=finish,
        airing=airing,
        air=air,
        air_is_shop=air_is_shop,
        cautions=cautions(_used(job, pairs, air)),
        findings=worst_first([*found, *finish_found, *air_found]),
    )


def _steps(pairs: Sequence[JudgedContact], rubber: Rubber, shop: ShopWays) -> tuple[PrepStep, ...]:
    test_min = min(rubber.demould_min or LONGEST_TEST_MIN, LONGEST_TEST_MIN)
    poured: list[Phase] = ["first"]
    if any(pair.contact.key == "halves" for pair in pairs):
        poured.append("second")
    return with_tins(rubber, steps_for(pairs, test_min=test_min, products=shop.products), poured)


def _parts(job: JobSoFar, rubber: Rubber) -> PartsThatMeet:
    masters = (master_surface("", job.master), *job.others)
    return parts_that_meet(
        masters,
        job.box,
        job.checks,
        bed_material=job.opening.bed_material,
        rubber=rubber,
        box_plan=job.box_plan,
        opening=job.opens,
    )


def _finish(job: JobSoFar, shop: ShopWays, pairs: Sequence[JudgedContact]) -> tuple[Finish, Sequence[Finding]]:
    layers = {pair.contact.key: pair.layers for pair in pairs}
    in_mould = layers["cast"]
    product = next(
        (one for one in shop.products if in_mould and one.kind == in_mould[-1] and one.finish != "kind"), None
    )
    finish = finish_of(job.master.finish or "", layers["master"], in_mould, product.finish if product else "")
    return finish, finish_findings(finish, job.checks.cast_finish or "", in_mould)


def _rules_about(own: Sequence[OwnRule], contacts: Sequence[Contact]) -> tuple[OwnRule, ...]:
    # a shop may have noted hundreds of tests; few are about what meets here
    pours = {contact.pour for contact in contacts}
    surfaces = {SEALED, *(contact.touches.casefold() for contact in contacts)}
    return tuple(rule for rule in own if rule.pour in pours and rule.touches.casefold() in surfaces)


def _offers(pair: JudgedContact, job: JobSoFar, shop: ShopWays, *, always: bool) -> tuple[ReleaseOffer, ...]:
    if pair.contact.is_held:
        return ()
    under = (job.master.sealer,) if pair.contact.key == "master" and job.master.sealer in HARD_COATS else ()
    return release_offers(
        pair,
        wanted=job.checks.cast_finish or "",
        always=always,
        own=shop.own_rules,
        products=shop.products,
        under=under,
    )


def _own_tests_differ(pair: JudgedContact) -> Finding:
    newer, older = pair.ruling.own, pair.ruling.against
    facts = {
        "pour": pair.contact.pour_name,
        "touches": pair.contact.touches_name,
        "newer": VERDICT_WORDS[pair.ruling.verdict],
        "newer_day": newer.tried_on if newer else "",
        "older": VERDICT_WORDS[older.found] if older else "",
        "older_day": older.tried_on if older else "",
    }
    return Finding(code="own-tests-differ", facts=facts)


def _used(job: JobSoFar, pairs: Sequence[JudgedContact], air: str) -> UsedInJob:
    deeds = {air, job.checks.cast_air or ""} & {"vacuum", "pressure"}
    if job.rubber.degas_min:
        deeds.add("vacuum")
    if job.opens and job.opens.slit:
        deeds.add("slit")
    if job.shelf.thinner:
        deeds.add("thinner")
    return UsedInJob(
        pour=frozenset(pair.contact.pour for pair in pairs),
        touches=frozenset(pair.contact.touches for pair in pairs),
        between=frozenset(layer for pair in pairs for layer in pair.layers),
        deed=frozenset(deeds),
    )
