"""The terms of every station, each beside the others of its station."""

from collections.abc import Mapping

from ufrin.core.inputs.stations import Station
from ufrin.core.inputs.term import Term
from ufrin.core.job.terms.box import BOX_TERMS
from ufrin.core.job.terms.casts import CASTS_TERMS
from ufrin.core.job.terms.checks import CHECKS_TERMS
from ufrin.core.job.terms.master import MASTER_TERMS
from ufrin.core.job.terms.opening import OPENING_TERMS
from ufrin.core.job.terms.rubber import RUBBER_TERMS

TERMS: Mapping[Station, Mapping[str, Term]] = {
    "master": MASTER_TERMS,
    "opening": OPENING_TERMS,
    "box": BOX_TERMS,
    "rubber": RUBBER_TERMS,
    "checks": CHECKS_TERMS,
    "casts": CASTS_TERMS,
}
