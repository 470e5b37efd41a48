"""Checks: the station worked out: what touches what, what is put on and when, air, finish, protection."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.degassing.bubbles import ATMOSPHERE_KPA, absolute_kpa
from ufrin.core.degassing.schools import (
    AFTER_FALL_MIN,
    AirRemoval,
    Liquid,
    School,
    SchoolSettings,
    schools,
    wart_findings,
)
from ufrin.core.inputs.stations import BoxInputs, CheckInputs, MasterInputs, RubberInputs
from ufrin.core.job.opening_station import Opening
from ufrin.core.job.rubber_station import Pour
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.job.sign_off import SignOff
from ufrin.core.job.terms import BOX, CHECKS, RUBBER, settled
from ufrin.core.materials.kinds import SEALED, SOMETHING_ELSE
from ufrin.core.materials.tables import BOARDS, MATERIALS
from ufrin.core.opening.mould_styles import PARTED
from ufrin.core.pairing.cautions import Caution, UsedInJob, cautions
from ufrin.core.pairing.contacts import Contact, JudgedContact, PartsThatMeet, Surface, contacts_of, judged
from ufrin.core.pairing.preparation_steps import PrepStep, steps_for
from ufrin.core.pairing.releases import Product, ReleaseOffer, release_offers
from ufrin.core.pairing.rules import VERDICT_WORDS, OwnRule
from ufrin.core.pairing.surface_finish import Finish, finish_findings, finish_of
from ufrin.core.rubber.blends import viscosity_of_mix
from ufrin.core.rubber.thinner_side_effects import side_effects
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused

LONGEST_TEST_MIN = 24 * 60.0
NO_SURFACE = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class ShopWays:
    """How this shop does things, and what it found out.

    Parameters
    ----------
    own_rules : tuple of OwnRule
        Its own tests.
    air, release : str
        Its schools.
    products : tuple of Product
        Releases and sealers on its Shelf.
    signed : tuple of SignOff
        Stops of this job that somebody took upon themselves.
    """

    own_rules: tuple[OwnRule, ...] = ()
    air: str = "clear"
    release: str = "spare"
    products: tuple[Product, ...] = ()
    signed: tuple[SignOff, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class Checks:
    """The Checks station worked out.

    Parameters
    ----------
    pairs : tuple of JudgedContact
        Everything that meets.
    offers : mapping of pair key to tuple of ReleaseOffer
        What could lie between, best first.
    steps : tuple of PrepStep
        By pour, earliest first.
    finish : Finish
        From the master to the cast.
    airing : tuple of School
        All schools for this rubber; empty where they can't be told.
    air, air_is_shop : str, bool
        The school that counts, and whether the shop's default decided.
    cautions : tuple of Caution
        For people.
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
        """Find a pair.

        Parameters
        ----------
        key : str
            "master", "board" and so on.

        Returns
        -------
        JudgedContact or None
            None where the two do not meet in this job.
        """
        return next((one for one in self.pairs if one.touch.key == key), None)


@dataclass(frozen=True, slots=True, kw_only=True)
class JobSoFar:
    """All that the Checks station looks at: the stations as filled in, and what was worked out from them."""

    master: MasterInputs
    box: BoxInputs
    rubber: RubberInputs
    checks: CheckInputs
    shelf: ShelfPicks
    others: tuple[Surface, ...]
    box_plan: BoxPlan | None
    fill_mm: float | None
    opening: Opening | None
    pour: Pour | None


def master_surface(name: str, inputs: MasterInputs, of_job: int = 0) -> Surface:
    """Tell what a master's surface is to whatever touches it.

    Parameters
    ----------
    name : str
        Of its job.
    inputs : MasterInputs
        As filled in.
    of_job : int, optional
        Number of its job, where that is another one.

    Returns
    -------
    Surface
        Its kind empty where the material was not said.
    """
    material = MATERIALS.get(inputs.material or "")
    layers = tuple(layer for layer in (inputs.sealer, inputs.release) if layer)
    kind = material.surface if material else NO_SURFACE
    if inputs.material == SOMETHING_ELSE:
        kind = inputs.own_material or SOMETHING_ELSE
    return Surface(name=name, kind=kind, layers=layers, is_said=bool(layers), of_job=of_job)


