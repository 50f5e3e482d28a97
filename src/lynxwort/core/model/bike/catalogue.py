"""Generic things to bolt on, with what they usually weigh, where they sit and what they move: all assumption (HANDBOOK
9, 6) until each is weighed. Names are theirs in words/kit.
"""

from lynxwort.core.model.bike.kit import NO_SHIFTS, Item, ItemGroup, ItemOn, Shifts, When

HOUR_S = 3600.0


def _item(
    identity: str, group: ItemGroup, kg: float, place: tuple[float, float], hours: float, *, on: ItemOn = "sprung",
    turns: float = 0.0, aside: float = 0.0, clicks: int | None = None, watts: float = 0.0, shifts: Shifts = NO_SHIFTS,
    removed: float = 0.0, when: When = "always", duty: float = 1.0, cd: float = 0.0, air: float = 0.0,
) -> Item:  # fmt: skip
    return Item(
        id=identity, name=identity, group=group, mass_kg=kg, removed_kg=removed, ahead_m=place[0], height_m=place[1],
        on=on, gyration_share=turns, aside_m=aside, damper_clicks=clicks, work_s=hours * HOUR_S, watts_w=watts,
        shifts=shifts, when=when, duty_share=duty, lamp_cd=cd, air_m3_per_s=air,
    )  # fmt: skip


CATALOGUE: tuple[Item, ...] = (
    _item("skid_plate_alloy", "protection", 2.0, (0.72, 0.28), 0.5, shifts=Shifts(ground_clearance_m=-0.008)),
    _item("skid_plate_plastic", "protection", 1.0, (0.72, 0.28), 0.5, shifts=Shifts(ground_clearance_m=-0.008)),
    _item("pipe_guard", "protection", 0.5, (0.85, 0.45), 0.5),
    _item("radiator_braces", "protection", 0.5, (1.0, 0.80), 1.0, shifts=Shifts(radiator_air_share=-0.05)),
    _item("hand_guards_wrap", "protection", 1.0, (1.03, 1.1), 0.7, on="steered", aside=0.38),
    _item("hand_guards_flag", "protection", 0.35, (1.03, 1.1), 0.7, on="steered", aside=0.36),
    _item("disc_guard_front", "protection", 0.2, (1.48, 0.34), 0.3, on="front_wheel"),
    _item("disc_guard_rear", "protection", 0.6, (0.0, 0.32), 0.3, on="rear_wheel"),
    _item("case_saver", "protection", 0.2, (0.7, 0.45), 0.3),
    _item("chain_guide", "protection", 0.3, (0.1, 0.35), 0.3),
    _item("linkage_guard", "protection", 0.5, (0.5, 0.25), 0.4, shifts=Shifts(ground_clearance_m=-0.01)),
    _item("steering_damper", "controls", 0.6, (1.2, 1.1), 2.0, on="steered", clicks=20, shifts=Shifts(bar_up_m=0.02)),
    _item("clamps", "controls", 0.2, (1.2, 1.0), 3.0, on="steered"),
    _item("bars", "controls", 0.3, (1.03, 1.15), 1.0, on="steered"),
    _item("flex_bars", "controls", 0.2, (1.03, 1.15), 1.0, on="steered"),
    _item("pegs_low", "controls", 0.2, (0.56, 0.42), 0.5, shifts=Shifts(peg_down_m=0.008)),
    _item("seat_tall", "controls", 0.3, (0.5, 0.95), 0.1, shifts=Shifts(seat_up_m=0.02)),
    _item("left_brake", "controls", 0.3, (1.0, 1.1), 2.0, on="steered"),
    _item("tower", "carrying", 6.0, (1.25, 1.10), 6.0, watts=15.0, shifts=Shifts(drag_area_m2=0.03)),
    _item("bags", "carrying", 8.0, (0.15, 0.95), 0.2),
    _item("fan", "cooling", 0.6, (1.0, 0.8), 2.0, watts=35.0, air=0.05),
    _item("radiators_large", "cooling", 3.4, (1.0, 0.8), 2.0, removed=2.6, shifts=Shifts(radiator_share=0.3)),
    _item("side_stand_cut", "other", 0.0, (0.7, 0.3), 0.5, removed=0.05),
    _item("heavy_tube_front", "wheels", 0.7, (1.48, 0.34), 0.7, on="front_wheel", turns=0.85),
    _item("heavy_tube_rear", "wheels", 0.9, (0.0, 0.32), 0.8, on="rear_wheel", turns=0.85),
    _item("street_lights", "electrics", 2.5, (1.3, 0.95), 4.0, watts=60.0),
    _item("lamp_halogen_35", "electrics", 0.5, (1.28, 0.98), 1.0, watts=35.0, cd=12_000.0),
    _item("lamp_halogen_55", "electrics", 0.5, (1.28, 0.98), 1.0, watts=55.0, cd=20_000.0),
    _item("lamp_led_12", "electrics", 0.35, (1.28, 0.98), 1.0, watts=12.0, cd=12_000.0),
    _item("lamp_led_40", "electrics", 0.6, (1.28, 0.98), 1.0, watts=40.0, cd=50_000.0),
    _item("tail_lamp", "electrics", 0.15, (-0.15, 0.9), 0.5, watts=5.0),
    _item("brake_lamp", "electrics", 0.1, (-0.15, 0.9), 0.5, watts=21.0, duty=0.05),
    _item("horn", "electrics", 0.2, (1.1, 0.8), 0.5, watts=30.0, duty=0.001),
    _item("heated_grips", "electrics", 0.2, (1.03, 1.1), 1.0, on="steered", aside=0.36, watts=30.0),
    _item("phone_charger", "electrics", 0.1, (1.1, 1.1), 0.5, watts=10.0),
    _item("navigation", "electrics", 0.3, (1.1, 1.1), 0.5, watts=8.0),
    _item(
        "rewound_generator",
        "electrics",
        1.3,
        (0.75, 0.4),
        3.0,
        removed=1.1,
        shifts=Shifts(generator_low_w=16.0, generator_high_w=42.0),
    ),
)
