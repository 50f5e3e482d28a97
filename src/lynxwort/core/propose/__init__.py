"""Proposals: what a station offers, judged by evaluation before anybody is shown it."""
