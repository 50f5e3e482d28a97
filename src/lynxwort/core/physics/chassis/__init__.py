"""Chassis: masses and loads, springs, sag, and what readings say about them."""
