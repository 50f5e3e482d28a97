"""The colours hold on their grounds: WCAG 2.2 contrast, computed from the built stylesheet's tokens."""

import re
from pathlib import Path

import pytest

CSS = (Path(__file__).parents[2] / "frontend/app.css").read_text()
TOKENS = dict(re.findall(r"--([\w-]+): (#[0-9a-f]{6});", CSS))


def luminance(colour: str) -> float:
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    r, g, b = (c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(a: str, b: str) -> float:
    high, low = sorted((luminance(TOKENS[a]), luminance(TOKENS[b])), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize(
    ("text", "ground", "least"),
    [("ink", "paper", 7), ("ink", "panel", 7), ("ink", "rail", 7), ("ink", "wort-fill", 6.5), ("soft", "panel", 7), ("soft", "paper", 5.5), ("soft", "rail", 5),
     ("moss", "panel", 5.5), ("rust", "panel", 5.5), ("rust", "paper", 5), ("slate", "panel", 5), ("wort", "panel", 5.5), ("on-ink", "ink", 7),
     ("on-ink-soft", "ink", 7), ("rust-on-ink", "ink", 5.5), ("moss-on-ink", "ink", 7), ("wort-fill", "ink", 5.5), ("edge", "panel", 3)],
)  # fmt: skip
def test_token_contrast(text, ground, least):
    assert contrast(text, ground) >= least
