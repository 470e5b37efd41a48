"""The wording of the steps of a method: what is done with tins, cups, mould and hands besides weighing."""

from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.method import LEAST_PRESS_MIN, Method
from ufrin.core.weighing.weigh_plan import Role, press_left_min
from ufrin.language import Joined, Text
from ufrin.web.contexts.cast_words import cast_words
from ufrin.web.frame.wording_in_units import UnitFormatter

PRESSURE_SAFETY = Text(
    "Only in a vessel that is rated for it, with its safety valve, and never above what its plate states."
)


def step_words(state: BenchState, say: UnitFormatter) -> tuple[str, str, str]:
    """Return the heading, the sentence and the button of a step of the method."""
    method = state.plan.method or Method()
    a, b = _tins(state, "A"), _tins(state, "B")
    after_fall = say.plain(state.step.least_min, "time")
    words: dict[str, tuple[str, str, str]] = {
        "lay-ready": (
            Text("Lay everything ready"),
            Text(
                "Mould released, warm and dry, level and closed; cups, sticks and gloves at hand; "
                "every part and powder opened. {once_meets_there}",
                once_meets_there="" if method.melts else Text("Once A meets B there is no time to look for anything."),
            ),
            Text("All is ready"),
        ),
        "melt": (
            Text("Melt it"),
            Text(
                "In a water bath or a pot with a thermostat, no hotter than its label allows, and "
                "never over a flame. Keep a lid at hand; water on burning wax throws it about."
            ),
            Text("It is melted"),
        ),
        "soak": (
            Text("Let it soak"),
            Text(
                "Sprinkle it evenly until it is all in, and wait until no dry powder is left on top. Do not stir yet."
            ),
            Text("It has soaked"),
        ),
        "take-off": (
            Text("Take a part off"),
            Text(
                "{state} into a cup of its own. Stir its colour in, quickly: the clock runs for both.",
                state=_taken_off(state, say),
            ),
            Text("It is coloured"),
        ),
        "turn": (
            Text("Turn the mould"),
            Text(
                "Slowly every way, so that it runs over every part of the wall, until it no longer "
                "runs. Then let it hang."
            ),
            Text("It no longer runs"),
        ),
        "stir-a": (
            Text("Stir {a}", a=a),
            Text("Down to the bottom of its tin, slowly, until nothing settled is left there and no air is beaten in."),
            Text("Stirred"),
        ),
        "shake-b": (Text("Shake {b}", b=b), Text("With its lid on. Then let the bubbles rise."), Text("Shaken")),
        "lids-apart": (
            Text("Keep the two parts apart"),
            Text(
                "Take {a} with one hand and {b} with the other, and keep the lids on their own tins: "
                "a smear of one in the other sets there. Make equal lumps and do not let them touch "
                "yet.",
                a=a,
                b=b,
            ),
            Text("They lie apart"),
        ),
        "bring-together": (
            Text("Bring the lumps together"),
            Text(
                "Clean hands or gloves that are not latex, the master and a board ready. Tap when the "
                "lumps first touch: the press window runs from then."
            ),
            Text("They touch"),
        ),
        "scrape": (
            Text("Scrape sides, bottom and stick"),
            Text("What clings there is not mixed, and stays sticky in the mould. Scrape it in and stir on."),
            Text("Scraped in"),
        ),
        "second-cup": (
            Text("Into a second, clean cup"),
            Text(
                "Pour it over without scraping the first cup out, and stir again: what clings to the "
                "first cup stays there."
            ),
            Text("Stirred again"),
        ),
        "rest": (
            Text("Let it rest in the cup"),
            Text("The largest bubbles rise and burst. Do not wait longer than the pot life allows."),
            Text("It has rested"),
        ),
        "degas-rise": (
            Text("Degas: it rises, then falls"),
            Text(
                "In a vessel of at least {vessel_ml}. Pump, let air in for a moment when it nears the "
                "rim, and go on until it has risen and collapsed.",
                vessel_ml=say.plain(method.vessel_ml or 0.0, "volume"),
            ),
            Text("It has fallen"),
        ),
        "degas-hold": (
            Text("Keep the vacuum on"),
            Text("For {after_fall} after the fall. Then let the air in slowly.", after_fall=after_fall),
            Text("The air is let in"),
        ),
        "vibrate": (
            Text("Vibrate the mould"),
            Text(
                "For {vibrate_min}, gently, or until its pot life ends.",
                vibrate_min=say.plain(method.vibrate_min, "time"),
            ),
            Text("Vibrated"),
        ),
        "pressure-on": (
            Text("Into the pressure pot"),
            Text(
                "At {pot_kpa} above the air outside, until it is demoulded. {pressure_safety}",
                pot_kpa=say.plain(method.pot_kpa, "pressure"),
                pressure_safety=PRESSURE_SAFETY,
            ),
            Text("Pressure is on"),
        ),
        "press-flat": (
            Text("Press the back flat"),
            Text("With a board and cling film, so that the mould lies without rocking when it is turned over."),
            Text("Pressed flat"),
        ),
    }
    return words[state.step.key]


