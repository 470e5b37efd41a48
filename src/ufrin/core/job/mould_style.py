"""The kind of mould that counts for a job: the one that the maker chose, or else the one that is advised."""

from collections.abc import Mapping
from dataclasses import dataclass, fields

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.usual import USUAL
from ufrin.core.master.master_form import Form, Master
from ufrin.core.opening.feature_checklist import FeatureChecklist
from ufrin.core.opening.mould_features import MasterFeatures, features_of_shape, judged_features
from ufrin.core.opening.mould_styles import StyleAdvice, advise
from ufrin.core.opening.stretch import allowed_stretch
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.coats import skin_mm

# kinds of mould that are not poured in a box
BOXLESS = frozenset({"skin", "press"})


@dataclass(frozen=True, slots=True, kw_only=True)
class MouldStyle:
    """The kind of mould that counts, and why.

    Parameters
    ----------
    style, is_chosen : str, bool
        One of ``STYLES``, and whether the maker chose it.
    advice : tuple of StyleAdvice
        Best first.
    features : MasterFeatures
        What the advice goes by.
    checklist : FeatureChecklist or None
        Where the master has no shape.
    """

    style: str
    is_chosen: bool
    advice: tuple[StyleAdvice, ...]
    features: MasterFeatures
    checklist: FeatureChecklist | None


def mould_style(
    inputs: OpeningInputs,
    box: BoxInputs,
    own: Master,
    form: Form | None,
    *,
    rubber: Rubber | None,
    shots: float | None,
    planned_ml: Mapping[str, float] | None = None,
) -> MouldStyle:
    """Return the kind of mould that counts.

    It depends on the master, the rubber and the clearances that were filled in, and on nothing that is worked out
    from it, so that one plan follows from it.

    Parameters
    ----------
    inputs, box : OpeningInputs, BoxInputs
        As filled in.
    own : Master
        Of the job.
    form : Form or None
        As it stands.
    rubber : Rubber or None
        The one chosen, blended as it will be.
    shots : float or None
        Casts wanted.
    planned_ml : mapping of style to ml, optional
        The rubber that each kind would take in this job, as far as that is known.

    Returns
    -------
    MouldStyle
        The chosen kind; the best advised while none was chosen.
    """
    settled, clearances = inputs.settled(), box.settled()
    allowed = allowed_stretch(rubber.elongation_pct) if rubber else None
    whole_shots = int(shots) if shots else None
    is_putty = rubber.form == "putty" if rubber else None
    usual_skin_mm = skin_mm(int(USUAL["rubber"]["coats"]), USUAL["rubber"]["coat_mm"])
    checklist: FeatureChecklist | None = None
    if form is not None:
        features = features_of_shape(
            form,
            allowed,
            count=own.count,
            shots=whole_shots,
            side_mm=clearances.side_mm,
            over_mm=clearances.over_mm,
            skin_mm=usual_skin_mm,
            is_putty=is_putty,
        )
    else:
        checklist = FeatureChecklist(**{one.name: bool(getattr(settled, one.name)) for one in fields(FeatureChecklist)})
        features = judged_features(
            checklist,
            own,
            allowed,
            shots=whole_shots,
            side_mm=clearances.side_mm,
            over_mm=clearances.over_mm,
            skin_mm=usual_skin_mm,
            is_putty=is_putty,
        )
    advice = advise(features, planned_ml)
    return MouldStyle(
        style=inputs.style or advice[0].style,
        is_chosen=bool(inputs.style),
        advice=advice,
        features=features,
        checklist=checklist,
    )


def usual_clearances(style: str) -> dict[str, float]:
    """Return the clearances that count for a kind of mould while the maker filled in none.

    Parameters
    ----------
    style : str
        One of ``STYLES``.

    Returns
    -------
    dict of input to mm
        Of the Box station.
    """
    usual = USUAL["squeeze" if style == "squeeze" else "box"]
    return {key: usual[key] for key in ("side_mm", "over_mm")}
