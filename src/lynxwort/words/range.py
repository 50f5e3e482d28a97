"""Everything that Range says."""

from lynxwort.words import N_

FINDINGS: dict[str, tuple[str, str, str]] = {
    "may_run_dry": (
        N_("Finishes {range.p_finish}, wants {certainty}"),
        N_("finishes {range.p_finish}, wants {certainty}"),
        N_("{range.fuel_wanted} aboard would be {certainty} sure; {range.left_at_finish} left on an average day."),
    ),
    "lasts": (
        N_("Fuel lasts: {range.p_finish} sure"),
        N_("lasts, {range.p_finish} sure"),
        N_("{range.fuel_wanted} would do; {range.left_at_finish} left on an average day."),
    ),
    "may_run_dry_energy": (
        N_("Finishes {range.p_finish}, wants {certainty}"),
        N_("finishes {range.p_finish}, wants {certainty}"),
        N_("{range.energy_wanted} aboard would be {certainty} sure; {range.energy_left} left on an average day."),
    ),
    "lasts_energy": (
        N_("The charge lasts: {range.p_finish} sure"),
        N_("lasts, {range.p_finish} sure"),
        N_(
            "{range.energy_wanted} would do; {range.energy_left} left on an average day. "
            "{range.energy_per_km} over the race."
        ),
    ),
}
CAUTIONS: dict[str, str] = {
    "may_run_dry": N_(
        "Fuel and its vapour burn: outdoors, engine cold, approved cans, nobody smoking. Do not brim a cold tank."
    ),
    "may_run_dry_energy": N_(
        "High voltage can kill: a pack is swapped and charged as its maker says, by who is trained for it; "
        "never open it, never charge a damaged or frozen pack."
    ),
    "lasts_energy": N_("High voltage can kill: charge and swap the pack as its maker says; never open it."),
}
FIGURE_NAMES: dict[str, str] = {
    "range.energy_per_lap": N_("Charge per lap"),
    "range.energy_race": N_("Charge, whole race"),
    "range.energy_wanted": N_("Charge wanted"),
    "range.energy_per_km": N_("Charge per distance"),
    "range.energy_left": N_("Charge left at the end"),
    "range.k": N_("Burns, against the model"),
    "range.k_sd": N_("Spread of that"),
    "range.fuel_per_lap": N_("Fuel per lap"),
    "range.fuel_race": N_("Fuel, whole race"),
    "range.fuel_wanted": N_("Fuel wanted"),
    "range.p_finish": N_("Finishes"),
    "range.left_at_finish": N_("Left at the end"),
}
