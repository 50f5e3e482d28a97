"""The shared check values, each through the product's own functions. Source and kind stand beside each value in the file."""

import json
import re
from math import cos, degrees, radians
from pathlib import Path
from types import SimpleNamespace

import numpy as np
import pytest
from scipy.optimize import brentq

from lynxwort.core.model.bike import Needle, Transmission
from lynxwort.core.physics.air import moist, power, standard, station
from lynxwort.core.physics.chassis import geometry, sag, springs
from lynxwort.core.physics.drive import chain, gearing
from lynxwort.core.physics.fuelling import fuels, jets
from lynxwort.core.units.convert import convert
from tests import outside

VALUES = json.loads((Path(__file__).parents[1] / "data/check-values.json").read_text())["values"]
#: prefixes that belong to stations still to come, or to no function of the product; nothing else may go unchecked
LATER = (
    "A.isa.geometric",
    "A.loss1830.ISO",
    "B.fa_exponent",
    "D.sprocket.root",
    "D.sprocket.seat",
    "F.",
    "H.J1349",
    "H.main_jet",
    "H.power_per",
    "H.spring_for",
    "I.",
)


def _air(i):
    return moist.AirState(
        pressure_pa=i.get("P_station", i.get("P"))["value"] * 100.0,
        temperature_k=i["T"]["value"] + 273.15,
        relative_humidity=i["RH"]["value"],
    )


def oil_to(petrol_m3, ratio):
    """Oil in the mix that this much petrol gives."""
    return fuels.oil_in_mix(petrol_m3 * (ratio + 1.0) / ratio, ratio)


def standard_density(height_m):
    """By the gas law from the product's standard pressure and temperature."""
    return standard.standard_pressure(height_m) / (standard.R_DRY_J_PER_KG_K * standard.standard_temperature(height_m))


def _isa(name, i):
    h = i.get("H_geopotential", {"value": 0.0})["value"]
    return {
        "rho": standard_density(h),
        "rho0": standard_density(h),
        "T": standard.standard_temperature(h) - 273.15,
        "P": standard.standard_pressure(h) / 100.0,
    }[name.split(".")[2]]


def _station_pressure(name, i):
    return (
        station.station_pressure(
            "altimeter", i["QNH"]["value"] * 100, height_m=i["elevation"]["value"], temperature_k=288.15
        )
        / 100
    )


def _factor(name, i):
    t, total, dry = i["T"]["value"] + 273.15, i["P_station"]["value"] * 100, i["P_dry"]["value"] * 100
    t = i["T"]["value"] + 273.0  # the standards count from 273
    return {
        "din70020": power.din70020_factor(total, t),
        "sae_j1349_2004": power.j1349_factor(dry, t),
        "iso1585": power.iso1585_factor(dry, t),
    }[name.split(".")[1]]


def _loss(name, i):
    air = moist.AirState(
        pressure_pa=i["P_station_ISA"]["value"] * 100,
        temperature_k=i["T"]["value"] + 273.15,
        relative_humidity=i["RH"]["value"],
    )
    if "density_only" in name:
        return 100 * (1 - moist.dry_density(air) / 1.225)
    t = i["T"]["value"] + 273.0
    here = power.j1349_factor(moist.dry_pressure(air), t)
    if "vs_its_ref" in name:
        return 100 * (1 - 1 / here)
    if "same_T" in name:
        return 100 * (1 - power.j1349_factor(101325.0 - moist.vapour_pressure(air), t) / here)
    return 100 * (1 - power.j1349_factor(101325.0, 288.0) / here)


def _ideal_density_altitude(name, i):
    air = _air(i)  # the source adds the vapour as an ideal gas, 18.015 / 28.965 as heavy as dry air
    return standard.density_altitude(
        moist.dry_density(air) + 0.62198 * moist.vapour_pressure(air) / (287.05 * air.temperature_k)
    )


