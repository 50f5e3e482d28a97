"""Draw the demo course from a seed and write it as GPX: an invented 41.6 km loop with noisy satellite heights.

Run `python tools/make_demo_course.py` after changing it; the GPX is committed.
"""

from pathlib import Path

import numpy as np
from scipy.ndimage import gaussian_filter1d

OUT = Path(__file__).parents[1] / "src/lynxwort/demo/brackenmere.gpx"
LENGTH_M, STEP_M, SEED = 41_600.0, 4.0, 20261123
#: from km, to km, how far the heading swings [rad], over what length [m]
SWING = ((0, 5.2, 0.45, 90), (5.2, 10.4, 0.85, 26), (10.4, 13.1, 0.6, 30), (13.1, 19.5, 0.6, 55), (19.5, 23, 0.45, 80),
         (23, 29.4, 0.85, 26), (29.4, 31.2, 0.6, 30), (31.2, 37.4, 0.3, 130), (37.4, 39.2, 0.25, 110), (39.2, 41.7, 0.45, 90))  # fmt: skip


def main() -> None:
    rng = np.random.default_rng(SEED)
    n = int(LENGTH_M / STEP_M)
    s = np.arange(n) * STEP_M
    swing = np.zeros(n)
    for a, b, size, scale in SWING:
        noise = gaussian_filter1d(rng.standard_normal(n), scale / STEP_M, mode="wrap")
        part = (s >= a * 1000) & (s < b * 1000)
        swing[part] += size * (noise / noise.std())[part]
    wander = gaussian_filter1d(rng.standard_normal(n), 1100 / STEP_M, mode="wrap")
    heading = 2 * np.pi * s / LENGTH_M + gaussian_filter1d(swing, 3) + 0.75 * wander / wander.std()
    east, north = np.cumsum(np.cos(heading)) * STEP_M, np.cumsum(np.sin(heading)) * STEP_M
    close = s / LENGTH_M
    east, north = east - close * east[-1], north - close * north[-1]
    hills = sum(size * gaussian_filter1d(rng.standard_normal(n), scale / STEP_M, mode="wrap") * np.sqrt(scale / STEP_M)
                for size, scale in ((75, 1600), (22, 420), (6, 130)))  # fmt: skip
    height = 560 + hills - (hills[0] + (hills[-1] - hills[0]) * s / LENGTH_M)
    read = height + gaussian_filter1d(rng.standard_normal(n), 3) * 3.0
    lat = 54.2 + north / 111_200.0
    lon = -2.6 + east / (111_200.0 * np.cos(np.radians(54.2)))
    points = "\n".join(f'   <trkpt lat="{a:.6f}" lon="{o:.6f}"><ele>{h:.1f}</ele></trkpt>' for a, o, h in zip(lat, lon, read, strict=True))
    OUT.write_text(
        '<?xml version="1.0" encoding="UTF-8"?>\n<gpx version="1.1" creator="Lynxwort demo" xmlns="http://www.topografix.com/GPX/1/1">\n'
        f" <trk><name>Brackenmere loop</name><trkseg>\n{points}\n </trkseg></trk>\n</gpx>\n"
    )


if __name__ == "__main__":
    main()
