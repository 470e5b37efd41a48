"""Displacement: the volume that a master takes up, measured in one way or another, each with its error.

Errors of single readings are taken as independent and added in quadrature; a digital scale is off by at most half a
step per reading, a marked cup is read to a quarter of a mark (common practice).
"""

from dataclasses import dataclass
from math import hypot, pi, sqrt

from ufrin.core.inputs.usual import USUAL
from ufrin.core.materials.tables import Material
from ufrin.core.measures.plain_volumes import block_ml, drum_ml
from ufrin.core.measures.water_density import water_density_g_per_ml
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text

HEAVIEST_G_PER_ML = 22.6  # osmium, the densest element (handbook value, from memory)
LEAD_G_PER_ML = 11.4
GRAIN_SETTLES = 0.02


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasuredVolume:
    """A volume and its error.

    Parameters
    ----------
    volume_ml, plus_minus_ml : float
        The displacement and its error.
    """

    volume_ml: float
    plus_minus_ml: float

    def __post_init__(self) -> None:
        if not self.volume_ml > 0:
            raise Refused("", Text("These readings give no volume at all. Read them again."))


def _half_steps_g(scale_step_g: float, readings: int) -> float:
    # every reading has its own zero (the tare), so each counts twice
    return scale_step_g / 2 * sqrt(2 * readings)


def hung_in_beaker(
    *, reading_g: float, water_temp_c: float, scale_step_g: float, sinker_g: float | None = None
) -> MeasuredVolume:
    """Measure by hanging the master in a tared beaker of water that stands on the scale.

    Parameters
    ----------
    reading_g : float
        With the master (and the sinker, if there is one) wholly under water, touching nothing.
    water_temp_c, scale_step_g : float
        The water's temperature, the scale's step.
    sinker_g : float, optional
        The reading with the sinker alone, for a master that floats.

    Returns
    -------
    MeasuredVolume
        V = reading / density of water (Archimedes; buoyancy in air, 0.1 %, is left out).

    Raises
    ------
    Refused
        When the reading does not rise above the sinker's.
    """
    if sinker_g is not None and not reading_g > sinker_g:
        raise Refused(
            "hung_reading_g",
            Text("With the master the reading must be more than with the sinker alone. Hang both wholly under water."),
        )
    density = water_density_g_per_ml(water_temp_c)
    error_g = _half_steps_g(scale_step_g, 1 if sinker_g is None else 2)
    return MeasuredVolume(volume_ml=(reading_g - (sinker_g or 0)) / density, plus_minus_ml=error_g / density)


def hung_from_scale(
    *, dry_g: float, in_water_g: float, water_temp_c: float, scale_step_g: float, sinker_in_water_g: float | None = None
) -> MeasuredVolume:
    """Measure by hanging the master from the scale into water.

    Parameters
    ----------
    dry_g : float
        The master in air.
    in_water_g : float
        The scale's reading with the master (and sinker) wholly under water.
    water_temp_c, scale_step_g : float
        The scale's reading with the sinker alone under water, for a master that floats.
    sinker_in_water_g : float, optional
        What it shows with the sinker alone under water, for a master that floats.

    Returns
    -------
    MeasuredVolume
        V = (dry + sinker alone in water - in water) / density of water (Archimedes).

    Raises
    ------
    Refused
        When it weighs as much in water as out of it.
    """
    lost_g = dry_g + (sinker_in_water_g or 0) - in_water_g
    if not lost_g > 0:
        raise Refused(
            "under_reading_g",
            Text(
                "In water it must weigh less than in air. Check both readings, and that the sinker's "
                "own is taken in water."
            ),
        )
    density = water_density_g_per_ml(water_temp_c)
    return MeasuredVolume(
        volume_ml=lost_g / density,
        plus_minus_ml=_half_steps_g(scale_step_g, 2 if sinker_in_water_g is None else 3) / density,
    )


