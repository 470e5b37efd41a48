"""The hardness that suits a mould, from its undercuts, proportions, walls, detail and shots.

All of it is common practice.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.rubber.shore import Hardness
from ufrin.language import Text

UNDERCUTS: Mapping[str, str] = {
    "none": Text("none"),
    "slight": Text("slight: a rolled edge, letters"),
    "deep": Text("deep: necks, hooks, heads wider than shoulders"),
}
DETAILS: Mapping[str, str] = {
    "plain": Text("plain"),
    "fine": Text("fine: grain, lettering, scales"),
    "frail": Text("frail: thin parts of the cast may break"),
}
PLAIN_A, SOFTEST_A, HARDEST_A = 25.0, 5.0, 45.0
TALL, THIN_WALL_MM, LARGE_MM, MANY_SHOTS = 2.0, 6.0, 250.0, 40


@dataclass(frozen=True, slots=True, kw_only=True)
class Wanted:
    """A recommendation: the hardness in the middle, its range, and why."""

    hardness: Hardness
    softest: Hardness
    hardest: Hardness
    reasons: tuple[str, ...]


def hardness_wanted(
    *,
    undercut: str = "slight",
    detail: str = "plain",
    height_to_width: float | None = None,
    wall_mm: float | None = None,
    longest_mm: float | None = None,
    shots: int | None = None,
) -> Wanted:
    """Recommend a hardness.

    Parameters
    ----------
    undercut, detail : str
        One of ``UNDERCUTS`` and of ``DETAILS``.
    height_to_width : float or None
        Of the master, its lesser width.
    wall_mm : float or None
        The thinnest rubber.
    longest_mm : float or None
        Of the mould.
    shots : int or None
        Casts wanted.

    Returns
    -------
    Wanted
        Between A 5 and A 45, five either way.
    """
    moves: list[tuple[float, str]] = []
    if undercut == "deep":
        moves.append(
            (-12, Text("Deep undercuts: the rubber must stretch over them, and a soft one stretches with less force."))
        )
    elif undercut == "none":
        moves.append((8, Text("No undercuts: nothing needs to stretch, so a harder rubber holds its shape better.")))
    else:
        moves.append((-3, Text("Slight undercuts: a little softer lets go of them more easily.")))
    if detail == "frail":
        moves.append((-7, Text("Frail parts: a soft mould is peeled off them, a hard one breaks them off.")))
    elif detail == "fine":
        moves.append((-2, Text("Fine detail tears out of a stiff rubber first.")))
    if height_to_width is not None and height_to_width >= TALL:
        moves.append(
            (
                -5,
                Text(
                    "It is {height_to_width:.1f} times as high as wide: a deep mould must be rolled or "
                    "pulled off, which takes a softer rubber.",
                    height_to_width=height_to_width,
                ),
            )
        )
    if wall_mm is not None and wall_mm < THIN_WALL_MM:
        moves.append(
            (
                5,
                Text(
                    "Walls of only [{wall_mm:.1f} length] sag when filled: harder rubber holds them up, "
                    "or a jacket does.",
                    wall_mm=wall_mm,
                ),
            )
        )
    if longest_mm is not None and longest_mm > LARGE_MM:
        moves.append(
            (
                5,
                Text(
                    "A mould [{longest_mm:.0f} length] long bows under its own filling: harder, or with a jacket.",
                    longest_mm=longest_mm,
                ),
            )
        )
    if shots is not None and shots > MANY_SHOTS:
        moves.append(
            (
                -3 if undercut == "deep" else 3,
                Text("{shots} casts: ", shots=shots)
                + (
                    Text("each one bends the undercuts, and what bends easily tears late.")
                    if undercut == "deep"
                    else Text("a firmer face wears longer.")
                ),
            )
        )
    middle = min(HARDEST_A, max(SOFTEST_A, PLAIN_A + sum(move for move, _ in moves)))
    return Wanted(
        hardness=Hardness(scale="A", shore=middle),
        softest=Hardness(scale="A", shore=max(0.0, middle - 5)),
        hardest=Hardness(scale="A", shore=middle + 5),
        reasons=tuple(reason for _, reason in moves),
    )
