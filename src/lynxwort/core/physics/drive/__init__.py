"""Drive: gearing, pull, resistance, and the ride along the course."""
