"""The job: physics, rules and what is said of a setup. No Django, no input or output, no clock, no unseeded chance."""

CORE_VERSION = "2026.11.2"
