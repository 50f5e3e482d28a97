"""The installation as a whole: serving it, its back-ups, putting one back, and one garage as lines."""
