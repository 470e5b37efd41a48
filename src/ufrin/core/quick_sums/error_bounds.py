"""Bounds of errors: of a level that is read in whole steps, and of a ratio by its standard uncertainty."""

from math import hypot, sqrt

from ufrin.core.measures.plain_volumes import drum_ml


def dip_worst_ml(diameter_mm: float, step_mm: float) -> float:
    """Return the worst error of a rise read in whole steps: each reading off by half a step, the rise by one.

    Parameters
    ----------
    diameter_mm, step_mm : float
        The vessel and the ruler.

    Returns
    -------
    float
        In ml.
    """
    return drum_ml(diameter_mm, step_mm)


def standard_ratio_error_pct(a_g: float, b_g: float, scale_step_g: float) -> float:
    """Return the standard uncertainty of B/A.

    Each reading is spread evenly over a step, u = step / sqrt(12); the two add in quadrature.

    Parameters
    ----------
    a_g, b_g, scale_step_g : float
        What is weighed, and the scale's step.

    Returns
    -------
    float
        In percent of the ratio.
    """
    return 100 * hypot(scale_step_g / a_g, scale_step_g / b_g) / sqrt(12)
