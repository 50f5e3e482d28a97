"""Courses, riders and races."""
