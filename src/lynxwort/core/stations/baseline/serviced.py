"""Figures of the log: hours, what is left, risk, wear; of the gate: what was checked and what failed."""

from functools import cache
from math import isfinite

from lynxwort.core.figures import FIGURES, figure, step
from lynxwort.core.figures.service import ENDING, WEARING
from lynxwort.core.model.service.intervals import PART_KINDS
from lynxwort.core.physics.service.wear import clamped_hz, pinned_hz, string_hz
from lynxwort.core.report import Figure, Step
from lynxwort.core.stations.baseline.due import Due, due, race_risk, risks
from lynxwort.core.stations.baseline.gate import Checked, checked, to_sound
from lynxwort.core.stations.baseline.input import BaselineInput
from lynxwort.core.stations.baseline.worn import worn
from lynxwort.core.withdraw import withdrawn_by

#: length and thickness of a usual spoke [m]
SPOKE_M = (0.190, 0.0035)
_PRACTICE, _MANUAL = "from memory and practice, no source", "the manual, as it was typed"


def _left_out(name: str, reason: str) -> Figure:
    return figure(name, None, status="not_applicable", reason=reason)


def service_figures(given: BaselineInput) -> list[Figure]:
    """All of them; of a bike without a log none applies."""
    if not given.log.begun:
        return list(_NONE)
    found = {f.id: f for f in (*_parts(given), *_risks(given), *_wear(given), *_gate(given))}
    return [found.get(n) or _left_out(n, "unsaid") for n in _NAMES]


def _parts(given: BaselineInput) -> list[Figure]:
    log = given.log
    assert log is not None
    listed = due(log, given.use)
    told = [
        figure(
            "service.hours_bike", log.line.now_s, basis="measured",
            formula="the last reading of the meter, and what was ridden since; without one the sum of the rides",
            inputs=("service.rides",), source="TRIALS 5",
        ),
        figure(
            "service.due_count", sum(d.state in ("overdue", "exceeds_during_race") for d in listed),
            formula="parts whose interval ends before the race does", inputs=("service.parts",), source="TRIALS 5",
        ),
    ]  # fmt: skip
    for d in listed:
        told += _clock(given, d)
    return told


def _clock(given: BaselineInput, d: Due) -> list[Figure]:
    kind, source = d.part.kind, _PRACTICE if d.assumed else _MANUAL
    steps = (
        step("factor", given.log.factor(kind, given.use), "1", "sand, mud and full throttle of the race", _PRACTICE),
    )
    found = [
        figure(
            f"service.hours.{kind}", d.run_s, basis="measured",
            formula="carried + sum of rides since fitted x use factor", inputs=("service.parts", "service.rides"),
            source="TRIALS 5, use factors assumed",
        )
    ]  # fmt: skip
    if d.left_s is not None and d.left_after_s is not None:
        basis = "assumed" if d.assumed else "computed"
        found += [
            figure(f"service.left.{kind}", d.left_s, basis=basis, formula="interval - run", source=source,
                   inputs=("service.parts",)),
            figure(f"service.left_after_race.{kind}", d.left_after_s, basis=basis, steps=steps,
                   formula="interval - (run + still to be ridden + race x use factor)", source=source,
                   inputs=("service.parts", "service.practice_s")),
        ]  # fmt: skip
    return found


def _risks(given: BaselineInput) -> list[Figure]:
    found = risks(given.log, due(given.log, given.use))
    told = [
        figure(
            f"service.risk.{r.kind}", r.chance, low=r.low, high=r.high, basis="assumed",
            formula="P = 1 - (B/(B + (t+h)^b - t^b))^a, a = 3 + failed, B = 3 eta^b + sum of lives^b; "
                    "eta: 2 of 100 fail within the interval (1 to 10)",
            inputs=("service.parts",), source="Weibull by NIST/SEMATECH 8.1.6.2; interval as B2: assumption",
        )
        for r in found
    ]  # fmt: skip
    whole = race_risk(found)
    if whole is not None:
        told.append(
            figure(
                "service.risk_race", whole[0], low=whole[1], high=whole[2], basis="assumed",
                formula="1 - product of (1 - P) over the parts whose failure ends a race", inputs=("service.parts",),
                source="Weibull; interval as B2: assumption",
            )
        )  # fmt: skip
    return told


