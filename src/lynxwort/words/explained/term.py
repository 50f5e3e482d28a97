"""A word of the trade."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Term:
    """A word of the trade. also: what else it is called, apart by commas; room: where it is worked at, below the
    bench's address, empty for none.
    """

    word: str
    meaning: str
    also: str = ""
    room: str = ""
