"""What the page of the bench shows, of a pour and of a practice alike."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ufrin.actions import Stored
from ufrin.actions.bench import pours
from ufrin.actions.bench.pours import Bench
from ufrin.core.clocks.moment import Moment
from ufrin.core.measures.parsing import parse
from ufrin.core.shelf.scales import Scale
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_rules import without_tare_g
from ufrin.errors import Overtaken, Refused
from ufrin.web.contexts.bench import SCRIPT_WORDS, bar, clock_words, decimals, words
from ufrin.web.contexts.coats import batch_name, coat_clock
from ufrin.web.contexts.cure_watch import watch
from ufrin.web.frame.wording_in_units import UnitFormatter


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchLinks:
    """Addresses of a bench: where a line is sent, where it is left to, its state now, and its stream."""

    here: str
    enter: str
    leave: str
    now: str
    stream: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Answered:
    """What became of what was sent: refused, or overtaken; and what had been typed."""

    refused: Refused | None = None
    overtaken: Overtaken | None = None
    typed: dict[str, str] | None = None

    @property
    def status(self) -> int:
        """Of the answer."""
        return 409 if self.overtaken else 422 if self.refused else 200


NOTHING_SENT = Answered()


def bench_page(
    bench: Bench,
    links: BenchLinks,
    moment: Moment,
    *,
    scale: Stored[Scale] | None,
    scales: Sequence[Stored[Scale]] = (),
    answered: Answered = NOTHING_SENT,
    pace: float | None = None,
) -> dict[str, Any]:
    """Return what the page of a bench shows.

    Parameters
    ----------
    bench : Bench
        Where the weighing is.
    links : BenchLinks
        Of this bench.
    moment : Moment
        Now.
    scale : Stored[Scale] or None
        That is read here.
    scales : sequence of Stored[Scale], optional
        Of which another may be chosen.
    answered : Answered, optional
        What became of what was sent.
    pace : float or None, optional
        How many times as fast its clock runs as the one on the wall; None where it is that clock.

    Returns
    -------
    dict of name to value
        For the template.
    """
    state, say = bench.state, UnitFormatter(bench.workshop.units, bench.workshop.currency)
    cup, refused, typed = state.attempt, answered.refused, answered.typed or {}
    running = state.clock(moment) if cup.outcome == "open" else None
    zero = cup.zero_g if scale and cup.scale == scale.thing.name else None
    moved_s = moment.clock_moved_s(cup.contact) if cup.contact else 0.0
    return {
        "bench": bench,
        "bench_links": links,
        "pace": pace,
        "state": state,
        "step": state.step,
        "say": say,
        "words": words(bench, say, moment),
        "script_words": SCRIPT_WORDS,
        "bar": bar(state.step),
        "coat_clock": coat_clock(state, moment) if state.step.kind == "cup" else None,
        "decimals": decimals(bench, state.step.ingredient, scale.thing.step_g if scale else None),
        "clock": running,
        "clock_words": clock_words(running, say) if running else "",
        "moved_min": moved_s / 60 if abs(moved_s) > 60 else 0.0,
        "scales": [kept for kept in scales if not kept.retired_at],
        "scale": scale,
        "zero_g": zero,
        "token": pours.new_token(),
        "refused": say.refusal(refused) if refused else "",
        "refused_field": refused.field if refused else "",
        "overtaken": str(answered.overtaken) if answered.overtaken else "",
        "typed": typed,
        "lot": bench.lot,
        "measured_ml": state.target_ml,
        "by_volume": bool(state.plan.method and state.plan.method.basis == "volume"),
        "elapsed_s": moment.since_s(state.step_began) if state.step_began else 0.0,
        "untared_g": _untared_g(state, refused, typed, say),
        "watch": watch(bench, say, moment) if state.is_finished or state.has_poured else None,
        "batch_name": batch_name(
            state,
            min(cup.batch + (1 if cup.outcome == "poured" and state.step.kind == "cup" else 0), len(state.batches) - 1),
        ),
    }


def _untared_g(state: BenchState, refused: Refused | None, typed: dict[str, str], say: UnitFormatter) -> float | None:
    if refused is None or refused.field != "untared":
        return None
    return without_tare_g(state, parse(typed.get("net_g", ""), "mass", say.units, field="net_g"))
