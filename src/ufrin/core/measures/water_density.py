"""The density of water at a temperature."""

from ufrin.errors import Refused
from ufrin.language import Text


def water_density_g_per_ml(water_temp_c: float) -> float:
    """Return the density of clean, air-free water at ordinary pressure.

    Parameters
    ----------
    water_temp_c : float
        0 to 60 degC, the range in which the formula was compared with IAPWS-95 (within 3.5e-6).

    Returns
    -------
    float
        In g/ml.

    Raises
    ------
    Refused
        Outside 0 to 60 degC.

    Notes
    -----
    Kell, G. S. (1975), Density, thermal expansivity, and compressibility of liquid water from 0 to 150 degC, J.
    Chem. Eng. Data 20(1); coefficients from memory, checked against IAPWS-95 in the tests.

    Examples
    --------
    >>> round(water_density_g_per_ml(20), 4)
    0.9982
    """
    t = water_temp_c
    if not 0 <= t <= 60:
        raise Refused(
            "water_temp_c",
            Text(
                "Water for weighing is between [0 temperature] and [60 temperature]. Measure it, or "
                "leave [20 temperature] for a room."
            ),
        )
    top = 999.83952 + t * (
        16.945176 + t * (-7.9870401e-3 + t * (-46.170461e-6 + t * (105.56302e-9 + t * -280.54253e-12)))
    )
    return top / (1 + 16.879850e-3 * t) / 1000
