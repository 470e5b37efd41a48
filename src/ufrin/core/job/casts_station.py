"""The Casts station: what is known of the mould's cavities, and the shot that is planned."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import numpy as np

from ufrin.core.casting.additions import Addition
from ufrin.core.casting.cast_cups import CastPicks, usual_scoops
from ufrin.core.casting.cast_kinds import SHELLS
from ufrin.core.casting.cast_plan import CastCavity, CastPlan, plan_cast
from ufrin.core.casting.cast_size import cavity_ml
from ufrin.core.casting.filled_cast import filled_viscosity
from ufrin.core.casting.resins import POURED_AS, RESIN_KINDS, Resin
from ufrin.core.casting.rotated_cast import Rotation, rotation
from ufrin.core.inputs.casts import CastInputs, SettledCasts
from ufrin.core.inputs.stations import State
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.mould_channels import channels_of
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.materials.kinds import POURS
from ufrin.core.mesh.triangles import Floats, Mesh
from ufrin.core.opening.mould_features import coated_cm2
from ufrin.core.opening.mould_styles import PARTED
from ufrin.core.rubber.cure_times import time_at
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused

SHORT_POT_LIFE_MIN = 3.0  # common practice
CUP_TAKES_MIN = 1.5  # to mix and pour a small cup; common practice
MOST_HELD = 48
STIFF_MPA_S = 3000.0  # thicker than this is worth a word; common practice


@dataclass(frozen=True, slots=True, kw_only=True)
class CastsAnswer:
    """The Casts station worked out; what could not be is None, and ``refusals`` says why.

    ``known`` is what the job itself tells of a cavity, before anything was typed.
    """

    settled: SettledCasts
    known: CastCavity | None
    cavity: CastCavity | None
    plan: CastPlan | None
    picks: CastPicks
    rotated: Rotation | None = None
    findings: tuple[Finding, ...] = ()
    refusals: tuple[Refused, ...] = ()

    @property
    def defaults(self) -> Mapping[str, float]:
        """What counts for an input that was not filled in, where it follows from the job and the Shelf."""
        found: dict[str, float | None] = {}
        if self.known is not None:
            found = {name: getattr(self.known, name) for name in ("area_cm2", "height_mm", "sprue_ml")}
            found |= {"cavity_ml": self.known.volume_ml, "cavities": float(self.known.count)}
        if self.picks.filler is not None:
            found["scoops"] = usual_scoops(self.settled.cast_kind, self.picks.filler)
        return {name: round(value, 2) for name, value in found.items() if value is not None}

    @property
    def state(self) -> State:
        """The state of the station."""
        if any(finding.level == "stop" for finding in self.findings):
            return "stop"
        if self.plan is None:
            return "empty"
        return "warning" if any(finding.level == "warn" for finding in self.findings) else "ready"


def answer_casts(inputs: CastInputs, plan: Plan, picks: CastPicks, *, checked_as: str | None = None) -> CastsAnswer:
    """Work out the Casts station; nothing that a maker typed makes it fail.

    Parameters
    ----------
    inputs : CastInputs
        As filled in.
    plan : Plan
        The job: its master, its kind of mould, its gate and vents.
    picks : CastPicks
        What the station points to on the Shelf.
    checked_as : str or None, optional
        What the Checks were told is cast.

    Returns
    -------
    CastsAnswer
        With its findings, worst first.
    """
    settled = inputs.settled()
    known = known_cavity(plan, settled, picks.resin)
    cavity = _as_typed(known, settled)
    if cavity is None:
        why = Refused(
            "cavity_ml",
            "How much does a cavity hold? Measure the master, or fill the mould with water, pour that into a cup on a "
            "scale and type it here.",
        )
        return CastsAnswer(settled=settled, known=None, cavity=None, plan=None, picks=picks, refusals=(why,))
    try:
        made = plan_cast(settled, cavity, picks)
    except Refused as refused:
        # that no material is chosen yet is no mistake
        wrong = () if picks.resin is None else (refused,)
        return CastsAnswer(settled=settled, known=known, cavity=cavity, plan=None, picks=picks, refusals=wrong)
    findings = worst_first([*_findings(made, settled, picks), *_checked(picks.resin, checked_as)])
    answer = CastsAnswer(settled=settled, known=known, cavity=cavity, plan=made, picks=picks, findings=findings)
    try:
        return replace(answer, rotated=_rotated(made, settled, picks))
    except Refused as refused:
        # two weights that do not fit each other take nothing away from the plan and its warnings
        return replace(answer, refusals=(refused,))


def _rotated(made: CastPlan, settled: SettledCasts, picks: CastPicks) -> Rotation | None:
    # where a rotated cast stands, once its mould was weighed empty and with something in it
    if made.target_g is None or not settled.mould_g or not settled.now_g or picks.resin is None:
        return None
    return rotation(
        mould_g=settled.mould_g,
        now_g=settled.now_g,
        target_g=made.target_g * made.filled,
        area_cm2=(made.cavity.area_cm2 or 0.0) * made.filled,
        sg=picks.resin.mix_by("weight").sg,
        coat_mm=settled.coat_mm,
    )


def known_cavity(plan: Plan, settled: SettledCasts, resin: Resin | None) -> CastCavity | None:
    """Return what a job tells of its cavities.

    Parameters
    ----------
    plan : Plan
        Worked out.
    settled : SettledCasts
        For how much the rubber shrank.
    resin : Resin or None
        Its thickness decides how wide the gate is.

    Returns
    -------
    CastCavity or None
        None while the master is not measured.
    """
    measured, form = plan.master.measured, plan.master.form
    if measured is None:
        return None
    volume_ml = cavity_ml(measured.volume_ml, settled.rubber_shrink_pct)
    scale = volume_ml / measured.volume_ml
    count = max(1, int(plan.masters[0].count)) if plan.masters else 1
    if form is None:
        height = plan.master.size_mm[2] if plan.master.size_mm else None
        return CastCavity(volume_ml=volume_ml, height_mm=height, count=count)
    held = held_form(form, plan)
    sprue_ml = sum(one.volume_ml for one in channels_of(plan, resin.kind if resin else None).values())
    area_cm2 = form.area_cm2 if plan.style in PARTED else coated_cm2(form)
    return CastCavity(
        volume_ml=volume_ml,
        area_cm2=area_cm2 * scale ** (2 / 3),
        height_mm=held.size_mm[2] * scale ** (1 / 3),
        below_ml=_below(held, scale),
        sprue_ml=sprue_ml,
        count=count,
    )


def held_form(form: Form, plan: Plan) -> Form:
    """Return a job's master turned as its mould is held for casting, its foot at height 0.

    Parameters
    ----------
    form : Form
        As the master stands in its box.
    plan : Plan
        Its Opening says how the mould is held.

    Returns
    -------
    Form
        Upside down where nothing else is known, for the mouth is at the board.
    """
    turn: Floats = np.diag([1.0, -1.0, -1.0])
    if plan.opening is not None and plan.opening.cast is not None:
        turn = plan.opening.cast_turn
    return _held(form, tuple(turn.ravel().tolist()))


@kept_by_form(MOST_HELD)
def _held(form: Form, turn: tuple[float, ...]) -> Form:
    return Form(
        _turned(form.mesh, turn), volume_ml=form.volume_ml, drawn=_turned(form.drawn, turn), is_standin=form.is_standin
    )


def _turned(mesh: Mesh, turn: tuple[float, ...]) -> Mesh:
    turned = mesh.vertices_mm @ np.array(turn).reshape(3, 3).T
    return Mesh(vertices_mm=turned - [0.0, 0.0, turned[:, 2].min()], faces=mesh.faces)


def _below(held: Form, scale: float) -> Callable[[float], float]:
    stretch = scale ** (1 / 3)
    return lambda up_mm: scale * held.below_ml(up_mm / stretch)


def _as_typed(known: CastCavity | None, settled: SettledCasts) -> CastCavity | None:
    # what was measured on the mould itself counts before what follows from the master
    if known is None:
        if settled.cavity_ml is None:
            return None
        known = CastCavity(volume_ml=settled.cavity_ml, count=int(settled.cavities or 1))
    changed: dict[str, float] = {
        name: value
        for name, value in (
            ("area_cm2", settled.area_cm2),
            ("height_mm", settled.height_mm),
            ("sprue_ml", settled.sprue_ml),
        )
        if value is not None
    }
    volume_ml = settled.cavity_ml or known.volume_ml
    if known.below_ml is not None:
        below, height = known.below_ml, known.height_mm or 1.0
        wider, taller = volume_ml / known.volume_ml, (settled.height_mm or height) / height
        known = replace(known, below_ml=lambda up: wider * below(up / taller))
    return replace(known, volume_ml=volume_ml, **changed)  # type: ignore[arg-type]


def _checked(resin: Resin | None, checked_as: str | None) -> list[Finding]:
    if resin is None or checked_as is None or checked_as == POURED_AS.get(resin.kind, resin.kind):
        return []
    facts = _facts(resin=resin.name, kind=RESIN_KINDS[resin.kind].lower(), other=POURS.get(checked_as, checked_as))
    return [Finding(code="cast-not-checked", facts=facts, field="resin_id")]


def _findings(made: CastPlan, settled: SettledCasts, picks: CastPicks) -> list[Finding]:
    resin = picks.resin
    if resin is None:
        return []
    return [
        *_limits(made, settled, resin),
        *_powder(made, settled, resin, picks.filler),
        *_colour(settled, resin, picks.colour),
        *_by_kind(made, resin),
    ]


def _limits(made: CastPlan, settled: SettledCasts, resin: Resin) -> list[Finding]:
    found, facts = [], _facts(resin=resin.name)
    own = [cup for cup in made.cups if cup.what != "the foam"]
    heaviest_g = max(cup.total_g for cup in own) / made.filled  # each cavity heats on its own
    if resin.most_g and heaviest_g > resin.most_g and made.kind not in SHELLS:
        more = _facts(mixed=Amount(heaviest_g, "mass", 0), most=Amount(resin.most_g, "mass", 0))
        found.append(Finding(code="cast-too-heavy", facts=facts | more, field="cast_kind"))
    deep_mm = max((layer.to_mm - layer.from_mm for layer in made.layers), default=made.cavity.height_mm or 0.0)
    if resin.most_mm and deep_mm > resin.most_mm and made.kind not in SHELLS:
        more = _facts(deep=Amount(deep_mm, "length"), most=Amount(resin.most_mm, "length"))
        found.append(Finding(code="cast-too-deep", facts=facts | more, field="cast_kind"))
    if resin.pot_life_min:
        pot_min = time_at(resin.pot_life_min, settled.room_c)
        more = _facts(pot_life=Amount(pot_min, "time"))
        mixes = max(cup.mixes for cup in made.cups)
        takes_min = mixes * CUP_TAKES_MIN
        if mixes > 1 and takes_min > pot_min:
            cups = _facts(cups=str(mixes), takes=Amount(takes_min, "time"))
            found.append(Finding(code="cast-pot-life-over", facts=facts | more | cups, field="cup_ml"))
        elif pot_min < SHORT_POT_LIFE_MIN:
            found.append(Finding(code="cast-pot-life-short", facts=facts | more, field="resin_id"))
    counted = next((one for one in made.totals.values() if one.drops is not None), None)
    if counted is not None:
        found.append(Finding(code="cast-drops", facts=_facts(drops=str(counted.drops), part=counted.name)))
    return found


def _facts(**facts: Amount | str) -> dict[str, Amount | str]:
    return facts


def _powder(made: CastPlan, settled: SettledCasts, resin: Resin, filler: Addition | None) -> list[Finding]:
    scoops = [one for cup in made.cups for one in cup.ingredients if one.key == "filler"]
    if filler is None or not scoops:
        return []
    found, powder = [], _facts(filler=filler.name)
    if settled.scoops is not None and settled.scoops > filler.most_scoops:
        facts = powder | _facts(scoops=f"{settled.scoops:g}", most=f"{filler.most_scoops:g}")
        found.append(Finding(code="filler-beyond-most", facts=facts, field="scoops"))
    found += _thickened(made, resin, filler)
    if filler.dry_min:
        facts = _facts(dry_min=Amount(filler.dry_min, "time"), dry_c=Amount(filler.dry_c or 66.0, "temperature", 0))
        found.append(Finding(code="filler-dry", facts=powder | facts, field="filler_id"))
    if filler.kind in {"metal", "filler"}:
        found.append(Finding(code="metal-dust", facts=powder, field="filler_id"))
    return found


def _thickened(made: CastPlan, resin: Resin, filler: Addition) -> list[Finding]:
    cup = next(cup for cup in made.cups if any(one.key == "filler" for one in cup.ingredients))
    powder_ml = sum(one.g for one in cup.ingredients if one.key == "filler") / (filler.true_sg or 1.0)
    share = powder_ml / cup.volume_ml
    facts = _facts(share=Amount(100 * share, "percent", 0))
    plain = resin.viscosity_mpa_s or 1.0
    thick = filled_viscosity(plain, share)
    if thick is None:
        return [Finding(code="filler-too-stiff", facts=facts | _facts(resin=resin.name), field="scoops")]
    if resin.viscosity_mpa_s and thick > STIFF_MPA_S:
        facts |= _facts(viscosity=Amount(thick, "viscosity"), plain=Amount(plain, "viscosity"))
        return [Finding(code="filler-thickens", facts=facts, field="scoops")]
    return []


def _colour(settled: SettledCasts, resin: Resin, colour: Addition | None) -> list[Finding]:
    if colour is None:
        return []
    if not colour.suits(resin.kind):
        facts = _facts(colour=colour.name, resin=resin.name)
        return [Finding(code="colour-clumps", facts=facts, field="cast_colour_id")]
    if settled.colour_pct > resin.colour_most_pct:
        facts = _facts(
            share=Amount(settled.colour_pct, "percent"), most=Amount(resin.colour_most_pct, "percent"), resin=resin.name
        )
        return [Finding(code="colour-beyond-most", facts=facts, field="colour_pct")]
    return []


def _by_kind(made: CastPlan, resin: Resin) -> list[Finding]:
    found = []
    if made.kind in SHELLS:
        found.append(Finding(code="shell-cool" if made.cavity.area_cm2 else "shell-first-trial"))
    if made.kind == "foam-back":
        found.append(Finding(code="foam-lid"))
    if made.layers and made.cavity.below_ml is None:
        found.append(Finding(code="layers-as-block", field="layers"))
    if made.set_in is not None:
        lift_g = made.set_in.lift_g(resin.mix_by("weight").sg)
        facts = _facts(lift=Amount(lift_g, "mass", 0)) if lift_g > 0 else _facts(resin=resin.name)
        found.append(Finding(code="set-in-floats" if lift_g > 0 else "set-in-sinks", facts=facts, field="set_in_g"))
    return found
