"""The core against published values: each row of data/published.jsonl names its source beside the value."""

import json
from collections.abc import Callable, Mapping
from dataclasses import asdict
from math import log
from pathlib import Path
from typing import Any

import pytest

from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.hold_down import lift_gf
from ufrin.core.box.mould_box import box
from ufrin.core.box.wall_bow import PanelStock, bow_mm, wall_load
from ufrin.core.casting import cast_amount, filled_cast, shell_cast
from ufrin.core.degassing import bubbles
from ufrin.core.master.displacement import dip, hung_from_scale, hung_in_beaker
from ufrin.core.master.master_form import Master
from ufrin.core.materials.tables import BOARDS
from ufrin.core.measures import plain_volumes
from ufrin.core.measures.constants import STANDARD_GRAVITY_M_PER_S2
from ufrin.core.measures.conversion import convert
from ufrin.core.measures.water_density import water_density_g_per_ml
from ufrin.core.money.making import MakingCosts
from ufrin.core.moulds.mould_life import UsedMould, life_curve, weibull_fit
from ufrin.core.quick_sums import plain_solids
from ufrin.core.quick_sums.error_bounds import dip_worst_ml, standard_ratio_error_pct
from ufrin.core.quick_sums.rubber_laws import (
    activation_energy_kj_per_mol,
    parts_for_viscosity,
    qi_mpa,
    time_by_arrhenius,
)
from ufrin.core.rubber.blends import blend_mpa, viscosity_of_mix
from ufrin.core.rubber.coupons import Coupon
from ufrin.core.rubber.cure_times import time_at
from ufrin.core.rubber.shore import Hardness, gent_mpa, gent_shore_a
from ufrin.core.rubber.thinner_curve import Curve, diluted_mpa, polymer_fraction
from ufrin.core.shelf.scales import smallest_batch_g, worst_ratio_error_pct
from ufrin.core.weighing.mix import MixPlan, Thinner, batches_for_cup, mass_needed_g, mix
from ufrin.core.weighing.ratio import mixed_sg, weight_shares
from ufrin.core.weighing.ratio_mend import check

Row = Mapping[str, Any]
ROWS = [json.loads(line) for line in (Path(__file__).parents[2] / "data" / "published.jsonl").read_text().splitlines()]
TOPICS = {
    *("volume", "weighing", "mix", "units", "box", "hardness", "viscosity", "temperature", "bubbles", "casting"),
    *("life", "cost"),
}

PINT_NAMES = {
    "oz_avoirdupois": "ounce",
    "floz_us": "US_fluid_ounce",
    "floz_imp": "imperial_fluid_ounce",
    "in": "inch",
    "cp": "centipoise",
    "pa_s": "Pa*s",
    "kpa": "kPa",
    "lb_per_ft3": "pound/foot**3",
    "kg_per_m3": "kg/m**3",
    "lbf_per_ft3": "lbf/foot**3",
    "n_per_m3": "N/m**3",
    "inhg": "inHg",
    "lb": "pound",
}


def tapered_cup(g: Row) -> Row:
    level = plain_volumes.cup_level_mm(
        g["bottom_diameter_mm"], g["top_diameter_mm"], g["cup_height_mm"], g["volume_ml"]
    )
    taper = (g["top_diameter_mm"] - g["bottom_diameter_mm"]) / g["cup_height_mm"]
    return {"fill_height_mm": level, "surface_diameter_mm": g["bottom_diameter_mm"] + taper * level}


def box_round_master(g: Row) -> Row:
    one = Master(
        length_mm=g["master_length_mm"],
        width_mm=g["master_width_mm"],
        height_mm=g["master_height_mm"],
        volume_ml=g["master_volume_ml"],
    )
    made = box(BoxPlan(masters=(one,), side_mm=g["wall_clearance_mm"], over_mm=g["cover_mm"]))
    return {
        "box_length_mm": made.length_mm,
        "box_width_mm": made.width_mm,
        "box_height_mm": made.fill_mm,
        "rubber_volume_ml": made.net_ml,
    }


