"""Quick sums of time: bubbles that rise, times in a warm or a cold room, and a clock without a job."""

from ufrin.core.degassing.bubbles import pot_ratio, smallest_mm
from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.inputs.usual import USUAL
from ufrin.core.quick_sums.quick_sum import QuickSum, StationInputs, SumAnswer, SumInputs
from ufrin.core.rubber.cure_times import check_room, time_at
from ufrin.core.wording.findings import Amount
from ufrin.language import Text

LATEST_S = 4e9  # in the year 2096
ROOM_C = USUAL["rubber"]["room_temp_c"]
SG = positive_quantity(Text("Specific gravity"), "density", default=1.1)


def _bubbles(of: SumInputs) -> SumAnswer:
    depth_mm, life_min = of.number("depth_mm"), of.number("pot_life_min")
    viscosity, sg = of.number("viscosity_mpa_s"), of.number("sg")
    dirty, clean = (smallest_mm(depth_mm, life_min, viscosity, sg, surface) for surface in ("dirty", "clean"))
    pot_kpa = of.maybe("pot_kpa")
    left = pot_ratio(pot_kpa) ** (1 / 3) if pot_kpa else None
    return SumAnswer(
        figures=((Text("and larger bubbles rise out by themselves"), Amount(dirty, "fine", 2)),),
        sentence=Text(
            "Smaller ones stay in it. Where the bubbles are clean, those of [{clean:.4g} fine ~2] rise as well.",
            clean=clean,
        ),
        rows=(
            (
                (
                    Text("A bubble that stays is pressed to"),
                    Text("{left:.0f} % of its diameter in the pot", left=100 * left),
                ),
            )
            if left
            else ()
        ),
        better=(Text("A mix that thickens as it sets does worse: count with half the pot life."),),
    )


BUBBLES = QuickSum(
    key="bubbles",
    title=Text("Bubbles"),
    what=Text("Which bubbles rise out of a rubber or a resin before it sets."),
    terms={
        "viscosity_mpa_s": positive_quantity(Text("Viscosity of the mix"), "viscosity", Text("From the data sheet.")),
        "pot_life_min": positive_quantity(Text("Pot life"), "time"),
        "depth_mm": positive_quantity(Text("Depth that they rise through"), "length", default=50.0),
        "sg": SG,
        "pot_kpa": positive_quantity(
            Text("Pressure pot, by its gauge"), "pressure", Text("Empty: it sets without pressure.")
        ),
    },
    work=_bubbles,
)


def _at_room(of: SumInputs) -> tuple[float, float]:
    room_c = of.number("room_temp_c")
    check_room(room_c)
    tin_min = of.number("tin_min")
    return tin_min, time_at(tin_min, room_c, reference_temp_c=of.number("tin_temp_c"))


def _job_of_room(of: SumInputs) -> StationInputs:
    return {"rubber": {"room_temp_c": of.maybe("room_temp_c")} if of.is_typed("room_temp_c") else {}}


ROOM = quantity(Text("Temperature of the room"), "temperature", default=ROOM_C)
TIN = quantity(Text("The tin's figure is for"), "temperature", default=23.0)


def _cure(of: SumInputs) -> SumAnswer:
    tin_min, now_min = _at_room(of)
    return SumAnswer(
        figures=((Text("in this room"), Amount(now_min, "time")),),
        sentence=Text(
            "The tin's [{tin_min:.6g} time] times {now_min:.2f}: half the time for each 10 °C more.",
            tin_min=tin_min,
            now_min=now_min / tin_min,
        ),
        better=(Text("Warmth also speeds up the pot life: the same factor counts for both."),),
    )


CURE = QuickSum(
    key="cure",
    title=Text("Cure and temperature"),
    what=Text("How long a pot life or a cure takes in a warm or a cold room."),
    terms={"tin_min": positive_quantity(Text("Time on the tin"), "time"), "room_temp_c": ROOM, "tin_temp_c": TIN},
    work=_cure,
    for_job=_job_of_room,
)


def _clock(of: SumInputs) -> SumAnswer:
    _, now_min = _at_room(of)
    return SumAnswer(
        figures=((Text("from the moment A meets B"), Amount(now_min, "time")),),
        sentence=Text("Start the clock when A meets B. It runs on at this address, on any device, until it is over."),
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
    title=Text("Clock"),
    what=Text("A clock without a job, shifted for the temperature of the room."),
    terms={
        "tin_min": positive_quantity(Text("Time on the tin"), "time"),
        "room_temp_c": ROOM,
        "tin_temp_c": TIN,
        "begun": Term(label=Text("Begun"), kind="hidden"),
    },
    work=_clock,
    for_job=_job_of_room,
)
