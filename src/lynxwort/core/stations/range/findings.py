"""What Range says of its figures."""

from math import exp

from lynxwort.core.model.defaults import Z90
from lynxwort.core.report import Finding, Move
from lynxwort.core.stations.range import crewing, heat
from lynxwort.core.stations.range.candidates import more_aboard, most_sold, other_stops, stops_beyond
from lynxwort.core.stations.range.chance import NAMES, after_fill_up, sure
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.stations.range.passings import passed, planned
from lynxwort.core.stations.station import Known

#: below this chance to finish it is to act (assumption)
FINISH_ACT = 0.90
#: chance of a lap more from which it is told (assumption)
EXTRA_LAP_TOLD = 0.05
#: expansion of petrol [1/K], from memory
EXPANSION_PER_K = 9.5e-4


def _of_oil(known: Known) -> list[Finding]:
    """What is said of an oil tank of its own."""
    oil = known["range.oil_tank_margin"]
    if oil.status == "not_applicable":
        return []
    if oil.value is None or oil.low is None:
        return [Finding(station="range", code="oil_tank_unsaid", severity="unknown", figures=(oil.id,))]
    if oil.low >= 0.0:
        return [Finding(station="range", code="oil_tank_lasts", severity="ok", figures=(oil.id, "range.fuel_race"))]
    return [
        Finding(
            station="range",
            code="oil_tank_short",
            severity="act" if oil.value < 0.0 else "look",
            figures=(oil.id, "range.fuel_race"),
        )
    ]


def _of_stops(given: RangeInput) -> list[Finding]:
    """What is said of the stops."""
    places = passed(given, given.clock.most_laps)
    if given.supply.taken is not None and any(n > len(places) for n in given.supply.taken):
        told = {"passings": len(places)}
        beyond = (stops_beyond(given),)
        return [Finding(station="range", code="stop_beyond", severity="look", parameters=told, proposals=beyond)]
    if not places:
        return []
    found, whence = planned(given)
    if whence == "every":
        return [
            Finding(
                station="range",
                code="no_stop_plan",
                severity="look",
                figures=("range.p_finish",),
                parameters={"passings": len(places)},
            )
        ]
    if not found:
        return (
            [Finding(station="range", code="no_stop_needed", severity="ok", figures=("range.p_finish",))]
            if whence == "best"
            else []
        )
    if given.supply.rounds is not None:
        least = min(found, key=lambda s: s.level)
        return [
            Finding(
                station="range",
                code="packs_go_round",
                severity="ok",
                figures=("range.stops", "range.joint_risk"),
                parameters={
                    "least_share": least.level / given.supply.store.capacity,
                    "race_m": places[least.opening].race_m,
                },
            )
        ]
    code = "stops_kept" if whence == "kept" else "stops_wanted"
    return [
        *_extra_lap(given),
        Finding(
            station="range",
            code=code,
            severity="ok",
            figures=("range.stops", "range.stop.1.distance", "range.joint_risk"),
            parameters={"stops": len(found), "standing_time": sum(s.standing_s for s in found)},
        ),
    ]


def _extra_lap(given: RangeInput) -> list[Finding]:
    """The unlikely lap more of a race by hours: told beside the plan, which is made for the likely ones."""
    chance = sum(c for laps, c in given.clock.lap_chances if laps > given.clock.laps)
    if given.clock.stages[0].hours_s is None or chance < EXTRA_LAP_TOLD or given.supply.store.kind != "fuel":
        return []
    more = given.supply.round_use * given.supply.factor.median * exp(Z90 * given.supply.factor.log_sd)
    return [
        Finding(
            station="range",
            code="extra_lap",
            severity="ok",
            figures=("purpose.laps", "range.p_finish"),
            parameters={"lap": given.clock.laps + 1, "chance_share": chance, "more_m3": more},
        )
    ]


def _of_turning(given: RangeInput) -> list[Finding]:
    """What is turned for a rider takes longer than a hand-over was reckoned with, or is not to be swapped at all."""
    relay, longest, found = given.clock.relay, given.clock.turning_most_s, list[Finding]()
    if given.swaps_marked:
        found.append(Finding(station="range", code="marked_swapped", severity="act"))
    if relay is not None and longest > relay.hand_over_s:
        told = {"turning_time": longest, "hand_over_time": relay.hand_over_s}
        found.append(Finding(station="range", code="turning_outlasts", severity="look", parameters=told))
    return found


def room_to_expand(given: RangeInput) -> float:
    """Volume [m3] by which the fuel grows from the coldest to the hottest hour beyond the room left in the tank;
    negative = it fits.
    """
    warmer = given.day.temperature_high_k - given.day.temperature_low_k
    return given.supply.store.aboard * (1.0 + EXPANSION_PER_K * warmer) - given.supply.store.capacity


def _short_of(given: RangeInput, need: float) -> tuple[str, tuple[tuple[Move, ...], ...], dict[str, float]]:
    """What is said of too little aboard: code, what would mend it, and numbers to tell."""
    if given.supply.rounds is not None:
        return "packs_run_dry", (), {}
    if given.supply.taken:
        return "plan_runs_dry", other_stops(given) or more_aboard(given, need), {}
    more, fuel = more_aboard(given, need), given.supply.store.kind == "fuel"
    # a plan of no stop at all: to fill what is there, then to stop, before another tank
    stops = () if given.supply.taken is None else other_stops(given)
    at_hand = tuple(moves for moves in more if all(m.owned is None for m in moves))
    proposals = tuple(dict.fromkeys((*at_hand, *stops, *more)))
    if not proposals and not passed(given, given.clock.most_laps):
        most = most_sold("tank_capacity_m3" if fuel else "pack_energy_j", given.frame)
        return ("no_tank_carries", (), {"most_m3": most}) if fuel else ("no_pack_carries", (), {"most_j": most})
    return "may_run_dry" if fuel else "may_run_dry_energy", proposals, {}


def findings(given: RangeInput, known: Known) -> list[Finding]:
    certainty, kind = given.certainty, given.supply.store.kind
    chance = sure(given)
    _, _, name_wanted, left = NAMES[kind]
    need = known[name_wanted].value or 0.0
    figures_of = ("range.p_finish", name_wanted, left)
    tail = "" if kind == "fuel" else "_energy"
    found = []
    if chance < certainty:
        code, proposals, told = _short_of(given, need)
        found.append(
            Finding(
                station="range",
                code=code,
                severity="act" if chance < FINISH_ACT else "look",
                figures=figures_of,
                parameters={"certainty": certainty} | told,
                proposals=proposals,
            )
        )
    elif given.supply.factor.used:
        found.append(
            Finding(
                station="range",
                code=f"lasts{tail}",
                severity="ok",
                figures=figures_of,
                parameters={"certainty": certainty},
            )
        )
    found += [*_of_stops(given), *_of_turning(given), *_of_oil(known), *heat.findings(given), *crewing.findings(given)]
    if kind == "fuel" and room_to_expand(given) > 0.0:
        found.append(
            Finding(station="range", code="brimmed_cold", severity="ok", parameters={"over_m3": room_to_expand(given)})
        )
    if not given.supply.factor.used:
        after, unusable, largest = after_fill_up(given), given.supply.store.unusable, given.supply.largest_leg
        saved = {"saved_m3" if kind == "fuel" else "saved_j": need - after}
        found.append(
            Finding(
                station="range",
                code=f"{kind}_not_measured",
                severity="look",
                figures=("range.k", name_wanted),
                parameters={
                    "certainty": certainty,
                    "times_now": (need - unusable) / largest,
                    "times_after": (after - unusable) / largest,
                }
                | saved,
            )
        )
    return found
