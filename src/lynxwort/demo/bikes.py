"""Bikes, riders and parts of the demo: all of them invented."""

from typing import Any

SETUP: dict[str, Any] = {
    "front_sprocket_teeth": 14,
    "rear_sprocket_teeth": 48,
    "main_jet": 165.0,
    "needle_clip": 3,
    "pilot_jet": 48.0,
    "screw_turns": 1.5,
    "premix_ratio": 50.0,
    "fork_spring_rate_n_per_m": 4400.0,
    "fork_preload_m": 0.006,
    "shock_spring_rate_n_per_m": 50000.0,
    "shock_preload_m": 0.012,
    "front_tyre_pressure_pa": 90_000.0,
    "rear_tyre_pressure_pa": 80_000.0,
    "tank_capacity_m3": 0.0115,
    "fuel_fill_m3": 0.0115,
}


TARN_SETUP: dict[str, Any] = {
    "front_sprocket_teeth": 14,
    "rear_sprocket_teeth": 50,
    "map_slot": 1,
    "fuel_trim": 0.0,
    "fork_spring_rate_n_per_m": 4400.0,
    "fork_preload_m": 0.005,
    "fork_oil_up_m": -0.03,
    "shock_spring_rate_n_per_m": 54000.0,
    "shock_preload_m": 0.009,
    "tank_capacity_m3": 0.0085,
    "fuel_fill_m3": 0.0085,
    "kit_on": ["brake_hose", "chain_and_sprockets", "clutch_plates", "wheel_bearings"],
}


VOLE_SETUP: dict[str, Any] = {
    "front_sprocket_teeth": 12,
    "rear_sprocket_teeth": 55,
    "power_mode": 2,
    "charge_share": 1.0,
    "pack_energy_j": 5.2 * 3.6e6,
    "fork_spring_rate_n_per_m": 4400.0,
    "fork_preload_m": 0.006,
    "shock_spring_rate_n_per_m": 52000.0,
    "shock_preload_m": 0.008,
}


WREN: dict[str, Any] = {"name": "Wren", "mass_in_gear_kg": 88.0, "inseam_m": 0.83, "pace": 0.75, "posture": "standing"}


ISK: dict[str, Any] = {"name": "Isk", "mass_in_gear_kg": 96.0, "pace": 0.85, "posture": "standing"}


TAMSIN: dict[str, Any] = {"name": "Tamsin", "mass_in_gear_kg": 71.0, "pace": 0.65, "posture": "attack"}


def _bolted(identity: str, name: str, group: str, kg: float, place: tuple[float, float], **more: Any) -> dict[str, Any]:
    """Something bolted on, its place in metres."""
    at = {"ahead_m": place[0], "height_m": place[1]}
    return {"id": identity, "name": name, "group": group, "mass_kg": kg} | at | more


