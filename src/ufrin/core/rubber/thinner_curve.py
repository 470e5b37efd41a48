"""The curve of hardness against thinner, from a dose to a hardness and back; based on data, a fit or a model."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq, isotonic_regression

from ufrin.core.rubber.shore import Hardness, ShoreScale, better_scale, reading
from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused
from ufrin.language import Text

Basis = Literal["model", "fitted", "data"]
EXPONENT, EXPONENT_LOW, EXPONENT_HIGH = 2.25, 2.0, 3.0
MOST_PARTS = 50.0  # common practice: nobody has figures beyond it
POINTS_TO_JOIN = 3
DOUBT_PCT = 5.0  # points this far off a falling curve get a finding
Floats = NDArray[np.floating[Any]]


@dataclass(frozen=True, slots=True, kw_only=True)
class CouponPoint:
    """A test coupon: a dose, and the hardness that it gave.

    Parameters
    ----------
    parts_per_100 : float
        Of thinner to A + B, by mass.
    hardness : Hardness
        The reading of the gauge.
    """

    parts_per_100: float
    hardness: Hardness

    def __post_init__(self) -> None:
        if not 0 <= self.parts_per_100 <= MOST_PARTS:
            raise Refused(
                "points.parts_per_100",
                Text("A test point has between 0 and {most_parts:g} parts of thinner per 100.", most_parts=MOST_PARTS),
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class Thinned:
    """A thinned rubber.

    ``range_mpa`` is the range of the modulus with an exponent from 2 to 3, where only the model supports it; None
    where there are test points.
    """

    parts_per_100: float
    modulus_mpa: float
    range_mpa: tuple[float, float] | None
    basis: Basis
    findings: tuple[Finding, ...]

    def shore(self, scale: ShoreScale) -> float | None:
        """Return the reading of a gauge.

        Parameters
        ----------
        scale : "00", "A" or "D"
            Which gauge.

        Returns
        -------
        float or None
            None where the scale does not reach.
        """
        return reading(self.modulus_mpa, scale)


def polymer_fraction(parts_per_100: float, *, rubber_sg: float | None = None, thinner_sg: float | None = None) -> float:
    """Return the volume fraction of polymer; by mass where an SG is missing.

    Parameters
    ----------
    parts_per_100 : float
        Of thinner to A + B, by mass.
    rubber_sg, thinner_sg : float or None
        Filler counts as polymer, and volumes add.

    Returns
    -------
    float
        From 0 to 1.

    Examples
    --------
    >>> round(polymer_fraction(10, rubber_sg=1.1, thinner_sg=0.97), 6)
    0.898148
    """
    ratio = rubber_sg / thinner_sg if rubber_sg and thinner_sg else 1.0
    return 100 / (100 + parts_per_100 * ratio)


def diluted_mpa(modulus_mpa: float, fraction: float, exponent: float = EXPONENT) -> float:
    """Return the modulus of a network formed in the presence of an inert diluent: E = E0 phi^n.

    Parameters
    ----------
    modulus_mpa : float
        Undiluted.
    fraction : float
        Of polymer, by volume.
    exponent : float, optional
        About 9/4 in a good solvent, 7/3 in a theta solvent (from memory; doubtful for filled rubbers, so fitted
        where there are test points).

    Returns
    -------
    float
        In MPa.
    """
    return float(modulus_mpa * fraction**exponent)


class Curve:
    """The hardness of one rubber against its dose of one thinner.

    Without test points it is the model E = E0 phi^n; with one or two, n is fitted to them; with three or more a
    monotone interpolation (PCHIP, Fritsch and Carlson 1980) runs through them, and the model carries on beyond the
    last.

    Parameters
    ----------
    rubber : Hardness
        As the tin states, without thinner.
    points : sequence of CouponPoint
        Test coupons; several of one dose are averaged, and one of dose 0 replaces the tin's figure.
    rubber_sg, thinner_sg : float or None
        For the volume fraction.
    """

    def __init__(
        self,
        rubber: Hardness,
        points: Sequence[CouponPoint] = (),
        *,
        rubber_sg: float | None = None,
        thinner_sg: float | None = None,
    ) -> None:
        self._sgs = {"rubber_sg": rubber_sg, "thinner_sg": thinner_sg}
        self.rubber, self.points = rubber, tuple(points)
        doses, logs = _averaged(points)
        self._own_mpa = float(np.exp(logs[0])) if len(doses) and doses[0] == 0 else rubber.modulus_mpa
        kept = doses > 0
        self._doses, self._logs = doses[kept], logs[kept]
        falling = -isotonic_regression(-np.concatenate([[np.log(self._own_mpa)], self._logs])).x
        self._off_pct = float(np.max(np.abs(np.expm1(self._logs - falling[1:])), initial=0.0)) * 100
        self.own_mpa = float(np.exp(falling[0])) if len(self._doses) >= POINTS_TO_JOIN else self._own_mpa
        self.exponent = self._fitted_exponent()
        joined = len(self._doses) >= POINTS_TO_JOIN
        self._through = PchipInterpolator(np.concatenate([[0.0], self._doses]), _strictly(falling)) if joined else None

    def _fitted_exponent(self) -> float:
        if not len(self._doses):
            return EXPONENT
        across = np.log([self._fraction(dose) for dose in self._doses])
        fitted = float(np.sum(across * (self._logs - np.log(self._own_mpa))) / np.sum(across**2))
        # coupons that are harder than the rubber itself contradict it: the curve stays as flat as possible
        return max(fitted, 0.05)

    def _fraction(self, parts_per_100: float) -> float:
        return polymer_fraction(parts_per_100, **self._sgs)

    @property
    def last_dose(self) -> float:
        """The highest dose with a test point; 0 without any."""
        return float(self._doses[-1]) if len(self._doses) else 0.0

    def modulus_mpa(self, parts_per_100: float) -> float:
        """Return the modulus at a dose.

        Parameters
        ----------
        parts_per_100 : float
            Of thinner to A + B, by mass.

        Returns
        -------
        float
            In MPa.
        """
        if self._through is None:
            return diluted_mpa(self.own_mpa, self._fraction(parts_per_100), self.exponent)
        within = min(parts_per_100, self.last_dose)
        return diluted_mpa(
            float(np.exp(self._through(within))), self._fraction(parts_per_100) / self._fraction(within), self.exponent
        )

    def at(self, parts_per_100: float) -> Thinned:
        """Return the rubber thinned by a dose.

        Parameters
        ----------
        parts_per_100 : float
            Of thinner to A + B, by mass.

        Returns
        -------
        Thinned
            With its range and findings.

        Raises
        ------
        Refused
            For a dose below 0 or over 50.
        """
        if not 0 <= parts_per_100 <= MOST_PARTS:
            raise Refused(
                "parts_per_100",
                Text(
                    "Thinner goes from 0 to {most_parts:g} parts per 100. Beyond that there are no "
                    "figures: the mould bleeds oil or never firms up. Choose a softer rubber.",
                    most_parts=MOST_PARTS,
                ),
            )
        modulus = self.modulus_mpa(parts_per_100)
        beyond = parts_per_100 > self.last_dose * (1 + 1e-9)
        return Thinned(
            parts_per_100=parts_per_100,
            modulus_mpa=modulus,
            range_mpa=self.range_mpa(parts_per_100),
            basis=self._basis(parts_per_100),
            findings=self._findings(parts_per_100, modulus, beyond=beyond),
        )

    def range_mpa(self, parts_per_100: float) -> tuple[float, float] | None:
        """Return the range of the modulus beyond the last test point, by the model with an exponent from 2 to 3.

        Parameters
        ----------
        parts_per_100 : float
            Of thinner to A + B, by mass.

        Returns
        -------
        (float, float) or None
            Softest and hardest in MPa; None up to the last point.
        """
        if parts_per_100 <= self.last_dose * (1 + 1e-9):
            return None
        start, fraction = (
            self.modulus_mpa(self.last_dose),
            self._fraction(parts_per_100) / self._fraction(self.last_dose),
        )
        ends = [diluted_mpa(start, fraction, exponent) for exponent in (EXPONENT_HIGH, EXPONENT_LOW, self.exponent)]
        return min(ends), max(ends)

    def dose_for(self, target: Hardness) -> Thinned:
        """Find the dose that brings the rubber down to a hardness.

        Parameters
        ----------
        target : Hardness
            Wanted.

        Returns
        -------
        Thinned
            With its dose.

        Raises
        ------
        Refused
            When the target is harder than the rubber itself, or softer than 50 parts make it.
        """
        wanted = target.modulus_mpa
        own, softest = self.modulus_mpa(0.0), self.modulus_mpa(MOST_PARTS)
        if wanted > own * (1 + 1e-6):
            raise Refused(
                "target",
                Text(
                    "Thinner only makes softer, and {target} is harder than the rubber itself, {rubber}. "
                    "Choose a harder rubber to start from.",
                    target=target,
                    rubber=self.rubber,
                ),
            )
        if wanted < softest * (1 - 1e-9):
            raise Refused(
                "target",
                Text(
                    "{target} would take more than {most_parts:g} parts per 100, where there are no "
                    "figures: it would bleed oil or never firm up. Choose a softer rubber.",
                    target=target,
                    most_parts=MOST_PARTS,
                ),
            )
        if wanted >= own or wanted <= softest:  # either end, within rounding
            return self.at(0.0 if wanted >= own else MOST_PARTS)
        return self.at(
            float(brentq(lambda parts: np.log(self.modulus_mpa(parts) / wanted), 0.0, MOST_PARTS, xtol=1e-9))
        )

    def _basis(self, parts_per_100: float) -> Basis:
        measured = [point.parts_per_100 for point in self.points]
        if any(abs(parts_per_100 - dose) < 1e-6 for dose in measured):
            return "data"
        return "fitted" if len(self._doses) else "model"

    def _findings(self, parts_per_100: float, modulus: float, *, beyond: bool) -> tuple[Finding, ...]:
        found = [] if parts_per_100 else list(self.rubber.findings())
        better = better_scale(modulus)
        poor = reading(modulus, self.rubber.scale)
        if (
            parts_per_100 > 0
            and better != self.rubber.scale
            and (poor is None or not Hardness(scale=self.rubber.scale, shore=poor).is_good)
        ):
            found.append(
                Finding(code="measure-on", facts={"scale": self.rubber.scale, "other": better}, field="thinner_parts")
            )
        if self._off_pct > DOUBT_PCT:
            found.append(Finding(code="points-disagree", field="thinner_parts"))
        if parts_per_100 > 0 and beyond:
            facts = {"last": f"{self.last_dose:g}"}
            found.append(
                Finding(code="beyond-points", facts=facts, field="thinner_parts")
                if self.last_dose
                else Finding(code="model-only", field="thinner_parts")
            )
        return tuple({finding.code: finding for finding in found}.values())


def _averaged(points: Sequence[CouponPoint]) -> tuple[Floats, Floats]:
    doses = np.array(sorted({point.parts_per_100 for point in points}))
    logs = [
        np.mean([np.log(point.hardness.modulus_mpa) for point in points if point.parts_per_100 == dose])
        for dose in doses
    ]
    return doses, np.array(logs)


def _strictly(falling: Floats) -> Floats:
    # level stretches get a negligible slope, so that every hardness has one dose
    return falling - 1e-6 * np.arange(len(falling))
