"""A stand-in rider who rides a trial: seeded, drifting, now and then botching a lap, scoring and guessing."""

from collections.abc import Sequence

import numpy as np
from scipy.ndimage import gaussian_filter1d

from lynxwort.core.model.track import Track
from lynxwort.core.model.trials import ASPECTS, Trial, TrialRun
from lynxwort.core.physics.course.export import write_gpx
from lynxwort.core.physics.course.prepare import track_distance
from lynxwort.core.standin.logger import DRIFT_S, LOST_SHARE, NOISE_M

#: a botched lap loses so many sd on average; scores spread by so much; a track dries or tires by so many sd a lap
BOTCHED_SD, SCORE_SD, DRIFT_SD = 8.0, 1.0, 0.1
#: of a sector's time as a receiver gives it [s]
SECTOR_ERROR_S = 0.2
METRES_PER_DEGREE = 111_195.0


def ride(
    trial: Trial,
    seed: int,
    *,
    effect_share: float = 0.0,
    lap_sd: float | None = None,
    drift_share: float | None = None,
    botched_share: float = 0.0,
    called_share: float = 1.0,
    felt_chance: float = 0.5,
    runs: int | None = None,
    sectors: int = 0,
) -> tuple[TrialRun, ...]:
    """Runs of a trial in its order, the first `runs` of them. effect_share: what the change does [1 of a lap]; lap_sd:
    as planned when left out; drift_share: from one lap to the next; botched_share: how often a lap goes wrong,
    called_share: how often he says so, and rides it again; felt_chance: how often a guess is right; sectors: each lap
    cut into so many, of which the second half has the change's effect.
    """
    rng = np.random.default_rng(seed)
    sd = trial.noise_sd if lap_sd is None else lap_sd
    drift = DRIFT_SD * sd if drift_share is None else drift_share
    found, ridden = list[TrialRun](), 0
    for place, setting in enumerate(trial.order[: len(trial.order) if runs is None else runs]):
        again = True
        while again:
            wrong = bool(rng.random() < botched_share)
            called = wrong and bool(rng.random() < called_share)
            share = 1.0 + effect_share * (setting == "B") + drift * ridden + rng.normal(0.0, sd)
            share += wrong * abs(rng.normal(BOTCHED_SD, 2.0)) * sd
            liked = 6.0 - 60.0 * effect_share * (setting == "B")
            scores = {a: int(np.clip(round(rng.normal(liked, SCORE_SD)), 1, 10)) for a in ASPECTS}
            right = bool(rng.random() < felt_chance)
            cut = _cut(trial, share, sectors, effect_share * (setting == "B"), sd, rng) if sectors else ()
            found.append(
                TrialRun.model_validate(
                    {
                        "id": f"{trial.id}-{ridden}", "place": place, "ridden": ridden, "setting": setting,
                        "time_s": round(sum(cut) if cut else trial.lap_s * float(share), 2), "botched": called,
                        **({"sectors_s": cut, "error_s": SECTOR_ERROR_S, "from_file": True} if cut else {}),
                        "scores": {} if called else scores,
                        "guess": (setting if right else "AB".replace(setting, "")) if trial.blind else None,
                    }
                )
            )  # fmt: skip
            ridden, again = ridden + 1, called
    return tuple(found)


def _cut(
    trial: Trial, share: float, sectors: int, effect: float, sd: float, rng: np.random.Generator
) -> tuple[float, ...]:
    """A lap in sectors of unlike length: each with its own noise, the effect in the second half."""
    long = 1.0 + 0.15 * np.sin(np.arange(sectors))
    long = long / long.sum()
    later = np.arange(sectors) >= sectors // 2
    gained = effect * later / long[later].sum()
    noise = rng.normal(0.0, sd * np.sqrt(sectors), sectors)
    times = trial.lap_s * long * (share - effect + gained + noise)
    return tuple(round(float(t), 2) for t in times)


def recorded(
    track: Track, laps_s: Sequence[float], seed: int, *, pause_in: int | None = None, pause_s: float = 120.0
) -> bytes:
    """A session of laps of a closed course as one GPX file, once a second, with a receiver's wandering error: half a
    minute out of the pits before the first passing of the start, as long after the last. pause_in: the lap in the
    middle of which the rider stands.
    """
    along = track_distance(track)[0]
    length = float(along[-1])
    share = np.linspace(0.0, 1.0, 400)
    slowness = np.cumsum(1.0 / (1.0 + 0.35 * np.sin(2.0 * np.pi * 5.0 * share)))
    slowness = (slowness - slowness[0]) / (slowness[-1] - slowness[0])
    clock, place, now = [0.0], [-0.1 * length], 40.0
    for k, lap in enumerate(laps_s):
        stands = np.where(share > 0.5, pause_s, 0.0) if k == pause_in else 0.0
        clock += (now + lap * slowness[:-1] + (stands[:-1] if k == pause_in else 0.0)).tolist()  # type: ignore[index]
        place += (length * (k + share[:-1])).tolist()
        now += lap + (pause_s if k == pause_in else 0.0)
    clock += [now, now + 40.0]
    place += [length * len(laps_s), length * (len(laps_s) + 0.1)]
    rng = np.random.default_rng([seed, 8])
    at = np.arange(0.0, clock[-1], 1.0)
    at = at[rng.uniform(size=at.size) > LOST_SHARE]
    lap_place = np.interp(at, clock, place) % length
    lat, lon = (np.interp(lap_place, along, v) for v in (track.latitude_deg, track.longitude_deg))
    wander = [
        gaussian_filter1d(rng.standard_normal(at.size), DRIFT_S) * np.sqrt(2.0 * np.sqrt(np.pi) * DRIFT_S) * NOISE_M
        for _ in range(2)
    ]
    lat = lat + wander[0] / METRES_PER_DEGREE
    lon = lon + wander[1] / (METRES_PER_DEGREE * np.cos(np.radians(lat)))
    moments = np.datetime64("2026-10-24T09:00:00", "ms") + (at * 1000.0).astype("timedelta64[ms]")
    where = {"latitude_deg": tuple(lat.tolist()), "longitude_deg": tuple(lon.tolist())}
    made = Track.model_validate({"name": "session", "heights": "none", "height_m": (), **where})
    return write_gpx(made, times=tuple(f"{m}Z" for m in moments))
