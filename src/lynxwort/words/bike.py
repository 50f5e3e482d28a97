"""The facts of a bike in words, by the part of the model that holds them, in the order in which they are asked."""

from lynxwort.words import N_

FRAME: dict[str, str] = {
    "mass_dry_kg": N_("Weight without fuel"), "front_share": N_("Share on the front wheel"),
    "wheelbase_m": N_("Wheelbase"), "cg_height_m": N_("Height of centre of gravity"), "rake_rad": N_("Rake"),
    "drag_area_m2": N_("Drag area, m²"), "unsprung_front_kg": N_("Unsprung, front"),
    "unsprung_rear_kg": N_("Unsprung, rear"), "fork_travel_m": N_("Fork travel"),
    "fork_air_diameter_m": N_("Fork air column, diameter"), "fork_air_gap_m": N_("Fork air left at full travel"),
    "fork_friction_n": N_("Fork friction"), "rear_travel_m": N_("Rear travel"),
    "link_ratio_start": N_("Wheel / shock ratio, topped out"),
    "link_ratio_end": N_("Wheel / shock ratio, full travel"), "shock_friction_n": N_("Shock friction"),
    "swingarm_length_m": N_("Swingarm, pivot to axle"), "sprocket_ahead_m": N_("Front sprocket ahead of the pivot"),
    "sprocket_above_m": N_("Front sprocket above the pivot"),
    "axle_below_pivot_m": N_("Axle below the pivot, topped out"),
    "adjuster_half_range_m": N_("Axle adjusters, each way"), "case_gap_m": N_("Front sprocket's centre to the case"),
    "chain_play_m": N_("Chain play where it is tightest"), "chain_links": N_("Links of the chain"),
    "clamp_offset_m": N_("Clamp offset"), "axle_lead_m": N_("Axle ahead of the fork legs"),
    "front_tyre": N_("Front tyre marking"), "seat_height_m": N_("Seat height, topped out"),
    "seat_half_width_m": N_("Half of the seat's width"), "ground_clearance_m": N_("Ground clearance, topped out"),
    "front_guard_gap_m": N_("Front tyre to guard, topped out"),
    "front_clamp_gap_m": N_("Front tyre to lower clamp, topped out"),
    "front_radiator_gap_m": N_("Front tyre to radiators, topped out"),
    "bar_gap_m": N_("Fork tubes to bars, tubes flush"), "rear_guard_gap_m": N_("Rear tyre to guard, topped out"),
    "rear_seat_gap_m": N_("Rear tyre to seat, topped out"),
    "rear_exhaust_gap_m": N_("Rear tyre to exhaust, topped out"), "bar_height_m": N_("Grips, height topped out"),
    "bar_ahead_m": N_("Grips ahead of the rear axle"), "peg_height_m": N_("Pegs, height topped out"),
    "peg_ahead_m": N_("Pegs ahead of the rear axle"), "side_stand_m": N_("Side stand, pivot to foot"),
    "fork_springing": N_("The fork stands on"), "fork_springs": N_("Fork springs"),
    "fork_rate_is": N_("A fork spring has"), "shock_rate_is": N_("The shock spring has"),
    "fork_damping": N_("The fork damps"), "fork_oil_least_m": N_("Fork oil, least from the top"),
    "fork_oil_most_m": N_("Fork oil, most from the top"), "fork_top_out_n_per_m": N_("Fork top-out springs"),
    "fork_top_out_m": N_("Fork top-out springs work over"),
    "fork_preload_pitch_m": N_("One turn of the fork's preload"),
    "shock_preload_pitch_m": N_("One turn of the shock's preload"),
    "fork_main_area_m2": N_("Main chamber, piston area"), "fork_main_length_m": N_("Main chamber, length topped out"),
    "fork_balance_area_m2": N_("Balance chamber, piston area"),
    "fork_balance_length_m": N_("Balance chamber, length topped out"), "home_height_m": N_("Height at home"),
    "home_temperature_k": N_("Temperature at home"), "fuel_front_share": N_("Share of fuel on the front wheel"),
    "unusable_fuel_m3": N_("Fuel that stays in the tank"),
}  # fmt: skip
COMBUSTION: dict[str, str] = {
    "displacement_m3": N_("Engine size"), "peak_power_w": N_("Highest power"),
    "peak_power_rpm": N_("at engine speed"), "limiter_rpm": N_("Rev limit"), "idle_rpm": N_("Idle"),
    "engagement_rpm": N_("Pulls from"), "shake_rpm": N_("Shakes from"), "clutch": N_("The clutch works"),
    "compression_ratio": N_("Compression ratio"), "squish_m": N_("Squish clearance"),
}  # fmt: skip
TWO_STROKE: dict[str, str] = {
    "power_valve": N_("Power valve"),
    "pipe_rpm": N_("The pipe is tuned to"),
    "lubrication": N_("Its oil comes from"),
    "oil_tank_m3": N_("Own oil tank holds"),
    "oil_tank_ratio": N_("Fuel burnt to one of oil from it"),
}
ELECTRIC: dict[str, str] = {
    "peak_power_w": N_("Highest power"), "peak_torque_nm": N_("Highest torque"),
    "limiter_rpm": N_("Highest motor speed"), "nominal_voltage_v": N_("Nominal voltage"),
    "mode_power_shares": N_("Power modes, % of the highest"), "usable_share": N_("Usable share of the pack"),
    "regeneration_share": N_("Braking that returns to the pack"), "weighed_pack_j": N_("Pack it was weighed with"),
    "cold_share_per_k": N_("Of the pack's charge lost per kelvin under 20 °C"),
    "internal_ohm": N_("Inner resistance of the pack, ohms"),
}  # fmt: skip
CARBURETTOR: dict[str, str] = {
    "jet_numbering": N_("Main jets are numbered by"), "full_lift_m": N_("Slide lift at full throttle"),
    "clip_positions": N_("Clip grooves"), "screw": N_("The screw is an"), "screw_turn": N_("One turn of the screw"),
    "cutaway_step": N_("One size of cutaway"), "float_height_m": N_("Float height, measured"),
    "float_height_right_m": N_("Float height by the manual"), "pump": N_("Accelerator pump"),
}  # fmt: skip
NEEDLE: dict[str, str] = {
    "jet_bore_m": N_("Needle jet, bore"), "straight_diameter_m": N_("Needle, straight part"),
    "taper_start_lift_m": N_("Lift where the taper begins"), "taper_half_angle_rad": N_("Taper, half angle"),
    "clip_pitch_m": N_("Between clip grooves"),
    "groove_above_jet_m": N_("Clip groove above the jet's mouth, slide shut"),
}  # fmt: skip
ROD_CARBURETTOR: dict[str, str] = {
    "knob_click": N_("One click of the knob"),
    "rod_step": N_("One size of rod"),
    "compensation": N_("Evens out of the air's change"),
    "compensated_change": N_("up to a change of density of"),
}
INJECTION: dict[str, str] = {
    "sensors": N_("The injection senses"),
    "map_shifts": N_("Maps, % richer than the first"),
    "target_part": N_("Lambda aimed at, part throttle"),
    "target_full": N_("Lambda aimed at, full throttle"),
}
TRANSMISSION: dict[str, str] = {
    "primary_ratio": N_("Primary ratio"),
    "gear_ratios": N_("Gear ratios, first to top"),
    "efficiency": N_("Power that reaches the wheel"),
}
TYRE: dict[str, str] = {
    "marking": N_("Rear tyre marking"),
    "rolling_radius_m": N_("Rolling radius, measured"),
    "speed_symbol": N_("Speed letter on the sidewall"),
    "inside": N_("It is filled with"),
    "inside_speed_m_per_s": N_("Filling made for speeds to"),
}
DAMPER: dict[str, str] = {
    "bore_m": N_("Bore"), "rod_m": N_("Rod"), "reservoir_pa": N_("Pressure behind the oil, absolute"),
    "compression_clicks": N_("Compression, clicks in all"), "rebound_clicks": N_("Rebound, clicks in all"),
    "high_speed_turns": N_("High-speed adjuster, turns in all"), "pa_per_turn": N_("One turn of it holds against"),
    "needle_bore_m": N_("Compression needle, seat"), "rebound_needle_bore_m": N_("Rebound needle, seat"),
    "needle_half_angle_rad": N_("Needles, half angle"), "needle_m_per_click": N_("A click draws a needle by"),
}  # fmt: skip
SEAT: dict[str, str] = {
    "clamp_m": N_("Clamp, diameter"), "port_inner_m": N_("Ports, inner radius"),
    "port_outer_m": N_("Ports, outer radius"), "port_area_m2": N_("Ports, area in all"),
    "float_m": N_("Moves before it bends"), "height_most_m": N_("Highest stack the nut holds"),
}  # fmt: skip
