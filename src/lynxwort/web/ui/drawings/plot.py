"""A plot whose curves stretch with the page and whose words do not."""

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
from django.utils.html import escape
from django.utils.safestring import SafeString, mark_safe
from numpy.typing import ArrayLike

from lynxwort.words import decimal

#: how wide a drawing is on a page and on a phone, and a letter of its words [px]; how far apart lines are to be read
WIDE_PX, PHONE_PX, LETTER_PX, LINE_PX = 640.0, 330.0, 7.2, 14.0


def nice_ticks(low: float, high: float, count: int = 6) -> list[float]:
    """Round values between low and high."""
    span = max(high - low, 1e-12)
    raw = span / count
    power = 10.0 ** len(str(int(raw))) / 10 if raw >= 1 else 10.0 ** -next(k for k in range(1, 15) if raw * 10**k >= 1)
    step = next(m * power for m in (1, 2, 2.5, 5, 10) if m * power >= raw)
    first = -(-low // step) * step
    return [first + i * step for i in range(int((high - first) / step + 1e-9) + 1)]


class Plot:
    """Collects SVG. left, right in percent of the width; top, bottom in pixels; x0..x1, y0..y1 the data's window."""

    def __init__(
        self,
        *,
        x: tuple[float, float],
        y: tuple[float, float],
        height: int,
        left: float = 7.0,
        right: float = 13.0,
        top: int = 22,
        bottom: int = 26,
    ) -> None:
        self.x0, self.x1 = x
        self.y0, self.y1 = y
        self.height, self.left, self.right, self.top, self.bottom = height, left, right, top, bottom
        self.parts: list[str] = []
        self.curves: list[str] = []
        self._x_ticks: list[tuple[int, float]] = []

    def px(self, x: float) -> float:
        """Percent across of a data x."""
        return self.left + (100.0 - self.left - self.right) * (x - self.x0) / (self.x1 - self.x0)

    def py(self, y: float) -> float:
        """Pixels down of a data y."""
        return self.height - self.bottom - (self.height - self.top - self.bottom) * (y - self.y0) / (self.y1 - self.y0)

    def text(self, x: float, y_px: float, words: str, css: str = "", anchor: str = "start") -> None:
        """Words at a data x and a pixel y."""
        self.text_at(self.px(x), y_px, words, css, anchor)

    def text_at(self, x_pct: float, y_px: float, words: str, css: str = "", anchor: str = "start") -> None:
        self.parts.append(
            f'<text x="{x_pct:.2f}%" y="{y_px:.1f}" text-anchor="{anchor}" class="{css}">'
            f"{escape(decimal(words) if css == 'tick' else words)}</text>"
        )

    def line(self, a: tuple[float, float], b: tuple[float, float], css: str) -> None:
        """A straight line between data points."""
        self.parts.append(
            f'<line x1="{self.px(a[0]):.3f}%" y1="{self.py(a[1]):.1f}" x2="{self.px(b[0]):.3f}%" '
            f'y2="{self.py(b[1]):.1f}" class="{css}"/>'
        )

    def box(self, a: tuple[float, float], b: tuple[float, float], css: str) -> None:
        """A rectangle between two data corners."""
        x, width = self.px(min(a[0], b[0])), abs(self.px(b[0]) - self.px(a[0]))
        y, height = self.py(max(a[1], b[1])), abs(self.py(b[1]) - self.py(a[1]))
        self.parts.append(f'<rect x="{x:.3f}%" y="{y:.1f}" width="{width:.3f}%" height="{height:.1f}" class="{css}"/>')

    def dot(self, x: float, y: float, css: str, radius: float = 6) -> None:
        self.parts.append(f'<circle cx="{self.px(x):.3f}%" cy="{self.py(y):.1f}" r="{radius}" class="{css}"/>')

    def _points(self, xs: ArrayLike, ys: ArrayLike) -> str:
        across, base = 1000.0 / (self.x1 - self.x0), self.height - self.bottom - self.top
        up = base / (self.y1 - self.y0)
        x, y = np.asarray(xs, dtype=float), np.asarray(ys, dtype=float)
        return _written(np.column_stack([(x - self.x0) * across, base - (y - self.y0) * up]).tobytes())

    def curve(self, xs: ArrayLike, ys: ArrayLike, css: str) -> None:
        """A line through data points."""
        self.curves.append(f'<polyline points="{self._points(xs, ys)}" class="curve {css}"/>')

    def area(self, xs: ArrayLike, low: ArrayLike, high: ArrayLike, css: str) -> None:
        """A filled band."""
        points = f"{self._points(xs, high)} {self._points(np.asarray(xs)[::-1], np.asarray(low)[::-1])}"
        self.curves.append(f'<polygon points="{points}" class="{css}"/>')

    def grid(self, xs: Sequence[tuple[float, str]], ys: Sequence[tuple[float, str]]) -> None:
        """Grid lines with their words."""
        for x, words in xs:
            self.line((x, self.y0), (x, self.y1), "grid")
            self._x_ticks.append((len(self.parts), self.px(x)))
            self.text(x, self.height - self.bottom + 18, words, "tick", "middle")
        for y, words in ys:
            self.line((self.x0, y), (self.x1, y), "grid")
            self.text_at(self.left - 1.0, self.py(y) + 5, words, "tick", "end")

    def axis_words(self, words: str, y_px: float) -> None:
        """What x is, at its right end; the ticks that would lie under it make room, on a phone more of them."""
        if abs(y_px - (self.height - self.bottom + 18)) < LINE_PX:
            for index, at in self._x_ticks:
                if at > 98.0 - 100.0 * LETTER_PX * len(words) / WIDE_PX:
                    self.parts[index] = ""
                elif at > 94.0 - 100.0 * LETTER_PX * len(words) / PHONE_PX:
                    self.parts[index] = self.parts[index].replace('class="tick"', 'class="tick wide-only"')
        self.text_at(99, y_px, words, "tick", "end")

    def svg(self, label: str, css: str = "", role: str = "img") -> SafeString:
        """The drawing. label: what a screen reader says; the table behind it holds the figures; role: "group" of one
        with something to press in it.
        """
        window = self.height - self.top - self.bottom
        inner = (
            f'<svg x="{self.left}%" y="{self.top}" width="{100 - self.left - self.right}%" height="{window}" '
            f'viewBox="0 0 1000 {window}" '
            f'preserveAspectRatio="none" overflow="hidden">{"".join(self.curves)}</svg>'
        )
        grid = [p for p in self.parts if 'class="grid"' in p]
        rest = [p for p in self.parts if 'class="grid"' not in p]
        body = "".join(grid) + inner + "".join(rest)
        return mark_safe(
            f'<svg class="drawing {css}" width="100%" height="{self.height}" role="{role}" '
            f'aria-label="{escape(label)}">{body}</svg>'
        )


@lru_cache(maxsize=1024)
def _written(points: bytes) -> str:
    """The points of a curve as SVG says them; written once as long as they are the same."""
    flat = np.frombuffer(points).tolist()
    return ("%.1f,%.1f " * (len(flat) // 2) % tuple(flat)).rstrip()