#: the first two were on when it was weighed; the others lie in the van
QUERN_KIT: dict[str, Any] = {
    "items": [
        _bolted(
            "hand_guards_wrap", "hand guards, wraparound", "protection", 0.95, (1.03, 1.1), on="steered", aside_m=0.38,
            weighed_with=True, cost=85.0, work_s=2400.0,
        ),
        _bolted(
            "skid_plate_alloy", "skid plate, alloy", "protection", 2.1, (0.72, 0.28), need="must", weighed_with=True,
            cost=140.0, work_s=1800.0, shifts={"ground_clearance_m": -0.008},
        ),
        _bolted("bags", "bags and tools", "carrying", 7.4, (0.15, 0.95), cost=95.0, work_s=600.0),
        _bolted(
            "fan", "fan", "cooling", 0.6, (1.0, 0.8), cost=210.0, work_s=7200.0, watts_w=35.0, air_m3_per_s=0.05,
            after=["rewound_generator"],
        ),
        _bolted(
            "lamp_led_40", "head lamp, diodes 40 W", "electrics", 0.6, (1.28, 0.98), weighed_with=True, watts_w=40.0,
            lamp_cd=50_000.0,
        ),
        _bolted("tail_lamp", "tail lamp", "electrics", 0.15, (-0.15, 0.9), weighed_with=True, watts_w=5.0, need="must"),
        _bolted(
            "lamp_led_12", "head lamp, diodes 12 W", "electrics", 0.35, (1.28, 0.98), watts_w=12.0, lamp_cd=12_000.0,
            cost=70.0, work_s=3600.0,
        ),
        _bolted(
            "rewound_generator", "rewound generator", "electrics", 1.3, (0.75, 0.4), removed_kg=1.1, cost=240.0,
            work_s=10800.0, arrives="2027-04-12", shifts={"generator_low_w": 16.0, "generator_high_w": 42.0},
        ),
        _bolted(
            "steering_damper", "steering damper", "controls", 0.65, (1.2, 1.1), on="steered", cost=480.0, work_s=7200.0,
            damper_clicks=20,
            shifts={"bar_up_m": 0.02},
        ),
        _bolted("disc_guard_rear", "disc guard, rear", "protection", 0.55, (0.0, 0.32), on="rear_wheel", cost=60.0),
    ],
    "front_brake": {"fluid": "dot4", "fluid_from": "2025-06"},
    "rear_brake": {"fluid": "dot4", "fluid_from": "2026-05"},
    "electrics": {
        "low_w": 20.0, "high_w": 48.0, "ignition_from": "battery", "battery": "lithium", "battery_j": 18.0 * 3600.0,
    },
    "stroke_m": 0.072,
    "build_from": "2027-04-05",
}  # fmt: skip
#: for the desert: a tower, and a set of wheels on foam that was made for a light bike
TARN_KIT: dict[str, Any] = {
    "items": [
        _bolted(
            "tower", "tower and navigation", "carrying", 6.0, (1.25, 1.1), cost=900.0, work_s=21600.0, watts_w=15.0,
            shifts={"drag_area_m2": 0.03},
        ),
        _bolted(
            "street_lights", "street lights", "electrics", 2.5, (1.3, 0.95), weighed_with=True, watts_w=60.0,
            when="night", lamp_cd=20_000.0,
        ),
        _bolted(
            "wheel_bearings", "wheel bearings, new", "wheels", 0.3, (0.0, 0.32), removed_kg=0.3, on="rear_wheel",
            cost=45.0, spent=52.0, work_s=7200.0, worked_s=9000.0,
        ),
        _bolted(
            "clutch_plates", "clutch plates, new", "other", 1.4, (0.7, 0.4), removed_kg=1.4, need="must", cost=160.0,
            work_s=10800.0, arrives="2027-05-03",
        ),
        _bolted(
            "brake_hose", "brake hose, braided", "brakes", 0.2, (1.3, 0.8), removed_kg=0.2, cost=70.0, work_s=5400.0,
        ),
        _bolted(
            "chain_and_sprockets", "chain and sprockets, new", "other", 2.6, (0.35, 0.35), removed_kg=2.6, cost=190.0,
            spent=175.0, work_s=5400.0, after=["wheel_bearings"],
        ),
        _bolted("skid_plate_plastic", "skid plate, plastic", "protection", 1.0, (0.72, 0.28), weighed_with=True),
    ],
    "electrics": {
        "low_w": 110.0, "high_w": 260.0, "battery": "lithium", "battery_j": 26.0 * 3600.0, "starter": "electric",
        "lamp_wire_m2": 1.5e-6,
    },
    "stroke_m": 0.0576,
    "build_from": "2027-04-26",
    "front_brake": {"fluid": "dot5_1", "fluid_from": "2026-09"},
    "rear_brake": {"fluid": "dot5_1", "fluid_from": "2026-09"},
}  # fmt: skip
QUERN: dict[str, Any] = {
    "name": "Quern 293",
    "engine": {
        "kind": "jetted_two_stroke",
        "displacement_m3": 293e-6,
        "peak_power_w": 36000.0,
        "peak_power_rpm": 8500.0,
        "carburettor": {"jet_numbering": "diameter"},
        "shake_rpm": 7600.0,
        "compression_ratio": 10.4,
        "squish_m": 0.0014,
        "power_valve": "adjustable",
        "fittings": [
            {"place": "airbox", "name": "lid off", "leaner_low": 0.01, "leaner_high": 0.05, "power_scale": 1.01},
            {
                "place": "exhaust_insert",
                "name": "quiet core",
                "leaner_low": -0.03,
                "leaner_high": 0.0,
                "power_scale": 0.97,
            },
        ],
        "head_inserts": [{"name": "for height", "compression_ratio": 11.3, "squish_m": 0.0012}],
        "ignition_maps": [{"name": "soft", "advance_rad": -0.06, "low_scale": 0.97, "high_scale": 0.95}],
    },
    "transmission": {
        "primary_ratio": 2.667,
        "gear_ratios": [2.142, 1.75, 1.444, 1.217, 1.045, 0.909],
        "others": [{"name": "wide", "gear_ratios": [2.37, 1.81, 1.44, 1.19, 0.99, 0.83]}],
    },
    "tyre": {"marking": "140/80-18", "speed_symbol": "R", "inside": "heavy_tube"},
    "frame": {
        "mass_dry_kg": 104.0,
        "front_guard_gap_m": 0.325,
        "home_height_m": 60.0,
        "rear_seat_gap_m": 0.332,
        "bar_gap_m": 0.022,
        "side_stand_m": 0.39,
        "fork_preload_pitch_m": 0.0015,
        "shock_preload_pitch_m": 0.0015,
        "other_rear_wheels": [{"marking": "120/90-18", "heavier_kg": -0.6, "tyre_kind": "soft_knobby"}],
        "other_tanks": [
            {
                "name": "tall",
                "capacity_m3": 0.0145,
                "unusable_m3": 0.0006,
                "front_share": 0.64,
                "heavier_kg": 0.9,
                "cost": 310.0,
                "fitting_s": 1800.0,
            }
        ],
    },
    "kit": QUERN_KIT,
}


