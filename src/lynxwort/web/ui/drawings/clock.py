"""The race on the clock: stops, hand-overs, start and finish, each with its spread, over day and dark."""

import itertools
from collections.abc import Sequence
from datetime import UTC, datetime, timedelta

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

#: width of the drawing, of one character of its text, and how far one row of words stands above the next
WIDTH, CHARACTER, ROW = 960.0, 7.4, 20.0
Mark = tuple[float, float, float, str, str, str]


def time_line(marks: Sequence[Mark], *, start: datetime, label: str) -> SafeString:
    """marks: likely, early, late [s after the start], words, kind, light ("day", "twilight", "dark"), in order."""
    left, right, last = 24.0, 60.0, max(m[2] for m in marks)

    def px(seconds: float) -> float:
        return left + (WIDTH - left - right) * seconds / max(last, 1.0)

    rows, ends = [], [0.0] * 4
    for likely, _early, _late, words, _kind, _light in marks:
        rows.append(next((k for k, end in enumerate(ends) if px(likely) >= end), len(ends) - 1))
        ends[rows[-1]] = px(likely) + CHARACTER * len(words) + 16
    axis, parts = 44.0 + ROW * max(rows), []
    for a, b in itertools.pairwise(marks):
        if b[5] != "day":
            parts.append(
                f'<rect x="{px(a[0]):.1f}" y="{axis - 9:.0f}" width="{max(px(b[0]) - px(a[0]), 1.0):.1f}" '
                f'height="18" class="clock-{b[5]}"/>'
            )
    parts.append(f'<path d="M{left} {axis}H{px(last):.1f}" class="clock-axis"/>')
    step = next((s for s in (600, 900, 1800, 3600, 7200, 14_400, 21_600) if last / s <= 9), 43_200)
    # hours added to a zoned hour would be wrong where the clock changes
    begin, zero = start.replace(minute=0, second=0, microsecond=0).astimezone(UTC), start.astimezone(UTC)
    ticks = (begin + timedelta(seconds=step * k) for k in range(200))
    for tick in itertools.takewhile(lambda t: (t - zero).total_seconds() <= last, ticks):
        after, told = (tick - zero).total_seconds(), tick.astimezone(start.tzinfo)
        if after >= 0:
            parts.append(
                f'<path d="M{px(after):.1f} {axis + 9:.0f}v7" class="clock-axis"/>'
                f'<text x="{px(after):.1f}" y="{axis + 34:.0f}" text-anchor="middle" class="tick">{told:%H:%M}</text>'
            )
    for (likely, early, late, words, kind, _light), row in zip(marks, rows, strict=True):
        x, top = px(likely), axis - 22 - ROW * row
        parts.append(
            f'<path d="M{px(early):.1f} {axis}H{px(late):.1f}" class="clock-spread"/>'
            f'<path d="M{x:.1f} {axis + 8:.0f}V{top - 10:.0f}" class="clock-stem"/>'
            f'<circle cx="{x:.1f}" cy="{axis}" r="7" class="clock-{kind}"/>'
            f'<text x="{x + 5:.1f}" y="{top:.0f}">{escape(words)}</text>'
        )
    return mark_safe(
        f'<svg class="drawing clock-drawing" viewBox="0 0 {WIDTH:.0f} {axis + 44:.0f}" role="img" '
        f'aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )
