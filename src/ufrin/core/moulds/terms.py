"""The terms of a mould's card and of an order: label, kind, help and choices of each field."""

from collections.abc import Mapping

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.moulds.generations import FINISHES
from ufrin.core.moulds.life_prior import DETAILS
from ufrin.core.rubber.tins import FAMILIES

MOULD_TERMS: Mapping[str, Term] = {
    "made_on": Term(label="Made on", kind="date", help="Such as 2026-11-03."),
    "place": Term(label="Where it is kept", kind="text"),
    "detail": Term(label="Its detail", kind="choice", choices=DETAILS),
    "is_released": Term(label="A release goes on before every cast", kind="flag"),
    "shots_before": quantity("Casts before the log began", "count", "Of each cavity."),
    "release_every": positive_quantity("Release is due every", "count", "Shots; empty for never."),
    "clean_every": positive_quantity("Cleaning is due every", "count", "Shots; empty for never."),
    "rest_every": positive_quantity("Rest is due every", "count", "Shots; empty for never."),
    "parent_id": Term(label="Its master was cast in", kind="reference"),
    "finish": Term(label="Finish changed to", kind="choice", choices=FINISHES),
    "only_family": Term(
        label="A rigid mould for", kind="choice", choices={"": "not a master mould", **FAMILIES}, help="It keeps to it."
    ),
    "parts": positive_quantity("Number of its parts", "count"),
    "half_amounts": Term(label="What each half takes", kind="text", longest=200, help="As it is written on it."),
    "master_cost": quantity("The master cost", "money"),
    "mould_cost": quantity("A mould costs", "money", "Empty: the rubber of its job."),
    "work_cost": quantity("Work on each piece", "money", "Your own time, where it is to count."),
    "buy_price": quantity("A bought piece costs", "money", "Or one that is taped up and cast each time."),
}

ORDER_TERMS: Mapping[str, Term] = {
    "pieces": positive_quantity("Good pieces wanted", "count"),
    "start_on": Term(label="First day of casting", kind="date"),
    "due_on": Term(label="Wanted by", kind="date", help="Empty where there is no hurry."),
    "moulds_at_once": positive_quantity("Moulds side by side", "count"),
    "cycle_min": positive_quantity("From one shot to the next", "time", "Mix, pour, wait, demould, close again."),
    "hours_a_day": positive_quantity("Hours of casting a day", "number"),
    "flawed_pct": quantity("Flawed pieces", "percent"),
}
