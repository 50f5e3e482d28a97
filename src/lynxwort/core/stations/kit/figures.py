"""Figures of Kit. Ranges: laws of heat 15 % of the rise, the tyre and the tables of grip as the handbook's assumptions
may lie (HANDBOOK 9).
"""

from math import hypot
from typing import Any

from lynxwort.core.derived.tyres import wheel_radius
from lynxwort.core.figures import figure, step
from lynxwort.core.learned.kit import flats_range
from lynxwort.core.model.defaults import GRAVITY_M_PER_S2, Z90
from lynxwort.core.model.fitted import aboard_of, inside_of, tyre_on
from lynxwort.core.model.race import GROUNDS
from lynxwort.core.physics.kit import brakes, wheels
from lynxwort.core.report import Figure
from lynxwort.core.stations.kit import braking, building, controls, cooling, electrics, rolling, sounding
from lynxwort.core.stations.kit.ground import ground_of
from lynxwort.core.stations.kit.input import ENDS, KitInput

#: half of a 90 % interval: of the grip under a window, of an edge [1], of a pressure [Pa]
GRIP, EDGE, PRESSURE_PA = 0.2, 0.15, 8000.0
SOURCE = "HANDBOOK 9, assumption where nothing else is said"


def _none(name: str, reason: str) -> Figure:
    return figure(name, None, status="not_applicable", reason=reason)


def mass_kg(given: KitInput) -> float:
    """What is bolted on against the bike as it was weighed [kg]; what only rides along as payload left out."""
    payload = max(len(given.bike.frame.payload) - (given.setup.payload_left or 0), 0)
    return sum(item.mass_kg for item in aboard_of(given.bike, given.setup)[payload:])


def _tyre(given: KitInput, end: str) -> list[Figure]:
    inside, place = inside_of(given.bike, given.setup, end), f"bike.kit.{end}_tyre"
    foam, found = inside == "mousse", []

    def made(name: str, value: float | None, **more: Any) -> None:
        found.append(figure(f"kit.tyre.{end}.{name}", value, basis="assumed", **({"source": SOURCE} | more)))

    if foam:
        found.append(_none(f"kit.tyre.{end}.pressure_wanted", "no_air"))
    else:
        made(
            "pressure_wanted", rolling.wanted_pressure(given, end), half=PRESSURE_PA,
            formula="by ground, (k_c + k_p p) = (k_c + k_p p0) W / 105 kg; rock over 3 % of the way decides",
            steps=(step("W", given.on_wheel_kg(end), "kg", "on the wheel, rider aboard"),),
            inputs=("riders.entry.mass_in_gear_kg",), source="common practice, no source: pressures by ground",
        )  # fmt: skip
    rate = rolling.rate(given, end)
    made(
        "rate", rate, half=0.1 * rate, formula="k_c + 2 pi sqrt(R r) p",
        steps=(step("p", rolling.set_pressure(given, end), "Pa", "cold, or what the foam is worth"),),
        inputs=(f"setup.{end}_tyre_pressure_pa",), source="plane cut of a torus, within 2 % of quadrature",
    )  # fmt: skip
    edge, ratio = rolling.strike_edge(given, end), rolling.flat_ratio(given, end)
    if edge is None or ratio is None:
        return [
            *found,
            *(_none(f"kit.tyre.{end}.{n}", "no_edges") for n in ("strike_edge", "flat_ratio", "flat_chance")),
        ]
    pace = ground_of(given).edged_m_per_s or 0.0
    steps = (step("v", pace, "m/s", "mean pace on rock, single track and whoops, 9 m/s at most"),)
    made(
        "strike_edge", edge, half=EDGE * edge, steps=steps, inputs=(f"setup.{end}_tyre_pressure_pa",),
        formula="h = R (1 - sqrt(1 - 2 E / (m v^2))), E = 0.75 k d^2 / 2 - F d",
    )  # fmt: skip
    made(
        "flat_ratio",
        ratio,
        half=0.3 * ratio,
        steps=steps,
        formula="exp((h_reference - h) / 20 mm): edges lie exponentially",
    )
    if foam:
        found.append(_none(f"kit.tyre.{end}.flat_chance", "no_air"))
    else:
        chance, flats = rolling.flat_chance(given, end), rolling.flats_of(given, end)
        low, high = flats_range(flats.hits)
        made(
            "flat_chance", chance, inputs=(f"{place}.inside",), readings=flats.used,
            low=rolling.flat_chance(given, end, low), high=rolling.flat_chance(given, end, high),
            formula="1 - exp(-metres x (1 + flats) / (1500 km + km) x ratio x chance to pinch)",
        )  # fmt: skip
    return found