def hung(g: Row) -> Row:
    volume = hung_in_beaker(reading_g=g["scale_rise_g"], water_temp_c=g["water_temp_c"], scale_step_g=0.1).volume_ml
    return {"volume_ml": volume, "density_g_per_ml": g["dry_mass_g"] / volume}


def under_scale(g: Row) -> Row:
    volume = hung_from_scale(
        dry_g=g["dry_mass_g"],
        in_water_g=g.get("apparent_mass_in_water_g", g.get("both_apparent_in_water_g")),
        sinker_in_water_g=g.get("sinker_apparent_in_water_g"),
        water_temp_c=g["water_temp_c"],
        scale_step_g=0.1,
    ).volume_ml
    return {"volume_ml": volume, "density_g_per_ml": g["dry_mass_g"] / volume}


def round_vessel(g: Row) -> Row:
    rise = dip(
        diameter_mm=g["vessel_inner_diameter_mm"],
        before_mm=100,
        after_mm=100 + g["level_rise_mm"],
        step_mm=g["reading_step_mm"],
        diameter_pm_mm=0,
    )
    return {
        "volume_ml": rise.volume_ml,
        "worst_case_error_ml": dip_worst_ml(g["vessel_inner_diameter_mm"], g["reading_step_mm"]),
    }


def split(g: Row) -> Row:
    parts = mix(MixPlan(need_g=g["total_g"], ratio={"A": g["ratio_a_weight"], "B": g["ratio_b_weight"]})).parts
    return {"a_g": parts["A"].g, "b_g": parts["B"].g}


def by_volume(g: Row) -> Row:
    ratio, sgs = (
        {"A": g["ratio_a_volume"], "B": g["ratio_b_volume"]},
        {"A": g["density_a_g_per_ml"], "B": g["density_b_g_per_ml"]},
    )
    parts = mix(MixPlan(need_g=g["total_g"], ratio=ratio, basis="volume", sg_parts=sgs)).parts
    shares = weight_shares(ratio, "volume", sgs)
    return {"b_per_100_a_by_weight": 100 * shares["B"] / shares["A"], "a_g": parts["A"].g, "b_g": parts["B"].g}


def density_of_mix(g: Row) -> Row:
    masses, sgs = dict(enumerate(g["masses_g"])), dict(enumerate(g["densities_g_per_ml"]))
    sg = mixed_sg(masses, sgs)
    return {"volume_ml": sum(masses.values()) / sg, "mixed_density_g_per_ml": sg}


def whole_chain(g: Row) -> Row:
    mixed = mix(
        MixPlan(
            need_ml=g["need_ml"],
            ratio={"A": g["ratio_a_volume"], "B": g["ratio_b_volume"]},
            basis="volume",
            sg_parts={"A": g["density_a_g_per_ml"], "B": g["density_b_g_per_ml"]},
            spare_pct=g["allowance_percent"],
            cling_g=g["hold_up_g"],
        )
    )
    return {
        "mixed_density_g_per_ml": mixed.sg_mixed,
        "total_g": mixed.total_g,
        "a_g": mixed.parts["A"].g,
        "b_g": mixed.parts["B"].g,
    }


def thinner(g: Row) -> Row:
    of_a = "thinner_percent_of_a" in g
    dose = Thinner(parts_per_100=g["thinner_percent_of_a"] if of_a else g["thinner_phr"], of="A" if of_a else "A+B")
    mixed = mix(MixPlan(need_g=g["total_g"], ratio={"A": g["ratio_a_weight"], "B": g["ratio_b_weight"]}, thinner=dose))
    base = mixed.parts["A"].g + mixed.parts["B"].g
    return {
        "a_g": mixed.parts["A"].g,
        "b_g": mixed.parts["B"].g,
        "thinner_g": mixed.thinner_g,
        "thinner_percent_of_total": 100 * mixed.thinner_g / mixed.total_g,
        "thinner_phr_of_a_and_b": 100 * mixed.thinner_g / base,
    }


