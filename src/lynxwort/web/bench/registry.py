"""Who draws which station, by dotted names, so that telling it loads nothing."""

_given: dict[str, str] = {}


def give(station: str, draw: str) -> None:
    """Tell the bench who draws a station: it is loaded when it is first drawn."""
    _given[station] = draw


def names() -> list[str]:
    """Stations that draw themselves."""
    return list(_given)


def draw_of(station: str) -> str:
    """The dotted name of what draws a station."""
    return _given[station]


_on_card: list[str] = []


def give_card(lines: str) -> None:
    """Tell the bench who has sentences for the pit card, by a dotted name."""
    _on_card.append(lines)


def card_lines() -> list[str]:
    """The dotted names of all who have."""
    return list(_on_card)