def _jet(name, i):
    number = next(v for k, v in i.items() if k.startswith("base_number"))
    return jets.number_for_area_factor(number, i["relative_density"] ** 0.5, "diameter" if "diam" in name else "flow")


MIDDLE_CLIP = 3


def _mm(i, key, default):
    return i.get(key, {"value": default})["value"] / 1e3


def _series(name, i):
    needle = Needle(
        jet_bore_m=_mm(i, "D_needle_jet", _mm(i, "D", 2.9) * 1e3),
        straight_diameter_m=_mm(i, "d0", 2.74),
        taper_start_lift_m=_mm(i, "L1", 10.0),
        taper_half_angle_rad=radians(i.get("half_angle_deg", 0.75)),
        clip_pitch_m=0.9e-3,
    )
    lift, main = np.array([i["lift"]["value"] / 1e3]), _mm(i, "main_jet", 1.65) * 1e5

    def area(jet=main, clip=MIDDLE_CLIP, straight=None):
        used = needle if straight is None else needle.model_copy(update={"straight_diameter_m": straight})
        return float(
            jets.series_area(jets.jet_area(jet, "diameter"), jets.annulus_area(used, lift, clip, MIDDLE_CLIP))[0]
        )

    if "main_only_needed" in name:  # the jet that scales the whole by the square root of density, needle left as it is
        wanted = area() * i["relative_density"] ** 0.5
        return float(brentq(lambda n: area(jet=n) - wanted, 100, 300))
    kind = name.split(".lift")[0].split(".")[-1]
    if kind == "A_eff":
        return area() * 1e6
    if kind == "A_n":
        return float(jets.annulus_area(needle, lift, MIDDLE_CLIP, MIDDLE_CLIP)[0]) * 1e6
    if kind in ("w_m", "w_n"):
        w = (area() / jets.jet_area(main, "diameter")) ** 2
        return w if kind == "w_m" else 1 - w
    changed = {
        "main165to168": lambda: area(jet=168),
        "main165to170": lambda: area(jet=170),
        "needle_raised_one": lambda: area(clip=4),
        "needle_lowered_one": lambda: area(clip=2),
    }
    if kind in changed:
        return 100 * (changed[kind]() / area() - 1)
    assert name.startswith("B.series.pct.straight_plus0.01")
    return 100 * (area(straight=needle.straight_diameter_m + 1e-5) / area() - 1)


def _speed(name, i):
    overall = i["primary"] * i["gear"] * i["rear"] / i["front"]
    return convert(
        gearing.speed_at(i["rpm"] * 2 * np.pi / 60, overall, i["rolling_radius"]["value"] / 1e3), "m/s", "km/h"
    )


def _tyre(name, i):
    radius = gearing.free_radius(name.rsplit(".", 1)[1].replace("_", "/")) * 1e3
    return radius if "free_radius" in name else 2 * np.pi * radius


def _sprocket(name, i):
    low, high = gearing.tip_diameters(i["z"])
    return 1e3 * {"pitch_diameter": gearing.pitch_diameter(i["z"]), "tip_min": low, "tip_max": high}[name.split(".")[2]]


def _teeth(name, i):
    def drive(front, rear):
        given = SimpleNamespace(gearbox=None, front_sprocket_teeth=front, rear_sprocket_teeth=rear)
        return gearing.overall_ratios(Transmission(primary_ratio=1.0, gear_ratios=(1.0,)), given)[0]

    other = i["front"] + (1 if "plus1" in name else -1)
    return abs(i["rear"] * drive(other, i["rear"]) / drive(i["front"], i["rear"]) - i["rear"])


def _shock(i, preload_mm):
    ratio = i.get("motion_ratio_wheel_per_shock", 2.75)
    return sag.Shock(
        rate_n_per_m=i["spring"]["value"] * 1e3,
        preload_m=preload_mm / 1e3,
        ratio_start=ratio,
        ratio_end=ratio,
        travel_m=0.31,
    )


