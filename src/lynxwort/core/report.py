"""What `evaluate` says: figures, findings, verdicts."""

from collections.abc import Callable, Mapping
from dataclasses import asdict, dataclass, field, fields, is_dataclass
from math import isfinite
from operator import attrgetter
from typing import Any, Literal, TypeVar

import numpy as np

from lynxwort.core.model.base import Part, field_facts
from lynxwort.core.model.inputs import Inputs

T = TypeVar("T")
Basis = Literal["computed", "calibrated", "assumed", "measured"]
Status = Literal["ok", "not_applicable", "unknown", "pending"]
Severity = Literal["ok", "unknown", "look", "act"]
SEVERITIES: tuple[Severity, ...] = ("ok", "unknown", "look", "act")


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """One step of the working, as the Why drawer shows it."""

    symbol: str
    value: float
    unit: str
    formula: str = ""
    source: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Figure:
    """One figure in SI. low, high: central 90 % interval, None when not computed yet; inputs: name, value, unit,
    assumed or given, looked up for `paths` when the report is put together; reason: code of why it does not apply.
    """

    id: str
    value: float | None
    unit: str
    low: float | None = None
    high: float | None = None
    basis: Basis = "computed"
    formula: str = ""
    steps: tuple[Step, ...] = ()
    inputs: tuple[tuple[str, float, str, str], ...] = ()
    paths: tuple[str, ...] = ()
    readings: tuple[str, ...] = ()
    source: str = ""
    status: Status = "ok"
    reason: str = ""

    @property
    def withheld(self) -> bool:
        """Whether a check of the gate took it back: its value is kept for the return and is not shown."""
        return self.reason.startswith("gate.")


@dataclass(frozen=True, slots=True, kw_only=True)
class Move:
    """One notch move of a proposal. owned: in the box, to buy, or None when no part is needed."""

    tunable: str
    value: float
    owned: bool | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Leaves:
    """What a proposal leaves of its finding. severity: of what is left, "ok" = settled; what: code of where; value_si:
    how far off there.
    """

    severity: Severity
    what: str = ""
    value_si: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """Something to say. code and parameters become words outside the core; at_m: place on the lap [m], when it has one;
    leaves: one per proposal where it is known.
    """

    station: str
    code: str
    severity: Severity
    parameters: Mapping[str, float | str] = field(default_factory=dict)
    figures: tuple[str, ...] = ()
    proposals: tuple[tuple[Move, ...], ...] = ()
    leaves: tuple[Leaves, ...] = ()
    at_m: float | None = None


class NothingBehind(LookupError):
    """A report that was kept and read back says what was said then; nothing more can be asked of it."""


#: figures that stand at a station of another name
_STAND_AT = {"service": "baseline"}


def station_of(figure: str) -> str:
    """The station at which a figure stands."""
    first = figure.split(".", 1)[0]
    return _STAND_AT.get(first, first)


STATIONS = ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "kit", "trials")


@dataclass(frozen=True, slots=True, kw_only=True)
class Report:
    """Everything said about one document. bands: where sag figures should lie; views: data of drawings that were asked
    for, and behind: what answers further questions, neither part of what is kept. not_judged: stations without a
    verdict, each with the check of the gate that took it; doubted: checks that failed or want a look.
    """

    core_version: str
    figures: Mapping[str, Figure]
    findings: tuple[Finding, ...]
    verdicts: Mapping[str, Severity]
    sensitivities: Mapping[str, tuple[float, float]]
    bands: Mapping[str, tuple[float, float]] = field(default_factory=dict)
    not_judged: Mapping[str, str] = field(default_factory=dict)
    doubted: tuple[str, ...] = ()
    views: Mapping[str, Any] = field(default_factory=dict, repr=False, compare=False)
    behind: Any = field(default=None, repr=False, compare=False)

    def value(self, figure: str) -> float | None:
        """Value of one figure in SI."""
        return self.figures[figure].value

    def is_pending(self, station: str) -> bool:
        """Whether a station was left for later."""
        return any(f.status == "pending" for k, f in self.figures.items() if station_of(k) == station)

    def ask(self, question: Callable[..., T], *args: Any, **more: Any) -> T:
        """The answer of a question of the core: a function whose first argument is a station's input, or all that
        follows from the document. Raises NothingBehind of a report that was read back.
        """
        if self.behind is None:
            raise NothingBehind
        return self.behind.ask(question, *args, **more)  # type: ignore[no-any-return]

    def of(self, station: str) -> tuple[Finding, ...]:
        """Findings of one station, most urgent first."""
        mine = [f for f in self.findings if f.station == station]
        return tuple(sorted(mine, key=lambda f: -SEVERITIES.index(f.severity)))

    def to_json(self) -> dict[str, Any]:
        """Plain data of the whole report."""
        return {
            "core_version": self.core_version,
            "figures": {k: {n: v for n, v in asdict(f).items() if n != "paths"} for k, f in self.figures.items()},
            "findings": [asdict(f) for f in self.findings],
            "verdicts": dict(self.verdicts),
            "sensitivities": {k: list(v) for k, v in self.sensitivities.items()},
            "bands": {k: list(v) for k, v in self.bands.items()},
        } | ({"not_judged": dict(self.not_judged), "doubted": list(self.doubted)} if self.doubted else {})


