"""Single proposals: a station's candidates come from closed forms; each is evaluated whole, and only what holds is
shown.
"""

from collections.abc import Iterable
from dataclasses import replace

from pydantic import ValidationError

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.model.setup import Setup
from lynxwort.core.propose.leaning import is_leaner
from lynxwort.core.propose.work import may_buy, owned
from lynxwort.core.report import SEVERITIES, Finding, Leaves, Move, Report
from lynxwort.core.tunables import is_of_mixture, move, said_value

#: an act that a way out of a lean mixture may lead to: richer than needed fouls, lean seizes; it is said with the
#: proposal
RICH = "rich_high_up"
#: what feeds an engine the more, the greater it is
RICHER_UP = frozenset({"main_jet", "pilot_jet"})
#: codes that say the same thing, only of another way out or of how bad it is
ALIKE = {"bottoms_anyway": "bottoms_no_click", "bottoms_click": "bottoms_no_click", "fluid_close": "fluid_boils"}


def moved(setup: Setup, moves: Iterable[Move]) -> Setup:
    """The setup after some moves. Raises InputRefused, pydantic's ValidationError."""
    for m in moves:
        setup = move(setup, m.tunable, m.value)
    return setup


def as_sold(inputs: Inputs, moves: Iterable[Move]) -> tuple[Move, ...]:
    """Moves as a shop can serve them: where it was said what it has of a kind, the size that is enough and nearest,
    else the nearest on the same side; a filling goes with its tank. As they are where it has none on that side, and
    where another size might be leaner than what was proposed.
    """
    found, filled = [], dict[float, float]()
    for m in moves:
        value, now = m.value, said_value(inputs.setup, m.tunable)
        if now is not None and owned(inputs.parts, m.tunable, value) is False:
            way = 1.0 if value > now else -1.0
            leaner = is_of_mixture(m.tunable) and not (m.tunable in RICHER_UP and way > 0.0)
            if not leaner and not may_buy(inputs.parts, m.tunable, value):
                there = [v for v in inputs.parts.sold(m.tunable) if (v - now) * way > 0.0]
                value = min(there, key=lambda v: ((v - m.value) * way < 0.0, abs(v - m.value)), default=value)
            filled[m.value] = value
        elif m.tunable == "fuel_fill_m3":
            value = filled.get(value, value)
        found.append(replace(m, value=value))
    return tuple(found)


def key_of(finding: Finding) -> tuple[object, ...]:
    """What tells a finding from others: what it says, of which end or part."""
    return (
        finding.station,
        ALIKE.get(finding.code, finding.code),
        finding.parameters.get("end"),
        finding.parameters.get("part"),
    )


def grade(finding: Finding) -> int:
    """How bad it is: what must be acted on is the greatest."""
    return SEVERITIES.index(finding.severity)


def left_by(before: Report, finding: Finding, told: Leaves | None, after: Report) -> Leaves | None:
    """What a proposal leaves of its finding when the report after it is this; None when it does not hold.

    It does not hold when its finding is as bad as before and it does not say so, when it leans the engine as a plan is
    measured (see leaning), and when it brings something to act on that was not there: but for a mixture richer than
    needed in place of one too lean, which it then says.
    """
    if is_leaner(before, after):
        return None
    same = [f for f in after.findings if key_of(f) == key_of(finding)]
    owned_up = -1 if told is None else SEVERITIES.index(told.severity)
    if any(grade(f) >= grade(finding) and owned_up < grade(f) for f in same):
        return None
    known = {key_of(f) for f in before.findings if f.severity == "act"}
    acts = [f for f in after.findings if f.severity == "act" and key_of(f) not in known]
    if acts and not (finding.severity == "act" and {f.code for f in acts} == {RICH}):
        return None
    if acts:
        return Leaves(severity="act", what="rich_full", value_si=after.value("fuelling.richness_full_thinnest") or 0.0)
    return told or Leaves(severity=max((f.severity for f in same), key=SEVERITIES.index, default="ok"))


def held(up: Upstream, report: Report, finding: Finding) -> Finding:
    """The finding with those of its proposals that hold, each with what it leaves."""
    kept: list[tuple[tuple[Move, ...], Leaves]] = []
    for i, asked in enumerate(finding.proposals):
        moves = as_sold(up.inputs, asked)
        try:
            setup = moved(up.inputs.setup, moves)
            if setup_misfit(up.inputs.bike, setup):
                continue
            after = evaluate(
                up.inputs.model_copy(update={"setup": setup}), cache=up.cache, sensitivities=report.sensitivities
            )
        except (InputRefused, ValidationError):
            continue
        left = left_by(report, finding, finding.leaves[i] if i < len(finding.leaves) else None, after)
        if left is not None:
            kept.append((moves, left))
    return replace(finding, proposals=tuple(m for m, _left in kept), leaves=tuple(left for _m, left in kept))


def judged(up: Upstream, report: Report, station: str) -> tuple[Finding, ...]:
    """The findings of a station, most urgent first, with the proposals that hold."""
    return tuple(held(up, report, f) if f.proposals else f for f in report.of(station))
