"""Quick sums of time: bubbles that rise, times in a warm or a cold room, and a clock without a job."""

from ufrin.core.degassing.bubbles import pot_ratio, smallest_mm
from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.quick_sums.quick_sum import QuickSum, SumAnswer, SumInputs
from ufrin.core.rubber.cure_times import check_room, time_at
from ufrin.core.wording.findings import Amount

LATEST_S = 4e9  # in the year 2096
ROOM_C = 21.0  # common practice: a heated workshop
SG = positive_quantity("Specific gravity", "density", default=1.1)


def _bubbles(of: SumInputs) -> SumAnswer:
    depth_mm, life_min = of.number("depth_mm"), of.number("pot_life_min")
    viscosity, sg = of.number("viscosity_mpa_s"), of.number("sg")
    dirty, clean = (smallest_mm(depth_mm, life_min, viscosity, sg, surface) for surface in ("dirty", "clean"))
    pot_kpa = of.maybe("pot_kpa")
    left = pot_ratio(pot_kpa) ** (1 / 3) if pot_kpa else None
    return SumAnswer(
        figures=(("and larger bubbles rise out by themselves", Amount(dirty, "fine", 2)),),
        sentence=f"Smaller ones stay in it. Where the bubbles are clean, those of [{clean:.4g} fine ~2] rise as well.",
        rows=(
            (("A bubble that stays is pressed to", f"{100 * left:.0f} % of its diameter in the pot"),) if left else ()
        ),
        better=("A mix that thickens as it sets does worse: count with half the pot life.",),
    )


BUBBLES = QuickSum(
    key="bubbles",
    title="Bubbles",
    what="Which bubbles rise out of a rubber or a resin before it sets.",
    terms={
        "viscosity_mpa_s": positive_quantity("Viscosity of the mix", "viscosity", "From the data sheet."),
        "pot_life_min": positive_quantity("Pot life", "time"),
        "depth_mm": positive_quantity("Depth that they rise through", "length", default=50.0),
        "sg": SG,
        "pot_kpa": positive_quantity("Pressure pot, by its gauge", "pressure", "Empty: it sets without pressure."),
    },
    work=_bubbles,
)


def _at_room(of: SumInputs) -> tuple[float, float]:
    room_c = of.number("room_temp_c")
    check_room(room_c)
    tin_min = of.number("tin_min")
    return tin_min, time_at(tin_min, room_c, reference_temp_c=of.number("tin_temp_c"))


ROOM = quantity("Temperature of the room", "temperature", default=ROOM_C)
TIN = quantity("The tin's figure is for", "temperature", default=23.0)


def _cure(of: SumInputs) -> SumAnswer:
    tin_min, now_min = _at_room(of)
    return SumAnswer(
        figures=(("in this room", Amount(now_min, "time")),),
        sentence=f"The tin's [{tin_min:.6g} time] times {now_min / tin_min:.2f}: half the time for each 10 °C more.",
        better=("Warmth also speeds up the pot life: the same factor counts for both.",),
    )


CURE = QuickSum(
    key="cure",
    title="Cure and temperature",
    what="How long a pot life or a cure takes in a warm or a cold room.",
    terms={"tin_min": positive_quantity("Time on the tin", "time"), "room_temp_c": ROOM, "tin_temp_c": TIN},
    work=_cure,
)


def _clock(of: SumInputs) -> SumAnswer:
    _, now_min = _at_room(of)
    return SumAnswer(
        figures=(("from the moment A meets B", Amount(now_min, "time")),),
        sentence="Start the clock when A meets B. It runs on at this address, on any device, until it is over.",
    )


def clock_ends_s(answer: SumAnswer, begun_s: float) -> float | None:
    """Return when a clock that was started is over.

    Parameters
    ----------
    answer : SumAnswer
        Of the clock: how long it runs, in min.
    begun_s : float
        When A met B, in seconds since 1970.

    Returns
    -------
    float or None
        In seconds since 1970; None for a start that lies beyond any workshop's calendar.
    """
    ends_s = begun_s + 60 * answer.figures[0][1].value
    return ends_s if ends_s < LATEST_S else None


CLOCK = QuickSum(
    key="clock",
    title="Clock",
    what="A clock without a job, shifted for the temperature of the room.",
    terms={
        "tin_min": positive_quantity("Time on the tin", "time"),
        "room_temp_c": ROOM,
        "tin_temp_c": TIN,
        "begun": Term(label="Begun", kind="hidden"),
    },
    work=_clock,
)
