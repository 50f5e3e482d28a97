"""The colours hold on their grounds: WCAG 2.2 contrast, computed from the built stylesheet's tokens."""

import re
from pathlib import Path

import pytest

CSS = (Path(__file__).parents[2] / "frontend/app.css").read_text()
DAY = dict(re.findall(r"--([\w-]+): (#[0-9a-f]{6});", CSS.split(":root {")[1].split("}")[0]))
NIGHT = DAY | dict(
    re.findall(r"--([\w-]+): (#[0-9a-f]{6});", CSS.split(':root[data-theme="night"] {')[1].split("}")[0])
)
SUN = DAY | dict(re.findall(r"--([\w-]+): (#[0-9a-f]{6});", CSS.split(":root.sun[data-theme] {")[1].split("}")[0]))
THEMES = {"day": DAY, "night": NIGHT, "sun": SUN}
BARS = {
    "day": DAY["ink"],
    "night": re.search(r':root\[data-theme="night"\] :is\(\.top, \.ledger\) \{ --ink: (#[0-9a-f]{6})', CSS).group(1),
}


def luminance(colour: str) -> float:
    parts = [int(colour[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    r, g, b = (c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(a: str, b: str) -> float:
    high, low = sorted((luminance(a), luminance(b)), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize(
    ("text", "ground", "least"),
    [
        ("ink", "paper", 7),
        ("ink", "panel", 7),
        ("ink", "rail", 7),
        ("on-wort", "wort-fill", 6.5),
        ("on-now", "now", 7),
        ("ink", "field", 7),
        ("on-ink", "ink", 7),
        ("on-alarm", "alarm", 5.5),
        ("soft", "panel", 7),
        ("soft", "paper", 5.5),
        ("soft", "rail", 5),
        ("moss", "panel", 5.5),
        ("rust", "panel", 5.5),
        ("rust", "paper", 5),
        ("slate", "panel", 5),
        ("wort", "panel", 5.5),
        ("edge", "panel", 3),
        ("edge", "field", 3),
    ],
)
@pytest.mark.parametrize("theme", THEMES)
def test_token_contrast(text, ground, least, theme):
    tokens = THEMES[theme]
    assert contrast(tokens[text], tokens[ground]) >= least


@pytest.mark.parametrize("text", ["ink", "soft", "moss", "rust", "wort", "slate", "edge"])
def test_in_the_sun_everything_stands_at_seven_to_one_on_white(text):
    """WCAG 2.2, 1.4.6 (enhanced): 7:1 for text; a line and an edge as well."""
    assert {SUN[ground] for ground in ("paper", "panel", "rail", "field")} == {"#ffffff"}
    assert contrast(SUN[text], "#ffffff") >= 7.0


@pytest.mark.parametrize("theme", ["day", "night"])
def test_the_bars_above_and_below_hold_in_both_themes(theme):
    for text, least in (
        ("#faf6ec", 7),
        (DAY["on-ink-soft"], 7),
        (DAY["rust-on-ink"], 5.5),
        (DAY["moss-on-ink"], 7),
        (DAY["wort-fill"], 5.5),
    ):
        assert contrast(text, BARS[theme]) >= least


def test_the_device_theme_is_the_night_theme():
    auto = CSS.split(':root[data-theme="auto"] {')[1].split("}")[0]
    assert re.sub(r"\s", "", auto) == re.sub(r"\s", "", CSS.split(':root[data-theme="night"] {')[1].split("}")[0])
