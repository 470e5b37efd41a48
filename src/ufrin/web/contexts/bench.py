"""The wording of the bench at each step, in the workshop's units."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ufrin.actions.bench.pours import Bench
from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.pot_life import PHASES, Phase, PotLife
from ufrin.core.shelf.scales import mass_decimals
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import Step
from ufrin.core.weighing.weigh_plan import Ingredient, following_role
from ufrin.language import Text
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
    """Return the decimals of an ingredient's grams, as the scale of this bench shows them."""
    step_g = scale_step_g or bench.state.plan.step_g
    return mass_decimals(step_g, ingredient.g if ingredient else step_g * 10)


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
            head=Text("What is left over?"),
            sentence=Text(
                "Weigh what stays in the cup and on the stick, less the empty cup. It teaches how "
                "much to mix next time."
            ),
            button=Text("That is left"),
        )
    if step.kind == "cure":
        return BenchWording(head=Text("It cures"), sentence="", button="")
    if step.kind == "finish":
        return BenchWording(
            head=Text("All batches are poured"),
            sentence=Text(
                "{state}Finish closes the record; it can still be corrected.", state=rotation_words(state, say)
            ),
            button=Text("Finish"),
        )
    return BenchWording(
        head=Text("Done"),
        sentence=Text("The record is closed. What was wrong in it can still be corrected there."),
        button="",
    )


def _made(words: tuple[str, str, str]) -> BenchWording:
    return BenchWording(head=words[0], sentence=words[1], button=words[2])


def _cup(state: BenchState, say: UnitFormatter, now: Moment) -> BenchWording:
    if state.plan.method and state.plan.method.basis == "volume":
        return BenchWording(
            head=Text("Empty cup, straight and dry"),
            sentence=Text(
                "Put it on a level board, its marks towards you. Levels are read at the bottom of the "
                "meniscus, with the eye at their height."
            ),
            button=Text("The empty cup stands ready"),
        )
    again = state.attempt.outcome in {"wrong", "discarded"}
    after = state.attempt.batch + (1 if state.attempt.outcome == "poured" else 0) + 1
    head = Text("A fresh cup") if again else Text("Empty cup on the scale")
    which = Text(" for {state}", state=batch_name(state, after - 1)) if len(state.batches) > 1 else ""
    why = Text("Label the cup that went wrong, keep it apart, and never pour it into a mould. ") if again else ""
    return BenchWording(
        head=head,
        sentence=Text(
            "{why}{state}{state2}Put a clean, dry cup{which} on the scale and tare it.",
            why=why,
            state=rotation_words(state, say),
            state2=coat_words(state, now),
            which=which,
        ),
        button=Text("Tare: the cup counts as nothing"),
    )


def _hold(state: BenchState, one: Ingredient, step: Step) -> BenchWording:
    if step.is_mend:
        return BenchWording(
            head=Text("Mend: more of {one}", one=_short(one)),
            sentence=Text(
                "The ratio is off by {attempt:+.1f} %. Take that part again.",
                attempt=state.ratio_error_pct(state.attempt) or 0,
            ),
            button=Text("I hold {called}", called=one.called),
        )
    clock = (
        Text(" From the first drop the pot life runs: tap when you begin.")
        if one.role == following_role(state.batch) and state.attempt.contact is None
        else ""
    )
    return BenchWording(
        head=Text("Take {one}", one=_short(one)),
        sentence=Text("Read its label: is it this one?{clock}", clock=clock),
        button=Text("I hold {called}", called=one.called),
    )


def _short(one: Ingredient) -> str:
    return Text("part {role}", role=one.role) if one.role in {"A", "B"} else Text("the {role}", role=one.role)


