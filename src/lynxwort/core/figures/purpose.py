"""Figures of the race: distance, climb, air, schedule; and what was measured."""

from lynxwort.core.figures.spec import FigureSpec, told

FIGURES: dict[str, FigureSpec] = {
    "purpose.distance": told("m", "distance", "whole race, all laps, along the original track"),
    "purpose.lap_distance": told(
        "m", "distance", "one lap along the original track; with several stages each of them once"
    ),
    "purpose.laps": told("1", "count", "laps of the race, all stages; by hours the median of their distribution"),
    "purpose.schedule_margin_min": told(
        "s",
        "minutes",
        "time allowed minus likely time, least over the stages on a schedule",
        "higher",
        even_abs=20.0,
        card=17,
    ),
    "purpose.climb": told("m", "height", "height gained per lap after smoothing by the source of heights"),
    "purpose.raw_climb": told("m", "height", "height gained per lap if every point of the file were believed"),
    "purpose.lowest": told("m", "height", "lowest place of the course"),
    "purpose.highest": told("m", "height", "highest place of the course"),
    "purpose.density_ratio_max": told(
        "1", "share", "dry-air density / 1.225 kg/m3: lowest place, coldest, highest pressure, driest"
    ),
    "purpose.density_ratio_min": told(
        "1", "share", "dry-air density / 1.225 kg/m3: highest place, hottest, lowest pressure, dampest"
    ),
    "purpose.power_share_min": told(
        "1",
        "share",
        "share of standard power (990 hPa dry, 25 °C) left in the thinnest air, forecast at constant friction",
        card=18,
    ),
    "baseline.readings_used": told("1", "count", "readings that shape this report"),
}
