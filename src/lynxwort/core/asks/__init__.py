"""Questions that need another setup, or an answer of their own."""
