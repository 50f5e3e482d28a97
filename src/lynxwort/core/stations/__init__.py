"""The stations: what is said of a setup, each from its own input."""
