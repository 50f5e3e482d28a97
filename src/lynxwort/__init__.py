"""Lynxwort: sets up an off-road race bike for one race, one course, one day's air."""

__version__ = "0.9.0"
