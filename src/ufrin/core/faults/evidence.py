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
from ufrin.language import Text

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
        text = Text(
            "Batch {batch}: part B came out {worst:+.1f} % off the ratio, and the rubber stands {tolerance_pct:g} %.",
            batch=batch.batch + 1,
            worst=worst,
            tolerance_pct=pour.plan.tolerance_pct,
        )
        yield Evidence(key="ratio-off", factor=(STRONG if far else FOR) if off else AGAINST, text=text)
    if any(entry.kind == "wrong" for entry in pour.entries):
        yield Evidence(
            key="wrong-part",
            factor=FOR,
            text=Text("A wrong part was taken in hand during the weighing, and set aside."),
        )
    temps = [entry.temp_c for entry in pour.entries if entry.temp_c is not None]
    if temps and min(temps) < COLD_C:
        yield Evidence(
            key="cold", factor=FOR, text=Text("The room had [{temps:.1f} temperature ~] at the pour.", temps=min(temps))
        )
    elif temps and min(temps) >= WARM_C:
        yield Evidence(
            key="cold",
            factor=AGAINST,
            text=Text("The room had [{temps:.1f} temperature ~] at the pour: not cold.", temps=min(temps)),
        )
    for one in poured:
        yield from _of_cup(pour, one)
    if len(poured) > 1:
        yield Evidence(
            key="many-batches", factor=FOR, text=Text("It was poured in {poured} batches.", poured=len(poured))
        )
    if of.lots_expired:
        yield Evidence(
            key="lot-old",
            factor=FOR,
            text=Text("Past their use-by: {lots_expired}.", lots_expired=", ".join(of.lots_expired)),
        )
    elif of.lots_known:
        yield Evidence(key="lot-old", factor=AGAINST, text=Text("The lots on record are within their use-by."))
    yield from _of_mishaps(pour)
    # against the tin's own figure: that it was taken out does not show that it had set
    tin_min = pour.plan.demould_min if poured else None
    taken_out_min = of.demoulded_min if of.demoulded_min is not None else _taken_out_min(pour)
    if taken_out_min is not None and tin_min:
        wanted = time_at(tin_min, pour.room_temp_c)
        early = taken_out_min < wanted
        text = Text(
            "Taken out after {taken_out_min}; in that room it wants {wanted}.",
            taken_out_min=show(taken_out_min, "time"),
            wanted=show(wanted, "time"),
        )
        yield Evidence(key="early-demould", factor=STRONG if early else AGAINST, text=text)


def _taken_out_min(pour: BenchState) -> float | None:
    # as it was noted at the bench
    out = next((entry for entry in pour.valid if entry.kind == "demould" and entry.what == "well"), None)
    contact = pour.clocks.poured[-1].contact if pour.clocks.poured else None
    return out.at.since_s(contact) / 60 if out and contact else None


def _of_mishaps(pour: BenchState) -> Iterator[Evidence]:
    noted = {entry.what for entry in pour.valid if entry.kind == "mishap"}
    if "leak" in noted:
        yield Evidence(key="leaked", factor=STRONG, text=Text("It was noted at the bench that the box leaked."))
    if "float" in noted:
        yield Evidence(key="floated", factor=STRONG, text=Text("It was noted at the bench that the master floated."))
    if pour.short_ml:
        text = Text("It ran short, and [{short_ml:.0f} volume] were topped up later.", short_ml=pour.short_ml)
        yield Evidence(key="topped-up", factor=STRONG, text=text)


def _of_cup(pour: BenchState, one: StepAttempt) -> Iterator[Evidence]:
    if one.contact is None:
        return
    after = [entry for entry in pour.entries if entry.at.since_s(one.contact) > 0]
    done = next((entry for entry in after if entry.kind == "poured"), None)
    if done and pour.plan.pot_life_min:
        took, may = done.at.since_s(one.contact) / 60, time_at(pour.plan.pot_life_min, pour.room_temp_c)
        text = Text(
            "Batch {batch} was poured {took} after A met B; in that room its pot life is {may}.",
            batch=one.batch + 1,
            took=show(took, "time"),
            may=show(may, "time"),
        )
        yield Evidence(key="late-pour", factor=STRONG if took > may else AGAINST, text=text)
    mixed = next((entry for entry in after if entry.kind == "mixed"), None)
    if mixed:
        took = mixed.at.since_s(one.contact) / 60
        short = took < SHORT_MIX * pour.plan.mix_min
        text = Text(
            "Batch {batch} was mixed for {took}; {mix_min} was planned.",
            batch=one.batch + 1,
            took=show(took, "time"),
            mix_min=show(pour.plan.mix_min, "time"),
        )
        yield Evidence(key="short-mix", factor=FOR if short else AGAINST, text=text)


