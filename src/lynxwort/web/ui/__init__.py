"""Pages of the shell, template tags, drawings: what every app shows itself with."""