def _weigh(state: BenchState, one: Ingredient, step: Step, say: UnitFormatter) -> BenchWording:
    if step.is_mend:
        whole = state.after_ml()
        full = state.plan.cup_ml is not None and whole > state.plan.cup_ml
        return BenchWording(
            head=Text("Add {called}", called=one.called),
            sentence=Text("This brings the ratio right; the cup then holds {whole}.", whole=say.plain(whole, "volume"))
            + (
                (
                    Text(
                        " It is made for {cup_ml}: pour over into a bigger cup first, all of it, or discard.",
                        cup_ml=say.plain(state.plan.cup_ml or 0, "volume"),
                    )
                )
                if full
                else ""
            ),
            button=Text("Add it"),
        )
    method = state.plan.method
    if method and method.takes_kit and one.role == "A" and not state.attempt.poured_g:
        return BenchWording(
            head=Text("All of {called} that is left", called=one.called),
            sentence=Text(
                "Scrape the tin out into the cup, and take the weight that comes: B follows what is really there."
            ),
            button=Text("Take this weight"),
        )
    if state.plan.how == "cast":
        sentence = cast_sentence(state, one, say)
    elif one.role == "A":
        sentence = Text("A little over or under does no harm: B follows what is really in the cup.")
    elif one.role == "B":
        sentence = Text(
            "For the {a_g} of A that are in the cup. Slowly at the end: too much asks for more A.",
            a_g=say.plain(state.a_g, "mass"),
        )
        if state.target_drops is not None:
            sentence += Text(
                " In drops: {target_drops}, counted with the dropper held upright.", target_drops=state.target_drops
            )
    else:
        sentence = Text("By what is really in the cup.")
    if state.target_ml is not None:
        sentence += Text(" Read the bottom of the meniscus.")
    verb = Text("Add") if is_solid(state, one) else Text("Pour")
    return BenchWording(head=f"{verb} {one.called}", sentence=sentence, button=Text("Take this weight"))


def _mix(state: BenchState, say: UnitFormatter) -> BenchWording:
    error = state.ratio_error_pct(state.attempt)
    came = Text("The ratio is within {error:.1f} %. ", error=abs(error)) if error is not None else ""
    if state.thinner_parts is not None:
        came += Text("Thinner came to {thinner_parts:.1f} parts per 100. ", thinner_parts=state.thinner_parts)
    head, sentence, button = mix_words(state, say)
    return BenchWording(head=head, sentence=came + sentence, button=button)


# what the clock shows at each phase, and what the script speaks when the phase begins
PHASE_WORDS: Mapping[Phase, tuple[str, str]] = {
    "calm": ("", ""),
    "soon": (Text("Pour soon."), Text("pour soon")),
    "now": (Text("Pour now."), Text("pour now")),
    "over": (
        Text("The pot life is past. What still flows may be poured; what strings or lumps goes in the bin."),
        Text("pot life is over"),
    ),
}
# everything that the script of the bench shows or speaks between two answers of the server; {0} is a weight
SCRIPT_WORDS: Mapping[str, object] = {
    "phases": [
        {"phase": phase, "from": share, "text": PHASE_WORDS[phase][0], "spoken": PHASE_WORDS[phase][1]}
        for phase, share in PHASES
    ],
    "links": {
        "connecting": Text("connecting"),
        "reading": Text("reads"),
        "silent": Text("says nothing: type the weight"),
        "lost": Text("lost: type the weight"),
    },
    "states": {"overload": Text("too much on it"), "unit": Text("shows no weight: set it to grams")},
    "verdicts": {"under": Text("{0} to go"), "within": Text("stop: within"), "over": Text("over by {0}")},
    "tare": Text("tare first"),
    "spoken": {
        "within": Text("stop pouring"),
        "over": Text("too much"),
        "slowly": Text("slowly"),
        "half": Text("half of it"),
    },
    "steps": {
        "least": Text("to go"),
        "enough": Text("enough; at most so much more"),
        "done": Text("is enough"),
        "over": Text("too long"),
    },
    "kept": Text(
        "Ufrin can't be reached. This step is kept on this device and sent as soon as Ufrin is back. Stay on this page."
    ),
    "sent": Text("Ufrin is back. What was kept on this device has been sent."),
    "away": Text("Ufrin can't be reached, so this is not kept yet. Wait a moment and tap again: it is taken once."),
}


def clock_words(clock: PotLife, say: UnitFormatter) -> str:
    """Return what the clock of the pot life shows."""
    return PHASE_WORDS[clock.phase][0] or Text("left of {whole_min}", whole_min=say.plain(clock.whole_min, "time"))
