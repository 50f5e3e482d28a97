"""People, their garages, and how they come in."""
