"""Pours of the mould at work as their records have them, and what of the job no longer fits them."""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from ufrin.core.job.rubber_station import Pour, ingredients_of
from ufrin.core.opening.mould_styles import STYLES
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.weigh_plan import Ingredient
from ufrin.core.wording.findings import Finding
from ufrin.language import Joined, Text

ALIKE = 0.01  # of what is needed: less is not worth a word


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighedPour:
    """A pour that is in the cup or in the mould, as it was planned when its weighing began.

    Parameters
    ----------
    half : str
        Of a mould in two parts.
    rubber, style : str
        The rubber's name and the kind of mould; without a kind in records of earlier versions.
    need_g : float
        What the mould takes, before spare and loss on cups.
    taken_g : tuple of (key, float)
        What of each ingredient is in its cups by now, those left out that were thrown away.
    is_finished : bool
        Whether it takes nothing more.
    """

    half: str
    rubber: str
    style: str
    need_g: float
    taken_g: tuple[tuple[str, float], ...] = ()
    is_finished: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class PourFigures:
    """What a page shows of a pour: as it was weighed, whatever the job plans now, and else as it is planned.

    Parameters
    ----------
    half : str
        Of a mould in two parts.
    rubber : str
        Its name.
    net_ml, total_g : float
        What the mould takes, and all that is weighed for it.
    batches : tuple of tuple of Ingredient
        In the order of weighing.
    in_coats : bool
        Whether each batch is a coat.
    """

    half: str
    rubber: str
    net_ml: float
    total_g: float
    batches: tuple[tuple[Ingredient, ...], ...]
    in_coats: bool


def pour_figures(pour: Pour, state: BenchState | None) -> PourFigures:
    """Return what is shown of a pour.

    Parameters
    ----------
    pour : Pour
        As it is planned now.
    state : BenchState or None
        Of its record, where its weighing has begun.

    Returns
    -------
    PourFigures
        Of the record first.
    """
    if state is None:
        return PourFigures(
            half=pour.half,
            rubber=pour.rubber.name,
            net_ml=pour.need_ml,
            total_g=pour.total_g,
            batches=pour.batches,
            in_coats=bool(pour.coats),
        )
    plan = state.plan
    return PourFigures(
        half=pour.half,
        rubber=plan.rubber,
        net_ml=plan.need_ml,
        total_g=plan.total_g,
        batches=plan.batches,
        in_coats=plan.in_coats,
    )


def weighed_pours(records: Sequence[tuple[int, BenchState]]) -> tuple[WeighedPour, ...]:
    """Return the pours of a mould that is begun and not whole yet: one in the cup, and a first half in the mould.

    Parameters
    ----------
    records : sequence of (number, BenchState)
        The pours of a job, the newest first.

    Returns
    -------
    tuple of WeighedPour
        The older first; none where the newest mould is whole, for what is changed then is meant for the next one.
    """
    real = [state for _, state in records if not state.is_finished or state.has_poured]
    if not real or (real[0].is_finished and real[0].plan.half != "first"):
        return ()
    is_on_a_half = real[0].plan.half == "second" and len(real) > 1 and real[1].plan.half == "first"
    return tuple(_weighed(state) for state in reversed(real[: 2 if is_on_a_half else 1]))


def _weighed(state: BenchState) -> WeighedPour:
    plan, taken_g = state.plan, Counter[str]()
    for cup in state.attempts:
        if cup.outcome in {"open", "poured"}:
            taken_g.update(cup.poured_g)
    return WeighedPour(
        half=plan.half,
        rubber=plan.rubber,
        style=plan.style,
        need_g=plan.need_g,
        taken_g=tuple(taken_g.items()),
        is_finished=state.is_finished,
    )


def still_to_take(pours: Sequence[Pour], weighed: Sequence[WeighedPour]) -> tuple[Ingredient, ...]:
    """Return what the pours of a job still take from the tins.

    Parameters
    ----------
    pours : sequence of Pour
        As they are planned.
    weighed : sequence of WeighedPour
        Those of the mould at work whose weighing has begun.

    Returns
    -------
    tuple of Ingredient
        Each once, in g, without what is in the cups or in the mould already.
    """
    done = {one.half for one in weighed if one.is_finished}
    taken_g = Counter[str]()
    for one in weighed:
        if not one.is_finished:
            taken_g.update(dict(one.taken_g))
    needed = ingredients_of(pour for pour in pours if pour.half not in done)
    return tuple(replace(one, g=max(0.0, one.g - taken_g[one.key])) for one in needed)


def no_longer_fits(weighed: Sequence[WeighedPour], pours: Sequence[Pour], style: str) -> tuple[Finding, ...]:
    """Return the one finding on a job that was changed after its mould was begun.

    Parameters
    ----------
    weighed : sequence of WeighedPour
        Of the mould at work.
    pours : sequence of Pour
        As the job plans them now.
    style : str
        The kind of mould that counts now.

    Returns
    -------
    tuple of Finding
        One or none.
    """
    differing = [text for one in weighed for text in _differing(one, pours, style)]
    if not differing:
        return ()
    return (Finding(code="changed-after-weighing", facts={"differing": Joined(dict.fromkeys(differing), "; ")}),)


def _differing(weighed: WeighedPour, pours: Sequence[Pour], style: str) -> Iterator[str]:
    if weighed.style and style and weighed.style != style:
        was, now = STYLES[weighed.style].lower(), STYLES[style].lower()
        yield Text("it was begun as “{was}”, and is planned as “{now}”", was=was, now=now)
        return  # how much each pour takes can't be compared then
    planned = next((pour for pour in pours if pour.half == weighed.half), None)
    if planned is None:
        return
    if planned.rubber.name != weighed.rubber:
        yield Text("{was} was weighed, and {now} is chosen now", was=weighed.rubber, now=planned.rubber.name)
    elif abs(planned.need_g - weighed.need_g) > ALIKE * weighed.need_g:
        yield Text(
            "[{was:.6g} mass ~0] was needed when it was weighed, and [{now:.6g} mass ~0] now",
            was=weighed.need_g,
            now=planned.need_g,
        )
