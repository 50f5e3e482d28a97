"""What an address or a form says, read so that nothing it can hold breaks a page."""

#: digits of the largest number that SQLite's integers hold
DIGITS = 18


def whole_number(text: object) -> int | None:
    """A whole number from 0, of plain digits and short enough for a row's number; None for anything else, \u00b2 and 5,000 digits included."""
    plain = text if isinstance(text, str) else ""
    return int(plain) if plain.isascii() and plain.isdigit() and len(plain) <= DIGITS else None