def pigment(g: Row) -> Row:
    at_limit = mix(
        MixPlan(
            need_g=g["mix_g"] * (1 + g["limit_percent"] / 100), ratio={"A": 1, "B": 1}, pigment_pct=g["limit_percent"]
        )
    )
    percent = 100 * g["pigment_g"] / g["mix_g"]
    too_much = mix(MixPlan(need_g=g["mix_g"], ratio={"A": 1, "B": 1}, pigment_pct=percent))
    return {"max_pigment_g": at_limit.pigment_g, "pigment_percent": percent, "within_limit": not too_much.findings}


def over_pour(g: Row) -> Row:
    checked = check(
        ratio={"A": g["ratio_a_weight"], "B": g["ratio_b_weight"]},
        poured_g={"A": g["a_in_cup_g"], "B": g["b_in_cup_g"]},
    )
    return {"add_part": (checked.add_part or "").lower(), "add_g": checked.add_g, "total_g": checked.total_g_after}


def scale_step(g: Row) -> Row:
    worst = worst_ratio_error_pct({"A": g["a_g"], "B": g["b_g"]}, g["scale_step_g"])
    half = g["scale_step_g"] / 2
    return {
        "b_per_100_a": 100 * g["b_g"] / g["a_g"],
        "standard_uncertainty_percent_of_ratio": standard_ratio_error_pct(g["a_g"], g["b_g"], g["scale_step_g"]),
        "worst_low_b_per_100_a": 100 * (g["b_g"] - half) / (g["a_g"] + half),
        "worst_high_b_per_100_a": g["b_g"] / g["a_g"] * (100 + (worst or 0)),
    }


def smallest_batch(g: Row) -> Row:
    shares = weight_shares({"A": g["ratio_a_weight"], "B": g["ratio_b_weight"]})
    total = smallest_batch_g(shares, g["scale_step_g"], g["worst_ratio_error_percent"])
    return {"smallest_a_g": shares["A"] * total, "smallest_b_g": shares["B"] * total, "smallest_total_g": total}


def batches(g: Row) -> Row:
    number = batches_for_cup(g["total_mix_ml"], g["vessel_ml"], g["head_room_factor"])
    return {"batches": number, "mix_per_batch_ml": g["total_mix_ml"] / number}


def buoyancy(g: Row) -> Row:
    up = lift_gf(displaced_ml=g["master_volume_ml"], mass_g=g["master_mass_g"], sg=g["rubber_density_g_per_ml"])
    return {
        "buoyancy_gf": up + g["master_mass_g"],
        "net_upward_gf": up,
        "net_upward_n": up * STANDARD_GRAVITY_M_PER_S2 / 1000,
    }


def hydrostatic(g: Row) -> Row:
    load = wall_load(depth_mm=g["depth_mm"], wall_length_mm=g["wall_width_mm"], sg=g["density_g_per_ml"])
    return {
        "pressure_at_base_pa": load.base_kpa * 1000,
        "mean_pressure_pa": load.mean_kpa * 1000,
        "wall_force_n": load.force_n,
        "force_height_above_base_mm": load.force_height_mm,
    }


def alpha(g: Row) -> Row:
    # a panel of stiffness 1 under a pressure of 1: w = alpha, with the short side 1
    sheet = PanelStock(
        thickness_mm=1, youngs_modulus_gpa=12 * (1 - g["poisson_ratio"] ** 2) / 1000, poisson_ratio=g["poisson_ratio"]
    )
    bow = bow_mm(
        length_mm=g["aspect_ratio_long_over_short"],
        height_mm=1,
        foot_kpa=1000,
        top_kpa=1000,
        sheet=sheet,
        top_is_held=True,
    )
    return {"alpha_d": bow, "alpha_et3": bow * sheet.youngs_modulus_gpa * 1000}


