"""Preparation: what is applied before a pour, as steps with drying times, ready when the tin is opened."""

from collections.abc import Mapping, Sequence

from ufrin.core.pairing.contacts import PHASES, JudgedContact, Phase
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.core.pairing.releases import Product, steps_with
from ufrin.core.pairing.spot_test import SPOT_TEST_WORK_MIN, needs_spot_test, spot_test
from ufrin.language import Joined, Text


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
        after_min = test_min + SPOT_TEST_WORK_MIN if any(needs_spot_test(pair) for pair in alike) else 0.0
        found += _chain(phase, layers, alike, after_min, {one.kind: one for one in reversed(products)})
    found += [
        spot_test(pair, test_min)
        for pair in pairs
        if pair.contact.pour and pair.contact.touches and needs_spot_test(pair)
    ]
    order = list(PHASES)
    return tuple(sorted(found, key=lambda step: (order.index(step.phase), -step.before_min)))


def _chain(
    phase: Phase,
    layers: Sequence[str],
    alike: Sequence[JudgedContact],
    after_min: float,
    products: Mapping[str, Product],
) -> list[PrepStep]:
    names = [pair.contact.touches_name for pair in alike]
    what = names[0] if len(names) == 1 else Text("{most} and {last}", most=Joined(names[:-1]), last=names[-1])
    steps = [step for layer in layers for step in steps_with(layer, products.get(layer))]
    found, before = [], after_min
    for step in reversed(steps):
        before += step.work_min + step.dry_min
        found.append(
            PrepStep(
                phase=phase,
                do=step.done_to(what),
                before_min=before,
                work_min=step.work_min,
                dry_min=step.dry_min,
                pairs=tuple(pair.contact.key for pair in alike),
            )
        )
    return found[::-1]


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
