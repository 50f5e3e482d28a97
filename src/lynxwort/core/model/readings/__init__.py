"""Readings: what was measured, with all it was measured under."""

from typing import Annotated, get_args

from pydantic import Field

from lynxwort.core.model.readings.base import AIR, FUEL, Air, BaseReading, Under
from lynxwort.core.model.readings.fuel import (
    ChargeReading,
    DynoPoint,
    DynoReading,
    DynoStandard,
    FeelReading,
    FillUpReading,
    FlowReading,
    KnownGoodReading,
    LogCell,
    LogReading,
    Symptom,
    Zone,
)
from lynxwort.core.model.readings.kit import (
    CoolantReading,
    FlatsReading,
    GeneratorReading,
    HandsReading,
    LeverReading,
    RotorReading,
    SoundReading,
    SwingReading,
)
from lynxwort.core.model.readings.road import (
    HillReading,
    RiddenLapReading,
    RollOutReading,
    RpmSpeedReading,
    TopSpeedReading,
)
from lynxwort.core.model.readings.standing import (
    GeometryOf,
    GeometryReading,
    SagReading,
    SteadyReading,
    TiltReading,
    WeighingReading,
)

__all__ = [
    "AIR",
    "FUEL",
    "KINDS",
    "Air",
    "BaseReading",
    "ChargeReading",
    "CoolantReading",
    "DynoPoint",
    "DynoReading",
    "DynoStandard",
    "FeelReading",
    "FillUpReading",
    "FlatsReading",
    "FlowReading",
    "GeneratorReading",
    "GeometryOf",
    "GeometryReading",
    "HandsReading",
    "HillReading",
    "KnownGoodReading",
    "LeverReading",
    "LogCell",
    "LogReading",
    "Reading",
    "RiddenLapReading",
    "RollOutReading",
    "RotorReading",
    "RpmSpeedReading",
    "SagReading",
    "SoundReading",
    "SteadyReading",
    "SwingReading",
    "Symptom",
    "TiltReading",
    "TopSpeedReading",
    "Under",
    "WeighingReading",
    "Zone",
]

Reading = Annotated[
    SagReading
    | WeighingReading
    | TiltReading
    | GeometryReading
    | SteadyReading
    | FillUpReading
    | ChargeReading
    | KnownGoodReading
    | FlowReading
    | FeelReading
    | DynoReading
    | LogReading
    | RollOutReading
    | RpmSpeedReading
    | TopSpeedReading
    | HillReading
    | RiddenLapReading
    | RotorReading
    | LeverReading
    | FlatsReading
    | SwingReading
    | HandsReading
    | CoolantReading
    | GeneratorReading
    | SoundReading,
    Field(discriminator="kind"),
]
#: all readings by kind, in the order in which they are asked
KINDS: dict[str, type[BaseReading]] = {c.model_fields["kind"].default: c for c in get_args(get_args(Reading)[0])}