def _rear_sag(name, i):
    if "preload_for" in name:
        rate = i["spring"]["value"] * 1e3
        return (
            1e3
            * sag.preload_band(
                springs.straight(rate), ((95 * 9.80665 * 2.75, 0.105 / 2.75),), ((95 * 9.80665 * 2.75, 0.105 / 2.75),)
            )[1]
        )
    if "free_at" in name:
        return 1e3 * sag.rear_sag(_shock(i, i["preload"]["value"]), 40.0)
    mass = i["sprung_rear"]["value"] + (i["rider_rear"]["value"] if ".race." in name else 0)
    return 1e3 * sag.rear_sag(_shock(i, i["preload"]["value"]), mass)


def _free_at_race(name, i):
    rate = i["spring"]["value"] * 1e3
    preload = 95 * 9.80665 * 2.75 / rate - 0.105 / 2.75
    return 1e3 * sag.rear_sag(_shock(i, preload * 1e3), 40.0)


def _fork(i):
    area = i["air_area_total"]["value"] * 1e-6
    return sag.Fork(
        rate_n_per_m=i["k_two_springs"]["value"] * 1e3,
        preload_m=i["preload"]["value"] / 1e3,
        air_area_m2=area,
        air_length_m=i["air_volume_total_mL"] * 1e-6 / area,
        travel_m=0.3,
        rake_rad=radians(i["fork_angle_deg"]),
        air_gauge_pa=i["p0_gauge"]["value"],
        outside_pa=i["p_atm"]["value"],
    )


def _front_sag(name, i):
    return 1e3 * sag.front_sag(_fork(i), i["mass_front"]["value"], exponent=i["n"])


def _coil(name, i):
    return (
        springs.coil_rate(
            wire_m=i["d"]["value"] / 1e3,
            mean_coil_m=i["D"]["value"] / 1e3,
            active_turns=i["Na"],
            shear_modulus_pa=i["G_MPa"] * 1e6,
        )
        / 1e3
    )


def _two_stage(name, i):
    made = springs.stacked(
        soft_n_per_m=i["k1"]["value"] * 1e3,
        main_n_per_m=i["k2"]["value"] * 1e3,
        soft_stroke_m=i["soft_bind"]["value"] / 1e3,
    )
    return made.deflection(i["F"]["value"]) * 1e3


def taut_centre(front, rear, links):
    """Distance of the centres at which the product's chain of so many links is taut."""
    return brentq(lambda c: chain.links(front, rear, c) - links, 0.3, 3.0, xtol=1e-12)


def _chain(name, i):
    """mm or links, by the name of the value."""
    centre = i.get("C", {"value": 0.0})["value"] / 1000
    exact = chain.links(i["z1"], i["z2"], centre) if centre else 0.0
    if "length_links" in name:
        return exact
    if "length_formula" in name:  # ISO 606's approximation; the product's is exact
        pitch, teeth = chain.CHAIN_PITCH_M, (i["z1"], i["z2"])
        about = 2 * centre / pitch + sum(teeth) / 2 + ((teeth[1] - teeth[0]) / (2 * np.pi)) ** 2 * pitch / centre
        assert exact == pytest.approx(about, abs=0.004)
        return about
    if "centre_distance" in name:
        return 1000 * taut_centre(i["z1"], i["z2"], i["links"])
    return 1000 * (taut_centre(12, 50, i["links"]) - taut_centre(13, 50, i["links"]))