def deflection(g: Row) -> Row:
    sheet = PanelStock(
        thickness_mm=g["thickness_mm"], youngs_modulus_gpa=g["youngs_modulus_gpa"], poisson_ratio=g["poisson_ratio"]
    )
    kpa = g["pressure_pa"] / 1000
    bow = bow_mm(
        length_mm=g["panel_width_mm"],
        height_mm=g["panel_height_mm"],
        foot_kpa=kpa,
        top_kpa=kpa,
        sheet=sheet,
        top_is_held=True,
    )
    return {"deflection_mm": bow}


def stiffness(g: Row) -> Row:
    key = {
        "acrylic sheet": "acrylic-sheet",
        "medium-density fibreboard": "fibreboard",
        "soda-lime glass": "glass",
        "aluminium": "aluminium",
    }
    return {"youngs_modulus_gpa": BOARDS[key[g["material"]]].youngs_modulus_gpa}


def shore_readings(g: Row) -> Row:
    coupon = Coupon(
        scale="A",
        readings=g["readings_shore_a"],
        thickness_mm=g["specimen_thickness_mm"],
        edge_mm=g["edge_distance_mm"],
        apart_mm=g["spacing_mm"],
    )
    told = {name: getattr(coupon, name) for name in ("thick_enough", "placed_rightly", "enough_readings")}
    return {"median_shore_a": coupon.shore, "in_scale_range": coupon.hardness.is_good, **told}


def thinned_hardness(g: Row) -> Row:
    fraction = polymer_fraction(
        g["thinner_phr"], rubber_sg=g["base_density_g_per_ml"], thinner_sg=g["thinner_density_g_per_ml"]
    )
    modulus = diluted_mpa(gent_mpa(g["shore_a_base"]), fraction, g["exponent"])
    # the curve of a rubber without test points is this very model
    curve = Curve(
        Hardness(scale="A", shore=g["shore_a_base"]),
        rubber_sg=g["base_density_g_per_ml"],
        thinner_sg=g["thinner_density_g_per_ml"],
    )
    assert curve.modulus_mpa(g["thinner_phr"]) == pytest.approx(modulus)
    return {"polymer_volume_fraction": fraction, "e_mpa": modulus, "shore_a": gent_shore_a(modulus)}


def blended(g: Row) -> Row:
    first, second = (Hardness(scale="A", shore=g[f"shore_a_{number}"]) for number in (1, 2))
    modulus = blend_mpa(first, second, 1 - g["mass_fraction_1"])
    by_qi = [log(qi_mpa(hardness.shore)) for hardness in (first, second)]
    mean = g["mass_fraction_1"] * by_qi[0] + (1 - g["mass_fraction_1"]) * by_qi[1]
    return {"e_mpa": modulus, "shore_a_gent": gent_shore_a(modulus), "shore_a_qi": (mean / log(10) + 0.6403) / 0.0235}


def thin_enough(g: Row) -> Row:
    parts = parts_for_viscosity(g["base_viscosity_cp"], g["thinner_viscosity_cp"], g["target_viscosity_cp"])
    return {"thinner_phr": parts, "thinner_mass_fraction": parts / (100 + parts)}


def solid(g: Row) -> Row:
    mix = cast_amount.CastMix(sg_mixed=g["resin_density_g_per_ml"])
    return {"mass_g": cast_amount.solid_cast(mix, cavity_ml=g["cavity_ml"]).mass_g}


def moulds_of(g: Row) -> list[UsedMould]:
    return [UsedMould(casts=n, failed=bool(end)) for n, end in zip(g["casts"], g["failed"], strict=True)]


def lived(g: Row) -> Row:
    curve = life_curve(moulds_of(g))
    return {"median_casts": curve.median_casts, "survival_at": curve.survival_at(g["at_casts"])}


