"""The evidence that a job and its pours give for or against a cause."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from ufrin.core.faults.causes import AGAINST, FOR, STRONG, Evidence
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.checks_station import Checks
from ufrin.core.job.job_plan import Plan
from ufrin.core.materials.kinds import GROUPS, PUT_ON
from ufrin.core.materials.tables import MATERIALS
from ufrin.core.measures.display import show
from ufrin.core.pairing.contacts import JudgedContact
from ufrin.core.rubber.cure_times import time_at
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import StepAttempt

COLD_C, WARM_C = 18.0, 20.0
THIN_MM = 8.0
MUCH_THINNER, MUCH_PIGMENT_PCT = 30.0, 2.0
LARGE_BUBBLE_MM = 1.0
MANY_SHOTS = 30.0
SHORT_MIX = 0.6
STOPS_CURE = {"will-not-set", "may-not-set"}
HOLDS = {"bonds", "release", "seal"}
DRUNK = {"polyester-resin", "clear-polyurethane", "epoxy-resin"}


@dataclass(frozen=True, slots=True, kw_only=True)
class JobEvidence:
    """What the evidence is drawn from: the job as it is now, its stations, its last pour, and what the maker adds.

    Parameters
    ----------
    plan : Plan
        Worked out.
    master, box, rubber : MasterInputs, BoxInputs, RubberInputs
        As filled in.
    pour : BenchState or None
        The last one that was poured.
    lots_expired : tuple of str
        Lots of that pour that are past their use-by.
    lots_known : bool
        Whether any lot is on record.
    demoulded_min : float or None
        After the first contact, as the maker states.
    shots : float or None
        Casts made in the mould so far, as the maker states.
    """

    plan: Plan
    master: MasterInputs
    box: BoxInputs
    rubber: RubberInputs
    pour: BenchState | None = None
    lots_expired: tuple[str, ...] = ()
    lots_known: bool = False
    demoulded_min: float | None = None
    shots: float | None = None


def evidence(of: JobEvidence) -> tuple[Evidence, ...]:
    """Collect the evidence of a record.

    Parameters
    ----------
    of : JobEvidence
        All that is on record.

    Returns
    -------
    tuple of Evidence
        Nothing is concluded from what is not on record.
    """
    return (*_of_pour(of), *_of_pairs(of), *_of_job(of), *_of_rubber(of))


def _of_pour(of: JobEvidence) -> Iterator[Evidence]:
    pour = of.pour
    if pour is None:
        return
    poured = [one for one in pour.attempts if one.outcome == "poured"]
    errors = [(error, one) for one in poured if (error := pour.ratio_error_pct(one)) is not None]
    if errors:
        worst, batch = max(errors, key=lambda row: abs(row[0]))
        off = abs(worst) > pour.plan.tolerance_pct
        far = abs(worst) > 3 * pour.plan.tolerance_pct
        text = (
            f"Batch {batch.batch + 1}: part B came out {abs(worst):.1f} % {'over' if worst > 0 else 'under'} the "
            f"ratio, and the rubber stands {pour.plan.tolerance_pct:g} %."
        )
        yield Evidence(key="ratio-off", factor=(STRONG if far else FOR) if off else AGAINST, text=text)
    if any(entry.kind == "wrong" for entry in pour.entries):
        yield Evidence(
            key="wrong-part", factor=FOR, text="A wrong part was taken in hand during the weighing, and set aside."
        )
    temps = [entry.temp_c for entry in pour.entries if entry.temp_c is not None]
    if temps and min(temps) < COLD_C:
        yield Evidence(key="cold", factor=FOR, text=f"The room had [{min(temps):.1f} temperature ~] at the pour.")
    elif temps and min(temps) >= WARM_C:
        yield Evidence(
            key="cold", factor=AGAINST, text=f"The room had [{min(temps):.1f} temperature ~] at the pour: not cold."
        )
    for one in poured:
        yield from _of_cup(pour, one)
    if len(poured) > 1:
        yield Evidence(key="many-batches", factor=FOR, text=f"It was poured in {len(poured)} batches.")
    if of.lots_expired:
        yield Evidence(key="lot-old", factor=FOR, text=f"Past their use-by: {', '.join(of.lots_expired)}.")
    elif of.lots_known:
        yield Evidence(key="lot-old", factor=AGAINST, text="The lots on record are within their use-by.")
    yield from _of_mishaps(pour)
    # against the tin's own figure: that it was taken out does not show that it had set
    tin_min = pour.plan.demould_min if poured else None
    taken_out_min = of.demoulded_min if of.demoulded_min is not None else _taken_out_min(pour)
    if taken_out_min is not None and tin_min:
        wanted = time_at(tin_min, pour.room_temp_c)
        early = taken_out_min < wanted
        text = f"Taken out after {show(taken_out_min, 'time')}; in that room it wants {show(wanted, 'time')}."
        yield Evidence(key="early-demould", factor=STRONG if early else AGAINST, text=text)


def _taken_out_min(pour: BenchState) -> float | None:
    # as it was noted at the bench
    out = next((entry for entry in pour.valid if entry.kind == "demould" and entry.what == "well"), None)
    contact = pour.clocks.poured[-1].contact if pour.clocks.poured else None
    return out.at.since_s(contact) / 60 if out and contact else None


def _of_mishaps(pour: BenchState) -> Iterator[Evidence]:
    noted = {entry.what for entry in pour.valid if entry.kind == "mishap"}
    if "leak" in noted:
        yield Evidence(key="leaked", factor=STRONG, text="It was noted at the bench that the box leaked.")
    if "float" in noted:
        yield Evidence(key="floated", factor=STRONG, text="It was noted at the bench that the master floated.")
    if pour.short_ml:
        text = f"It ran short, and [{pour.short_ml:.0f} volume] were topped up later."
        yield Evidence(key="topped-up", factor=STRONG, text=text)


def _of_cup(pour: BenchState, one: StepAttempt) -> Iterator[Evidence]:
    if one.contact is None:
        return
    after = [entry for entry in pour.entries if entry.at.since_s(one.contact) > 0]
    done = next((entry for entry in after if entry.kind == "poured"), None)
    if done and pour.plan.pot_life_min:
        took, may = done.at.since_s(one.contact) / 60, time_at(pour.plan.pot_life_min, pour.room_temp_c)
        text = (
            f"Batch {one.batch + 1} was poured {show(took, 'time')} after A met B; in that room its pot life is "
            f"{show(may, 'time')}."
        )
        yield Evidence(key="late-pour", factor=STRONG if took > may else AGAINST, text=text)
    mixed = next((entry for entry in after if entry.kind == "mixed"), None)
    if mixed:
        took = mixed.at.since_s(one.contact) / 60
        short = took < SHORT_MIX * pour.plan.mix_min
        text = (
            f"Batch {one.batch + 1} was mixed for {show(took, 'time')}; {show(pour.plan.mix_min, 'time')} was planned."
        )
        yield Evidence(key="short-mix", factor=FOR if short else AGAINST, text=text)


def _named(pair: JudgedContact) -> str:
    return (
        f"{pair.contact.pour_name[:1].upper()}{pair.contact.pour_name[1:]} on {pair.contact.touches_name} "
        f"({pair.touches_kind}), "
        f"with {pair.between_words} between: {pair.ruling.text}."
    )


def _of_pairs(of: JobEvidence) -> Iterator[Evidence]:
    checks = of.plan.checks
    if checks is None:
        return
    for pair in checks.pairs:
        if pair.contact.pour and pair.contact.touches and not pair.contact.is_held:
            yield from _of_cure(pair)
            yield from _of_hold(pair)
            if pair.contact.key == "cast":
                yield from _of_cast(pair)
    yield from _of_air(checks)


def _of_cure(pair: JudgedContact) -> Iterator[Evidence]:
    at_master = pair.contact.key.startswith("master")
    key = (
        "inhibiting-master"
        if at_master
        else "cast-may-not-set"
        if pair.contact.key == "cast"
        else "inhibiting-elsewhere"
    )
    if pair.ruling.verdict in STOPS_CURE:
        yield Evidence(key=key, factor=STRONG, text=_named(pair))
    elif pair.bare.verdict in STOPS_CURE:
        yield Evidence(
            key=key,
            factor=FOR,
            text=f"{_named(pair)} Bare, it would be: {pair.bare.text}. A place that was missed is enough.",
        )
    elif at_master:
        yield Evidence(key=key, factor=AGAINST, text=_named(pair))


def _of_hold(pair: JudgedContact) -> Iterator[Evidence]:
    holds = {"board": "walls-hold", "walls": "walls-hold", "halves": "halves-hold"}.get(
        pair.contact.key, "master-holds" if pair.contact.key.startswith("master") else ""
    )
    if holds:
        factor = STRONG if pair.ruling.verdict in HOLDS else AGAINST if pair.bare.verdict == "fine" else 1.5
        yield Evidence(key=holds, factor=factor, text=_named(pair))
    if pair.ruling.verdict == "seal":
        yield Evidence(key="porous-open", factor=STRONG, text=_named(pair))
    elif pair.contact.key == "master":
        yield Evidence(key="porous-open", factor=AGAINST, text=_named(pair))
    if "silicone-release" in pair.layers and pair.contact.touches in GROUPS["silicones"]:
        yield Evidence(key="silicone-on-silicone", factor=STRONG, text=_named(pair))


def _of_cast(pair: JudgedContact) -> Iterator[Evidence]:
    if pair.layers:
        yield Evidence(key="release-in-mould", factor=FOR, text=f"In the mould: {PUT_ON[pair.layers[-1]].label}.")
    if pair.contact.pour in DRUNK:
        yield Evidence(key="eats-mould", factor=FOR, text=f"Cast of {pair.pour_kind}, which rubber drinks.")


def _of_air(checks: Checks) -> Iterator[Evidence]:
    if any(finding.code == "warts" for finding in checks.findings):
        yield Evidence(
            key="wart-risk",
            factor=STRONG,
            text="The cast is put under pressure, and the mould's rubber was not degassed.",
        )
    if checks.air == "vacuum":
        yield Evidence(key="not-degassed", factor=AGAINST, text="The rubber was degassed in a vacuum.")
    else:
        yield Evidence(key="not-degassed", factor=2.0, text="The rubber was not degassed in a vacuum.")
    school = checks.school
    if school and school.slow_mm is not None:
        text = f"As it was aired, bubbles under [{school.slow_mm:.3f} fine ~] may stay."
        yield Evidence(key="slow-bubbles", factor=2.0 if school.slow_mm > LARGE_BUBBLE_MM else 0.7, text=text)


def _of_job(of: JobEvidence) -> Iterator[Evidence]:
    codes = {finding.code for found in of.plan.findings.values() for finding in found}
    for code, key, text in (
        ("stretch-over", "stretch-over", "It has to stretch more than the rubber gives again and again."),
        ("wall-bows", "walls-bow", "The walls bow out under the rubber."),
        ("floats", "floats", "The master floats up if rubber creeps under it."),
        ("lifted-out-of-bed", "floats", "The master leaves its bed if rubber creeps between it and the clay."),
    ):
        if code in codes:
            yield Evidence(key=key, factor=FOR, text=text)
    if {"air-under", "air-under-tilt"} & codes:
        yield Evidence(key="air-under", factor=STRONG, text="Air stays under overhangs as the rubber rises.")
    elif of.plan.opening and of.plan.opening.under is not None:
        yield Evidence(key="air-under", factor=AGAINST, text="No air stays under overhangs as the rubber rises.")
    box = of.plan.box_inputs.settled()
    thin = min(box.side_mm, box.over_mm)
    yield Evidence(
        key="thin-rubber",
        factor=FOR if thin < THIN_MM else 0.6,
        text=f"The thinnest rubber planned is [{thin:.1f} length ~].",
    )
    material = MATERIALS.get(of.master.material or "")
    if material and material.surface.endswith("print"):
        yield Evidence(key="is-print", factor=FOR, text=f"The master is a {material.label}.")
    if of.plan.opening and of.plan.opening.style != "skin":
        yield Evidence(key="no-jacket", factor=1.5, text="The mould has no jacket.")
    if of.shots is not None:
        yield Evidence(
            key="many-shots",
            factor=STRONG if of.shots > MANY_SHOTS else AGAINST,
            text=f"It has had {of.shots:g} shots.",
        )


def _of_rubber(of: JobEvidence) -> Iterator[Evidence]:
    if of.plan.pour is None:
        return
    if of.plan.pour.rubber.family.startswith("polyurethane"):
        yield Evidence(key="is-polyurethane", factor=FOR, text="The rubber is a polyurethane.")
    dose = of.plan.pour.rubber.parts_of_both(of.rubber.thinner_parts or 0.0)
    if dose > MUCH_THINNER:
        yield Evidence(key="thinner-high", factor=STRONG, text=f"{dose:g} parts of thinner per 100 were planned.")
    else:
        yield Evidence(
            key="thinner-high", factor=1.0 if dose else 0.1, text=f"{dose:g} parts of thinner per 100 were planned."
        )
    pigment = of.rubber.pigment_pct or 0.0
    factor = STRONG if pigment > MUCH_PIGMENT_PCT else 1.0 if pigment else 0.1
    yield Evidence(key="pigment-high", factor=factor, text=f"{pigment:g} % of pigment was planned.")


def last_poured(pours: Sequence[BenchState]) -> BenchState | None:
    """Find the last pour in which something was poured.

    Parameters
    ----------
    pours : sequence of BenchState
        Newest first.

    Returns
    -------
    BenchState or None
        None where nothing was poured yet.
    """
    return next((pour for pour in pours if any(one.outcome == "poured" for one in pour.attempts)), None)
