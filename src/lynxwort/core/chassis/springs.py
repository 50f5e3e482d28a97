"""Spring rate from its dimensions. Reference: [shigley] Shigley's Mechanical Engineering Design, eq. 10-9, example 10-1."""

SHEAR_MODULUS_PA = 79.3e9  #: chrome-silicon and music wire, [shigley] table 10-5, from memory


def coil_rate(*, wire_m: float, mean_coil_m: float, active_turns: float, shear_modulus_pa: float = SHEAR_MODULUS_PA) -> float:
    """Rate [N/m] of a helical compression spring from wire [m], mean coil diameter [m] and active turns."""
    return shear_modulus_pa * wire_m**4 / (8.0 * mean_coil_m**3 * active_turns)
