"""Preparation: what is applied before a pour, as steps with drying times, ready when the tin is opened."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ufrin.core.pairing.contacts import PHASES, JudgedContact, Phase
from ufrin.core.pairing.releases import Product, steps_with

SPOT_TEST_WORK_MIN = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PrepStep:
    """One step of the preparation.

    Parameters
    ----------
    phase : str
        Before which pour.
    do : str
        What is done, on what.
    before_min : float
        The latest time to begin, before that pour.
    work_min, dry_min : float
        The time that it takes.
    pairs : tuple of str
        Keys of the contacts that it is for.
    """

    phase: Phase
    do: str
    before_min: float
    work_min: float
    dry_min: float
    pairs: tuple[str, ...]


def steps_for(
    pairs: Sequence[JudgedContact], *, test_min: float = 24 * 60.0, products: Sequence[Product] = ()
) -> tuple[PrepStep, ...]:
    """Turn layers into steps; equal ones on several surfaces become one step.

    Parameters
    ----------
    pairs : sequence of JudgedContact
        Of the job.
    test_min : float, optional
        How long a tested spot is left: until the rubber may be demoulded.
    products : sequence of Product, optional
        On the Shelf: the first of a kind is named, and sets in the time that its tin states.

    Returns
    -------
    tuple of PrepStep
        By pour, earliest first.
    """
    together: dict[tuple[Phase, tuple[str, ...]], list[JudgedContact]] = {}
    for pair in pairs:
        if pair.layers:
            together.setdefault((pair.contact.phase, pair.layers), []).append(pair)
    found = []
    for (phase, layers), alike in together.items():
        # a spot is tested with its coats on, so these come before the test
        after_min = test_min + SPOT_TEST_WORK_MIN if any(_wants_a_test(pair) for pair in alike) else 0.0
        found += _chain(phase, layers, alike, after_min, {one.kind: one for one in reversed(products)})
    found += [
        _spot_test(pair, test_min)
        for pair in pairs
        if pair.contact.pour and pair.contact.touches and _wants_a_test(pair)
    ]
    order = list(PHASES)
    return tuple(sorted(found, key=lambda step: (order.index(step.phase), -step.before_min)))


def _wants_a_test(pair: JudgedContact) -> bool:
    if pair.ruling.own is not None:
        return False
    kept_back = pair.bare.verdict in {"may-not-set", "will-not-set"} and pair.ruling.verdict == "fine"
    return not pair.ruling.known or pair.ruling.verdict == "may-not-set" or kept_back


def _chain(
    phase: Phase,
    layers: Sequence[str],
    alike: Sequence[JudgedContact],
    after_min: float,
    products: Mapping[str, Product],
) -> list[PrepStep]:
    names = [pair.contact.touches_name for pair in alike]
    what = names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
    steps = [step for layer in layers for step in steps_with(layer, products.get(layer))]
    found, before = [], after_min
    for step in reversed(steps):
        before += step.work_min + step.dry_min
        found.append(
            PrepStep(
                phase=phase,
                do=step.do.replace("{what}", what),
                before_min=before,
                work_min=step.work_min,
                dry_min=step.dry_min,
                pairs=tuple(pair.contact.key for pair in alike),
            )
        )
    return found[::-1]


def _spot_test(pair: JudgedContact, test_min: float) -> PrepStep:
    over = f" over {pair.between_words}" if pair.layers else ""
    do = (
        f"Test a spot: a spoonful of {pair.pour_kind} on a hidden place of {pair.contact.touches_name}{over}; it "
        "must set as in its cup"
    )
    return PrepStep(
        phase=pair.contact.phase,
        do=do,
        before_min=test_min + SPOT_TEST_WORK_MIN,
        work_min=SPOT_TEST_WORK_MIN,
        dry_min=test_min,
        pairs=(pair.contact.key,),
    )


def begin_min(steps: Sequence[PrepStep]) -> Mapping[Phase, float]:
    """Return how long before each pour its preparation begins.

    Parameters
    ----------
    steps : sequence of PrepStep
        Of the job.

    Returns
    -------
    mapping of phase to min
        Phases without steps are left out.
    """
    begins: dict[Phase, float] = {}
    for step in steps:
        begins[step.phase] = max(begins.get(step.phase, 0.0), step.before_min)
    return begins
