"""Runs: trials and how they were ridden."""
