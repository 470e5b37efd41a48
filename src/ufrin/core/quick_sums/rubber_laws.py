"""Laws of rubbers besides those that the stations use: another modulus, thinner for a viscosity, Arrhenius's law."""

from math import exp, log

from ufrin.core.rubber.cure_times import TIN_TEMP_C
from ufrin.errors import Refused
from ufrin.language import Text


def qi_mpa(shore: float) -> float:
    """Return Young's modulus by the log-linear relation, log10 E = 0.0235 S - 0.6403, for 20 < S < 80.

    Parameters
    ----------
    shore : float
        On A; on D with 50 added.

    Returns
    -------
    float
        In MPa. H. J. Qi, K. Joyce and M. C. Boyce, Rubber Chemistry and Technology 76 (2003); coefficients from
        memory. It agrees with Gent within 8 % from A 20 to A 32 only, and is 1.4 times his at A 50.
    """
    return float(10 ** (0.0235 * shore - 0.6403))


def parts_for_viscosity(base_mpa_s: float, thinner_mpa_s: float, target_mpa_s: float) -> float:
    """Find the thinner that brings a viscosity down.

    By Arrhenius' law of mixing, w = ln(eta0 / eta) / ln(eta0 / eta_thinner), parts = 100 w / (1 - w).

    Parameters
    ----------
    base_mpa_s, thinner_mpa_s, target_mpa_s : float
        Of the rubber, of the thinner, and wanted.

    Returns
    -------
    float
        Parts per 100 of A + B, by mass.

    Raises
    ------
    Refused
        When the target does not lie between the two.
    """
    if not thinner_mpa_s < target_mpa_s <= base_mpa_s:
        raise Refused("target_mpa_s", Text("The viscosity wanted must lie between the thinner's and the rubber's own."))
    share = log(base_mpa_s / target_mpa_s) / log(base_mpa_s / thinner_mpa_s)
    return 100 * share / (1 - share)


def time_by_arrhenius(
    reference_min: float, temp_c: float, activation_energy_kj_per_mol: float, *, reference_temp_c: float = TIN_TEMP_C
) -> float:
    """Shift a time by Arrhenius's law: t = t_ref exp((Ea / R) (1/T - 1/T_ref)), in kelvin.

    Parameters
    ----------
    reference_min : float
        At the reference temperature, as the tin states.
    temp_c : float
        Of the room.
    activation_energy_kj_per_mol : float
        The rubber's own, from its maker or from trials.
    reference_temp_c : float
        Of the tin's figure.

    Returns
    -------
    float
        In min.
    """
    return reference_min * exp(
        activation_energy_kj_per_mol
        * 1000
        / GAS_J_PER_MOL_K
        * (1 / (temp_c + KELVIN) - 1 / (reference_temp_c + KELVIN))
    )


def activation_energy_kj_per_mol(q10: float, lower_temp_c: float) -> float:
    """Return the activation energy whose Arrhenius factor over the 10 K above a temperature is a given Q10.

    Parameters
    ----------
    q10, lower_temp_c : float
        The factor, and the lower temperature.

    Returns
    -------
    float
        In kJ/mol: Ea = R ln(Q10) / (1/T1 - 1/T2).
    """
    first = lower_temp_c + KELVIN
    return GAS_J_PER_MOL_K * log(q10) / (1 / first - 1 / (first + 10)) / 1000


GAS_J_PER_MOL_K, KELVIN = 8.314462618, 273.15
