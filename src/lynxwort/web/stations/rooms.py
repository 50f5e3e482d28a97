"""The rooms of the stations: what each is called, where it is, which findings are settled there."""

from django.utils.translation import gettext_lazy as _

from lynxwort.web.bench.registry import Room

#: findings of what was measured, or was not
_MEASURED = (
    "sag_missing", "fill_up_missing", "charge_missing", "known_good_missing", "sag_questioned", "fill_up_doubted",
    "weighing_doubted", "length_questioned", "angle_questioned", "hills_contradict", "seen_questioned",
)  # fmt: skip
_GATE = ("gate_no_riding", "gate_failed", "gate_look", "gate_unchecked")
_SERVICE = (
    "overdue", "exceeds_during_race", "soon", "aged", "ages_soon", "boiled_once", "age_unsaid", "risk_high", "worn_out",
    "worn", "worn_faster", "limit_before_race_end", "spokes_uneven", "chain_worn", "torque_open", "retorque_due",
    "mark_moved", "locker_locked_there", "locker_high_strength", "locker_unlocked", "hours_gap",
)  # fmt: skip
_WEEK = ("part_late", "mending_late", "week_short", "week_tight", "week_circle")
_BURNS = ("jetted", "rod", "injected")
_HEAT = ("coolant_boils", "coolant_close", "queue_boils", "queue_soon", "coolant_cold", "coolant_freezes",
         "cap_runs_hot")  # fmt: skip
_CURRENT = ("generator_unsaid", "battery_drains", "generator_short", "idle_drains", "lamp_wire_thin", "fuse_over_wire",
            "start_weak", "outruns_light")  # fmt: skip
_SOUND = ("sound_unsaid", "stroke_unsaid", "too_loud", "nearly_too_loud", "sound_drowned", "rules_open")
ROOMS = {
    "purpose": (Room("", _("The race")), Room("ground/0/", _("Ground and points"), frozenset({"ground_unset"}))),
    "baseline": (
        Room("", _("On the bike")),
        Room("readings/", _("Readings"), frozenset(_MEASURED)),
        Room("gate/", _("Gate"), frozenset(_GATE)),
        Room("service/", _("Service"), frozenset(_SERVICE)),
    ),
    "chassis": (
        Room("", _("From the side")),
        Room("sag/rear/", _("Sag clinic"), frozenset({"preload_off", "fuel_moves_sag"})),
        Room("springs/", _("Springs and schools"), frozenset({"spring_soft", "spring_stiff", "load_wants_spring"})),
        Room("feet/", _("Feet on the ground"), frozenset({"reach_short"})),
    ),
    "damping": (
        Room("", _("The ride")),
        Room("damper-dyno/shock/", _("Force and damper dyno")),
        Room("valving/shock/", _("Valving"), frozenset({"shim_stress", "stack_too_high", "cavitates"})),
        Room("felt/", _("What was felt")),
        Room("clicks/", _("Map of clicks")),
        Room("setting-sheet/", _("Sheet for the shop"), frozenset({"bottoms_no_click", "bottoms_anyway"})),
    ),
    "fuelling": (
        Room("", _("Richness")),
        Room("jets/", _("Jets and weather"), frozenset({"too_lean_jetted", "rich_high_up"}), ("jetted", "rod")),
        Room("jets/", _("Weather and cans"), fed=("injected",)),
        Room("map/", _("Map and logs"), frozenset({"map_off", "too_lean_injected"}), ("injected",)),
        Room("diagnose/", _("Diagnosis"), frozenset({"felt"}), _BURNS),
        Room("dyno/", _("Dyno"), fed=_BURNS),
    ),
    "drive": (
        Room("", _("Pull")),
        Room("sprockets/", _("Sprockets"), frozenset({"short_on_climb", "shakes_long", "chain_no_length"})),
        Room("metres/", _("Metre by metre")),
        Room("chain/", _("Chain"), frozenset({"chain_no_stretch", "chain_other_length", "sprocket_hits_case"})),
    ),
    "range": (
        Room("", _("Over the race")),
        Room(
            "stops/",
            _("Stops"),
            frozenset(
                {"plan_runs_dry", "stops_wanted", "no_stop_plan", "stop_beyond", "no_tank_carries", "no_pack_carries"}
            ),
        ),
        Room(
            "holders/", _("Tanks"), frozenset({"may_run_dry", "may_run_dry_energy"}), name_electric=_("Packs and modes")
        ),
        Room("crew/", _("Crew"), frozenset({"crew_late", "crew_tight"})),
        Room("time-card/", _("Time card")),
        Room("pump/", _("At the pump"), fed=_BURNS),
    ),
    "kit": (
        Room("", _("The bike")),
        Room("items/", _("Items"), frozenset({"must_off"})),
        Room("wheels/", _("Wheels"), frozenset({"foam_unsaid", "foam_overloaded", "foam_hot", "wheel_grips_more"})),
        Room(
            "brakes/", _("Brakes"), frozenset({"brake_grabs", "fluid_old", "fluid_boils", "fluid_close", "rotor_hot"})
        ),
        Room("controls/", _("Controls"), frozenset({"hands_shaken", "clutch_slips"})),
        Room("cooling/", _("Cooling"), frozenset(_HEAT), _BURNS),
        Room("electrics/", _("Electrics"), frozenset(_CURRENT)),
        Room("sound/", _("Sound and rules"), frozenset(_SOUND)),
        Room("build/", _("Build and spares"), frozenset({"build_late", "build_tight", "build_circle", "need_off"})),
    ),
    "card": (Room("", _("Card")), Room("week/", _("Race week"), frozenset(_WEEK)), Room("plan/", _("The plan"))),
    "trials": (
        Room("", _("Trials")),
        Room("plan/", _("Plan"), frozenset({"trial_blind_to_it", "two_things_changed"})),
        Room("run/", _("Run"), frozenset({"noisy"})),
        Room(
            "answer/", _("Answer"), frozenset({"change_put_back", "not_proven", "not_proven_ever", "model_surprised"})
        ),
        Room("day/", _("The day")),
        Room("compare/", _("Compare")),
    ),
}
