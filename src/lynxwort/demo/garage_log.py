"""What the demo's garage wrote down of service and gate: all of it invented. By bike, in the order it was written."""

from typing import Any

H = 3600.0
Line = tuple[str, dict[str, Any]]


def _ride(day: str, name: str, **more: Any) -> Line:
    return "ride", {"day": day, "name": name} | more


def _part(kind: str, fitted_h: float, **more: Any) -> Line:
    return "part", {"kind": kind, "fitted_s": fitted_h * H} | more


def _passed(*checks: str, day: str) -> list[Line]:
    return [("check", {"check": c, "result": "pass", "day": day}) for c in checks]


QUERN: list[Line] = [
    _ride("2026-08-30", "meter read", meter_s=96.0 * H),
    _ride("2026-09-20", "practice on the whoops", time_s=3.5 * H, sand_share=0.1),
    _ride("2026-10-11", "autumn round", time_s=2.7 * H),
    _ride("2026-10-24", "loop by Saltern, tooth on trial", time_s=4.0 * H),
    _ride("2027-03-14", "Hollowood, two days", time_s=10.4 * H, mud_share=0.15),
    _ride("2027-04-11", "meter read", meter_s=118.0 * H),
    _part("piston", 40.0, fate="sound", ended_s=39.0 * H),
    _part("piston", 80.0, name="single ring", fitted_day="2026-06-14"),
    _part("crank", 41.0),
    _part("oil", 113.0),
    _part("plug", 104.0),
    _part("clutch", 84.0),
    _part("filter", 118.0),
    _part("fork_oil", 104.0),
    _part("shock_oil", 84.0),
    _part("greasing", 99.0),
    _part("wheel_bearings", 80.0),
    _part("packing", 104.0),
    _part("chain", 92.0),
    _part("pads", 104.0),
    _part("spokes", 112.0),
    _part("mousse", 112.0),
    _part("brake_fluid", 90.0, fitted_day="2025-05-02"),
    _part("coolant", 90.0, fitted_day="2026-06-14"),
    ("wear", {"measure": "compression", "value_si": 9.6e5, "station_pa": 96_800.0, "at_s": 84.0 * H, "gauge": "own"}),
    ("wear", {"measure": "compression", "value_si": 9.3e5, "station_pa": 97_200.0, "at_s": 118.0 * H, "gauge": "own"}),
    ("wear", {"measure": "chain_length", "value_si": 0.3211, "links": 20}),
    ("wear", {"measure": "ring_gap", "value_si": 0.00036, "at_s": 118.0 * H, "limit_si": 0.00050}),
    ("wear", {"measure": "spokes_rear", "tones_hz": [402.0, 398.0, 405.0, 401.0, 399.0, 414.0, 400.0, 403.0]}),
    ("bolt", {"name": "Rear sprocket, six bolts", "place": "sprocket", "torque_nm": 25.0, "thread": "locked",
              "locker": "removable", "mark": "true", "tight_s": 92.0 * H}),
    ("bolt", {"name": "Upper engine mount", "place": "engine_mount", "torque_nm": 24.0, "diameter_m": 0.008,
              "fresh_s": 115.0 * H, "tight_s": 115.0 * H}),
    ("bolt", {"name": "Front axle pinch bolts", "place": "pinch", "torque_nm": 15.0, "diameter_m": 0.008,
              "in_aluminium": True, "tight_s": 112.0 * H}),
    *_passed("frame", "throttle", "brakes", "spokes", "air_leak", "compression", "filter", "head_bearing", "fork_seals",
             "coolant", day="2027-04-16"),
    ("check", {"check": "chain", "result": "look", "note": "one tight spot coming", "day": "2027-04-16"}),
]  # fmt: skip

TARN: list[Line] = [
    _ride("2027-04-25", "meter read", meter_s=18.0 * H),
    _ride("2027-05-02", "loop by Saltern", time_s=3.0 * H, sand_share=0.3),
    _part("piston", 0.0),
    _part("crank", 0.0),
    _part("cam_chain", 0.0),
    _part("oil", 20.0),
    _part("valves", 12.0),
    _part("filter", 21.0),
    _part("fork_oil", 9.0),
    _part("chain", 0.0),
    _part("pads", 0.0),
    _part("brake_fluid", 0.0, fitted_day="2026-09-01"),
    *(
        ("wear", {"measure": "valve_intake", "value_si": mm / 1e3, "at_s": h * H, "limit_si": 0.00010})
        for h, mm in ((0.0, 0.17), (6.0, 0.16), (12.0, 0.16))
    ),
]

VOLE: list[Line] = [
    ("about", {"bought": True, "claimed_s": 20.0 * H}),
    _ride("2027-08-29", "meter read when bought", meter_s=34.0 * H),
    _part("fork_oil", 0.0),
    _part("pads", 0.0),
    _part("reduction_oil", 0.0),
    ("check", {"check": "frame", "result": "fail", "note": "hairline crack at the weld of the left peg mount",
               "work_s": 3.0 * H, "cost": 90.0, "day": "2027-08-29"}),
    *_passed("throttle", "cables", "lanyard", "pack_mounts", "connector", day="2027-08-29"),
    ("check", {"check": "claimed", "result": "look", "note": "pegs and grips of a bike twice as old",
               "day": "2027-08-29"}),
    ("check", {"check": "head_bearing", "result": "look", "note": "a notch, faint", "cost": 42.0,
               "day": "2027-08-29"}),
]  # fmt: skip

#: by the bike's name
LOGS: dict[str, list[Line]] = {"Quern 293": QUERN, "Tarn 350i": TARN, "Vole E": VOLE}