def _foam(given: KitInput, end: str) -> list[Figure]:
    names = [f"kit.mousse.{end}.core_temperature", f"kit.mousse.{end}.load_ratio"]
    if inside_of(given.bike, given.setup, end) != "mousse":
        return [_none(n, "no_foam") for n in names]
    core, ratio, paths = rolling.foam(given, end), rolling.load_ratio(given, end), (f"bike.kit.{end}_tyre.foam_for_kg",)
    if core is None or ratio is None:
        asked = "load on the wheel / load it was made for, which nobody said"
        return [figure(n, None, inputs=paths, formula=asked, source="to ask its maker") for n in names]
    return [
        figure(
            names[0], core.hottest_k, half=40.0, basis="assumed", inputs=paths,
            formula="dT/dt = (T_end - T) / 35 min, T_end = air + P / hA + s P r^2 / (4 k V), P = c g W v W / W_r",
            steps=(step("right", core.right_k, "K", "the same race on foam made for this load"),),
            source="heat made evenly in a long cylinder (Carslaw and Jaeger, from memory); constants assumed",
        ),
        figure(
            names[1], ratio, half=0.02 * ratio, inputs=paths, formula="load on the wheel / load it was made for",
            steps=(step("W", given.on_wheel_kg(end), "kg", "on the wheel, rider aboard, half the fuel"),),
            source="scales",
        ),
    ]  # fmt: skip


def _brake(given: KitInput, end: str) -> list[Figure]:
    brake, ground = braking.fitted(given, end), braking.slickest(given)
    width, hot = braking.window(given, end, ground, brake), float(braking.warmth(given, end, brake).rotor_k.max())
    paths = tuple(f"setup.{end}_{n}" for n in ("rotor_m", "master_m", "pad"))
    air, pull, heat = given.day.air.temperature_high_k, braking.pull(given, end), braking.heat(given, end)
    gained = Z90 * pull.log_sd
    return [
        figure(
            f"kit.brake.{end}.gain", brake.gain_nm_per_n, half=gained * brake.gain_nm_per_n, inputs=paths,
            readings=pull.used, basis="calibrated" if pull.used else "computed",
            formula="2 mu (A side / A master) lever (R - h / 2) 0.9",
            steps=(
                step("mu", brakes.PAD_FRICTION[brake.pad], "1", "pads at working heat"),
                step("r", brakes.effective_radius(brake.rotor_m), "m", "where the pads pull"),
            ),
            source="even pressure on a ring (Shigley, from memory) within 0.5 %; friction assumed",
        ),
        figure(
            f"kit.brake.{end}.window", width, half=hypot(GRIP, gained) * width, inputs=paths, readings=pull.used,
            formula="(lock or lifted wheel) m g R / gain",
            steps=(
                step("lock", braking.lock_g(given, end, ground), "1", "deceleration [g] by this brake alone"),
                step("mu", ground_of(given).lateral[ground], "1", "lateral grip of the slickest ground of the lap"),
            ),
            source="forces and moments; grip as the ride has it",
        ),
        figure(
            f"kit.brake.{end}.rotor_temperature", hot, half=Z90 * heat.log_sd * (hot - air), inputs=paths,
            readings=heat.used, basis="calibrated" if heat.used else "computed",
            formula="m c dT/dt = 0.94 P - h A (T - air) - eps A sigma (T^4 - air^4) - to the caliper",
            source="turning disc (Limpert, from memory), turbulent plate; within 1 % of LSODA, laws 15 %, share of the "
            "ends assumed",
        ),
    ]  # fmt: skip