def level_rise(*, before_ml: float, after_ml: float, mark_ml: float) -> MeasuredVolume:
    """Measure by the rise of the level in a marked vessel.

    Parameters
    ----------
    before_ml, after_ml : float
        Read at the bottom of the meniscus.
    mark_ml : float
        From one mark to the next; each reading is good to a quarter of it (common practice).

    Returns
    -------
    MeasuredVolume
        The rise.

    Raises
    ------
    Refused
        When the level falls.
    """
    if not after_ml > before_ml:
        raise Refused(
            "level_after_ml",
            Text(
                "The level must rise when the master goes in. Perhaps the two readings are swapped, or water was spilt."
            ),
        )
    return MeasuredVolume(volume_ml=after_ml - before_ml, plus_minus_ml=mark_ml / 4 * sqrt(2))


def dip(
    *, diameter_mm: float, before_mm: float, after_mm: float, step_mm: float, diameter_pm_mm: float
) -> MeasuredVolume:
    """Measure by the rise of the level in a plain round vessel with upright walls.

    Parameters
    ----------
    diameter_mm : float
        Inside.
    before_mm, after_mm : float
        Depth of water on a ruler.
    step_mm : float
        The ruler's step; each reading is good to a quarter of it.
    diameter_pm_mm : float
        Error of the diameter.

    Returns
    -------
    MeasuredVolume
        V = pi D^2 / 4 x rise.

    Raises
    ------
    Refused
        When the level falls.
    """
    if not after_mm > before_mm:
        raise Refused(
            "dip_after_mm",
            Text(
                "The level must rise when the master goes in. Perhaps the two readings are swapped, or water was spilt."
            ),
        )
    volume_ml = drum_ml(diameter_mm, after_mm - before_mm)
    reading_ml = pi * diameter_mm**2 / 4000 * step_mm / 4 * sqrt(2)
    return MeasuredVolume(
        volume_ml=volume_ml, plus_minus_ml=hypot(reading_ml, 2 * volume_ml * diameter_pm_mm / diameter_mm)
    )


def boxed(
    *,
    length_mm: float,
    width_mm: float | None,
    depth_mm: float,
    net_ml: float,
    mark_ml: float,
    size_pm_mm: float,
    count: int = 1,
) -> MeasuredVolume:
    """Measure by filling the sealed box, master inside, with water and measuring what comes out, the net volume.

    Parameters
    ----------
    length_mm, width_mm : float
        Inside of the box; without a width, the diameter of a round one.
    depth_mm : float
        Of the water, over the board.
    net_ml : float
        The water it took.
    mark_ml : float
        Marks of the jug.
    size_pm_mm : float
        Error of each size.
    count : int, optional
        Equal masters in the box.

    Returns
    -------
    MeasuredVolume
        What is missing from the box, for one master.

    Raises
    ------
    Refused
        When the water fills the whole box or more.
    """
    round_box = width_mm is None
    gross_ml = drum_ml(length_mm, depth_mm) if width_mm is None else block_ml(length_mm, width_mm, depth_mm)
    if not net_ml < gross_ml:
        raise Refused(
            "boxed_net_ml",
            Text(
                "A box of that size holds [{gross_ml:.0f} volume] empty, so with a master in it, it "
                "takes less. Check the sizes and the water.",
                gross_ml=gross_ml,
            ),
        )
    relative = hypot(
        size_pm_mm / depth_mm,
        size_pm_mm / length_mm * (2 if round_box else 1),
        0 if width_mm is None else size_pm_mm / width_mm,
    )
    return MeasuredVolume(
        volume_ml=(gross_ml - net_ml) / count, plus_minus_ml=hypot(gross_ml * relative, mark_ml / 4) / count
    )


