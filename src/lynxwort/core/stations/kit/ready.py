"""What Kit says of the heat, the current, the sound, the rules and the build. Thresholds: HANDBOOK 9, assumption."""

from collections.abc import Callable

from lynxwort.core.physics.kit import coolant, electrics
from lynxwort.core.report import Severity
from lynxwort.core.stations.kit import building, candidates, cooling, sounding
from lynxwort.core.stations.kit import electrics as current
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.stations.station import Known
from lynxwort.core.tunables import current_value

Add = Callable[..., None]
MARGIN_LOOK_K, MARGIN_ACT_K = 15.0, 5.0
QUEUE_IN_HAND, QUEUE_LOOK_S = 1.3, 180.0
COLD_LOOK_K, COLD_ACT_K = 333.15, 323.15
FROST_IN_HAND_K = 5.0
#: a cap that lets it run so hot costs octane, hoses and seals [Pa]
CAP_LOOK_PA = 1.45e5
BATTERY_ACT_SHARE, STANDING_LOOK_S = 0.3, 600.0
DROP_LOOK, DROP_ACT = 0.03, 0.05
#: starts that a battery has to hold
LEAST_STARTS = 20
SOUND_LOOK_DB = 2.0
BUILD_LOOK = 0.7


def _low(value: float, look: float, act: float) -> Severity:
    """The gravity of a value that is better high."""
    return "act" if value < act else "look" if value < look else "ok"


def _cooling(given: KitInput, known: Known, add: Add) -> None:
    if not cooling.is_cooled(given):
        return
    names = ("kit.cooling.hottest", "kit.cooling.margin", "kit.cooling.crawl_time")
    margin, lasts = known["kit.cooling.margin"].value or 0.0, known["kit.cooling.crawl_time"].value
    at_m, asked, spoke = known["kit.cooling.hottest_at"].value, cooling.asked_s(given), False
    grave = _low(margin, MARGIN_LOOK_K, MARGIN_ACT_K)
    if grave != "ok":
        spoke = True
        add(
            "coolant_boils" if margin < 0.0 else "coolant_close", grave, figures=names[:2], at_m=at_m,
            proposals=candidates.cooler_coolant(given, MARGIN_LOOK_K, queue_s=None),
        )  # fmt: skip
    if lasts is not None and asked > 0.0 and lasts < QUEUE_IN_HAND * asked:
        spoke = True
        add(
            "queue_boils", "act", figures=(names[2],), asked_time=asked,
            at_m=float(given.lap.around.whole.distance_m[cooling.queue_place(given)]),
            proposals=candidates.cooler_coolant(given, None, queue_s=QUEUE_IN_HAND * asked),
        )  # fmt: skip
    elif lasts is not None and lasts < QUEUE_LOOK_S:
        spoke = True
        add(
            "queue_soon", "look", figures=(names[2],),
            proposals=candidates.cooler_coolant(given, None, queue_s=QUEUE_LOOK_S),
        )  # fmt: skip
    middle = known["kit.cooling.median"].value or 0.0
    grave = _low(middle, COLD_LOOK_K, COLD_ACT_K)
    if grave != "ok":
        spoke = True
        add("coolant_cold", grave, figures=("kit.cooling.median",), proposals=candidates.warmer_coolant(given))
    night = given.day.air.temperature_low_k
    if coolant.freezes_at(current_value(given.brakes, "glycol_share")) > night - FROST_IN_HAND_K:
        spoke = True
        add(
            "coolant_freezes", "act", figures=("kit.cooling.freezes",), night_temperature=night,
            proposals=candidates.frost(given, night - FROST_IN_HAND_K),
        )  # fmt: skip
    cap = current_value(given.brakes, "cap_pa")
    if cap > CAP_LOOK_PA:
        add("cap_runs_hot", "look", figures=names[:1], cap_tyre_pressure=cap)
    if not spoke:
        add("cooling_holds", "ok", figures=names[:2], at_m=at_m)