TARN: dict[str, Any] = {
    "name": "Tarn 350i",
    "engine": {
        "kind": "injected_four_stroke",
        "displacement_m3": 350e-6,
        "peak_power_w": 33500.0,
        "peak_power_rpm": 10500.0,
        "injection": {"sensors": "air_temperature", "map_shifts": [0.0, 0.03]},
    },
    "transmission": {"primary_ratio": 3.04, "gear_ratios": [2.29, 1.73, 1.39, 1.16, 0.99, 0.85]},
    "tyre": {"marking": "140/80-18", "rolling_radius_m": 0.329},
    "frame": {
        "mass_dry_kg": 108.5,
        "payload": [{"name": "tool pouch", "mass_kg": 1.4, "ahead_m": 0.12, "height_m": 0.86}],
        "other_front_wheels": [{"marking": "80/100-21", "heavier_kg": 1.5, "inside": "mousse", "foam_for_kg": 76.0}],
        "other_rear_wheels": [
            {
                "marking": "130/90-18",
                "heavier_kg": 2.2,
                "inside": "mousse",
                "foam_for_kg": 80.0,
                "tyre_kind": "hard_knobby",
            }
        ],
    },
    "kit": TARN_KIT,
}


#: a lamp for the stage in the dark
VOLE_KIT: dict[str, Any] = {
    "items": [
        _bolted(
            "lamp_led_40", "head lamp, diodes 40 W", "electrics", 0.6, (1.26, 0.98), weighed_with=True, watts_w=40.0,
            lamp_cd=50_000.0,
        )
    ]
}  # fmt: skip
VOLE: dict[str, Any] = {
    "name": "Vole E",
    "engine": {
        "kind": "electric",
        "peak_power_w": 32000.0,
        "peak_torque_nm": 42.0,
        "limiter_rpm": 11500.0,
        "nominal_voltage_v": 96.0,
        "mode_power_shares": [1.0, 0.75, 0.5],
        "regeneration_share": 0.3,
        "weighed_pack_j": 5.2 * 3.6e6,
        "pack_kg": 35.0,
        "charger_w": 3300.0,
        "generator_w": 2800.0,
        "continuous_power_w": 14_000.0,
        "packs": [
            {
                "name": "long",
                "energy_j": 6.0 * 3.6e6,
                "mass_kg": 42.0,
                "seat_up_m": 0.015,
                "cost": 2400.0,
                "fitting_s": 600.0,
            }
        ],
    },
    "transmission": {"primary_ratio": 2.4, "gear_ratios": [1.0], "efficiency": 0.92},
    "tyre": {"marking": "120/90-18"},
    "frame": {"mass_dry_kg": 111.0, "wheelbase_m": 1.45},
    "kit": VOLE_KIT,
}


PARTS: dict[str, list[float]] = {
    "front_sprocket_teeth": [12.0, 13.0, 14.0],
    "rear_sprocket_teeth": [48.0, 50.0, 52.0, 55.0],
    "main_jet": [160.0, 162.5, 165.0, 168.0, 170.0],
    "pilot_jet": [45.0, 48.0, 50.0],
    "fork_spring_rate_n_per_m": [4400.0, 4600.0, 4800.0],
    "shock_spring_rate_n_per_m": [50000.0, 52000.0, 54000.0],
    "tank_capacity_m3": [0.0085, 0.009, 0.0115, 0.0145],
    "pack_energy_j": [5.2 * 3.6e6],
}


#: what else lies in the box: kind, a line, what one knows of it
BOX: tuple[tuple[str, str, dict[str, Any]], ...] = (
    ("needle", "0=2.74; 10=2.74; 20=2.48; 32=1.96", {"label": "one groove, filed", "condition": "worn"}),
    ("wheel", "rear 120/90-18", {"label": "mud wheel", "place": "van rack"}),
    ("shim", "24x0.15 22x0.15 20x0.1", {"count": 4, "place": "valve drawer"}),
    ("shim", "40x0.15 40x0.2 36x0.2 32x0.2 28x0.2 25x0.2", {"count": 2, "place": "valve drawer"}),
    ("main_jet", "172.5", {"condition": "spent", "label": "drilled by hand"}),
)
#: what a shop has, of the whole demo
SHOP: tuple[tuple[str, str, dict[str, Any]], ...] = (
    ("tank_capacity_m3", "15.5", {"condition": "shop", "cost": 240.0, "work_s": 2700.0}),
    ("shock_spring_rate_n_per_m", "56 58", {"condition": "shop", "cost": 115.0}),
    ("front_rotor_m", "270", {"condition": "shop", "cost": 95.0}),
    ("pilot_jet", "52", {"condition": "shop", "cost": 6.5}),
)
