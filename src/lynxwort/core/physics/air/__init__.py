"""Air: standard atmosphere, moist air, pressure of three kinds, air along a course, power in that air."""
