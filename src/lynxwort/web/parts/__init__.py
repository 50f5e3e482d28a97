"""The parts box."""
