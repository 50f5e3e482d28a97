"""Bikes, their setups, drafts and kept revisions."""
