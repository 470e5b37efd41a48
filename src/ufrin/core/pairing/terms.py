"""The terms of a release or sealer, as the forms of the Shelf ask for them."""

from collections.abc import Mapping

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.pairing.releases import PRODUCT_FINISHES, PRODUCT_KINDS, PUT_ON_BY

PRODUCT_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "kind": Term(label="It is", kind="choice", choices=PRODUCT_KINDS, default="silicone-free-release"),
    "by": Term(label="Put on", kind="choice", choices=PUT_ON_BY, default="spray"),
    "finish": Term(label="Leaves the cast", kind="choice", choices=PRODUCT_FINISHES, default="kind"),
    "sets_min": positive_quantity(
        "May be poured on after", "time", "As its tin says; of a coat, when it has hardened through."
    ),
    "shots": Term(label="Casts until it is put on again", kind="number", positive=True),
    "pack_price": quantity("Price of a can", "money"),
}