def _slack(name, i):
    """mm, at an axle height or over the travel of the swingarm of the values (13/50, axle 170 below to 95 above the pivot)."""
    arm = chain.Swingarm(
        length_m=i["Ls"]["value"] / 1000,
        sprocket_ahead_m=i["ox"]["value"] / 1000,
        sprocket_above_m=i["oz"]["value"] / 1000,
        axle_low_m=-0.170,
        axle_high_m=0.095,
    )
    tight = chain.tightest_height(arm)
    extra = chain.extra_for_play(chain.span(13, 50, float(chain.centre_at(arm, tight))), 0.020)
    height = i.get("axle_height_rel_pivot", {"value": 0.0})["value"] / 1000
    asked = {
        "extra_length_for_20mm": lambda: extra,
        "taut_length": lambda: chain.taut_length(arm, 13, 50, height),
        "C_variation": lambda: float(chain.centre_at(arm, tight) - chain.centre_at(arm, arm.axle_low_m)),
        "C.z": lambda: float(chain.centre_at(arm, height)),
        "droop_play": lambda: chain.play_at(arm, 13, 50, arm.axle_low_m, play_at_tightest_m=0.020),
        "tightest_axle_height": lambda: tight,
        "midspan": lambda: chain.play_at(arm, 13, 50, height, play_at_tightest_m=0.020),
        "extra_length": lambda: chain.taut_length(arm, 13, 50, tight) + extra - chain.taut_length(arm, 13, 50, height),
    }
    return 1000 * next(make for stem, make in asked.items() if stem in name)()


def _trail(name, i):
    rake = radians(i["rake_deg"])
    found = geometry.trail(i["R"]["value"] / 1e3, rake, i["total_offset"]["value"] / 1e3) * 1e3
    return found * cos(rake) if "normal" in name else found


def _stance(name, i):
    """The closed mechanism at the changes of the values; a purely vertical rise is one through the height of the pivot."""
    changes = {
        "raised_5": {"fork_up_m": 0.005},
        "lowered_5": {"fork_up_m": -0.005},
        "rear_plus10": {"rear_up_m": 0.010},
        "plus2": {"offset_change_m": 0.002},
        "minus2": {"offset_change_m": -0.002},
        "base": {},
    }
    vertical = "at_the_axle_vertical" in name
    view = geometry.SideView(
        wheelbase_m=i["wheelbase"]["value"] / 1e3,
        rake_rad=radians(i["rake_deg"]),
        offset_m=i["total_offset"]["value"] / 1e3,
        swingarm_length_m=0.59,
        axle_below_pivot_m=-0.005 if vertical else 0.110,
        front_radius_m=i["R_front"]["value"] / 1e3,
        rear_radius_m=i["R_rear"]["value"] / 1e3,
        front_radius_then_m=i["R_front"]["value"] / 1e3,
        rear_radius_then_m=i["R_rear"]["value"] / 1e3,
        **next(c for stem, c in changes.items() if stem in name),
    )
    attitude = geometry.attitude_of(view, fork_in_m=0.0, rear_in_m=0.0)
    return {
        "rake": degrees(attitude.rake_rad),
        "trail": 1e3 * attitude.trail_m,
        "wheelbase": 1e3 * attitude.wheelbase_m,
    }[name.rsplit(".", 1)[1]]


def _stoichiometric(n, i):
    if "formula" in i:
        counts = dict.fromkeys("CHO", 0.0) | {
            e: float(c or 1) for e, c in re.findall(r"([CHO])([0-9.]*)", i["formula"])
        }
        return fuels.stoichiometric(counts["C"], counts["H"], counts["O"])
    return fuels.ethanol_blend("blend", i["ethanol_vol_fraction"], 95.0).afr


