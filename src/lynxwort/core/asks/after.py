"""What is done after the engine was changed, before full throttle: heat cycles, run-in, a slow lap, a plug check."""

from lynxwort.core.model.bike import Bike, Combustion
from lynxwort.core.model.readings import KnownGoodReading, Reading
from lynxwort.core.model.setup import Setup

#: what was changed, by the fields of a setup that say it
CHANGED: dict[str, tuple[str, ...]] = {
    "top_end": ("cylinder", "head_insert"),
    "pipe": ("exhaust", "exhaust_insert", "airbox", "air_filter", "reeds"),
    "jet": ("main_jet", "pilot_jet", "needle", "needle_clip", "metering_rod", "screw_turns", "fuel_trim", "map_slot",
            "fuel"),
}  # fmt: skip
#: the steps after each, in their order
STEPS: dict[str, tuple[str, ...]] = {
    "top_end": ("heat_cycles", "run_in", "slow_lap", "plug", "full"),
    "pipe": ("slow_lap", "plug", "full"),
    "jet": ("slow_lap", "plug", "full"),
}


def changed(bike: Bike, setup: Setup, readings: tuple[Reading, ...]) -> tuple[str, ...]:
    """What is not as it was when the mixture was last proven right: "top_end", "pipe", "jet". Without a proof against
    the bike as it came, jets left out.
    """
    if not isinstance(bike.engine, Combustion):
        return ()
    proofs = [r.under.setup for r in readings if isinstance(r, KnownGoodReading) and not r.struck_out]
    then = proofs[-1] if proofs else None

    def differs(name: str) -> bool:
        now = getattr(setup, name, None)
        return bool((now or 1) != (getattr(then, name, None) or 1) if then is not None else now not in (None, 1))

    kinds = CHANGED if then is not None else {k: v for k, v in CHANGED.items() if k != "jet"}
    return tuple(kind for kind, names in kinds.items() if any(differs(n) for n in names))


def steps(kinds: tuple[str, ...]) -> tuple[str, ...]:
    """The steps after all of these, each once, in their order: the longest list holds the others."""
    return max((STEPS[k] for k in kinds), key=len, default=())