def _wear(given: BaselineInput) -> list[Figure]:
    seen, told = worn(given.log), list[Figure]()
    for name in WEARING:
        w = seen.get(name)
        if w is None or w.trend is None or not isfinite(w.trend.limit_s):
            continue
        told.append(
            figure(
                f"service.limit_at.{name}", w.trend.limit_s, low=w.earliest_s, basis="measured",
                formula="straight line through its readings; earliest: the end of a 90 % prediction interval",
                inputs=("service.wear",), source="Montgomery, Linear Regression 2.5",
            )
        )  # fmt: skip
    single = {
        "service.compression_sea": ("compression", "gauge x 101325 / pressure of the air", "gauge = p (r^n - 1)"),
        "service.chain_stretch": ("chain_length", "measured / (links x 15.875 mm) - 1", "ISO 606 pitch"),
    }
    for single_name, (measure, formula, source) in single.items():
        if measure in seen:
            told.append(
                figure(single_name, seen[measure].value, basis="measured", formula=formula, inputs=("service.wear",),
                       source=source)
            )  # fmt: skip
    sides = [w.value for m, w in seen.items() if m.startswith("spokes") and w.value is not None]
    if sides:
        told.append(
            figure("service.spoke_evenness", max(sides), basis="measured", formula="tone / median of its side - 1",
                   inputs=("service.wear",), steps=_tones(), source="evenness only: a tone hardly tells tension")
        )  # fmt: skip
    return told


@cache
def _tones() -> tuple[Step, ...]:
    """How little a tone tells of tension: of a usual spoke, its ends held, from slack to tight."""
    return tuple(
        step(f"tone at {pull:g} N", clamped_hz(pull, *SPOKE_M), "1/s", "a bar under tension, ends held; a string would "
             f"sound {string_hz(pull, *SPOKE_M):.0f}, ends that turn {pinned_hz(pull, *SPOKE_M):.0f}",
             "Euler, Bernoulli; Mersenne")
        for pull in (400.0, 800.0, 1200.0)
    )  # fmt: skip


def _taken_back(failing: list[Checked]) -> int:
    """How many figures the checks that failed take back."""
    by = {name: c.check.name for c in failing for name in c.check.withdraws}
    return sum(withdrawn_by(name, by) is not None for name in FIGURES)


def _gate(given: BaselineInput) -> list[Figure]:
    seen = checked(given.log, given.use.start)
    failing = [c for c in seen if c.state == "fail"]
    told = [
        figure("baseline.gate.failed", len(failing), basis="measured", formula="checks that failed and were not "
               "found mended", inputs=("service.checks",), source="TRIALS 6"),
        figure("baseline.gate.checked", sum(c.state != "unchecked" for c in seen), basis="measured",
               formula="checks found and not lapsed", inputs=("service.checks",), source="TRIALS 6"),
        figure("baseline.gate.withdrawn", _taken_back(failing), basis="computed",
               formula="figures that a failed check falsifies", inputs=("service.checks",), source="TRIALS 6"),
    ]  # fmt: skip
    if given.log.service.bought:
        sums = to_sound(seen)
        told.append(
            figure("service.hours_to_sound", sums.work_s, basis="assumed", formula="work of all that failed or is to "
                   "be looked at", inputs=("service.checks",), source="as said of each, else assumption")
        )  # fmt: skip
    return told


_NAMES = (
    "baseline.gate.failed", "baseline.gate.checked", "baseline.gate.withdrawn", "service.hours_bike",
    "service.due_count", "service.risk_race", "service.hours_to_sound", "service.compression_sea",
    "service.chain_stretch", "service.spoke_evenness",
    *(f"service.{what}.{k}" for what in ("hours", "left", "left_after_race") for k in PART_KINDS),
    *(f"service.risk.{k}" for k in ENDING),
    *(f"service.limit_at.{m}" for m in WEARING),
)  # fmt: skip
_NONE = tuple(_left_out(n, "no_log") for n in _NAMES)
