"""Reach: consumption learned from fill-ups, and the chance that the fuel lasts (the Range station)."""
