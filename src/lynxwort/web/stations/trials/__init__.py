"""Trials: plan, run, answer."""
