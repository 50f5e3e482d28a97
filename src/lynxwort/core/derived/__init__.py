"""What follows from the given, made once for everybody: each thing from its own small input, which is its key."""
