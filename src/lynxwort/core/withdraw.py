"""The last step of an evaluation: what a failed check of the baseline gate makes unsure is no longer said as sure."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass, replace

from lynxwort.core.report import Figure, Finding, Report, Severity


@dataclass(frozen=True, slots=True, kw_only=True)
class Failed:
    """A check that did not pass. withdraws: stations ("fuelling") and figures ("drive.top_speed") it falsifies."""

    check: str
    withdraws: frozenset[str]


def withdraw(report: Report, gate: Collection[Failed]) -> Report:
    """The report without the verdicts that the gate falsifies; the same report when nothing failed.

    A figure withdrawn is unknown, its reason "gate.<check>", its value kept for the return. A station withdrawn is not
    judged and proposes nothing; what it says stays, and what is to act on stays so: a failed check never softens a
    warning.
    """
    if not gate:
        return report
    by = {name: failed.check for failed in reversed(tuple(gate)) for name in sorted(failed.withdraws)}
    return replace(
        report,
        figures={k: _figure(f, by) for k, f in report.figures.items()},
        findings=tuple(_finding(f, by) for f in report.findings),
        verdicts={s: _verdict(s, v, by) for s, v in report.verdicts.items()},
    )


def _figure(figure: Figure, by: Mapping[str, str]) -> Figure:
    check = by.get(figure.id) or by.get(figure.id.split(".", 1)[0])
    return replace(figure, status="unknown", reason=f"gate.{check}") if check and figure.status == "ok" else figure


def _finding(finding: Finding, by: Mapping[str, str]) -> Finding:
    return replace(finding, proposals=(), leaves=()) if finding.station in by else finding


def _verdict(station: str, verdict: Severity, by: Mapping[str, str]) -> Severity:
    return "unknown" if station in by and verdict != "act" else verdict
