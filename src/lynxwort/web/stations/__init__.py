"""What each station puts on the bench: a folder a station."""
