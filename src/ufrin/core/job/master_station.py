"""The Master station: every way the displacement was measured, the one that counts, and the master as a box sees it."""

from dataclasses import dataclass, replace

from ufrin.core.inputs.master import MasterInputs, SettledMaster
from ufrin.core.job.terms.master import WAYS
from ufrin.core.master.displacement import HEAVIEST_G_PER_ML, LEAD_G_PER_ML, MeasuredVolume, off_table
from ufrin.core.master.master_form import Form, Master
from ufrin.core.master.measurements_compared import compare
from ufrin.core.master.measuring_ways import WayAnswer, answers_by_hand, best_answer, is_undecided
from ufrin.core.master.stand_in_choice import stand_in_form
from ufrin.core.materials.kinds import SOMETHING_ELSE
from ufrin.core.materials.tables import MATERIALS
from ufrin.core.measures.plain_volumes import block_ml, drum_ml
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused
from ufrin.language import Text

Size = tuple[float, float, float]

HARDLY = 0.1  # of its outside: a body that fills less of it is rare, and a slip is not (common practice)


@dataclass(frozen=True, slots=True, kw_only=True)
class MasterAnswer:
    """The Master station worked out.

    Parameters
    ----------
    size_mm, outside_ml : (float, float, float) or None, float or None
        Its outside, and the block or drum that it would fill.
    ways : tuple of WayAnswer
        Those that were begun, best first.
    counted : WayAnswer or None
        The one that counts.
    density_g_per_ml : float or None
        Its weight over its displacement.
    form : Form or None
        The mesh or stand-in as it stands.
    form_refused : Refused or None
        Why there is no form although one was asked for.
    is_undecided : bool
        Whether measurements disagree and nobody said which of them counts.
    findings : tuple of Finding
        Worst first.
    """

    size_mm: Size | None
    outside_ml: float | None
    ways: tuple[WayAnswer, ...]
    counted: WayAnswer | None
    density_g_per_ml: float | None
    form: Form | None
    form_refused: Refused | None
    is_undecided: bool
    findings: tuple[Finding, ...]

    @property
    def measured(self) -> MeasuredVolume | None:
        """The displacement that counts."""
        return self.counted.measured if self.counted else None

    @property
    def cavity_volume(self) -> MeasuredVolume | None:
        """What its cavity holds, so that no cast runs short by it: the largest, while measurements disagree."""
        if not self.is_undecided:
            return self.measured
        return max((way.measured for way in self.ways if way.measured), key=lambda one: one.volume_ml)


def answer_master(inputs: MasterInputs, mesh: Form | None = None) -> MasterAnswer:
    """Work out the Master station.

    Parameters
    ----------
    inputs : MasterInputs
        As filled in.
    mesh : Form or None, optional
        Its mesh as it stands, where one was uploaded.

    Returns
    -------
    MasterAnswer
        Every way that was begun, the one that counts, and what disagrees.
    """
    if inputs.material == SOMETHING_ELSE:  # which says nothing of its density
        inputs = replace(inputs, material=None)
    settled = inputs.settled()
    by_hand = answers_by_hand(inputs)
    form, form_refused = _form(inputs, settled, mesh, by_hand)
    ways = (*_ways_of_form(form, settled), *by_hand)
    is_measured = any(way.measured for way in ways)
    # the material is also asked for the surface, so it is no reading of a print that was measured in another way
    shown = tuple(way for way in ways if not (is_measured and way.key == "density" and _may_be_hollow(inputs)))
    size_mm = form.size_mm if form else _size_mm(settled)
    outside_ml = _outside_ml(size_mm, "rectangle" if form else settled.outline)
    counted, undecided = best_answer(shown, settled.counted_way), is_undecided(shown, settled.counted_way)
    counted, capped = _within_outside(counted, outside_ml)
    volume_ml = counted.measured.volume_ml if counted and counted.measured else None
    density = inputs.mass_g / volume_ml if inputs.mass_g and volume_ml else None
    findings = [
        *compare(
            [(WAYS[way.key], way.measured) for way in shown if way.measured],
            is_decided=settled.counted_way != "best" and not undecided,
        ),
        *off_table(MATERIALS.get(inputs.material or ""), inputs.density_g_per_ml),
        *([Finding(code="standin", field="standin")] if form and form.is_standin else ()),
        *(capped or _volume_findings(outside_ml, counted.measured if counted else None)),
        *_density_findings(density),
    ]
    return MasterAnswer(
        size_mm=size_mm,
        outside_ml=outside_ml,
        ways=shown,
        counted=counted,
        density_g_per_ml=density,
        form=form,
        form_refused=form_refused,
        is_undecided=undecided,
        findings=worst_first(findings),
    )


def _form(
    inputs: MasterInputs, settled: SettledMaster, mesh: Form | None, by_hand: tuple[WayAnswer, ...]
) -> tuple[Form | None, Refused | None]:
    if mesh is not None or not inputs.standin:
        return mesh, None
    counted = best_answer(by_hand, settled.counted_way)
    try:
        return stand_in_form(inputs, counted.measured if counted else None), None
    except Refused as refused:
        return None, refused


