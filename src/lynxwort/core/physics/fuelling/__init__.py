"""Fuelling: jets, needle, and richness against a known-good pair."""
