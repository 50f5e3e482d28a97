"""Home: the stand with the races to come, and the search over everything."""
