"""Units at the edge, and the notches in which a hand moves each tunable."""
