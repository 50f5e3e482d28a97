"""The last step of an evaluation: what a failed check of the baseline gate makes unsure is no longer said as sure."""

from collections.abc import Collection, Mapping, Set
from dataclasses import dataclass, replace

from lynxwort.core.report import Figure, Finding, Report, Severity, station_of, verdict


@dataclass(frozen=True, slots=True, kw_only=True)
class Failed:
    """A check that did not pass. withdraws: stations ("fuelling"), figures ("drive.top_speed") and families of figures
    ("damping.front.") that it falsifies.
    """

    check: str
    withdraws: frozenset[str]


def withdraw(report: Report, gate: Collection[Failed], doubts: Collection[str] = ()) -> Report:
    """The report without the verdicts that the gate falsifies; the same report when nothing failed and nothing is in
    doubt.

    A figure withdrawn is unknown, its reason "gate.<check>", its value kept for the return. A station withdrawn is not
    judged and proposes nothing; one of whose findings only some rest on what is withdrawn says those no more as good.
    What it says stays, and what is to act on stays so: a failed check never softens a warning. doubts: checks that only
    want a look.
    """
    if not gate and not doubts:
        return report
    by = {name: failed.check for failed in reversed(tuple(gate)) for name in sorted(failed.withdraws)}
    figures = {k: _figure(f, by) for k, f in report.figures.items()}
    gone = {k for k, f in figures.items() if f.withheld}
    findings = tuple(_finding(f, by, gone) for f in report.findings)
    verdicts = {s: _verdict(s, v, by, findings) for s, v in report.verdicts.items()}
    return replace(
        report,
        figures=figures,
        findings=findings,
        verdicts=verdicts,
        not_judged={s: c for s in verdicts if (c := by.get(s) or _partly(s, report, verdicts, figures))},
        doubted=tuple(dict.fromkeys((*(f.check for f in gate), *doubts))),
    )


def withdrawn_by(name: str, by: Mapping[str, str]) -> str | None:
    """The check that takes a figure back, if any."""
    found = by.get(name) or by.get(station_of(name))
    return found or next(
        (check for family, check in by.items() if family.endswith(".") and name.startswith(family)), None
    )


def _figure(figure: Figure, by: Mapping[str, str]) -> Figure:
    check = withdrawn_by(figure.id, by)
    return replace(figure, status="unknown", reason=f"gate.{check}") if check and figure.status == "ok" else figure


def _finding(finding: Finding, by: Mapping[str, str], gone: Set[str]) -> Finding:
    if finding.station not in by and not (finding.figures and gone >= set(finding.figures)):
        return finding
    good: Severity = "unknown" if finding.severity == "ok" else finding.severity
    return replace(finding, severity=good, proposals=(), leaves=())


def _verdict(station: str, was: Severity, by: Mapping[str, str], findings: tuple[Finding, ...]) -> Severity:
    if station in by:
        return "unknown" if was != "act" else was
    mine = tuple(f for f in findings if f.station == station)
    return verdict(mine) if mine else was


def _partly(
    station: str, report: Report, verdicts: Mapping[str, Severity], figures: Mapping[str, Figure]
) -> str | None:
    """The check that left a station without its verdict though it has figures that still count."""
    if verdicts[station] == report.verdicts[station] or verdicts[station] != "unknown":
        return None
    reasons = [f.reason for k, f in figures.items() if station_of(k) == station and f.withheld]
    return reasons[0].removeprefix("gate.") if reasons else None