def grain_rise(*, before_ml: float, after_ml: float, mark_ml: float) -> MeasuredVolume:
    """Measure by the rise of fine dry grain, tapped level, for a master that may not get wet.

    Parameters
    ----------
    before_ml, after_ml : float
        The grain alone, and with the master buried in it.
    mark_ml : float
        From one mark to the next.

    Returns
    -------
    MeasuredVolume
        The rise. Grain never settles twice alike: 2 % of the vessel's content is added to the errors of the readings
        (common practice).

    Raises
    ------
    Refused
        When the level falls.
    """
    if not after_ml > before_ml:
        raise Refused(
            "grain_after_ml",
            Text(
                "The grain must stand higher with the master in it. Perhaps the two readings are "
                "swapped, or grain was spilt."
            ),
        )
    return MeasuredVolume(
        volume_ml=after_ml - before_ml, plus_minus_ml=hypot(mark_ml / 4 * sqrt(2), GRAIN_SETTLES * after_ml)
    )


def weight_over_density(
    *,
    mass_g: float,
    mass_pm_g: float,
    material: Material | None,
    density_g_per_ml: float | None,
    density_pm_g_per_ml: float,
    solid: bool,
) -> MeasuredVolume:
    """Measure by weight over density.

    Parameters
    ----------
    mass_g, mass_pm_g : float
        The master's weight and its error.
    material : Material or None
        From the table: the middle of its range, half the range as error.
    density_g_per_ml, density_pm_g_per_ml : float
        The maker's own figure and its error; it takes precedence over the table's.
    solid : bool
        Whether the maker stated that a print is solid.

    Returns
    -------
    MeasuredVolume
        V = m / rho.

    Raises
    ------
    Refused
        Without any density, or for a print that may be hollow.
    """
    if material and material.may_be_hollow and not solid:
        raise Refused(
            "solid",
            Text(
                "A print with a sparse inside displaces its outside, not its weight. Measure it in "
                "water, or say that it is printed solid."
            ),
        )
    if not mass_g > 0:
        raise Refused("mass_g", Text("A weight must be more than nothing. Weigh the master again."))
    if density_g_per_ml is not None:
        density, error = density_g_per_ml, density_pm_g_per_ml
    elif material:
        density = (material.low_g_per_ml + material.high_g_per_ml) / 2
        error = (material.high_g_per_ml - material.low_g_per_ml) / 2
    else:
        raise Refused("material", Text("Choose what it is made of, or type its density."))
    if not density > 0:
        raise Refused("density_g_per_ml", Text("A density must be more than nothing."))
    volume_ml = mass_g / density
    return MeasuredVolume(volume_ml=volume_ml, plus_minus_ml=volume_ml * hypot(mass_pm_g / mass_g, error / density))


def off_table(material: Material | None, density_g_per_ml: float | None) -> tuple[Finding, ...]:
    """Return a finding when a typed density is not usual for the material.

    Parameters
    ----------
    material : Material or None
        From the table.
    density_g_per_ml : float or None
        As typed.

    Returns
    -------
    tuple of Finding
        ``density-off-table`` or nothing.
    """
    if (
        material is None
        or density_g_per_ml is None
        or material.low_g_per_ml <= density_g_per_ml <= material.high_g_per_ml
    ):
        return ()
    facts: dict[str, Amount | str] = {
        "density": Amount(density_g_per_ml, "density"),
        "material": material.label,
        "low": Amount(material.low_g_per_ml, "density"),
        "high": Amount(material.high_g_per_ml, "density"),
    }
    return (Finding(code="density-off-table", facts=facts, field="density_g_per_ml"),)


def known(*, volume_ml: float, plus_minus_ml: float | None = None) -> MeasuredVolume:
    """Take a volume that the maker knows.

    Parameters
    ----------
    volume_ml : float
        As known.
    plus_minus_ml : float or None, optional
        Its error; None takes the usual share of it.

    Returns
    -------
    MeasuredVolume
        As it is.
    """
    error_ml = USUAL["known"]["plus_minus_share"] * volume_ml if plus_minus_ml is None else plus_minus_ml
    return MeasuredVolume(volume_ml=volume_ml, plus_minus_ml=error_ml)
