"""Stand-ins for devices and services: seeded, noisy, through the same doors as the real ones. What they say is
invented.
"""