def wore_out(g: Row) -> Row:
    fit = weibull_fit(moulds_of(g))
    assert fit is not None
    names = ("shape", "scale_casts", "median_casts", "b10_casts", "mean_casts")
    return {name: getattr(fit, name) for name in names}


def making(g: Row) -> MakingCosts:
    return MakingCosts(**{name: g[name] for name in ("master_cost", "mould_cost", "mould_life_casts", "unit_cost")})


def thin_shell(g: Row) -> Row:
    said = g["cavity_area_cm2"], g["shell_thickness_mm"], g["resin_density_g_per_ml"]
    return {"mass_g": shell_cast.shell_mass_g(*said)}


def hollow_ball(g: Row) -> Row:
    outer_mm, wall_mm, sg = g["outer_diameter_mm"], g["wall_mm"], g["resin_density_g_per_ml"]
    return {
        "mass_g": shell_cast.hollow_ball_ml(outer_mm, wall_mm) * sg,
        "thin_shell_g": shell_cast.shell_mass_g(shell_cast.ball_area_cm2(outer_mm), wall_mm, sg),
    }


def number_of_coats(g: Row) -> Row:
    made = shell_cast.shell_coats(g["target_thickness_mm"], g["layer_thickness_mm"])
    return {"coats": made.number, "reached_thickness_mm": made.reached_mm}


def foam_behind(g: Row) -> Row:
    made = shell_cast.foam_back(
        cavity_ml=g["cavity_ml"],
        shell_g=g["shell_mass_g"],
        shell_sg=g["shell_density_g_per_ml"],
        expansion=g["expansion_factor"],
        foam_liquid_sg=g["foam_liquid_density_g_per_ml"],
    )
    return {"remaining_ml": made.remaining_ml, "foam_mix_g": made.foam_mix_g}


def scooped(g: Row) -> Row:
    made = filled_cast.filled_cast(
        g["need_ml"],
        parts_by_volume={"A": g["parts_a_volume"], "B": g["parts_b_volume"], "filler": g["parts_filler_bulk_volume"]},
        sg_parts={"A": g["density_a_g_per_ml"], "B": g["density_b_g_per_ml"]},
        bulk_sg=g["filler_bulk_density_g_per_ml"],
        true_sg=g["filler_true_density_g_per_ml"],
    )
    same = {name: getattr(made, name) for name in ("a_ml", "b_ml", "filler_g", "total_g")}
    return {**same, "filler_scoop_ml": made.scoop_ml, "mixed_density_g_per_ml": made.sg}


def covered(g: Row) -> Row:
    return {"area_cm2": shell_cast.covered_cm2(g["mass_g"], g["density_g_per_ml"], g["coat_thickness_mm"])}


def rises(surface: bubbles.Surface) -> Callable[[Row], Row]:
    return lambda g: {
        "speed_mm_per_min": bubbles.rise_mm_per_min(
            g["bubble_diameter_mm"], g["viscosity_cp"], g["liquid_density_kg_per_m3"] / 1000, surface
        )
    }


def clears(g: Row) -> Row:
    said = (g["depth_mm"], g["time_min"], g["viscosity_cp"], g["liquid_density_kg_per_m3"] / 1000)
    return {
        "smallest_diameter_stokes_mm": bubbles.smallest_mm(*said, "dirty"),
        "smallest_diameter_hadamard_rybczynski_mm": bubbles.smallest_mm(*said, "clean"),
    }


def squeezed(g: Row) -> Row:
    gauge_kpa = convert(g["gauge_pressure_psi"], "psi", "kPa")
    ratio = bubbles.pot_ratio(gauge_kpa)
    return {
        "absolute_pressure_pa": 1000 * (bubbles.ATMOSPHERE_KPA + gauge_kpa),
        "volume_ratio": ratio,
        "diameter_ratio": bubbles.diameter_ratio(ratio),
    }


