"""The terms of a release or sealer, as the forms of the Shelf ask for them."""

from collections.abc import Mapping

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.pairing.releases import PRODUCT_FINISHES, PRODUCT_KINDS, PUT_ON_BY
from ufrin.language import Text

PRODUCT_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "kind": Term(label=Text("It is"), kind="choice", choices=PRODUCT_KINDS, default="silicone-free-release"),
    "by": Term(label=Text("Put on"), kind="choice", choices=PUT_ON_BY, default="spray"),
    "finish": Term(label=Text("Leaves the cast"), kind="choice", choices=PRODUCT_FINISHES, default="kind"),
    "sets_min": positive_quantity(
        Text("May be poured on after"), "time", Text("As its tin says; of a coat, when it has hardened through.")
    ),
    "shots": Term(label=Text("Casts until it is put on again"), kind="number", positive=True),
    "pack_price": quantity(Text("Price of a can"), "money"),
}
