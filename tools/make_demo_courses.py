"""Draw the demo's courses from seeds and write them as GPX: invented places, noisy satellite heights.

Run `python tools/make_demo_courses.py` after changing one; the GPX files are committed.
"""

from pathlib import Path

import numpy as np
from scipy.ndimage import gaussian_filter1d

OUT = Path(__file__).parents[1] / "src/lynxwort/demo"
#: file: name, length [m], step [m], seed, where, mean height [m], hills as (size [m], scale [m]), climb kept to [m] or
#: None,
#: heading swings as (from km, to km, size [rad], scale [m]), wander [rad]
COURSES = {
    "brackenmere": (
        "Brackenmere loop",
        41_600.0,
        4.0,
        20261123,
        (54.2, -2.6),
        560.0,
        ((75, 1600), (22, 420), (6, 130)),
        None,
        (
            (0, 5.2, 0.45, 90),
            (5.2, 10.4, 0.85, 26),
            (10.4, 13.1, 0.6, 30),
            (13.1, 19.5, 0.6, 55),
            (19.5, 23, 0.45, 80),
            (23, 29.4, 0.85, 26),
            (29.4, 31.2, 0.6, 30),
            (31.2, 37.4, 0.3, 130),
            (37.4, 39.2, 0.25, 110),
            (39.2, 41.7, 0.45, 90),
        ),
        0.75,
    ),
    "saltern": (
        "Saltern flats",
        26_000.0,
        8.0,
        31,
        (36.9, -4.8),
        240.0,
        ((26, 2400), (7, 500)),
        None,
        ((0, 9, 0.3, 220), (9, 13, 0.45, 90), (13, 20, 0.25, 260), (20, 26, 0.35, 150)),
        0.8,
    ),
    "hollowood": (
        "Hollowood",
        9_400.0,
        4.0,
        47,
        (48.1, 8.2),
        410.0,
        ((24, 700), (8, 180)),
        None,
        ((0, 3, 0.9, 22), (3, 4.2, 0.6, 50), (4.2, 7.4, 0.95, 20), (7.4, 9.4, 0.8, 28)),
        0.5,
    ),
    "gannach-up": (
        "Gannach, to the col",
        16_800.0,
        5.0,
        53,
        (46.4, 10.1),
        1180.0,
        ((150, 560), (30, 220)),
        1120.0,
        ((0, 6, 0.5, 70), (6, 12, 0.75, 34), (12, 16.8, 0.6, 50)),
        0.5,
    ),
    "gannach-col": (
        "Gannach, round the tarn",
        5_200.0,
        5.0,
        61,
        (46.47, 10.24),
        2240.0,
        ((55, 420), (14, 150)),
        None,
        ((0, 2, 0.75, 30), (2, 3.4, 0.5, 60), (3.4, 5.2, 0.85, 24)),
        0.5,
    ),
    "gannach-down": (
        "Gannach, down the gorge",
        14_200.0,
        5.0,
        59,
        (46.47, 10.24),
        2200.0,
        ((120, 1200), (30, 300)),
        -980.0,
        ((0, 5, 0.7, 36), (5, 9, 0.5, 60), (9, 14.2, 0.75, 30)),
        0.5,
    ),
    "gannach-meadow": (
        "Gannach, river meadows",
        4_400.0,
        5.0,
        67,
        (46.56, 10.36),
        1215.0,
        ((14, 400), (6, 120)),
        None,
        ((0, 2.2, 0.6, 60), (2.2, 4.4, 0.8, 34)),
        0.6,
    ),
}


def draw(name: str) -> str:
    """One course as GPX."""
    title, length, step, seed, (lat0, lon0), level, hills, rise, swings, wander = COURSES[name]
    rng = np.random.default_rng(seed)
    n = int(length / step)
    s = np.arange(n) * step
    swing = np.zeros(n)
    for a, b, size, scale in swings:
        noise = gaussian_filter1d(rng.standard_normal(n), scale / step, mode="wrap")
        part = (s >= a * 1000) & (s < b * 1000)
        swing[part] += size * (noise / noise.std())[part]
    slow = gaussian_filter1d(rng.standard_normal(n), 1100 / step, mode="wrap")
    loop = rise is None
    heading = (2 * np.pi * s / length if loop else 0.4) + gaussian_filter1d(swing, 3) + wander * slow / slow.std()
    east, north = np.cumsum(np.cos(heading)) * step, np.cumsum(np.sin(heading)) * step
    bumps = sum(
        size * gaussian_filter1d(rng.standard_normal(n), scale / step, mode="wrap") * np.sqrt(scale / step)
        for size, scale in hills
    )
    if loop:
        close = s / length
        east, north = east - close * east[-1], north - close * north[-1]
        height = level + bumps - (bumps[0] + (bumps[-1] - bumps[0]) * s / length)
    else:
        height = level + rise * s / length + bumps - bumps[0]
    read = height + gaussian_filter1d(rng.standard_normal(n), 3) * 3.0
    lat = lat0 + north / 111_200.0
    lon = lon0 + east / (111_200.0 * np.cos(np.radians(lat0)))
    points = "\n".join(
        f'   <trkpt lat="{a:.6f}" lon="{o:.6f}"><ele>{h:.1f}</ele></trkpt>'
        for a, o, h in zip(lat, lon, read, strict=True)
    )
    return (
        '<?xml version="1.0" encoding="UTF-8"?>\n<gpx version="1.1" creator="Lynxwort demo" '
        'xmlns="http://www.topografix.com/GPX/1/1">\n'
        f" <trk><name>{title}</name><trkseg>\n{points}\n </trkseg></trk>\n</gpx>\n"
    )


def ride() -> bytes:
    """A lap of the flats as the stand-in recorded it: the model with a hidden pace, noise and lost points."""
    from lynxwort.core.evaluate import evaluate
    from lynxwort.core.standin.logger import stand_in_lap
    from lynxwort.demo import scenario

    scenario.ridden_clock = lambda: [0.0, 500.0, 1200.0]  # the recording does not stand yet
    inputs = scenario.inputs("saltern")
    readings = tuple(r for r in inputs.readings if r.kind != "ridden_lap")
    work = evaluate(inputs.model_copy(update={"readings": readings})).behind.up
    return stand_in_lap(work, stage=0, start="2027-05-08T15:20:00", seed=3)


def main() -> None:
    for name in COURSES:
        (OUT / f"{name}.gpx").write_text(draw(name))
    (OUT / "saltern-ridden.gpx").write_bytes(ride())


if __name__ == "__main__":
    main()