def grown(left_kpa: float, **deep: float) -> Row:
    ratio = bubbles.volume_ratio(bubbles.ATMOSPHERE_KPA, left_kpa, **deep)
    return {"volume_ratio": ratio, "diameter_ratio": bubbles.diameter_ratio(ratio)}


def by_gauge(g: Row) -> Row:
    left_kpa = bubbles.absolute_kpa(convert(g["gauge_vacuum_inhg"], "inHg", "kPa"))
    return {"absolute_pressure_mbar": 10 * left_kpa, **grown(left_kpa)}


def deep_down(g: Row) -> Row:
    head_mbar = g["density_g_per_ml"] * bubbles.STANDARD_GRAVITY_M_PER_S2 * g["depth_mm"] / 100
    more = grown(g["absolute_pressure_mbar"] / 10, depth_mm=g["depth_mm"], sg=g["density_g_per_ml"])
    return {"local_pressure_mbar": g["absolute_pressure_mbar"] + head_mbar, **more}


def volume_of(shape: Callable[..., float], *names: str) -> Callable[[Row], Row]:
    return lambda g: {"volume_ml": shape(*(g[name] for name in names))}


CASES: Mapping[str, Callable[[Row], Row]] = {
    "rectangular_prism": volume_of(plain_volumes.block_ml, "length_mm", "width_mm", "height_mm"),
    "cylinder": volume_of(plain_volumes.drum_ml, "diameter_mm", "height_mm"),
    "cone_frustum": volume_of(plain_volumes.frustum_ml, "bottom_diameter_mm", "top_diameter_mm", "height_mm"),
    "fill_height_in_tapered_cup": tapered_cup,
    "spherical_cap": volume_of(plain_solids.cap_ml, "sphere_diameter_mm", "cap_height_mm"),
    "spherical_cap_from_base": volume_of(plain_solids.dome_ml, "base_diameter_mm", "cap_height_mm"),
    "torus": volume_of(plain_solids.ring_ml, "centreline_diameter_mm", "tube_diameter_mm"),
    "ellipsoid": volume_of(plain_solids.ellipsoid_ml, "length_mm", "width_mm", "height_mm"),
    "regular_polygon_prism": volume_of(plain_solids.polygon_prism_ml, "sides", "side_length_mm", "height_mm"),
    "regular_polygon_prism_across_flats": lambda g: {
        "volume_ml": plain_solids.polygon_prism_ml(
            g["sides"], plain_solids.flats_to_side_mm(g["sides"], g["across_flats_mm"]), g["height_mm"]
        )
    },
    "box_around_master": box_round_master,
    "water_density": lambda g: {"density_kg_per_m3": 1000 * water_density_g_per_ml(g["water_temp_c"])},
    "water_density_kell_1975": lambda g: {"density_kg_per_m3": 1000 * water_density_g_per_ml(g["water_temp_c"])},
    "suspended_in_beaker_on_scale": hung,
    "suspended_float_with_sinker_in_beaker": lambda g: {
        "volume_ml": hung_in_beaker(
            reading_g=g["both_rise_g"],
            sinker_g=g["sinker_only_rise_g"],
            water_temp_c=g["water_temp_c"],
            scale_step_g=0.1,
        ).volume_ml
    },
    "hung_under_scale": under_scale,
    "hung_float_with_sinker_under_scale": under_scale,
    "level_rise_in_round_vessel": round_vessel,
    "split_by_weight": split,
    "volume_ratio_to_weight": by_volume,
    "mixed_density": density_of_mix,
    "mass_needed": lambda g: {
        "mass_g": mass_needed_g(g["need_ml"] * g["mixed_sg"], g["allowance_percent"], g["hold_up_g"])
    },
    "weigh_out_for_volume": whole_chain,
    "thinner_per_hundred_of_a_and_b": thinner,
    "thinner_percent_of_a": thinner,
    "pigment_limit": pigment,
    "correct_over_pour": over_pour,
    "ratio_uncertainty_from_scale_step": scale_step,
    "smallest_batch_for_scale": smallest_batch,
    "batches_for_vessel": batches,
    "buoyancy_of_master": buoyancy,
    "hydrostatic_wall": hydrostatic,
    "panel_alpha": alpha,
    "panel_deflection": deflection,
    "youngs_modulus_of_sheet": stiffness,
    "modulus_from_shore_a_gent": lambda g: {"e_mpa": gent_mpa(g["shore_a"])},
    "shore_a_from_modulus_gent": lambda g: {"shore_a": gent_shore_a(g["e_mpa"])},
    "modulus_from_shore_a_qi": lambda g: {"e_mpa": qi_mpa(g["shore_a"])},
    "shore_readings": shore_readings,
    "gel_modulus_with_diluent": lambda g: {
        "e_mpa": diluted_mpa(g["e0_mpa"], g["polymer_volume_fraction"], g["exponent"])
    },
    "hardness_with_thinner": thinned_hardness,
    "blend_of_two_hardnesses": blended,
    "viscosity_of_blend": lambda g: {"viscosity_cp": viscosity_of_mix(g["masses_g"], g["viscosities_cp"])},
    "thinner_for_target_viscosity": thin_enough,
    "solid_cast_mass": solid,
    "slush_shell_mass": thin_shell,
    "hollow_ball_mass": hollow_ball,
    "number_of_coats": number_of_coats,
    "foam_back_fill": foam_behind,
    "filler_by_volume": scooped,
    "coverage": covered,
    "kaplan_meier_median": lived,
    "weibull_mle": wore_out,
    "cost_of_making": lambda g: asdict(making(g).of(g["pieces"])),
    "break_even_count": lambda g: asdict(making(g).against(g["buy_price"])),
    "rise_speed_stokes": rises("dirty"),
    "rise_speed_hadamard_rybczynski": rises("clean"),
    "smallest_bubble_that_clears": clears,
    "pressure_pot": squeezed,
    "vacuum_absolute_mbar": lambda g: grown(g["absolute_pressure_mbar"] / 10),
    "vacuum_gauge_inhg": by_gauge,
    "vacuum_at_depth": deep_down,
    "time_at_temperature_q10": lambda g: {
        "time_min": time_at(g["reference_time_min"], g["temp_c"], reference_temp_c=g["reference_temp_c"], q10=g["q10"])
    },
    "time_at_temperature_arrhenius": lambda g: {
        "time_min": time_by_arrhenius(
            g["reference_time_min"],
            g["temp_c"],
            g["activation_energy_kj_per_mol"],
            reference_temp_c=g["reference_temp_c"],
        )
    },
    "activation_energy_equal_to_q10": lambda g: {
        "activation_energy_kj_per_mol": activation_energy_kj_per_mol(g["q10"], g["lower_temp_c"])
    },
    "fahrenheit_to_celsius": lambda g: {
        "temp_c": convert(g["temp_f"], "degF", "degC"),
        "difference_c": convert(g["difference_f"] + 32, "degF", "degC"),
    },
    "convert": lambda g: {
        "value": convert(g["value"], *(PINT_NAMES.get(g[key], g[key]) for key in ("from_unit", "to_unit")))
    },
}
WANTED = [row for row in ROWS if row["topic"] in TOPICS]


@pytest.mark.parametrize("row", WANTED, ids=lambda row: f"{row['topic']}-{row['case']}")
def test_row(row: Row) -> None:
    got = CASES[row["case"]](row["given"])
    for name, expected in row["expect"].items():
        assert got[name] == (
            pytest.approx(expected, rel=row["rel_tol"]) if isinstance(expected, float) else expected
        ), row["source"]


def test_enough_rows() -> None:
    assert len(WANTED) == 12 + 7 + 15 + 10 + 10 + 8 + 2 + 5 + 7 + 8 + 3 + 4
