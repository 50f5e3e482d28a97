"""Trials: one change ridden against what stood."""

from lynxwort.core.model.trials.trial import ASPECTS, KINDS, Aspect, Setting, Tap, Trial, TrialRun

__all__ = ["ASPECTS", "KINDS", "Aspect", "Setting", "Tap", "Trial", "TrialRun"]
