"""How good a setup is, level by level, each compared only where those above it are even: nothing sells safety for
comfort.
"""

from collections.abc import Iterable, Mapping
from dataclasses import astuple, dataclass
from math import ceil, inf

from scipy.special import ndtr

from lynxwort.core.judging import LEAN_MARGINS
from lynxwort.core.model.defaults import Z90
from lynxwort.core.physics.fuelling.richness import RICH_LOOK
from lynxwort.core.propose.liking import TIMES
from lynxwort.core.report import Figure, Finding, Report
from lynxwort.core.stations.damping.candidates import METAL_LOOK
from lynxwort.core.stations.kit.ready import MARGIN_LOOK_K, SOUND_LOOK_DB
from lynxwort.core.stations.range.chance import sure
from lynxwort.core.stations.range.input import RangeInput

#: what can hurt somebody or an engine, or is forbidden: weighed before all else (assumption)
SAFETY = frozenset(
    {
        "brake_grabs", "cap_runs_hot", "chain_no_length", "chain_other_length", "coolant_boils", "coolant_close",
        "coolant_freezes", "detonation_near", "flow_short", "fluid_boils", "fluid_close", "foam_hot",
        "foam_overloaded", "fuse_over_wire", "gate_failed", "gate_no_riding", "lamp_wire_thin", "lean_below_half",
        "motor_derates", "must_off", "need_off", "oil_beyond", "oil_tank_short", "outruns_light", "pack_derates",
        "part_touches", "queue_boils", "rotor_hot", "rules_open", "sprocket_hits_case", "stack_too_high",
        "too_lean_injected", "too_lean_jetted", "too_lean_rod", "too_loud", "trail_less_than_proven", "trail_short",
        "tyre_too_slow",
    }
)  # fmt: skip
#: stations whose findings no change of a setup settles: what is worn or due, what is on trial
ELSEWHERE = frozenset({"baseline", "trials"})
#: what is said of the finish is weighed by its chance
FINISH = frozenset({"may_run_dry", "may_run_dry_energy", "plan_runs_dry", "packs_run_dry"})
#: what says that a range is lean, and the ranges' margins: where Fuelling lets one stand, so does a plan
LEAN, RANGES = frozenset({"too_lean_jetted", "too_lean_rod", "too_lean_injected", "lean_below_half"}), LEAN_MARGINS
#: of another finding, by how bad it is; step of the lean shortfall [1] and of the chance to finish [1] (PROPOSE 1)
WEIGHTS = {"act": 10, "look": 3}
LEAN_STEP, FINISH_STEP = 1e-4, 0.002


@dataclass(frozen=True, slots=True, kw_only=True)
class Levels:
    """Smaller is better, the first that differs decides. lean: what is missing to the lean limit in the ranges of the
    throttle that are said to be lean [steps of LEAN_STEP]; act, look: findings of safety; short: what is missing to
    the wanted chance to finish [steps of FINISH_STEP]; rest: other findings by their weights.
    """

    lean: int
    act: int
    look: int
    short: int
    rest: int

    @property
    def key(self) -> tuple[int, ...]:
        """To compare by."""
        return astuple(self)


def finish_short(given: RangeInput) -> float:
    """What is missing to the wanted chance to finish [1]. The chance is the reckoned one: the cap on a bike that was
    never measured would buy tanks for ever.
    """
    return max(0.0, given.certainty - sure(given))


def finish_missed(given: RangeInput) -> float:
    """Reckoned chance not to finish [1]."""
    return 1.0 - sure(given)


def levels_of(report: Report, minded: frozenset[str] = frozenset()) -> Levels:
    """The levels of a report. Of one in which stations are pending they are the least that they can be. minded: codes
    that this rider minds more, see liking.
    """
    loud = [f for f in report.findings if f.severity in WEIGHTS]
    margins = {name for f in loud if f.code in LEAN for name in f.figures if name in RANGES}
    lean = sum(max(0.0, -(report.value(name) or 0.0)) for name in margins)
    return Levels(
        lean=ceil(lean / LEAN_STEP - 1e-6),
        act=sum(f.code in SAFETY and f.severity == "act" for f in loud),
        look=sum(f.code in SAFETY and f.severity == "look" for f in loud),
        short=ceil(report.ask(finish_short) / FINISH_STEP - 1e-6),
        rest=sum(
            WEIGHTS[f.severity] * (TIMES if f.code in minded else 1) for f in loud if f.code not in SAFETY | FINISH
        ),
    )


def outside(figure: Figure | None, low: float, high: float) -> float:
    """Chance [1] that a figure truly lies outside of bounds, read off its own 90 % range."""
    if figure is None or figure.value is None or figure.withheld:
        return 0.0
    if figure.low is None or figure.high is None or figure.high - figure.low < 1e-12:
        return float(not low <= figure.value <= high)
    sd = (figure.high - figure.low) / (2.0 * Z90)
    return float(ndtr((figure.value - high) / sd) + ndtr((low - figure.value) / sd))


#: bounds beyond which a figure brings a finding; sags have theirs in the report
BOUNDS = {
    "fuelling.richness_full_thinnest": (-inf, RICH_LOOK),
    "drive.metres_short": (-inf, 0.5),
    "damping.front.bottomings": (-inf, METAL_LOOK),
    "damping.rear.bottomings": (-inf, METAL_LOOK),
    "kit.cooling.margin": (MARGIN_LOOK_K, inf),
    "kit.sound.margin": (SOUND_LOOK_DB, inf),
}


def risk(report: Report, bands: Mapping[str, tuple[float, float]]) -> float:
    """Expected number of things to say that the ranges of the figures leave open, those that are said among them. A
    lean margin is the lean end of its range already; a mixture that is richer than needed counts by how much, without
    end. bands: in which sags should lie for this rider.
    """
    bounds = BOUNDS | dict(bands)
    rich = max(0.0, (report.value("fuelling.richness_full_thinnest") or 0.0) - RICH_LOOK) / RICH_LOOK
    lean = sum((report.value(name) or 0.0) < 0.0 for name in LEAN_MARGINS)
    return sum(outside(report.figures.get(n), *b) for n, b in bounds.items()) + rich + lean + report.ask(finish_missed)


def loud(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Those that ask for something."""
    return tuple(f for f in findings if f.severity in WEIGHTS)


def is_elsewhere(finding: Finding) -> bool:
    """Whether no change of a setup settles it and nobody is in danger by it: a fail of the gate is always told."""
    return finding.station in ELSEWHERE and finding.code not in SAFETY
