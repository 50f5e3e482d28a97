"""Days as they are written, like 2027-04-02: told to be days, and how many lie between two."""

import re

import numpy as np

_DAY = re.compile(r"^(?:19|20)\d{2}-\d{2}-\d{2}$")


def checked_day(value: str | None) -> str | None:
    """The same day. Raises ValueError for what is none: pydantic's refusal at the field."""
    if value is None:
        return None
    try:
        if not _DAY.match(value):
            raise ValueError
        np.datetime64(value, "D")
    except ValueError:
        raise ValueError("not_a_day") from None
    return value


def days_between(first: str, last: str) -> int:
    """Days from one to another; none where the last is not after the first."""
    return max(int((np.datetime64(last[:10], "D") - np.datetime64(first[:10], "D")).astype(int)), 0)