def _ways_of_form(form: Form | None, settled: SettledMaster) -> tuple[WayAnswer, ...]:
    # a fitted body takes its volume from the other ways, so it is not one of its own
    if form is None or (form.is_standin and settled.standin == "fitted"):
        return ()
    skin_mm = settled.size_pm_mm if form.is_standin else settled.surface_pm_mm
    measured = MeasuredVolume(volume_ml=form.volume_ml, plus_minus_ml=form.area_cm2 * skin_mm / 10)
    return (WayAnswer(key="standin" if form.is_standin else "mesh", measured=measured),)


def _may_be_hollow(inputs: MasterInputs) -> bool:
    material = MATERIALS.get(inputs.material or "")
    return bool(material and material.may_be_hollow and not inputs.solid and inputs.density_g_per_ml is None)


def _size_mm(settled: SettledMaster) -> Size | None:
    length, height = settled.length_mm, settled.height_mm
    width = length if settled.outline == "round" else settled.width_mm
    return (length, width, height) if length and width and height else None


def _outside_ml(size_mm: Size | None, outline: str) -> float | None:
    if size_mm is None:
        return None
    return drum_ml(size_mm[0], size_mm[2]) if outline == "round" else block_ml(*size_mm)


def _within_outside(
    counted: WayAnswer | None, outside_ml: float | None
) -> tuple[WayAnswer | None, tuple[Finding, ...]]:
    # a displacement beyond the outside, by less than its error, is cut to what both allow
    measured = counted.measured if counted else None
    if counted is None or measured is None or not outside_ml or measured.volume_ml <= outside_ml * (1 + 1e-9):
        return counted, ()
    least_ml = max(0.0, measured.volume_ml - measured.plus_minus_ml)
    if least_ml > outside_ml:
        return counted, ()
    allowed = MeasuredVolume(volume_ml=(least_ml + outside_ml) / 2, plus_minus_ml=(outside_ml - least_ml) / 2)
    facts = {
        "volume": Amount(measured.volume_ml, "volume", 1),
        "error": Amount(measured.plus_minus_ml, "volume", 1),
        "outside": Amount(outside_ml, "volume", 1),
        "allowed": Amount(allowed.volume_ml, "volume", 1),
        "allowed_error": Amount(allowed.plus_minus_ml, "volume", 1),
    }
    found = Finding(code="cut-to-outside", facts=facts, field="length_mm")
    return replace(counted, measured=allowed), (found,)


def _volume_findings(outside_ml: float | None, counted: MeasuredVolume | None) -> tuple[Finding, ...]:
    if outside_ml is not None and counted is None:
        return (Finding(code="no-displacement"),)
    if outside_ml and counted and counted.volume_ml - counted.plus_minus_ml > outside_ml * (1 + 1e-9):
        facts = {"volume": Amount(counted.volume_ml, "volume", 1), "outside": Amount(outside_ml, "volume", 1)}
        return (Finding(code="more-than-outside", facts=facts, field="length_mm"),)
    if outside_ml and counted and counted.volume_ml + counted.plus_minus_ml < HARDLY * outside_ml:
        facts = {"volume": Amount(counted.volume_ml, "volume", 1), "outside": Amount(outside_ml, "volume", 0)}
        return (Finding(code="hardly-fills", facts=facts, field="length_mm"),)
    return ()


def _density_findings(density: float | None) -> tuple[Finding, ...]:
    if not density or density <= LEAD_G_PER_ML:
        return ()
    code = "density-impossible" if density > HEAVIEST_G_PER_ML else "density-unlikely"
    return (Finding(code=code, facts={"density": Amount(density, "density")}, field="mass_g"),)


def box_master(inputs: MasterInputs, answer: MasterAnswer, count: int, name: str = "") -> Master | None:
    """Return a master as a box sees it.

    Parameters
    ----------
    inputs : MasterInputs
        Of its Master station.
    answer : MasterAnswer
        The same worked out.
    count : int
        How many stand in the box.
    name : str, optional
        What it is called there.

    Returns
    -------
    Master or None
        None while its size is not known.

    Raises
    ------
    Refused
        While its figures contradict each other.
    """
    if answer.size_mm is None:
        return None
    if any(finding.level == "stop" for finding in answer.findings):
        raise Refused(
            "", Text("The figures of the master contradict each other. Settle that on the Master station first.")
        )
    length, width, height = answer.size_mm
    is_round = answer.form is None and inputs.outline == "round"
    return Master(
        length_mm=length,
        width_mm=width,
        height_mm=height,
        volume_ml=answer.measured.volume_ml if answer.measured else None,
        mass_g=inputs.mass_g,
        count=count,
        outline="round" if is_round else "rectangle",
        form=answer.form,
        name=name,
    )
