"""Errors of the core carry data; words are made outside."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Refusal:
    """One refused input. path: dotted place in the document; low, high: allowed bounds in unit."""

    path: str
    code: str
    low: float | None = None
    high: float | None = None
    unit: str | None = None
    message: str = ""


class InputRefused(ValueError):
    """The input was refused at the door. `refusals` says where and why."""

    def __init__(self, *refusals: Refusal) -> None:
        self.refusals = refusals
        super().__init__("; ".join(f"{r.path}: {r.code} {r.message}".strip() for r in refusals))


class OutOfModelRange(ValueError):
    """A function was asked outside the range where its model holds."""

    def __init__(self, quantity: str, value: float, low: float, high: float, unit: str) -> None:
        self.quantity, self.value, self.low, self.high, self.unit = quantity, value, low, high, unit
        super().__init__(f"{quantity} = {value:g} {unit}; the model holds from {low:g} to {high:g} {unit}")


def require_range(quantity: str, value: float, low: float, high: float, unit: str) -> None:
    """Refuse a value outside [low, high], NaN included. Raises OutOfModelRange."""
    if not (low <= value <= high):
        raise OutOfModelRange(quantity, value, low, high, unit)
