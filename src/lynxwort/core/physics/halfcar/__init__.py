"""The ride: a half car with a rider on it over the ground's own bumps."""
