"""The schools of getting air out of a liquid, compared for one liquid, depth and time; and the wart check.

Which bubbles rise in time is computed (``bubbles``). The additional effect of a thin stream and of a vibrating table
is our own estimate, and is marked as one.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from math import inf, pi, sqrt

from ufrin.core.degassing.bubbles import ATMOSPHERE_KPA, diameter_ratio, pot_ratio, smallest_mm, volume_ratio
from ufrin.core.inputs.usual import USUAL
from ufrin.core.measures.constants import STANDARD_GRAVITY_M_PER_S2
from ufrin.core.measures.display import show
from ufrin.core.wording.findings import Amount, Finding
from ufrin.language import Text

_USUAL = USUAL["checks"]
SCHOOLS: Mapping[str, str] = {
    "clear": Text("Let it clear by itself"),
    "stream": Text("Thin stream from high up"),
    "vibrate": Text("Vibrate"),
    "vacuum": Text("Vacuum before pouring"),
    "pressure": Text("Pressure pot until set"),
}
SEEN_MM = 0.2  # a pit of this size is visible on a cast; our choice
AFTER_FALL_MIN = USUAL["bench"]["after_fall_min"]
USUAL_RISE = 4.0  # common practice: the mix rises to several times its volume
LONGEST_VIBRATE_MIN = _USUAL["vibrate_min"]
THIN_MPA_S = 3000.0  # common practice: thin rubbers often need no vacuum


@dataclass(frozen=True, slots=True, kw_only=True)
class Liquid:
    """A liquid that air must get out of.

    Parameters
    ----------
    viscosity_mpa_s, sg : float
        Of the mix, with thinner.
    depth_mm : float
        Its depth in the mould.
    volume_ml : float
        Of a batch in its cup.
    still_min : float
        The time for which it stays liquid after the pour.
    pour_min : float
        The time that the pour takes.
    """

    viscosity_mpa_s: float
    sg: float
    depth_mm: float
    volume_ml: float
    still_min: float
    pour_min: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SchoolSettings:
    """How each school is carried out.

    The settings are the height of the stream, the times, the absolute pressure of the vacuum, the gauge pressure of
    the pot, the rise, and the pressure of the air in the workshop.
    """

    drop_mm: float = _USUAL["drop_mm"]
    vibrate_min: float = _USUAL["vibrate_min"]
    vacuum_kpa: float = _USUAL["vacuum_kpa"]
    vacuum_min: float = _USUAL["vacuum_min"]
    pot_kpa: float = _USUAL["pot_kpa"]
    rise_factor: float = USUAL_RISE
    cup_ml: float | None = None
    air_kpa: float = ATMOSPHERE_KPA


@dataclass(frozen=True, slots=True, kw_only=True)
class School:
    """What one school achieves here.

    Parameters
    ----------
    key : str
        One of ``SCHOOLS``.
    fast_mm, slow_mm : float or None
        The smallest bubble that is removed, by the fast and by the slow bound; None where the time is too short for
        any.
    is_estimate : bool
        Whether an estimate of our own is part of it.
    text : str
        What to do and what to watch, with amounts as ``say_amounts`` reads them.
    """

    key: str
    fast_mm: float | None
    slow_mm: float | None
    is_estimate: bool
    text: str

    @property
    def label(self) -> str:
        """Its name."""
        return SCHOOLS[self.key]


def schools(of: Liquid, ways: SchoolSettings) -> tuple[School, ...]:
    """Compare the schools.

    Parameters
    ----------
    of : Liquid
        What is poured.
    ways : SchoolSettings
        How each is carried out.

    Returns
    -------
    tuple of School
        All five, in the order of ``SCHOOLS``.
    """
    return (_clear(of), _stream(of, ways), _vibrate(of, ways), _vacuum(of, ways), _pressure(of, ways))


def _rises(of: Liquid, time_min: float) -> tuple[float | None, float | None]:
    if not time_min > 0:
        return None, None
    return (
        smallest_mm(of.depth_mm, time_min, of.viscosity_mpa_s, of.sg, "clean"),
        smallest_mm(of.depth_mm, time_min, of.viscosity_mpa_s, of.sg, "dirty"),
    )


def _clear(of: Liquid) -> School:
    fast, slow = _rises(of, of.still_min)
    if fast is None:
        return School(
            key="clear",
            fast_mm=None,
            slow_mm=None,
            is_estimate=False,
            text=Text("No time is left after mixing and pouring: what is in it stays in it."),
        )
    thin = Text(" So thin a liquid often needs nothing else.") if of.viscosity_mpa_s <= THIN_MPA_S else ""
    return School(
        key="clear",
        fast_mm=fast,
        slow_mm=slow,
        is_estimate=False,
        text=Text(
            "It stays liquid for {still_min} once it is poured; then what has not come "
            "[{depth_mm:.1f} length ~] up stays.{thin}",
            still_min=show(of.still_min, "time"),
            depth_mm=of.depth_mm,
            thin=thin,
        ),
    )


def stream_mm(flow_ml_per_min: float, drop_mm: float) -> float:
    """Return the diameter of a stream after its fall; it thins as it speeds up.

    Free fall is assumed; a viscous liquid falls more slowly and stays thicker.

    Parameters
    ----------
    flow_ml_per_min : float
        The rate of the pour.
    drop_mm : float
        How far it falls.

    Returns
    -------
    float
        Its diameter in mm.

    Examples
    --------
    >>> round(stream_mm(100, 300), 2)
    0.94
    """
    speed_mm_per_s = sqrt(2 * STANDARD_GRAVITY_M_PER_S2 * 1000 * drop_mm)
    return sqrt(4 * flow_ml_per_min * 1000 / 60 / (pi * speed_mm_per_s))


def _stream(of: Liquid, ways: SchoolSettings) -> School:
    thick = stream_mm(of.volume_ml / max(of.pour_min, 0.1), ways.drop_mm)
    fast, slow = _rises(of, of.still_min)
    return School(
        key="stream",
        fast_mm=min(thick, fast) if fast else thick,
        slow_mm=min(thick, slow) if slow else thick,
        is_estimate=True,
        text=Text(
            "Into the lowest corner, from [{drop_mm:.1f} length ~0] up, all of it in {pour_min}: "
            "the stream is then about [{thick:.3f} fine ~] thick, and bubbles thicker than it "
            "burst. Let it find its own way round the master.",
            drop_mm=ways.drop_mm,
            pour_min=show(of.pour_min, "time"),
            thick=thick,
        ),
    )


def _vibrate(of: Liquid, ways: SchoolSettings) -> School:
    time_min = min(ways.vibrate_min, of.still_min)
    fast, slow = _rises(of, of.still_min)  # bubbles rise while it is shaken, and after that while it is left still
    if fast is None:
        return School(
            key="vibrate",
            fast_mm=None,
            slow_mm=None,
            is_estimate=True,
            text=Text("No time is left after mixing and pouring to vibrate it."),
        )
    return School(
        key="vibrate",
        fast_mm=fast,
        slow_mm=slow,
        is_estimate=True,
        text=Text(
            "For {time_min}, then leave it still. It shakes bubbles off the master and lets small "
            "ones join, so the better of the two figures is the likelier. Stop before it "
            "thickens, or it traps what it moves.",
            time_min=show(time_min, "time"),
        ),
    )


def _vacuum(of: Liquid, ways: SchoolSettings) -> School:
    # in the cup the liquid is about as deep as a cube of it is high; bubbles at the bottom grow least, so those count
    cup_mm = (of.volume_ml * 1000) ** (1 / 3)
    grows = diameter_ratio(volume_ratio(ways.air_kpa, ways.vacuum_kpa, depth_mm=cup_mm, sg=of.sg))
    vacuum_min = ways.vacuum_min + AFTER_FALL_MIN
    fast = smallest_mm(cup_mm, vacuum_min, of.viscosity_mpa_s, of.sg, "clean") / grows
    slow = smallest_mm(cup_mm, vacuum_min, of.viscosity_mpa_s, of.sg, "dirty") / grows
    still_fast, still_slow = _rises(of, of.still_min)  # what the vacuum leaves may still come up in the mould
    vessel = of.volume_ml * ways.rise_factor
    small = (
        Text(" Your cup holds [{cup_ml:.1f} volume ~0]: too small.", cup_ml=ways.cup_ml)
        if ways.cup_ml and ways.cup_ml < vessel
        else ""
    )
    return School(
        key="vacuum",
        fast_mm=min(fast, still_fast or inf),
        slow_mm=min(slow, still_slow or inf),
        is_estimate=False,
        text=Text(
            "At [{vacuum_kpa:.3f} pressure ~1] absolute a bubble grows to {grows:.1f} times its "
            "size. The mix rises to about {rise_factor:g} times its volume, climbs and falls: a "
            "tall vessel of [{vessel:.1f} volume ~0] or more. Stop {after_fall_min} after the "
            "fall. Pour it in a thin stream, or new air is folded in.{small}",
            vacuum_kpa=ways.vacuum_kpa,
            grows=grows,
            rise_factor=ways.rise_factor,
            vessel=vessel,
            after_fall_min=show(AFTER_FALL_MIN, "time"),
            small=small,
        ),
    )


def _pressure(of: Liquid, ways: SchoolSettings) -> School:
    shrinks = diameter_ratio(pot_ratio(ways.pot_kpa, ways.air_kpa))
    fast, slow = _rises(of, of.still_min)
    unseen = SEEN_MM / shrinks
    return School(
        key="pressure",
        fast_mm=min(unseen, fast) if fast else unseen,
        slow_mm=min(unseen, slow) if slow else unseen,
        is_estimate=False,
        text=Text(
            "At [{pot_kpa:.1f} pressure ~0] on the gauge a bubble shrinks to {shrinks:.2f} of its "
            "size, so one of [{unseen:.3f} fine ~] is no longer seen, at [{seen_mm:.1f} fine ~]. "
            "Keep the pressure on until it has set, or they all come back.",
            pot_kpa=ways.pot_kpa,
            shrinks=shrinks,
            unseen=unseen,
            seen_mm=SEEN_MM,
        ),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class AirRemoval:
    """How air is removed from mould and cast, with the gauge pressure of each where it is a pressure pot.

    ``air_kpa`` is the pressure of the air in the workshop.
    """

    mould: str
    cast: str
    mould_kpa: float
    cast_kpa: float
    air_kpa: float = ATMOSPHERE_KPA


def wart_findings(aired: AirRemoval) -> tuple[Finding, ...]:
    """Check mould and cast against each other.

    A mould that was neither degassed nor cured under the pressure of the cast contains bubbles. Under pressure they
    are compressed, the face of the mould sinks in over each, and the cast grows a wart there.

    Parameters
    ----------
    aired : AirRemoval
        Both.

    Returns
    -------
    tuple of Finding
        ``warts``, or none.
    """
    if aired.cast != "pressure" or aired.mould == "vacuum":
        return ()
    if aired.mould == "pressure" and aired.mould_kpa >= aired.cast_kpa:
        return ()
    of_mould = pot_ratio(aired.mould_kpa, aired.air_kpa) if aired.mould == "pressure" else 1.0
    left_pct = 100 * pot_ratio(aired.cast_kpa, aired.air_kpa) / of_mould
    facts = {"pressure": Amount(aired.cast_kpa, "pressure", 0), "left": Amount(left_pct, "percent", 0)}
    return (Finding(code="warts", facts=facts, field="cast_air"),)