def parts_of(of: JobSoFar) -> PartsThatMeet:
    """Gather all that meets in a job.

    Parameters
    ----------
    of : JobSoFar
        The stations.

    Returns
    -------
    PartsThatMeet
        Kinds, empty where not said.
    """
    box, checks = settled(of.box, BOX), settled(of.checks, CHECKS)
    container = of.box_plan.container if of.box_plan else None
    walls = container.material if container else BOARDS[box["wall_material"]].surface
    board = BOARDS[box["board_material"] or box["wall_material"]].surface
    style = of.opening.style if of.opening else ""
    is_parted = style in PARTED
    has_bed = is_parted or box["bed_mm"] > 0
    rubber = of.shelf.rubber
    family = rubber.family if rubber else ""
    return PartsThatMeet(
        rubber=family,
        rubber_name=rubber.name if rubber else "",
        masters=(master_surface("", of.master), *of.others),
        board="" if container or has_bed else board,
        has_board=not container and not has_bed,
        walls=walls,
        walls_name="the container" if container else "the walls",
        bed=box["bed_material"] or "",
        has_bed=has_bed,
        filler=(of.box.filler_family or family) if box["filler_ml"] else "",
        is_parted=is_parted,
        has_jacket=style == "skin" or bool(of.pour and of.pour.how == "brushed"),
        cast=checks["cast_material"] or "",
        insert=checks["insert"] or "",
        between={key: getattr(of.checks, f"between_{key}") for key in ("board", "walls", "bed", "halves", "cast")},
    )


def check(of: JobSoFar, shop: ShopWays) -> Checks | None:
    """Work the Checks station out.

    Parameters
    ----------
    of : JobSoFar
        The job.
    shop : ShopWays
        How the shop does things.

    Returns
    -------
    Checks or None
        None while there is no rubber: nothing can be said of what it touches.
    """
    rubber = of.shelf.rubber
    if rubber is None:
        return None
    checks = settled(of.checks, CHECKS)
    always = shop.release == "always"
    touches = contacts_of(parts_of(of))
    shop = replace(shop, own_rules=_about(shop.own_rules, touches))
    pairs = tuple(judged(touch, shop.own_rules, always_release=always) for touch in touches)
    by_key = {pair.touch.key: pair for pair in pairs}
    in_mould = by_key["cast"].layers
    product = next(
        (one for one in shop.products if in_mould and one.kind == in_mould[-1] and one.finish != "kind"), None
    )
    finish = finish_of(of.master.finish or "", by_key["master"].layers, in_mould, product.finish if product else "")
    degassed = bool(of.rubber.degas_min)  # a time for it at the Rubber station says that it is done
    air = of.checks.air or ("vacuum" if degassed else shop.air)
    airing, air_findings = _airing(of, checks, air)
    found = [finding for pair in pairs if (finding := pair.finding())]
    found += [_differ(pair) for pair in pairs if pair.ruling.against]
    found += [*finish_findings(finish, of.checks.cast_finish or "", in_mould), *air_findings]
    test_min = min(rubber.demould_min or LONGEST_TEST_MIN, LONGEST_TEST_MIN)
    return Checks(
        pairs=pairs,
        release_offers={
            pair.touch.key: _offers(pair, of, shop, always=always)
            for pair in pairs
            if pair.touch.phase == "cast" or pair.bare.verdict != "fine"
        },
        steps=steps_for(pairs, test_min=test_min, products=shop.products),
        finish=finish,
        airing=airing,
        air=air,
        air_is_shop=of.checks.air is None and not degassed,
        cautions=cautions(_used(of, pairs, air)),
        findings=worst_first(found),
    )


def _about(own: Sequence[OwnRule], touches: Sequence[Contact]) -> tuple[OwnRule, ...]:
    # a shop may have noted hundreds of tests; those of what meets here are few
    pours = {touch.pour for touch in touches}
    surfaces = {SEALED, *(touch.touches.casefold() for touch in touches)}
    return tuple(rule for rule in own if rule.pour in pours and rule.touches.casefold() in surfaces)


def _offers(pair: JudgedContact, of: JobSoFar, shop: ShopWays, *, always: bool) -> tuple[ReleaseOffer, ...]:
    if pair.touch.is_held:
        return ()
    under = (of.master.sealer,) if pair.touch.key == "master" and of.master.sealer in {"clear-coat", "shellac"} else ()
    return release_offers(
        pair, wanted=of.checks.cast_finish or "", always=always, own=shop.own_rules, products=shop.products, under=under
    )


def _differ(pair: JudgedContact) -> Finding:
    newer, older = pair.ruling.own, pair.ruling.against
    facts = {
        "pour": pair.touch.pour_name,
        "touches": pair.touch.touches_name,
        "newer": VERDICT_WORDS[pair.ruling.verdict],
        "newer_day": newer.tried_on if newer else "",
        "older": VERDICT_WORDS[older.found] if older else "",
        "older_day": older.tried_on if older else "",
    }
    return Finding(code="own-tests-differ", facts=facts)


