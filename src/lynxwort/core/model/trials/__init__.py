"""Trials: one change ridden against what stood; days as they were ridden."""

from lynxwort.core.model.trials.day import ENDED, SOILS, WEATHERS, WHYS, ClickTurn, RiddenDay, Tape, Watering
from lynxwort.core.model.trials.trial import (
    ASPECTS,
    KINDS,
    MOST_SECTORS,
    Aspect,
    Conditions,
    Setting,
    Tap,
    Trial,
    TrialRun,
)

__all__ = [
    "ASPECTS", "ENDED", "KINDS", "MOST_SECTORS", "SOILS", "WEATHERS", "WHYS", "Aspect", "ClickTurn",
    "Conditions", "LineTap", "RiddenDay", "Setting", "Tap", "Tape", "Trial", "TrialRun", "Watering",
]  # fmt: skip