def _current(given: KitInput, known: Known, add: Add) -> None:
    facts = given.bike.kit.electrics
    mean, low = known["kit.elec.surplus_mean"].value, known["kit.elec.battery_low"].value
    if current.is_wired(given) and mean is None and any(i.watts_w for i in building.on_now(given)):
        add("generator_unsaid", "unknown", figures=("kit.elec.surplus_mean",))
    if mean is not None and mean < 0.0:
        names = ("kit.elec.surplus_mean", "kit.elec.battery_low", "kit.elec.laps_until_flat")
        more = candidates.more_current(given)
        if low is not None and facts.battery_j is not None:
            drained = low < BATTERY_ACT_SHARE * facts.battery_j
            grave: Severity = "act" if drained else "look"
            add("battery_drains", grave, figures=names, proposals=more)
        else:
            add("generator_short", "look", figures=names[:1], proposals=more)
    elif mean is not None and low is not None and any(i.watts_w for i in building.on_now(given)):
        add("current_holds", "ok", figures=("kit.elec.surplus_mean", "kit.elec.surplus_idle"))
    idle = known["kit.elec.surplus_idle"].value
    stands = max(s.standing_s + s.crawling_s for s in given.clock.stages)
    if idle is not None and idle < 0.0 and stands > STANDING_LOOK_S:
        add("idle_drains", "look", figures=("kit.elec.surplus_idle",), stands_time=stands)
    drop = known["kit.elec.drop_headlight"].value
    if drop is not None:
        grave = _low(-drop / electrics.NOMINAL_V, -DROP_LOOK, -DROP_ACT)
        if grave != "ok":
            add("lamp_wire_thin", grave, figures=("kit.elec.drop_headlight",))
    fuse = facts.lamp_fuse_a
    if fuse is not None and fuse > electrics.most_fuse(facts.lamp_wire_m2):
        add(
            "fuse_over_wire", "act", figures=("kit.elec.drop_headlight",), fuse_amps=fuse,
            most_amps=electrics.most_fuse(facts.lamp_wire_m2),
        )  # fmt: skip
    start = known["kit.elec.start_voltage"].value
    few = facts.battery_j is not None and facts.battery_j < LEAST_STARTS * electrics.START_J
    if start is not None and facts.starter == "electric" and (few or start < electrics.START_V):
        add("start_weak", "look", figures=("kit.elec.start_voltage",))
    outrun = known["kit.light.outrun"].value
    if outrun:
        add("outruns_light", "look", figures=("kit.light.outrun", "kit.light.reach"))


def _sound(given: KitInput, known: Known, add: Add) -> None:
    limit, margin = given.event.sound_limit_db, known["kit.sound.margin"].value
    names = ("kit.sound.level", "kit.sound.margin", "kit.sound.test_rpm")
    if limit is not None and sounding.is_loud(given):
        if margin is None:
            unsaid = known["kit.sound.test_rpm"].value is None
            add("stroke_unsaid" if unsaid else "sound_unsaid", "unknown", figures=names[2:], limit_db=limit)
        else:
            grave = _low(margin, SOUND_LOOK_DB, 0.0)
            code = {"act": "too_loud", "look": "nearly_too_loud", "ok": "quiet_enough"}[grave]
            more = candidates.quieter(given) if grave != "ok" else ()
            add(code, grave, figures=names, limit_db=limit, proposals=more)
    if sounding.is_drowned(given):
        add("sound_drowned", "look", figures=names[:1])
    left = sounding.open_rules(given)
    if left:
        add("rules_open", "act", figures=("kit.rules.open",), count=len(left))


def _build(given: KitInput, add: Add) -> None:
    for need in building.race_needs(given):
        said = any(i.need == "must" for i in need.there)
        if need.wanted.need == "must" and not need.on and not need.overruled and not said:
            add(
                "need_off", "act" if given.bike.kit.items else "look", figures=(),
                item=f"item_{need.wanted.items[0]}", why=f"why_{need.wanted.why}",
                proposals=candidates.put_on(need.there[:2]),
            )  # fmt: skip
    if not building.in_build(given):
        return
    seen = building.build(given)
    names = ("kit.build.critical_path", "kit.build.hours_left", "kit.build.missing")
    if seen.circle:
        add("build_circle", "act", figures=names[1:2])
    elif seen.to_start_s is not None and seen.plan:
        ends = seen.plan[-1].to_s
        grave = _low(-ends, -BUILD_LOOK * seen.to_start_s, -seen.to_start_s)
        code = {"act": "build_late", "look": "build_tight", "ok": "build_holds"}[grave]
        add(code, grave, figures=names, ends_time_s=ends, start_time_s=seen.to_start_s)


def findings(given: KitInput, known: Known, add: Add) -> None:
    """All of them, by the caller's way of adding one."""
    _cooling(given, known, add)
    _current(given, known, add)
    _sound(given, known, add)
    _build(given, add)
