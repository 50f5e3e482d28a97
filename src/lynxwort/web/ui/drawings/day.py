"""Drawing of a day: its laps in a row, the whoops that deepen under them, clicks above the lap they came before."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe

#: width of a lap, how deep whoops are drawn, height of a click [px]
WIDE, DEEPEST, CLICK = 84, 52, 14


@dataclass(frozen=True, slots=True)
class Lap:
    """A lap: its number, whoops under it [m], None without any; what was turned before it; the depth in words."""

    number: int
    depth_m: float | None
    turned: list[str]
    depth: str


def _waves(x: float, top: float, share: float) -> str:
    """Three whoops as wide as a lap, so deep, from a height down."""
    step, deep = WIDE / 6.0, share * DEEPEST
    wave = "".join(
        f"q{step / 2:.1f} {deep:.1f} {step:.1f} 0 q{step / 2:.1f} {-0.35 * deep:.1f} {step:.1f} 0" for _ in range(3)
    )
    return f'<path d="M{x:.1f} {top:.1f}{wave}" class="day-whoops"/>'


def ribbon(laps: Sequence[Lap], label: str) -> SafeString:
    """The laps in their order, the last one is the one that comes."""
    most = max((lap.depth_m for lap in laps if lap.depth_m is not None), default=None)
    clicks = min(max(len(lap.turned) for lap in laps), 4)
    base = 46 + CLICK * clicks
    high = base + DEEPEST + 34 if most else base + 6
    parts = []
    for k, lap in enumerate(laps):
        x, coming = k * WIDE, k + 1 == len(laps)
        said = f"{lap.number}: {', '.join(lap.turned)}" if lap.turned else str(lap.number)
        css = "day-lap coming" if coming else "day-lap"
        parts.append(
            f'<rect x="{x + 2}" y="{base - 40}" width="{WIDE - 4}" height="40" rx="4" class="{css}">'
            f"<title>{escape(said)}</title></rect>"
            f'<text x="{x + WIDE / 2:g}" y="{base - 14}" class="day-number" text-anchor="middle">{lap.number}</text>'
        )
        for n, _words in enumerate(lap.turned[:4]):
            # a click is a notch over the lap's left edge: it came before the lap
            parts.append(f'<path d="M{x + 2} {base - 47 - CLICK * n}l10 -6v12z" class="day-click"/>')
        if lap.depth_m is not None and most:
            parts.append(_waves(x, base + 10, lap.depth_m / most))
            at = f'x="{x + WIDE / 2:g}" y="{high - 6}"'
            parts.append(f'<text {at} class="tick" text-anchor="middle">{escape(lap.depth)}</text>')
    return mark_safe(
        f'<svg class="day-ribbon" viewBox="0 0 {WIDE * len(laps)} {high}" width="{WIDE * len(laps)}" height="{high}" '
        f'role="img" aria-label="{escape(label)}">{"".join(parts)}</svg>'
    )