def _taken_off(state: BenchState, say: UnitFormatter) -> str:
    grams = [say.plain(state.attempt.total_g * share, "mass") for share in state.plan.taken_shares]
    return Text("Pour {grams}", grams=Joined(grams, Text(", then "))) if grams else Text("Pour a part")


def _tins(state: BenchState, role: Role) -> str:
    # every tin of a part by its own name: a blend has two, and so has a shell with foam behind it
    names = [one.called for batch in state.batches for one in batch if one.role == role]
    return Joined(dict.fromkeys(names), Text(" and "))


def hurry_words(state: BenchState, say: UnitFormatter) -> str:
    """Return the warning that a putty leaves hardly any time to press it on; empty where it leaves enough."""
    if state.step.key not in {"lids-apart", "bring-together"}:
        return ""
    left_min = press_left_min(state.plan, state.room_temp_c)
    if left_min is None or left_min >= LEAST_PRESS_MIN:
        return ""
    room = say.plain(state.room_temp_c, "temperature")
    left = say.clock(60 * max(0.0, left_min))
    return Text(
        "At {room} only {left} min are left to press once it is kneaded: cool both lumps and "
        "the master first, or take less at once.",
        room=room,
        left=left,
    )


def pour_words(state: BenchState, say: UnitFormatter) -> tuple[str, str, str]:
    """Return the heading, the sentence and the button of the pour itself, by the way that the job has chosen."""
    method = state.plan.method
    if method is None or method.how == "poured":
        drop_mm = method.drop_mm if method else 0.0
        from_high = (
            Text("from {drop_mm} up", drop_mm=say.plain(drop_mm, "length")) if drop_mm else Text("from a height")
        )
        stream = {
            "stream": Text(
                "In a stream as thin as a pencil lead, {from_high}, into the lowest corner, never on to the master.",
                from_high=from_high,
            ),
            "vacuum": Text("Gently, low over the lowest corner, so that no new air is folded in."),
        }.get(
            method.air if method else "",
            Text("Into the lowest corner, in a thin stream from a height, and let it rise by itself."),
        )
        return (
            Text("Pour"),
            Text("{stream} Keep a little in the cup: it tells when it has set.", stream=stream),
            Text("It is poured"),
        )
    if method.how == "cast":
        return cast_words(state)
    if method.how == "brushed":
        return (
            Text("Brush on coat {batch}", batch=state.attempt.batch + 1),
            Text("Work it into every detail and edge, evenly. Keep a little in the cup: it tells when it has set."),
            Text("It is brushed on"),
        )
    return (
        Text("Press it on"),
        Text(
            "From one side to the other, so that no air is caught, and over the whole edge, "
            "before the clock above ends."
        ),
        Text("It is pressed on"),
    )


def mix_words(state: BenchState, say: UnitFormatter) -> tuple[str, str, str]:
    """Return the heading, the sentence and the button of mixing or kneading."""
    least, most = state.step.least_min, state.step.most_min
    if state.plan.has_one_part:
        return Text("Stir"), Text("Until the colour is even, with no streak left."), Text("It is even")
    if state.plan.method and state.plan.method.how == "putty":
        upto = Text(", at most {most}", most=say.plain(most, "time")) if most else ""
        return (
            Text("Knead"),
            Text(
                "One lump of each together, fold and press until it is one colour without "
                "streaks{upto}. The press window runs already.",
                upto=upto,
            ),
            Text("It is one colour"),
        )
    upto = Text(" and no longer than {most}", most=say.plain(most, "time")) if most else ""
    at_least = least or state.plan.mix_min
    for_least = say.plain(at_least, "time") if at_least >= 1 else f"{60 * at_least:.0f} s"
    return (
        Text("Mix"),
        Text("Stir for at least {for_least}{upto}, slowly, sides and bottom too.", for_least=for_least, upto=upto),
        Text("It is mixed"),
    )
