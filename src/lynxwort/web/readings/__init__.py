"""Readings: what was measured on a bike."""