ADAPTERS = {
    "E.trail": _trail,
    "E.normal_trail": _trail,
    "E.setup": _stance,
    "E.two_stage": _two_stage,
    "A.isa": _isa,
    "A.station_pressure": _station_pressure,
    "A.psat": lambda n, i: moist.saturation_pressure_cipm(i["T"]["value"] + 273.15),
    "A.moist_density": lambda n, i: moist.moist_density(_air(i)),
    "A.dry_density": lambda n, i: moist.dry_density(_air(i)),
    "A.relative_dry_density": lambda n, i: moist.dry_density(_air(i)) / 1.225,
    "A.vapour_pressure": lambda n, i: moist.vapour_pressure(_air(i)) / 100,
    "A.density_altitude": _ideal_density_altitude,
    "A.dry_density_altitude": lambda n, i: standard.density_altitude(moist.dry_density(_air(i))),
    "A.din70020": _factor,
    "A.sae_j1349_2004": _factor,
    "A.iso1585": _factor,
    "A.loss1830": _loss,
    "A.forecast_1_over_cf": lambda n, i: (
        1 / (1.18 / i["indicated_ratio"] - 0.18)
        if "indicated_ratio" in i
        else 1 / power.j1349_factor(i["P_dry"]["value"] * 100, i["T"]["value"] + 273.0)
    ),
    "B.main_jet": _jet,
    "B.series": _series,
    "B.pilot_weight": lambda n, i: float(jets.pilot_weight(np.array(i["throttle_fraction"]))),
    "B.premix": lambda n, i: (
        jets.premix_petrol_share(i["ratio"]) if "fuel_share" in n else 100 * (1 - jets.premix_petrol_share(i["ratio"]))
    ),
    "B.premix.oil_per_litre": lambda n, i: 1e6 * oil_to(1e-3, i["ratio"]),
    "B.premix.oil_per_us_gal": lambda n, i: 1e6 * oil_to(convert(1.0, "US gal", "m^3"), i["ratio"]),
    "C.stoich_afr": _stoichiometric,
    "C.jet_area_factor_vs_E0": lambda n, i: (
        1.0 / (1.0 + fuels.jet_richness(fuels.ethanol_blend("blend", i["ethanol_vol_fraction"], 95.0), fuels.FUELS[0]))
    ),
    "C.lambda_to_afr": lambda n, i: i["lambda"] * fuels.PETROL_AFR,
    "D.tyre": _tyre,
    "D.speed": _speed,
    "D.shift": lambda n, i: gearing.rpm_after_upshift(i["rpm"], i["gear"], i["next"]),
    "D.front_minus1_equals_rear": _teeth,
    "D.front_plus1_equals_rear": _teeth,
    "D.sprocket": _sprocket,
    "D.chain": _chain,
    "D.slack": _slack,
    "E.sag.rear": _rear_sag,
    "E.sag.front": _front_sag,
    "E.fork_force_at_300": lambda n, i: sag.fork_force(_fork(i), 0.3, i["n"]),
    "E.spring": _coil,
    "E.unit": lambda n, i: convert(i["k"]["value"], "N/mm", "lbf/in" if "lbf" in n else "kgf/mm"),
    "H.density_loss_6000ft": lambda n, i: 100 * (1 - standard_density(1828.8) / standard_density(0.0)),
    "H.density_altitude_per_degC": lambda n, i: (
        (standard.T0_K / ((standard.EXPONENT - 1) * standard.LAPSE_K_PER_M)) / standard.T0_K
    ),
    "H.free_sag_at_race105": _free_at_race,
}


def adapter_for(name):
    prefixes = sorted((p for p in ADAPTERS if name == p or name.startswith(p + ".")), key=len)
    return ADAPTERS[prefixes[-1]] if prefixes else None


def check(value):
    found = adapter_for(value["name"])(value["name"], value["inputs"])
    tolerance = value["tolerance"]
    allowed = tolerance["abs"] if "abs" in tolerance else tolerance["rel"] * abs(value["expected"])
    assert abs(found - value["expected"]) <= max(allowed, 1e-12), f"{value['name']}: {found}; {value['source']}"
    outside.seen_value(value, found)


NOW = [v for v in VALUES if not v["name"].startswith(LATER)]


@pytest.mark.parametrize("value", NOW, ids=lambda v: v["name"])
def test_check_value(value):
    check(value)


def test_no_value_goes_unchecked_unnoticed():
    assert all(adapter_for(v["name"]) for v in NOW)
    assert len(NOW) >= 284
