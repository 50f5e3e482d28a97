"""The evenings before a race, drawn: a row a day, the work on it along its hours, a line where the work must begin."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.utils.html import escape
from django.utils.safestring import SafeString

from lynxwort.web.ui.drawings.plot import Plot, nice_ticks

ROW = 36


@dataclass(frozen=True, slots=True, kw_only=True)
class Bar:
    """Work on an evening [h from its beginning]: the number and name of its job; late: its part is not there."""

    from_h: float
    to_h: float
    number: int
    name: str
    late: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Evening:
    """A day: its words; bars; comes: numbers of the jobs whose part comes on it; race: words of the race, on its
    own day.
    """

    words: str
    bars: Sequence[Bar] = ()
    comes: Sequence[str] = ()
    race: str = ""


def weekplan(
    evenings: Sequence[Evening], *, hours: float, latest: str, comes: str, label: str, unit: str
) -> SafeString:
    """Days from the top, hours of the evening across. hours: that an evening has; latest, comes: words at the line
    where the work must begin, and of parts that come.
    """
    plot = Plot(x=(0.0, hours), y=(0.0, 1.0), height=ROW * len(evenings) + 30, left=22.0, right=1.0, top=4, bottom=26)
    for x in nice_ticks(0.0, hours, 4):
        at = plot.px(x)
        plot.parts.append(f'<line x1="{at:.2f}%" y1="4" x2="{at:.2f}%" y2="{plot.height - 24}" class="rule"/>')
        anchor = "end" if x > 0.9 * hours else "middle" if x > 0.0 else "start"
        plot.text(x, plot.height - 8, f"{x:g} {unit}", "tick", anchor)
    begun = False
    for k, day in enumerate(evenings):
        top = 4 + ROW * k
        plot.text_at(0.5, top + (15 if day.comes else 22), day.words, "job-name")
        if day.comes:
            plot.text_at(0.5, top + 31, comes.format(", ".join(day.comes)), "arrives")
        if day.race:
            plot.parts.append(
                f'<rect x="{plot.left}%" y="{top + 4}" width="{99 - plot.left}%" height="28" class="race-day"/>'
            )
            plot.text_at(plot.left + 1.5, top + 23, day.race, "on-bar")
            continue
        for bar in day.bars:
            _bar(plot, top, bar)
            if not begun:
                begun, at = True, plot.px(bar.from_h)
                plot.parts.append(
                    f'<line x1="{at:.2f}%" y1="{top}" x2="{at:.2f}%" y2="{top + 35}" class="start-line"/>'
                )
                if bar.from_h > 0.3 * hours:
                    plot.text_at(at - 0.8, top + 22, latest, "start-words", "end")
    return plot.svg(label)


def _bar(plot: Plot, top: float, bar: Bar) -> None:
    x, width = plot.px(bar.from_h), plot.px(bar.to_h) - plot.px(bar.from_h)
    css = "job late" if bar.late else "job"
    plot.parts.append(
        f'<rect x="{x:.2f}%" y="{top + 4}" width="{max(width - 0.2, 0.4):.2f}%" height="28" class="{css}"/>'
    )
    plot.text_at(x + 0.8, top + 23, str(bar.number), "on-bar")
    # a name where it has room: by the letter, of the narrowest screen that shows it
    if width > 6.0 + 1.35 * len(bar.name):
        plot.parts.append(f'<text x="{x + 3.6:.2f}%" y="{top + 23}" class="on-bar wide-only">{escape(bar.name)}</text>')
