"""Outside checks per station: published tables and general-purpose libraries, each named beside its number."""

import numpy as np
import pytest

from lynxwort.core.evidence import LogNormal
from lynxwort.core.physics.air import moist, power, standard, station
from lynxwort.core.physics.chassis import sag, springs
from lynxwort.core.physics.course.smooth import whittaker
from lynxwort.core.physics.reach.finish import fuel_for, p_finish
from lynxwort.core.units.convert import WrongUnit, convert, parse_typed
from lynxwort.core.units.factors import UNITS
from tests.support import Published, demo_fork


# Purpose: air -----------------------------------------------------------------------------------------------------------
@pytest.mark.filterwarnings("ignore")
def test_standard_atmosphere_against_ambiance_and_fluids():
    from ambiance import Atmosphere
    from fluids.atmosphere import ATMOSPHERE_1976

    for height in (-400.0, 0.0, 650.0, 1830.0, 3200.0, 4900.0):
        geometric = height * 6_356_766.0 / (6_356_766.0 - height)  # libraries count geometric height
        for kelvin, pressure in (
            (Atmosphere(geometric).temperature[0], Atmosphere(geometric).pressure[0]),
            (ATMOSPHERE_1976(geometric).T, ATMOSPHERE_1976(geometric).P),
        ):
            Published(float(kelvin), 2e-6, "ambiance 1.3.1 / fluids 1.3.1").check(standard.standard_temperature(height))
            Published(float(pressure), 2e-5, "ambiance 1.3.1 / fluids 1.3.1").check(standard.standard_pressure(height))


@pytest.mark.filterwarnings("ignore")
def test_moist_air_against_coolprop():
    from CoolProp.HumidAirProp import HAPropsSI

    for t, p, humidity in (
        (263.15, 101325, 0.5),
        (288.15, 95000, 0.9),
        (298.15, 81190, 0.5),
        (308.15, 85000, 0.4),
        (313.15, 100000, 0.6),
    ):
        volume, ratio = (HAPropsSI(k, "T", t, "P", p, "R", humidity) for k in ("Vha", "W"))
        air = moist.AirState(pressure_pa=p, temperature_k=t, relative_humidity=humidity)
        Published(1 / volume, 1e-4, "CoolProp 8.0.0 HAPropsSI").check(moist.moist_density(air))
        Published(1 / volume / (1 + ratio), 1.5e-3, "CoolProp 8.0.0, dry part").check(moist.dry_density(air))


def test_power_and_pressure_against_published_statements():
    # trade fact of the handbook: J1349 against its own reference loses 20.6 % dry at 1830 m, 25 °C
    Published(0.794, 1e-3, "HANDBOOK 1: correction read backwards").check(
        1 / power.j1349_factor(standard.standard_pressure(1830), 298.0)
    )
    Published(0.788, 1e-3, "HANDBOOK 1: forecast at constant friction").check(
        float(power.forecast_share(standard.standard_pressure(1830), 298.0))
    )
    assert power.j1349_factor(99_000.0, 298.0) == pytest.approx(1.0, rel=1e-12)  # SAE J1349 reference state
    # taking a reduced figure for station pressure is wrong by 201 hPa at 1830 m (HANDBOOK 1)
    reduced = station.station_pressure("altimeter", 101_325.0, height_m=1830.0, temperature_k=288.15 - 0.0065 * 1830)
    Published(20_100.0, 0.01, "HANDBOOK 1").check(101_325.0 - reduced)
    # on a standard day both reductions agree (ICAO Doc 7488: same atmosphere)
    hypsometric = station.station_pressure(
        "sea_level", 101_325.0, height_m=1830.0, temperature_k=288.15 - 0.0065 * 1830
    )
    Published(reduced, 5e-4, "ICAO Doc 7488").check(hypsometric)
    # and on a hot day the altimeter equation is about 2 % low of it at 30 °C (HANDBOOK 1)
    hot = station.station_pressure("sea_level", 101_325.0, height_m=1830.0, temperature_k=303.15)
    assert 0.015 < hot / reduced - 1 < 0.025


# Units ------------------------------------------------------------------------------------------------------------------
def test_units_against_definitions():
    Published(1609.344, 1e-12, "international yard and pound agreement 1959").check(convert(1, "mi", "m"))
    Published(3.785411784e-3, 1e-12, "NIST SP 811: US gallon = 231 cubic inches").check(convert(1, "gal", "m^3"))
    Published(0.45359237, 1e-12, "NIST SP 811: avoirdupois pound").check(convert(1, "lb", "kg"))
    Published(6894.757, 1e-6, "NIST SP 811: psi").check(convert(1, "psi", "Pa"))
    Published(175.1268, 1e-6, "NIST SP 811: lbf/in").check(convert(1, "lbf/in", "N/m"))
    Published(3386.389, 1e-4, "NIST SP 811: inch of mercury").check(convert(1, "inHg", "Pa"))
    assert parse_typed("5.5 kgf/mm", "spring_rate", "metric") == pytest.approx(5.5 * 9806.65, rel=1e-12)
    assert parse_typed("68 °F", "temperature", "metric") == pytest.approx(293.15, abs=1e-9)


# Chassis ----------------------------------------------------------------------------------------------------------------
def test_spring_rate_against_shigley_example_10_1():
    # Shigley, Mechanical Engineering Design, example 10-1 (from memory): d 0.037 in, D 0.400 in, G 11.85 Mpsi, Na 10.5 -> k 4.13 lbf/in
    rate = springs.coil_rate(
        wire_m=0.037 * 0.0254, mean_coil_m=0.400 * 0.0254, active_turns=10.5, shear_modulus_pa=11.85e6 * 6894.757
    )
    Published(4.13, 2e-3, "Shigley example 10-1").check(convert(rate, "N/m", "lbf/in"))


