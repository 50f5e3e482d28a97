"""Who is let into a garage: codes to join by, what each may do there, and who did what."""