def _viscosity(of: JobSoFar) -> float | None:
    rubber, other = of.shelf.rubber, of.shelf.blend
    said = settled(of.rubber, RUBBER)
    if rubber is None or not rubber.viscosity_mpa_s or (other and not other.viscosity_mpa_s):
        return None
    if other and other.viscosity_mpa_s:
        share = said["blend_pct"] / 100
        rubber = replace(
            rubber,
            viscosity_mpa_s=viscosity_of_mix([1 - share, share], [rubber.viscosity_mpa_s, other.viscosity_mpa_s]),
        )
    thinner = of.shelf.thinner
    dose = rubber.parts_of_both(said["thinner_parts"]) if thinner else 0.0
    return side_effects(rubber, dose, thinner_mpa_s=thinner.viscosity_mpa_s if thinner else None).viscosity_mpa_s


def _airing(of: JobSoFar, checks: Mapping[str, float], air: str) -> tuple[tuple[School, ...], list[Finding]]:
    aired = AirRemoval(
        mould=air, cast=of.checks.cast_air or "", mould_kpa=checks["pot_kpa"], cast_kpa=checks["cast_kpa"]
    )
    found = list(wart_findings(aired))
    pour = of.pour
    if pour is None or pour.how != "poured" or not of.fill_mm:
        return (), found
    viscosity = _viscosity(of)
    if viscosity is None or pour.pot_life_min is None:
        what = "How thick the mix is" if viscosity is None else "How long the mix stays liquid"
        return (), [*found, Finding(code="air-not-known", facts={"what": what})]
    said = settled(of.rubber, RUBBER)
    batch_ml = pour.mix.total_ml / len(pour.batches) if pour.mix.total_ml else pour.need_ml
    liquid = Liquid(
        viscosity_mpa_s=viscosity,
        sg=pour.mix.sg_mixed or 1.0,
        depth_mm=of.fill_mm,
        volume_ml=batch_ml,
        pour_min=said["pour_min"],
        still_min=max(pour.pot_life_min - pour.batch_min, 0.0),
    )
    vacuum_kpa = _vacuum_kpa(of.checks, checks)
    if vacuum_kpa is None:
        said_kpa = of.checks.vacuum_gauge_kpa or checks["vacuum_kpa"]
        found.append(
            Finding(code="vacuum-impossible", facts={"pressure": Amount(said_kpa, "pressure")}, field="vacuum_kpa")
        )
    if air == "vacuum" and not of.rubber.degas_min:
        found.append(
            Finding(code="vacuum-not-timed", facts={"time": Amount(checks["vacuum_min"] + AFTER_FALL_MIN, "time")})
        )
    rise = of.rubber.rise_factor
    ways = SchoolSettings(
        drop_mm=checks["drop_mm"],
        vibrate_min=checks["vibrate_min"],
        vacuum_kpa=vacuum_kpa or SchoolSettings().vacuum_kpa,
        vacuum_min=of.checks.vacuum_min or said["degas_min"] or checks["vacuum_min"],
        pot_kpa=checks["pot_kpa"],
        cup_ml=pour.cup_ml,
        **({"rise_factor": rise} if rise and rise > 1 else {}),
    )
    if air == "vacuum" and pour.cup_ml and pour.cup_ml < batch_ml * ways.rise_factor:
        facts = {"vessel": Amount(batch_ml * ways.rise_factor, "volume"), "cup": Amount(pour.cup_ml, "volume")}
        found.append(Finding(code="vacuum-vessel", facts=facts, field="air"))
    return schools(liquid, ways), found


def _vacuum_kpa(said: CheckInputs, checks: Mapping[str, float]) -> float | None:
    # absolute; what a gauge shows below the air comes first, and what can't be is None
    if said.vacuum_gauge_kpa is None:
        return checks["vacuum_kpa"] if checks["vacuum_kpa"] < ATMOSPHERE_KPA else None
    try:
        return absolute_kpa(said.vacuum_gauge_kpa)
    except Refused:
        return None


def _used(of: JobSoFar, pairs: Sequence[JudgedContact], air: str) -> UsedInJob:
    deeds = {air, of.checks.cast_air or ""} & {"vacuum", "pressure"}
    if of.rubber.degas_min:
        deeds.add("vacuum")
    if of.opening and of.opening.slit:
        deeds.add("slit")
    if of.shelf.thinner:
        deeds.add("thinner")
    return UsedInJob(
        pour=frozenset(pair.touch.pour for pair in pairs),
        touches=frozenset(pair.touch.touches for pair in pairs),
        between=frozenset(layer for pair in pairs for layer in pair.layers),
        deed=frozenset(deeds),
    )