def test_trapped_air_follows_boyle():
    fork = demo_fork(0.0)
    half = fork.air_length_m / 2  # half the volume: twice the pressure, one atmosphere above
    Published(101_325.0 * fork.air_area_m2, 1e-12, "Boyle's law").check(sag.air_force(fork, half))


def test_sag_is_the_minimum_of_energy():
    """Independent route: scipy minimises spring, air and height energy; the balance of forces must stand at its bottom."""
    from scipy.integrate import quad
    from scipy.optimize import minimize_scalar

    fork = demo_fork(0.006)
    shock = sag.Shock(rate_n_per_m=52e3, preload_m=0.01, ratio_start=2.9, ratio_end=2.5, travel_m=0.31)
    for found, force, load, travel in (
        (sag.front_sag(fork, 72.0), lambda x: sag.fork_force(fork, x), 72.0 * 9.80665 * np.cos(fork.rake_rad), 0.3),
        (sag.rear_sag(shock, 95.0), lambda x: sag.shock_force_at_wheel(shock, x), 95.0 * 9.80665, 0.31),
    ):
        energy = minimize_scalar(
            lambda x, f=force, w=load: quad(f, 0, x)[0] - w * x,
            bounds=(0, travel),
            method="bounded",
            options={"xatol": 1e-9},
        )
        Published(energy.x, 1e-5, "scipy minimize_scalar").check(found)


def test_linkage_ratio_is_the_derivative_of_its_stroke():
    shock = sag.Shock(rate_n_per_m=5e4, preload_m=0.0, ratio_start=2.9, ratio_end=2.5, travel_m=0.31)
    for w in (0.01, 0.1, 0.25):
        numeric = (sag.shock_stroke(shock, w + 1e-6) - sag.shock_stroke(shock, w - 1e-6)) / 2e-6
        assert sag.motion_rate(shock, w) == pytest.approx(numeric, rel=1e-8)


# Course -----------------------------------------------------------------------------------------------------------------
def test_whittaker_against_a_dense_solve_and_its_own_half_gain():
    values = np.random.default_rng(5).standard_normal(80)
    for order in (2, 3):
        d = np.diff(np.eye(80), order, axis=0)
        penalty = (2 * np.sin(np.pi * 2.0 / 30.0)) ** (-2 * order)
        dense = np.linalg.solve(np.eye(80) + penalty * d.T @ d, values)  # Eilers 2003, eq. 4
        assert np.allclose(dense, whittaker(values, wavelength_m=30, spacing_m=2, order=order), atol=1e-10)
    s = np.arange(6000) * 2.0
    wave = whittaker(np.sin(2 * np.pi * s / 250), wavelength_m=250, spacing_m=2, order=2)
    assert wave[2000:4000].max() == pytest.approx(0.5, abs=1e-3)


def test_distance_against_a_nautical_mile():
    from lynxwort.core.model.track import Track
    from lynxwort.core.physics.course.prepare import lay_line

    line = lay_line(Track(heights="none", latitude_deg=(54.0, 54.0 + 1 / 60), longitude_deg=(-2.0, -2.0)))
    Published(
        1852.0, 3e-3, "nautical mile: one minute of latitude, 1st Extraordinary Hydrographic Conference 1929"
    ).check(line.length_m)


# Range ------------------------------------------------------------------------------------------------------------------
def test_p_finish_closed_form_against_monte_carlo():
    rng = np.random.default_rng(11)
    n = 20_000
    for factor in (LogNormal(log_mean=0.0, log_sd=0.25), LogNormal(log_mean=0.1, log_sd=0.12)):
        for legs in ([[3.3, 3.3, 3.3]], [[2.0, 1.3], [3.3], [3.3, 1.0]]):
            common = np.exp(factor.log_mean + factor.log_sd * rng.standard_normal(n))
            used = [sum(p * np.exp(0.06 * rng.standard_normal(n) - 0.0018) for p in leg) * common for leg in legs]
            for usable in np.linspace(0.9, 1.6, 5) * max(map(sum, legs)):
                share = np.mean(np.max(used, axis=0) <= usable)
                closed = float(p_finish(usable, legs, factor)[0])
                assert abs(closed - share) <= 3 * np.sqrt(max(share * (1 - share), 1e-4) / n) + 1e-3


def test_certainty_factors_of_the_handbook():
    laps = [[1.0, 1.0, 1.0]]
    for sd, times in ((0.25, 1.8), (0.12, 1.38)):  # HANDBOOK 5: 99 % needs about 1.8 x and 1.38 x the mean
        Published(times, 0.05, "HANDBOOK 5").check(
            fuel_for(0.99, [(1.0, laps)], LogNormal(log_mean=0.0, log_sd=sd)) / 3
        )


# Units ------------------------------------------------------------------------------------------------------------------
def test_every_pair_of_units_is_told_as_pint_tells_it():
    from pint import DimensionalityError
    from tools.units import PINT, registry

    known, bare = registry(), {"rpm", "1", ""}  # a bare number of revs is in revs
    assert set(PINT) == set(UNITS)
    for source, target in ((a, b) for a in PINT for b in PINT if not {a, b} <= bare):
        if UNITS[source][2] == UNITS[target][2]:
            for value in (0.0, 37.2):
                found = known.Quantity(value, PINT[source]).to(PINT[target]).magnitude
                assert convert(value, source, target) == pytest.approx(found, rel=1e-13, abs=1e-12), (source, target)
        else:
            with pytest.raises(WrongUnit):
                convert(1.0, source, target)
    for source in ("m", "°F", "L/100 km", "rpm", "kWh"):
        with pytest.raises(DimensionalityError):
            known.Quantity(1.0, PINT[source]).to("kilogram")