def plain(value: Any) -> Any:
    """A view as plain data: dataclasses and parts as objects, arrays as lists, what is no number as null."""
    if is_dataclass(value) and not isinstance(value, type):
        return {f.name: plain(getattr(value, f.name)) for f in fields(value)}
    if isinstance(value, np.ndarray):
        return plain(value.tolist())
    if isinstance(value, Part):
        return plain(value.model_dump(mode="json"))
    if isinstance(value, Mapping):
        return {str(k): plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        return [plain(v) for v in value]
    if isinstance(value, float):
        return value if isfinite(value) else None
    return value


def read_report(data: Mapping[str, Any]) -> Report:
    """A report kept as plain data, as it was said then; it has no work behind it. Figures unknown to it read as
    unknown.
    """
    known = {
        k: Figure(**{n: v for n, v in f.items() if n in Figure.__dataclass_fields__})
        for k, f in data["figures"].items()
    }
    findings = tuple(
        Finding(
            **(
                f
                | {
                    "figures": tuple(f["figures"]),
                    "proposals": tuple(tuple(Move(**m) for m in moves) for moves in f["proposals"]),
                    "leaves": tuple(Leaves(**left) for left in f.get("leaves", ())),
                }
            )
        )
        for f in data["findings"]
    )
    return Report(
        core_version=data["core_version"],
        figures=known,
        findings=findings,
        verdicts=data["verdicts"],
        sensitivities=data["sensitivities"],
        bands={k: (v[0], v[1]) for k, v in data.get("bands", {}).items()},
        not_judged=data.get("not_judged", {}),
        doubted=tuple(data.get("doubted", ())),
    )


def verdict(findings: tuple[Finding, ...]) -> Severity:
    """A station's verdict is its worst finding; without any it is unknown."""
    return max((f.severity for f in findings), key=SEVERITIES.index, default="unknown")


#: stands in a path for the place of the rider of the race's first entry
RIDER = "riders.entry."


def looked_up(inputs: Inputs, path: str) -> tuple[str, float, str, str] | None:
    """An input by its path: the path, value, unit, "given" or "assumed" (some parent or the field itself was left out,
    or is as such a bike usually has it); None when it is no number.
    """
    path = path.replace(RIDER, f"riders.{inputs.race.entries[0].rider}.")
    item: Any = inputs
    whole, _dot, within = path.partition(".")
    taken = inputs.bike.assumed if whole == "bike" else inputs.setup.assumed if whole == "setup" else ()
    given, unit = not any(within == a or within.startswith(f"{a}.") for a in taken), ""
    for step in path.split("."):
        if isinstance(item, tuple):
            item = item[int(step)]
            continue
        if isinstance(item, Part):
            given = given and step in item.model_fields_set
            unit = field_facts(type(item), step).unit
        item = getattr(item, step)
    return (path, float(item), unit, "given" if given else "assumed") if isinstance(item, int | float) else None


def with_inputs(figures: Mapping[str, Figure], inputs: Inputs) -> dict[str, Figure]:
    """Figures with what they rest on, as it is in these inputs."""
    seen: dict[str, tuple[str, float, str, str] | None] = {}

    def one(path: str) -> tuple[str, float, str, str] | None:
        if path not in seen:
            seen[path] = looked_up(inputs, path)
        return seen[path]

    return {
        k: _resting_on(f, tuple(i for i in map(one, f.paths) if i is not None)) if f.paths else f
        for k, f in figures.items()
    }


def _resting_on(figure: Figure, inputs: tuple[tuple[str, float, str, str], ...]) -> Figure:
    """The figure with its inputs: dataclasses.replace at a fifth of the time, some two hundred times a notch."""
    made = object.__new__(Figure)
    for slot, value in zip(_OTHERS, _other_values(figure), strict=True):
        slot.__set__(made, value)
    _INPUTS.__set__(made, inputs)
    return made


_INPUTS: Any = Figure.__dict__["inputs"]
_OTHERS: list[Any] = [Figure.__dict__[name] for name in Figure.__slots__ if name != "inputs"]
_other_values = attrgetter(*(slot.__name__ for slot in _OTHERS))
