"""Trials: one change ridden against what stood; days as they were ridden."""

from lynxwort.core.model.trials.day import (
    ENDED,
    MOST_CLICKS,
    MOST_DAYS,
    SOILS,
    WEATHERS,
    WHYS,
    ClickTurn,
    RiddenDay,
    Tape,
    Watering,
)  # fmt: skip
from lynxwort.core.model.trials.trial import (
    ASPECTS,
    KINDS,
    MOST_RUNS,
    MOST_SECTORS,
    MOST_TRIALS,
    Aspect,
    Conditions,
    LineTap,
    Setting,
    Tap,
    Trial,
    TrialRun,
)  # fmt: skip

__all__ = [
    "ASPECTS", "ENDED", "KINDS", "MOST_CLICKS", "MOST_DAYS", "MOST_RUNS", "MOST_SECTORS", "MOST_TRIALS", "SOILS",
    "WEATHERS", "WHYS", "Aspect", "ClickTurn", "Conditions", "LineTap", "RiddenDay", "Setting", "Tap", "Tape",
    "Trial", "TrialRun", "Watering",
]  # fmt: skip
