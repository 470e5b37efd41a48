"""The Casts station: what is known of the mould's cavities, and the shot that is planned."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from ufrin.core.casting.cast_cups import CastPicks, usual_scoops
from ufrin.core.casting.cast_plan import plan_cast
from ufrin.core.casting.cast_size import cavity_ml
from ufrin.core.casting.planned_cast import CastCavity, CastPlan
from ufrin.core.casting.resins import Resin
from ufrin.core.inputs.casts import CastInputs, SettledCasts
from ufrin.core.inputs.stations import State
from ufrin.core.job.cast_findings import cast_findings, not_checked, other_family
from ufrin.core.job.cast_preparation import getting_ready
from ufrin.core.job.finished_mould import FinishedMould
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.mould_channels import channels_of
from ufrin.core.job.sign_off import SignOff, Stop, stops
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.triangles import Floats, Mesh
from ufrin.core.opening.mould_features import coated_cm2
from ufrin.core.opening.mould_styles import PARTED
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.core.weighing.mould_weight import Rotation, rotation
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused
from ufrin.language import Text

MOST_HELD = 48


@dataclass(frozen=True, slots=True, kw_only=True)
class CastsAnswer:
    """The Casts station worked out; what could not be is None, and ``refusals`` says why.

    ``known`` is what the job itself tells of a cavity, before anything was typed; ``style`` is the kind of mould, and
    ``release_steps`` are what is put into it before a cast.
    """

    settled: SettledCasts
    known: CastCavity | None
    cavity: CastCavity | None
    plan: CastPlan | None
    picks: CastPicks
    rotated: Rotation | None = None
    style: str = ""
    release_steps: tuple[PrepStep, ...] = ()
    findings: tuple[Finding, ...] = ()
    refusals: tuple[Refused, ...] = ()

    @property
    def defaults(self) -> Mapping[str, float]:
        """What counts for an input that was not filled in, where it follows from the job and the Shelf."""
        found: dict[str, float | None] = {}
        if self.known is not None:
            found = {name: getattr(self.known, name) for name in ("area_cm2", "height_mm", "sprue_ml")}
            found |= {"cavity_ml": self.known.volume_ml, "cavities": float(self.known.count)}
            found["spare_pct"] = self.settled.spare_pct
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

    @property
    def steps(self) -> tuple[PrepStep, ...]:
        """What is done before a shot; empty before there is one."""
        return getting_ready(self.plan, self.picks, self.release_steps, self.style) if self.plan else ()

    def stops(self, signed: Sequence[SignOff]) -> tuple[Stop, ...]:
        """Return what must be settled, or signed off with a reason, before a shot is weighed.

        Parameters
        ----------
        signed : sequence of SignOff
            On record for this mould.

        Returns
        -------
        tuple of Stop
            Those signed off name who did.
        """
        return stops({"casts": self.findings}, {"casts": self.refusals}, signed)


def answer_casts(
    inputs: CastInputs,
    plan: Plan,
    picks: CastPicks,
    *,
    checked_as: str | None = None,
    finished: FinishedMould | None = None,
    only_family: str = "",
) -> CastsAnswer:
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
    finished : FinishedMould or None, optional
        Of a mould that was not made in this job: how the cast meets it.
    only_family : str, optional
        The rubber family that a rigid mould keeps to for ever; empty for any other mould.

    Returns
    -------
    CastsAnswer
        With its findings, worst first.
    """
    settled = replace(inputs.settled(), room_c=plan.rubber_settled.room_temp_c)
    known = known_cavity(plan, settled, picks.resin)
    if inputs.spare_pct is None and inputs.cavity_ml is None and known is not None and plan.master.cavity_volume:
        # as much as the cavity may be larger than it was measured is mixed on top
        pm_pct = 100 * plan.master.cavity_volume.plus_minus_ml / plan.master.cavity_volume.volume_ml
        settled = replace(settled, spare_pct=round(settled.spare_pct + pm_pct, 1))
    cavity = _as_typed(known, settled)
    if cavity is None:
        why = Refused(
            "cavity_ml",
            Text(
                "How much does a cavity hold? Measure the master, or fill the mould with water, pour "
                "that into a cup on a scale and type it here."
            ),
        )
        return CastsAnswer(settled=settled, known=None, cavity=None, plan=None, picks=picks, refusals=(why,))
    try:
        made = plan_cast(settled, cavity, picks)
    except Refused as refused:
        # that no material is chosen yet is no mistake
        wrong = () if picks.resin is None else (refused,)
        return CastsAnswer(settled=settled, known=known, cavity=cavity, plan=None, picks=picks, refusals=wrong)
    meets = [finished.finding] if finished and finished.finding else []
    meets += other_family(picks.resin, only_family)
    if plan.master.is_undecided and inputs.cavity_ml is None:
        meets.append(_undecided(plan))
    findings = worst_first([*cast_findings(made, settled, picks), *not_checked(picks.resin, checked_as), *meets])
    released = finished.steps if finished else plan.checks.steps if plan.checks else ()
    answer = CastsAnswer(
        settled=settled,
        known=known,
        cavity=cavity,
        plan=made,
        picks=picks,
        style=plan.style or ("two-part" if settled.mould_parts == "two" else ""),
        release_steps=released,
        findings=findings,
    )
    try:
        return replace(answer, rotated=_rotated(made, settled, picks))
    except Refused as refused:
        # two weights that do not fit each other take nothing away from the plan and its warnings
        return replace(answer, refusals=(refused,))


def _undecided(plan: Plan) -> Finding:
    volumes_ml = [way.measured.volume_ml for way in plan.master.ways if way.measured]
    facts = {"least": Amount(min(volumes_ml), "volume", 1), "most": Amount(max(volumes_ml), "volume", 1)}
    return Finding(code="cavity-undecided", facts=facts, field="cavity_ml")


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
        most_g=made.cavity.volume_ml * made.filled * picks.resin.mix_by("weight").sg,
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
    measured, form = plan.master.cavity_volume, plan.master.form
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
        below_ml=_below(held, volume_ml, scale ** (1 / 3)),
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


def _below(held: Form, volume_ml: float, stretch: float) -> Callable[[float], float]:
    # the mesh tells how what the cavity holds is spread over its height, not how much it is
    return lambda up_mm: held.below_ml(up_mm / stretch) * volume_ml / held.volume_ml


def _as_typed(known: CastCavity | None, settled: SettledCasts) -> CastCavity | None:
    # what was measured on the mould itself counts before what follows from the master
    if known is None:
        if settled.cavity_ml is None:
            return None
        known = CastCavity(volume_ml=settled.cavity_ml, count=int(settled.mould_cavities or settled.cavities or 1))
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
