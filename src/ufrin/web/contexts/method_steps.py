"""The wording of the steps of a method: what is done with tins, cups, mould and hands besides weighing."""

from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.method import LEAST_PRESS_MIN, Method
from ufrin.core.weighing.weigh_plan import Role, press_left_min
from ufrin.web.contexts.cast_words import cast_words
from ufrin.web.frame.wording_in_units import UnitFormatter

PRESSURE_SAFETY = "Only in a vessel that is rated for it, with its safety valve, and never above what its plate states."


def step_words(state: BenchState, say: UnitFormatter) -> tuple[str, str, str]:
    """Return the heading, the sentence and the button of a step of the method."""
    method = state.plan.method or Method()
    a, b = _tins(state, "A"), _tins(state, "B")
    after_fall = say.plain(state.step.least_min, "time")
    words: dict[str, tuple[str, str, str]] = {
        "lay-ready": (
            "Lay everything ready",
            "Mould released, warm and dry, level and closed; cups, sticks and gloves at hand; every part and powder "
            f"opened. {'' if method.melts else 'Once A meets B there is no time to look for anything.'}",
            "All is ready",
        ),
        "melt": (
            "Melt it",
            "In a water bath or a pot with a thermostat, no hotter than its label allows, and never over a flame. "
            "Keep a lid at hand; water on burning wax throws it about.",
            "It is melted",
        ),
        "soak": (
            "Let it soak",
            "Sprinkle it evenly until it is all in, and wait until no dry powder is left on top. Do not stir yet.",
            "It has soaked",
        ),
        "take-off": (
            "Take a part off",
            f"{_taken_off(state, say)} into a cup of its own. Stir its colour in, quickly: the clock runs for both.",
            "It is coloured",
        ),
        "turn": (
            "Turn the mould",
            "Slowly every way, so that it runs over every part of the wall, until it no longer runs. Then let it hang.",
            "It no longer runs",
        ),
        "stir-a": (
            f"Stir {a}",
            "Down to the bottom of its tin, slowly, until nothing settled is left there and no air is beaten in.",
            "Stirred",
        ),
        "shake-b": (f"Shake {b}", "With its lid on. Then let the bubbles rise.", "Shaken"),
        "lids-apart": (
            "Keep the two parts apart",
            f"Take {a} with one hand and {b} with the other, and keep the lids on their own tins: a smear of one in "
            "the other sets there. Make equal lumps and do not let them touch yet.",
            "They lie apart",
        ),
        "bring-together": (
            "Bring the lumps together",
            "Clean hands or gloves that are not latex, the master and a board ready. Tap when the lumps first touch: "
            "the press window runs from then.",
            "They touch",
        ),
        "scrape": (
            "Scrape sides, bottom and stick",
            "What clings there is not mixed, and stays sticky in the mould. Scrape it in and stir on.",
            "Scraped in",
        ),
        "second-cup": (
            "Into a second, clean cup",
            "Pour it over without scraping the first cup out, and stir again: what clings to the first cup stays "
            "there.",
            "Stirred again",
        ),
        "rest": (
            "Let it rest in the cup",
            "The largest bubbles rise and burst. Do not wait longer than the pot life allows.",
            "It has rested",
        ),
        "degas-rise": (
            "Degas: it rises, then falls",
            f"In a vessel of at least {say.plain(method.vessel_ml or 0.0, 'volume')}. Pump, let air in for a moment "
            "when it nears the rim, and go on until it has risen and collapsed.",
            "It has fallen",
        ),
        "degas-hold": (
            "Keep the vacuum on",
            f"For {after_fall} after the fall. Then let the air in slowly.",
            "The air is let in",
        ),
        "vibrate": (
            "Vibrate the mould",
            f"For {say.plain(method.vibrate_min, 'time')}, gently, or until its pot life ends.",
            "Vibrated",
        ),
        "pressure-on": (
            "Into the pressure pot",
            f"At {say.plain(method.pot_kpa, 'pressure')} above the air outside, until it is demoulded. "
            f"{PRESSURE_SAFETY}",
            "Pressure is on",
        ),
        "press-flat": (
            "Press the back flat",
            "With a board and cling film, so that the mould lies without rocking when it is turned over.",
            "Pressed flat",
        ),
    }
    return words[state.step.key]


def _taken_off(state: BenchState, say: UnitFormatter) -> str:
    grams = [say.plain(state.attempt.total_g * share, "mass") for share in state.plan.taken_shares]
    return f"Pour {', then '.join(grams)}" if grams else "Pour a part"


def _tins(state: BenchState, role: Role) -> str:
    # every tin of a part by its own name: a blend has two, and so has a shell with foam behind it
    names = [one.called for batch in state.batches for one in batch if one.role == role]
    return " and ".join(dict.fromkeys(names))


def hurry_words(state: BenchState, say: UnitFormatter) -> str:
    """Return the warning that a putty leaves hardly any time to press it on; empty where it leaves enough."""
    if state.step.key not in {"lids-apart", "bring-together"}:
        return ""
    left_min = press_left_min(state.plan, state.room_temp_c)
    if left_min is None or left_min >= LEAST_PRESS_MIN:
        return ""
    room = say.plain(state.room_temp_c, "temperature")
    left = say.clock(60 * max(0.0, left_min))
    return (
        f"At {room} only {left} min are left to press once it is kneaded: cool both lumps and the master first, or "
        "take less at once."
    )


def pour_words(state: BenchState, say: UnitFormatter) -> tuple[str, str, str]:
    """Return the heading, the sentence and the button of the pour itself, by the way that the job has chosen."""
    method = state.plan.method
    if method is None or method.how == "poured":
        drop_mm = method.drop_mm if method else 0.0
        from_high = f"from {say.plain(drop_mm, 'length')} up" if drop_mm else "from a height"
        stream = {
            "stream": f"In a stream as thin as a pencil lead, {from_high}, into the lowest corner, never on to the "
            "master.",
            "vacuum": "Gently, low over the lowest corner, so that no new air is folded in.",
        }.get(
            method.air if method else "",
            "Into the lowest corner, in a thin stream from a height, and let it rise by itself.",
        )
        return "Pour", f"{stream} Keep a little in the cup: it tells when it has set.", "It is poured"
    if method.how == "cast":
        return cast_words(state)
    if method.how == "brushed":
        return (
            f"Brush on coat {state.attempt.batch + 1}",
            "Work it into every detail and edge, evenly. Keep a little in the cup: it tells when it has set.",
            "It is brushed on",
        )
    return (
        "Press it on",
        "From one side to the other, so that no air is caught, and over the whole edge, before the clock above ends.",
        "It is pressed on",
    )


def mix_words(state: BenchState, say: UnitFormatter) -> tuple[str, str, str]:
    """Return the heading, the sentence and the button of mixing or kneading."""
    least, most = state.step.least_min, state.step.most_min
    if state.plan.has_one_part:
        return "Stir", "Until the colour is even, with no streak left.", "It is even"
    if state.plan.method and state.plan.method.how == "putty":
        upto = f", at most {say.plain(most, 'time')}" if most else ""
        return (
            "Knead",
            f"One lump of each together, fold and press until it is one colour without streaks{upto}. The press window "
            "runs already.",
            "It is one colour",
        )
    upto = f" and no longer than {say.plain(most, 'time')}" if most else ""
    at_least = least or state.plan.mix_min
    for_least = say.plain(at_least, "time") if at_least >= 1 else f"{60 * at_least:.0f} s"
    return "Mix", f"Stir for at least {for_least}{upto}, slowly, sides and bottom too.", "It is mixed"