def _named(pair: JudgedContact) -> str:
    return Text(
        "{pour_name}{pour_name2} on {touches_name} ({touches_kind}), with {between_words} between: {text}.",
        pour_name=pair.contact.pour_name[:1].upper(),
        pour_name2=pair.contact.pour_name[1:],
        touches_name=pair.contact.touches_name,
        touches_kind=pair.touches_kind,
        between_words=pair.between_words,
        text=pair.ruling.text,
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
            text=Text(
                "{pair} Bare, it would be: {text}. A place that was missed is enough.",
                pair=_named(pair),
                text=pair.bare.text,
            ),
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
        yield Evidence(
            key="release-in-mould", factor=FOR, text=Text("In the mould: {label}.", label=PUT_ON[pair.layers[-1]].label)
        )
    if pair.contact.pour in DRUNK:
        yield Evidence(
            key="eats-mould",
            factor=FOR,
            text=Text("Cast of {pour_kind}, which rubber drinks.", pour_kind=pair.pour_kind),
        )


def _of_air(checks: Checks) -> Iterator[Evidence]:
    if any(finding.code == "warts" for finding in checks.findings):
        yield Evidence(
            key="wart-risk",
            factor=STRONG,
            text=Text("The cast is put under pressure, and the mould's rubber was not degassed."),
        )
    if checks.air == "vacuum":
        yield Evidence(key="not-degassed", factor=AGAINST, text=Text("The rubber was degassed in a vacuum."))
    else:
        yield Evidence(key="not-degassed", factor=2.0, text=Text("The rubber was not degassed in a vacuum."))
    school = checks.school
    if school and school.slow_mm is not None:
        text = Text("As it was aired, bubbles under [{slow_mm:.3f} fine ~] may stay.", slow_mm=school.slow_mm)
        yield Evidence(key="slow-bubbles", factor=2.0 if school.slow_mm > LARGE_BUBBLE_MM else 0.7, text=text)


def _of_job(of: JobEvidence) -> Iterator[Evidence]:
    codes = {finding.code for found in of.plan.findings.values() for finding in found}
    for code, key, text in (
        ("stretch-over", "stretch-over", Text("It has to stretch more than the rubber gives again and again.")),
        ("wall-bows", "walls-bow", Text("The walls bow out under the rubber.")),
        ("floats", "floats", Text("The master floats up if rubber creeps under it.")),
        ("lifted-out-of-bed", "floats", Text("The master leaves its bed if rubber creeps between it and the clay.")),
    ):
        if code in codes:
            yield Evidence(key=key, factor=FOR, text=text)
    if {"air-under", "air-under-tilt"} & codes:
        yield Evidence(key="air-under", factor=STRONG, text=Text("Air stays under overhangs as the rubber rises."))
    elif of.plan.opening and of.plan.opening.under is not None:
        yield Evidence(key="air-under", factor=AGAINST, text=Text("No air stays under overhangs as the rubber rises."))
    box = of.plan.box_inputs.settled()
    thin = min(box.side_mm, box.over_mm)
    yield Evidence(
        key="thin-rubber",
        factor=FOR if thin < THIN_MM else 0.6,
        text=Text("The thinnest rubber planned is [{thin:.1f} length ~].", thin=thin),
    )
    material = MATERIALS.get(of.master.material or "")
    if material and material.surface.endswith("print"):
        yield Evidence(key="is-print", factor=FOR, text=Text("The master is a {label}.", label=material.label))
    if of.plan.opening and of.plan.opening.style != "skin":
        yield Evidence(key="no-jacket", factor=1.5, text=Text("The mould has no jacket."))
    if of.shots is not None:
        yield Evidence(
            key="many-shots",
            factor=STRONG if of.shots > MANY_SHOTS else AGAINST,
            text=Text("It has had {shots:g} shots.", shots=of.shots),
        )


def _of_rubber(of: JobEvidence) -> Iterator[Evidence]:
    if of.plan.pour is None:
        return
    if of.plan.pour.rubber.family.startswith("polyurethane"):
        yield Evidence(key="is-polyurethane", factor=FOR, text=Text("The rubber is a polyurethane."))
    dose = of.plan.pour.rubber.parts_of_both(of.rubber.thinner_parts or 0.0)
    if dose > MUCH_THINNER:
        yield Evidence(
            key="thinner-high", factor=STRONG, text=Text("{dose:g} parts of thinner per 100 were planned.", dose=dose)
        )
    else:
        yield Evidence(
            key="thinner-high",
            factor=1.0 if dose else 0.1,
            text=Text("{dose:g} parts of thinner per 100 were planned.", dose=dose),
        )
    pigment = of.rubber.pigment_pct or 0.0
    factor = STRONG if pigment > MUCH_PIGMENT_PCT else 1.0 if pigment else 0.1
    yield Evidence(
        key="pigment-high", factor=factor, text=Text("{pigment:g} % of pigment was planned.", pigment=pigment)
    )


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
