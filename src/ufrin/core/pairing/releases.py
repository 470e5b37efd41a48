"""Releases: which kind to put between, or none, for a contact and the finish that is wanted.

The shop's own products of each kind count too.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ufrin.core.materials.kinds import BETWEENS, NOTHING_BETWEEN, PUT_ON, Between, StepOf
from ufrin.core.pairing.contacts import JudgedContact
from ufrin.core.pairing.rules import WORST, OwnRule, Ruling, judge_layers
from ufrin.core.pairing.surface_finish import FINISHES, PAINT_SPOILERS
from ufrin.errors import Refused
from ufrin.language import Text

RELEASE_SCHOOLS: Mapping[str, str] = {
    "spare": Text("Only where a pairing needs it: what is carried over spoils paint"),
    "always": Text("Always in a mould, thinly: the mould lives longer"),
}
PRODUCT_KINDS: Mapping[str, str] = {key: label for key, label in BETWEENS.items() if key != NOTHING_BETWEEN}
PUT_ON_BY: Mapping[str, str] = {
    "spray": Text("sprayed"),
    "brush": Text("brushed on"),
    "wipe": Text("wiped on"),
    "dust": Text("dusted in"),
}
PRODUCT_FINISHES: Mapping[str, str] = {"kind": Text("as its kind does"), **FINISHES}
PAINT_FRIENDLY = "talc"


@dataclass(frozen=True, slots=True, kw_only=True)
class Product:
    """A release or sealer as the Shelf knows it.

    Parameters
    ----------
    name, kind : str
        Its name, and one of ``PRODUCT_KINDS``.
    by : str
        One of ``PUT_ON_BY``.
    finish : str
        That it leaves on a cast: one of ``PRODUCT_FINISHES``.
    sets_min : float or None
        Until it may be poured on, hardened through, where its tin states it.
    shots : float or None
        Casts until it is applied again.
    pack_price : float or None
        Of a can.
    """

    name: str
    kind: str = "silicone-free-release"
    by: str = "spray"
    finish: str = "kind"
    sets_min: float | None = None
    shots: float | None = None
    pack_price: float | None = None

    def __post_init__(self) -> None:
        if self.kind not in PRODUCT_KINDS or self.by not in PUT_ON_BY or self.finish not in PRODUCT_FINISHES:
            raise Refused("kind", Text("That is not one of the choices. Choose again."))
        for name in ("sets_min", "shots"):
            value = getattr(self, name)
            if value is not None and not value > 0:
                raise Refused(
                    name, Text("This must be more than 0. Leave the field empty if the tin does not state it.")
                )


def steps_with(layer: str, product: Product | None) -> tuple[StepOf, ...]:
    """Return the steps of applying a layer, with the shop's own product where it has one.

    Parameters
    ----------
    layer : str
        What is applied; not "none".
    product : Product or None
        Of its kind: it is named, and sets in the time that its tin states.

    Returns
    -------
    tuple of StepOf
        In their order.
    """
    *before, last = PUT_ON[layer].steps
    if product is None:
        return (*before, last)
    dry_min = product.sets_min if product.sets_min is not None else last.dry_min
    first, *others = (*before, replace(last, dry_min=dry_min))
    return (replace(first, product=product.name), *others)


@dataclass(frozen=True, slots=True, kw_only=True)
class ReleaseOffer:
    """A kind of release that could lie between.

    Parameters
    ----------
    between : Between
        The kind.
    ruling : Ruling
        The outcome.
    score : float
        Our own; the best is highest.
    reasons, against : tuple of str
        For people.
    products : tuple of Product
        The shop's own product of this kind.
    """

    between: Between
    ruling: Ruling
    score: float
    reasons: tuple[str, ...]
    against: tuple[str, ...]
    products: tuple[Product, ...] = ()

    @property
    def suits(self) -> bool:
        """Whether the contact is fine with it."""
        return self.ruling.verdict == "fine"

    @property
    def minutes(self) -> float:
        """The time to apply it, drying included."""
        if self.between.key == NOTHING_BETWEEN:
            return 0.0
        return sum(
            step.work_min + step.dry_min
            for step in steps_with(self.between.key, self.products[0] if self.products else None)
        )

    @property
    def renew(self) -> str:
        """How often it is applied again: as the shop's own tin states, or as is usual."""
        shots = next((one.shots for one in self.products if one.shots), None)
        return Text("every {shots:g} casts, as its tin says", shots=shots) if shots else self.between.renew


def release_offers(
    pair: JudgedContact,
    *,
    wanted: str = "",
    always: bool = False,
    own: Sequence[OwnRule] = (),
    products: Sequence[Product] = (),
    under: Sequence[str] = (),
) -> tuple[ReleaseOffer, ...]:
    """Rank what could lie between two things that meet.

    Parameters
    ----------
    pair : JudgedContact
        The contact.
    wanted : str, optional
        The finish wanted, where one of them is the cast.
    always : bool, optional
        Whether this shop always puts a release in its moulds.
    own : sequence of OwnRule, optional
        The shop's own tests.
    products : sequence of Product, optional
        On its Shelf.
    under : sequence of str, optional
        Layers that stay, such as a sealer.

    Returns
    -------
    tuple of ReleaseOffer
        What suits first; empty where one of the two is not known.
    """
    contact = pair.contact
    if not contact.pour or not contact.touches:
        return ()
    found = []
    for key, between in PUT_ON.items():
        ruling = judge_layers(contact.pour, contact.touches, (*under, key), own, contact.rubber)
        mine = tuple(one for one in products if one.kind == key)
        score, reasons, against = _weighed(
            key, between, ruling, wanted if contact.key == "cast" else "", always=always and contact.key == "cast"
        )
        if mine and key != NOTHING_BETWEEN:
            score += 0.2
            reasons.append(Text("It stands on the Shelf: {name}.", name=", ".join(one.name for one in mine)))
        found.append(
            ReleaseOffer(
                between=between,
                ruling=ruling,
                score=score,
                reasons=tuple(reasons),
                against=tuple(against),
                products=mine,
            )
        )
    return tuple(sorted(found, key=lambda offer: (not offer.suits, -offer.score)))


def _weighed(
    key: str, between: Between, ruling: Ruling, wanted: str, *, always: bool
) -> tuple[float, list[str], list[str]]:
    # our own weights
    score = -3.0 * WORST[ruling.verdict]
    reasons: list[str] = []
    against: list[str] = []
    (reasons if ruling.verdict == "fine" else against).append(ruling.why)
    if key == NOTHING_BETWEEN:
        if ruling.verdict == "fine":
            score += -0.5 if always else 1.0
            reasons.append(
                Text("Nothing to put on, nothing to dry, nothing on the cast.")
                if not always
                else Text("This shop puts one in all the same.")
            )
        return score, reasons, against
    score -= sum(step.work_min + step.dry_min for step in between.steps) / 720
    if wanted == "painted":
        if key in PAINT_SPOILERS:
            score -= 4.0
            against.append(Text("Paint: it {paint}.", paint=between.paint))
        elif key == PAINT_FRIENDLY:
            score += 0.5
            reasons.append(Text("Paint: it {paint}.", paint=between.paint))
        else:
            against.append(Text("Paint: {paint}.", paint=between.paint))
    elif wanted:
        if between.finish == wanted:
            score += 0.3
            reasons.append(Text("Leaves the cast {finish}, as it is wanted.", finish=between.finish))
        elif between.finish:
            score -= 0.6
            against.append(
                Text("Leaves the cast {finish}, and {wanted} is wanted.", finish=between.finish, wanted=wanted)
            )
    return score, reasons, against
