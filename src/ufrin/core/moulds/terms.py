"""The terms of a mould's card and of an order: label, kind, help and choices of each field."""

from collections.abc import Mapping

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.moulds.generations import FINISHES
from ufrin.core.moulds.life_prior import DETAILS
from ufrin.core.rubber.tins import FAMILIES
from ufrin.language import Text

MOULD_TERMS: Mapping[str, Term] = {
    "made_on": Term(label=Text("Made on"), kind="date", help=Text("Such as 2026-11-03.")),
    "place": Term(label=Text("Where it is kept"), kind="text"),
    "detail": Term(label=Text("Its detail"), kind="choice", choices=DETAILS),
    "is_released": Term(label=Text("A release goes on before every cast"), kind="flag"),
    "shots_before": quantity(Text("Casts before the log began"), "count", Text("Of each cavity.")),
    "release_every": positive_quantity(Text("Release is due every"), "count", Text("Shots; empty for never.")),
    "clean_every": positive_quantity(Text("Cleaning is due every"), "count", Text("Shots; empty for never.")),
    "rest_every": positive_quantity(Text("Rest is due every"), "count", Text("Shots; empty for never.")),
    "parent_id": Term(label=Text("Its master was cast in"), kind="reference"),
    "finish": Term(label=Text("Finish changed to"), kind="choice", choices=FINISHES),
    "only_family": Term(
        label=Text("A rigid mould for"),
        kind="choice",
        choices={"": Text("not a master mould"), **FAMILIES},
        help=Text("It keeps to it."),
    ),
    "parts": positive_quantity(Text("Number of its parts"), "count"),
    "half_amounts": Term(
        label=Text("What each half takes"), kind="text", longest=200, help=Text("As it is written on it.")
    ),
    "master_cost": quantity(Text("The master cost"), "money"),
    "mould_cost": quantity(Text("A mould costs"), "money", Text("Empty: the rubber of its job.")),
    "work_cost": quantity(Text("Work on each piece"), "money", Text("Your own time, where it is to count.")),
    "buy_price": quantity(Text("A bought piece costs"), "money", Text("Or one that is taped up and cast each time.")),
}

ORDER_TERMS: Mapping[str, Term] = {
    "pieces": positive_quantity(Text("Good pieces wanted"), "count"),
    "start_on": Term(label=Text("First day of casting"), kind="date"),
    "due_on": Term(label=Text("Wanted by"), kind="date", help=Text("Empty where there is no hurry.")),
    "moulds_at_once": positive_quantity(Text("Moulds side by side"), "count"),
    "cycle_min": positive_quantity(
        Text("From one shot to the next"), "time", Text("Mix, pour, wait, demould, close again.")
    ),
    "hours_a_day": positive_quantity(Text("Hours of casting a day"), "number"),
    "flawed_pct": quantity(Text("Flawed pieces"), "percent"),
}
