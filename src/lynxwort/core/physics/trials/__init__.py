"""Trials: timing, matching, design, effects, scores (TRIALS.md). Each law comes with its issue."""
