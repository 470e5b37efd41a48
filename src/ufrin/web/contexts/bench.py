"""The wording of the bench at each step, in the workshop's units."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import ceil, log10

from ufrin.actions.bench.pours import Bench
from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.pot_life import PHASES, Phase, PotLife
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import Step
from ufrin.core.weighing.weigh_plan import Ingredient, following_role
from ufrin.web.contexts.cast_words import cast_sentence, is_solid
from ufrin.web.contexts.coats import batch_name, coat_words, mould_words, rotation_words
from ufrin.web.contexts.method_steps import hurry_words, mix_words, pour_words, step_words
from ufrin.web.frame.wording_in_units import UnitFormatter

BAR_PX, BAR_BEYOND = 1000.0, 1.3


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """The bar that fills: px of the target and of its band, and g for its whole length."""

    target_px: float
    low_px: float
    high_px: float
    whole_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchWording:
    """The wording of a step: its heading, the sentence under it, the label of its button, and a warning."""

    head: str
    sentence: str
    button: str
    warning: str = ""


def decimals(bench: Bench, ingredient: Ingredient | None, scale_step_g: float | None) -> int:
    """Return the decimals that the scale of this bench shows; one more for small amounts."""
    step = scale_step_g or bench.state.plan.step_g
    shown = max(0, ceil(-log10(step) - 1e-9)) if step < 1 else 0
    if ingredient and ingredient.g < 20 * step:
        shown += 1
    return shown + 2 if bench.workshop.units == "us" else shown


def bar(step: Step) -> Bar | None:
    """Return the bar of a weighing step."""
    if step.kind != "weigh" or step.target_g <= 0:
        return None
    whole = max(step.target_g * BAR_BEYOND, step.high_g * 1.1)
    return Bar(
        target_px=BAR_PX * step.target_g / whole,
        low_px=BAR_PX * step.low_g / whole,
        high_px=BAR_PX * min(step.high_g, whole) / whole,
        whole_g=whole,
    )


def words(bench: Bench, say: UnitFormatter, now: Moment) -> BenchWording:
    """Return the wording of the next step."""
    state, step = bench.state, bench.state.step
    one = step.ingredient
    if step.kind == "cup":
        return _cup(state, say, now)
    if step.kind == "hold" and one:
        return _hold(state, one, step)
    if step.kind == "weigh" and one:
        return _weigh(state, one, step, say)
    if step.kind == "mix":
        return _mix(state, say)
    if step.kind == "do":
        return replace(_made(step_words(state, say)), warning=hurry_words(state, say))
    if step.kind == "pour":
        return _made(pour_words(state, say))
    if step.kind == "mould":
        return _made(mould_words(state, say))
    if step.kind == "leftover":
        return BenchWording(
            head="What is left over?",
            sentence="Weigh what stays in the cup and on the stick, less the empty cup. It teaches how much to mix "
            "next time.",
            button="That is left",
        )
    if step.kind == "cure":
        return BenchWording(head="It cures", sentence="", button="")
    if step.kind == "finish":
        return BenchWording(
            head="All batches are poured",
            sentence=f"{rotation_words(state, say)}Finish closes the record; it can still be corrected.",
            button="Finish",
        )
    return BenchWording(
        head="Done", sentence="The record is closed. What was wrong in it can still be corrected there.", button=""
    )


def _made(words: tuple[str, str, str]) -> BenchWording:
    return BenchWording(head=words[0], sentence=words[1], button=words[2])


def _cup(state: BenchState, say: UnitFormatter, now: Moment) -> BenchWording:
    if state.plan.method and state.plan.method.basis == "volume":
        return BenchWording(
            head="Empty cup, straight and dry",
            sentence="Put it on a level board, its marks towards you. Levels are read at the bottom of the meniscus, "
            "with the eye at their height.",
            button="The empty cup stands ready",
        )
    again = state.attempt.outcome in {"wrong", "discarded"}
    after = state.attempt.batch + (1 if state.attempt.outcome == "poured" else 0) + 1
    head = "A fresh cup" if again else "Empty cup on the scale"
    which = f" for {batch_name(state, after - 1)}" if len(state.batches) > 1 else ""
    why = "Label the cup that went wrong, keep it apart, and never pour it into a mould. " if again else ""
    return BenchWording(
        head=head,
        sentence=f"{why}{rotation_words(state, say)}{coat_words(state, now)}"
        f"Put a clean, dry cup{which} on the scale and tare it.",
        button="Tare: the cup counts as nothing",
    )


def _hold(state: BenchState, one: Ingredient, step: Step) -> BenchWording:
    if step.is_mend:
        return BenchWording(
            head=f"Mend: more of {_short(one)}",
            sentence=f"The ratio is off by {state.ratio_error_pct(state.attempt) or 0:+.1f} %. Take that part again.",
            button=f"I hold {one.called}",
        )
    clock = (
        " From the first drop the pot life runs: tap when you begin."
        if one.role == following_role(state.batch) and state.attempt.contact is None
        else ""
    )
    return BenchWording(
        head=f"Take {_short(one)}", sentence=f"Read its label: is it this one?{clock}", button=f"I hold {one.called}"
    )


def _short(one: Ingredient) -> str:
    return f"part {one.role}" if one.role in {"A", "B"} else f"the {one.role}"


def _weigh(state: BenchState, one: Ingredient, step: Step, say: UnitFormatter) -> BenchWording:
    if step.is_mend:
        whole = state.after_ml()
        full = state.plan.cup_ml is not None and whole > state.plan.cup_ml
        return BenchWording(
            head=f"Add {one.called}",
            sentence=f"This brings the ratio right; the cup then holds {say.plain(whole, 'volume')}."
            + (
                (
                    f" It is made for {say.plain(state.plan.cup_ml or 0, 'volume')}: pour over into a bigger cup "
                    "first, all of it, or discard."
                )
                if full
                else ""
            ),
            button="Add it",
        )
    method = state.plan.method
    if method and method.takes_kit and one.role == "A" and not state.attempt.poured_g:
        return BenchWording(
            head=f"All of {one.called} that is left",
            sentence="Scrape the tin out into the cup, and take the weight that comes: B follows what is really there.",
            button="Take this weight",
        )
    if state.plan.how == "cast":
        sentence = cast_sentence(state, one, say)
    elif one.role == "A":
        sentence = "A little over or under does no harm: B follows what is really in the cup."
    elif one.role == "B":
        sentence = (
            f"For the {say.plain(state.a_g, 'mass')} of A that are in the cup. Slowly at the end: too much asks for "
            "more A."
        )
        if state.target_drops is not None:
            sentence += f" In drops: {state.target_drops}, counted with the dropper held upright."
    else:
        sentence = "By what is really in the cup."
    if state.target_ml is not None:
        sentence += " Read the bottom of the meniscus."
    verb = "Add" if is_solid(state, one) else "Pour"
    return BenchWording(head=f"{verb} {one.called}", sentence=sentence, button="Take this weight")


def _mix(state: BenchState, say: UnitFormatter) -> BenchWording:
    error = state.ratio_error_pct(state.attempt)
    came = f"The ratio is within {abs(error):.1f} %. " if error is not None else ""
    if state.thinner_parts is not None:
        came += f"Thinner came to {state.thinner_parts:.1f} parts per 100. "
    head, sentence, button = mix_words(state, say)
    return BenchWording(head=head, sentence=came + sentence, button=button)


# what the clock shows at each phase, and what the script speaks when the phase begins
PHASE_WORDS: Mapping[Phase, tuple[str, str]] = {
    "calm": ("", ""),
    "soon": ("Pour soon.", "pour soon"),
    "now": ("Pour now.", "pour now"),
    "over": (
        "The pot life is past. What still flows may be poured; what strings or lumps goes in the bin.",
        "pot life is over",
    ),
}
# everything that the script of the bench shows or speaks between two answers of the server; {0} is a weight
SCRIPT_WORDS: Mapping[str, object] = {
    "phases": [
        {"phase": phase, "from": share, "text": PHASE_WORDS[phase][0], "spoken": PHASE_WORDS[phase][1]}
        for phase, share in PHASES
    ],
    "links": {
        "connecting": "connecting",
        "reading": "reads",
        "silent": "says nothing: type the weight",
        "lost": "lost: type the weight",
    },
    "states": {"overload": "too much on it", "unit": "shows no weight: set it to grams"},
    "verdicts": {"under": "{0} to go", "within": "stop: within", "over": "over by {0}"},
    "tare": "tare first",
    "spoken": {"within": "stop", "over": "too much", "slowly": "slowly", "half": "half"},
    "steps": {"least": "to go", "enough": "enough; at most so much more", "done": "is enough", "over": "too long"},
    "kept": "Ufrin can't be reached. This step is kept on this device and sent as soon as Ufrin is back. Stay on this "
    "page.",
    "sent": "Ufrin is back. What was kept on this device has been sent.",
    "away": "Ufrin can't be reached, so this is not kept yet. Wait a moment and tap again: it is taken once.",
}


def clock_words(clock: PotLife, say: UnitFormatter) -> str:
    """Return what the clock of the pot life shows."""
    return PHASE_WORDS[clock.phase][0] or f"left of {say.plain(clock.whole_min, 'time')}"
