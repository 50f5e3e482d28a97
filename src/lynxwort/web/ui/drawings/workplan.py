"""The order of work, drawn: a bar a job along the hours of work, what the end hangs on filled, what may wait with its
slack.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.safestring import SafeString

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks

ROW = 34


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """One job [h of work]: when it begins and ends, until when it may wait; critical; late: it waits for its part."""

    name: str
    from_h: float
    to_h: float
    slack_h: float
    critical: bool
    late: bool


def workplan(bars: Sequence[Bar], *, start_h: float | None, start_words: str, label: str, unit: str) -> SafeString:
    """Bars from the top in their order, names over them; start_h: where the race starts, in hours of work that fit."""
    end = max([b.to_h for b in bars] + ([start_h] if start_h is not None else []))
    plot = Plot(x=(0.0, max(end, 1.0) * 1.02), y=(0.0, 1.0), height=ROW * len(bars) + 44, left=1.0, right=1.5, top=8,
                bottom=28)  # fmt: skip
    for x in nice_ticks(0.0, end, 6):
        at = plot.px(x)
        plot.parts.append(f'<line x1="{at:.2f}%" y1="4" x2="{at:.2f}%" y2="{plot.height - 26}" class="rule"/>')
        plot.text(x, plot.height - 8, f"{x:g} {unit}", "tick", "middle" if x > 0.0 else "start")
    for i, b in enumerate(bars):
        top = 6 + ROW * i + 16
        x, width = plot.px(b.from_h), plot.px(b.to_h) - plot.px(b.from_h)
        if b.slack_h > 0.05:
            far = plot.px(min(b.to_h + b.slack_h, end)) - plot.px(b.to_h)
            plot.parts.append(
                f'<rect x="{x + width:.2f}%" y="{top + 4}" width="{max(far, 0.0):.2f}%" height="4" class="slack"/>'
            )
        css = "job critical" if b.critical else "job"
        plot.parts.append(
            f'<rect x="{x:.2f}%" y="{top}" width="{max(width, 0.4):.2f}%" height="12" class="{css}'
            f'{" late" if b.late else ""}"/>'
        )
        if x > 55.0:
            plot.text_at(x + width, top - 4, b.name, "job-name", "end")
        else:
            plot.text_at(x, top - 4, b.name, "job-name")
    if start_h is not None:
        at = plot.px(start_h)
        plot.parts.append(f'<line x1="{at:.2f}%" y1="0" x2="{at:.2f}%" y2="{plot.height - 26}" class="start-line"/>')
        plot.text_at(at - 0.6, 17, start_words, "start-words", "end")
    return plot.svg(label)
