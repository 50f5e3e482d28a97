"""Defaults that are not fields: one set for the whole product."""

from dataclasses import dataclass, replace

Z90 = 1.6448536269514722  #: standard normal quantile of a central 90 % interval [abramowitz1964]
GRAVITY_M_PER_S2 = 9.80665  #: standard gravity [CGPM 1901]
FUEL_DENSITY_KG_PER_M3 = 745.0  #: petrol at 15 °C, from memory
FUEL_LHV_J_PER_KG = 43.4e6  #: lower heating value of petrol, from memory
WALKING_SPEED_M_PER_S = 1.0  #: pace of pushing a stuck bike, assumption
TYRE_ROLLING_FACTOR = 2.99  #: bias-tyre rolling circumference / free diameter, from memory
REFERENCE_MASS_KG = 210.0  #: mass at which the ground's pace holds, assumption
MASS_PACE_EXPONENT = 0.15  #: pace falls as (m / 210 kg)^-0.15, assumption

#: Share of the rider's mass on the rear wheel. Assumption; it depends on posture, so every reading stores it.
REAR_SHARE_OF_RIDER = {"seated": 0.66, "standing": 0.60, "attack": 0.54}

#: Torque / torque at peak power against rpm / rpm of peak power. Assumption until a dyno run.
TORQUE_SHAPE = {
    "two_stroke": (
        (0.0, 0.20),
        (0.20, 0.36),
        (0.35, 0.52),
        (0.50, 0.70),
        (0.65, 0.88),
        (0.80, 1.03),
        (0.90, 1.07),
        (1.0, 1.0),
        (1.06, 0.86),
        (1.12, 0.66),
        (1.25, 0.25),
    ),
    "four_stroke": (
        (0.0, 0.35),
        (0.20, 0.64),
        (0.35, 0.84),
        (0.50, 0.98),
        (0.65, 1.07),
        (0.80, 1.10),
        (0.90, 1.07),
        (1.0, 1.0),
        (1.10, 0.86),
        (1.20, 0.65),
        (1.35, 0.30),
    ),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class EngineDefaults:
    """Willans line and friction of an engine kind. All from memory or assumption, none measured."""

    indicated_efficiency: float
    fmep_pa: float  #: friction mean effective pressure at rest
    fmep_pa_per_1000rpm: float
    enrichment: float  #: fuel beyond stoichiometric power mixture
    #: how much of a two-stroke's usual loss of unburnt fuel it has (SHORT_CIRCUIT_...); none of a four-stroke
    short_circuit: float
    revolutions_per_cycle: float
    limiter_over_peak: float
    torque_inertia_kg_m2: float


_TWO_STROKE = EngineDefaults(
    indicated_efficiency=0.33,
    fmep_pa=0.55e5,
    fmep_pa_per_1000rpm=0.10e5,
    enrichment=1.10,
    short_circuit=1.0,
    revolutions_per_cycle=1.0,
    limiter_over_peak=1.10,
    torque_inertia_kg_m2=0.0045,
)
_FOUR_STROKE = EngineDefaults(
    indicated_efficiency=0.365,
    fmep_pa=0.9e5,
    fmep_pa_per_1000rpm=0.13e5,
    enrichment=1.30,
    short_circuit=0.0,
    revolutions_per_cycle=2.0,
    limiter_over_peak=1.12,
    torque_inertia_kg_m2=0.0045,
)
#: an injected two-stroke injects after the ports close and loses less unburnt (assumption); a metering rod meters
#: leaner than race jets (assumption)
ENGINE = {
    "jetted_two_stroke": _TWO_STROKE,
    "rod_two_stroke": replace(_TWO_STROKE, enrichment=1.06),
    "injected_two_stroke": replace(_TWO_STROKE, enrichment=1.05, short_circuit=0.68),
    "jetted_four_stroke": _FOUR_STROKE,
    "rod_four_stroke": replace(_FOUR_STROKE, enrichment=1.18),
    "injected_four_stroke": replace(_FOUR_STROKE, enrichment=1.12),
}
#: share of fuel that a two-stroke loses unburnt: at least, more by the square of how far the revs lie off the pipe's,
#: more at little load; and its
#: ends (HANDBOOK 4, tried: a constant 0.22 is 11 to 13 % dry in tight ground; assumption)
SHORT_CIRCUIT_LEAST, SHORT_CIRCUIT_PER_REVS2, SHORT_CIRCUIT_AT_NO_LOAD, SHORT_CIRCUIT_MOST = 0.20, 0.30, 0.12, 0.55
ELECTRIC_INERTIA_KG_M2 = 0.006  #: motor and gear at the motor shaft, assumption
#: battery power of a motor: (P + constant + per speed x w + per torque squared x T^2) / controller efficiency (from
#: memory, HANDBOOK 4)
ELECTRIC_LOSS_W, ELECTRIC_LOSS_W_S, ELECTRIC_LOSS_PER_TORQUE2, CONTROLLER_EFFICIENCY = 120.0, 0.55, 1.15, 0.95
PACK_J_PER_KG = 150.0 * 3600.0  #: specific energy of a pack with its case, assumption
PACK_REAR_SHARE = 0.52  #: share of a pack's mass on the rear wheel, assumption
LIAISON_PACE = 0.75  #: pace on a liaison against the rider's own, assumption
NIGHT_PACE = 0.88  #: pace in the dark against daylight, assumption
#: a linkage as typed (two ratios) or as measured (a table), and a rider's mass in gear: standard deviations of their
#: logarithms; assumption
LINK_LOG_SD, LINK_TABLE_LOG_SD, RIDER_MASS_LOG_SD = 0.02, 0.005, 0.015
#: how far the whole day's pace may lie off: of a rider never timed here, and of one whose lap was recorded; assumption
PACE_LOG_SD, RIDDEN_PACE_LOG_SD = 0.08, 0.05
#: rolling, grip, drag, and a rev limit as said or assumed: standard deviations of their logarithms; assumption
ROLLING_LOG_SD, GRIP_LOG_SD, DRAG_LOG_SD, LIMITER_GIVEN_LOG_SD, LIMITER_ASSUMED_LOG_SD = 0.15, 0.09, 0.08, 0.005, 0.025
#: primary and gears, and a bike's own weight, that are only as such bikes have them; assumption
GEARS_OF_KIND_LOG_SD, WEIGHT_OF_KIND_LOG_SD = 0.05, 0.05
LAP_TIME_LOG_SD = 0.03  #: from lap to lap, assumption
ENGAGEMENT_OVER_PEAK = 0.38
WHEEL_INERTIA_KG_M2 = 1.25

#: ground: rolling c0, c1 [s/m], drive grip, lateral grip, slip, pace cap [m/s], its spread. Anchors from memory
#: (terramechanics and vehicle-dynamics handbooks); loam, mud and rock are estimates.
GROUND = {
    "hardpack": (0.022, 0.0002, 0.80, 0.75, 0.02, 38.0, 0.10),
    "gravel": (0.030, 0.0003, 0.60, 0.52, 0.04, 32.0, 0.12),
    "loam": (0.045, 0.0005, 0.75, 0.72, 0.04, 24.0, 0.20),
    "sand": (0.090, 0.0, 0.55, 0.50, 0.10, 24.0, 0.18),
    "deep_sand": (0.190, -0.003, 0.48, 0.42, 0.18, 18.0, 0.20),
    "mud": (0.110, 0.002, 0.38, 0.32, 0.22, 11.0, 0.28),
    "rock": (0.070, 0.004, 0.50, 0.45, 0.08, 7.0, 0.35),
    "whoops": (0.050, 0.005, 0.50, 0.45, 0.06, 15.0, 0.25),
    "single_track": (0.050, 0.001, 0.60, 0.55, 0.06, 10.5, 0.35),
}

#: Drive grip that has been seen to hold hills: riders move back, soil is displaced (HANDBOOK 4). Verdicts use the
#: range; elsewhere 20 %
#: about the table (assumption).
GRIP_RANGE = {"deep_sand": (0.45, 0.75), "mud": (0.30, 0.60), "rock": (0.50, 0.90)}
GRIP_SPREAD = 0.20

#: how deep loose ground usually lies [m], and how rolling and pace follow the depth: (depth / usual)^exponent.
#: Assumption.
USUAL_DEPTH_M = {"sand": 0.05, "deep_sand": 0.15, "mud": 0.08}
DEPTH_ROLLING_EXPONENT, DEPTH_PACE_EXPONENT = 0.7, -0.25
#: whoops the table speaks of, crest to crest and trough to crest [m]. Pace keeps the vertical acceleration v^2 h / L^2,
#: so it goes with
#: L / sqrt(h); the speed term of rolling goes with h. Assumption.
USUAL_WHOOP_M = (4.5, 0.35)
#: pace against the table on ground that bends less or more than the track shows, and the wavelength [m] its curvature
#: is smoothed with. Assumption.
TIGHTNESS_PACE = {"open": 1.12, "usual": 1.0, "tight": 0.82}
TIGHT_WAVELENGTH_M = 20.0
#: wet against dry, by ground: rolling, grip, pace. Wet sand binds; clay, roots and rock go slick. Assumption.
WET = {
    "hardpack": (1.05, 0.72, 0.85),
    "gravel": (1.05, 0.92, 0.95),
    "loam": (1.20, 0.75, 0.85),
    "sand": (0.85, 1.05, 1.03),
    "deep_sand": (0.90, 1.05, 1.02),
    "mud": (1.20, 0.85, 0.85),
    "rock": (1.00, 0.68, 0.80),
    "whoops": (1.10, 0.85, 0.92),
    "single_track": (1.15, 0.72, 0.82),
}
#: after some hundreds of bikes: rolling, grip, pace; soft ground suffers more. Assumption.
CUT_UP = {"hardpack": (1.05, 0.97, 0.95), "gravel": (1.10, 0.97, 0.94), "rock": (1.0, 0.97, 0.97)}
CUT_UP_SOFT = (1.25, 0.95, 0.86)
#: wind at the rider / wind 10 m up over open ground: log profile over rough grass, 1.2 m against 10 m, and under trees.
#: Assumption.
WIND_AT_RIDER, WIND_UNDER_TREES = 0.6, 0.2
SHELTERED = ("single_track",)

#: Whittaker half-gain wavelength for heights by their source [m] (tried on noisy tracks).
HEIGHT_WAVELENGTH_M = {"barometer": 150.0, "satellite": 250.0, "terrain": 400.0, "none": 400.0}
#: Relative 90 % uncertainty of climb by source of heights. Assumption from prototype tracks.
CLIMB_UNCERTAINTY = {"barometer": 0.07, "satellite": 0.15, "terrain": 0.20, "none": 1.0}
#: Curvature smoothing wavelength [m]: tight ground and open ground.
CURVATURE_WAVELENGTH_M = {"rock": 25.0, "single_track": 25.0, "mud": 25.0}
CURVATURE_WAVELENGTH_OPEN_M = 60.0