def _brakes(given: KitInput) -> list[Figure]:
    """What is said of both brakes."""
    end = min(ENDS, key=lambda e: braking.margin(given, e))
    left, fluid, heat = braking.margin(given, end), braking.warmth(given, end).fluid_k, braking.heat(given, end)
    ride, course = given.lap.whole, given.lap.around.whole
    energy = float((ride.brake_n * ride.step_m).sum())
    fastest = int(ride.speed_m_per_s.argmax())
    ground = GROUNDS[int(course.ground[min(fastest, course.ground.size - 1)])]
    slows, top = min(ground_of(given).lateral[ground], braking.stoppie_g(given)), float(ride.speed_m_per_s.max())
    pad = braking.fitted(given, "front").pad
    steady = brakes.steadiness(pad, braking.warmth(given, "front").rotor_k)
    way = brakes.stop_distance(top, slows * GRAVITY_M_PER_S2)
    return [
        figure(
            "kit.brake.fluid_margin", left,
            half=Z90 * heat.log_sd * float(fluid.max() - given.day.air.temperature_high_k) + 8.0,
            readings=heat.used,
            inputs=(f"bike.kit.{end}_brake.fluid", f"bike.kit.{end}_brake.fluid_from"), basis="assumed",
            formula="boils - hottest fluid; boils = dry - (dry - wet) sqrt(water / 3.7 %) - 0.039 K per mmHg",
            steps=(step("boils", braking.boils_at(given, end), "K"), step("hottest", float(fluid.max()), "K")),
            source="FMVSS 116 minimum boiling points, from memory; water 1.7 % a year assumed",
        ),
        figure(
            "kit.brake.steadiness", steady, half=0.05, inputs=("setup.front_pad",), basis="assumed",
            formula="least friction / greatest along the lap's temperatures", source=SOURCE,
        ),
        figure(
            "kit.brake.energy_per_km", energy / course.length_m, half=0.15 * energy / course.length_m,
            formula="force of the brakes x way / lap", source="the ride's own account of braking",
        ),
        figure(
            "kit.brake.stop_distance", way, half=GRIP * way, basis="assumed",
            formula="v^2 / (2 a), a = min(lateral grip, b / h) g",
            steps=(step("v", top, "m/s", "fastest of the lap"), step("a", slows, "1", "[g]")),
            source="forces and moments; grip as the ride has it",
        ),
    ]  # fmt: skip


def _wheels(given: KitInput) -> list[Figure]:
    own, around = given.lap.ride_input.wheel_inertia_kg_m2, given.lap
    speed = around.around.whole.length_m / around.whole.lap_time_s
    front, swung = given.swung[0].median, given.swung
    off = Z90 * hypot(*(s.median * s.log_sd for s in swung))
    used = tuple(i for s in swung for i in s.used)
    gyro = wheels.gyro_torque(
        front, speed_m_per_s=speed, radius_m=wheel_radius(given.bike, given.setup, "front"), roll_rad_per_s=1.0
    )
    found = [
        figure(
            "kit.wheel.inertia", own, half=off, readings=used,
            inputs=("bike.kit.front_wheel_inertia_kg_m2", "bike.kit.rear_wheel_inertia_kg_m2"),
            formula="both wheels + what turns with them x (f R)^2", source=SOURCE, basis="assumed",
        ),
        figure(
            "kit.wheel.gyro_torque", gyro, half=Z90 * swung[0].log_sd * gyro, readings=swung[0].used,
            inputs=("bike.kit.front_wheel_inertia_kg_m2",),
            formula="I v / R x roll rate", steps=(step("v", speed, "m/s", "mean of the lap"),), basis="assumed",
            source="Cossalter, ch. 4, from memory",
        ),
    ]  # fmt: skip
    slots = rolling.rear_slots(given)
    if len(slots) == 1:
        return [*found, _none("kit.tyre.grip_share", "one_wheel")]
    now, best = (
        rolling.grip_over_time(given, given.setup.rear_wheel or 1),
        max(rolling.grip_over_time(given, s) for s in slots),
    )
    kind = tyre_on(given.bike, given.setup, "rear").tyre_kind
    grip = figure(
        "kit.tyre.grip_share", now / best, half=0.05, inputs=("setup.rear_wheel",), basis="assumed", source=SOURCE,
        formula="drive grip by ground over the lap's time / that of the best wheel owned",
        steps=(step(kind, now, "1", "against a middling knobby"), step("best", best, "1")),
    )  # fmt: skip
    return [*found, grip]


def figures(given: KitInput) -> list[Figure]:
    kg = mass_kg(given)
    found = [
        figure(
            "kit.build.mass",
            kg,
            half=0.02 * abs(kg),
            formula="sum of what is on - what came off for it",
            source="scales",
        )
    ]
    for end in ENDS:
        found += [*_tyre(given, end), *_foam(given, end), *_brake(given, end)]
    more = (controls, cooling, electrics, sounding, building)
    return [*found, *_wheels(given), *_brakes(given), *(f for topic in more for f in topic.figures(given))]
