"""The bench: stations, notches, ledger, pit card."""
