"""What to measure first: for each measurement not taken yet, the range that it would narrow, and by how much.

A measurement is tried by letting it come out as predicted and looking at the range it leaves. Nothing here is a promise
of its outcome.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from lynxwort.core.derived.upstream import Upstream
from lynxwort.core.learned.radius import ROLL_OUT
from lynxwort.core.model.bike import Injected, Jetted
from lynxwort.core.model.defaults import Z90
from lynxwort.core.model.readings import SagReading, Under
from lynxwort.core.physics.fuelling.metering import SENSOR_SPREAD, map_air_effect
from lynxwort.core.report import SEVERITIES, Report, station_of
from lynxwort.core.stations.drive.input import DriveInput
from lynxwort.core.stations.drive.pulls import top, way_spread
from lynxwort.core.stations.range.chance import NAMES, after_fill_up, wanted
from lynxwort.core.stations.range.input import RangeInput
from lynxwort.core.tunables import kind_of, step_of

#: below this share of narrowing a measurement is not worth the walk (assumption); fill-ups that pin a bike's
#: consumption (HANDBOOK 5)
WORTH_SHARE = 0.04
ENOUGH_FILL_UPS = 3
#: spread of richness [1] below which a calliper on the needle tells nothing (assumption)
NEEDLE_WIDTH = 0.005


@dataclass(frozen=True, slots=True, kw_only=True)
class Worth:
    """code: what to measure; figure: whose range it narrows; before, after: width of that range [SI of kind]; before
    None = unknown.
    """

    code: str
    figure: str
    kind: str
    before: float | None
    after: float

    @property
    def narrowing(self) -> float:
        """Share of the range that goes [1]; 1 for what is unknown."""
        return 1.0 if self.before is None else 1.0 - self.after / self.before if self.before > 0 else 0.0


def _sags(up: Upstream) -> Iterator[Worth]:
    inputs = up.inputs
    taken = {(r.end, r.state) for r in inputs.readings if isinstance(r, SagReading) and not r.struck_out}
    fuel = 0.5 * inputs.setup.fill_m3
    for end in ("rear", "front"):
        for state in ("race", "free"):
            if (end, state) in taken:
                continue
            value, half = up.loaded.sag(end, race=state == "race", fuel_m3=fuel)
            under = Under(setup=inputs.setup, rider=inputs.rider, fuel_aboard_m3=fuel)
            reading = SagReading(id="tried", end=end, state=state, value_m=min(value, 0.25), under=under)  # type: ignore[arg-type]
            after = Upstream(inputs=inputs.model_copy(update={"readings": (*inputs.readings, reading)}), cache=up.cache)
            narrowed = after.loaded.sag(end, race=state == "race", fuel_m3=fuel)[1]
            yield Worth(
                code=f"sag_{end}_{state}",
                figure=f"chassis.{end}.{state}_sag",
                kind="travel",
                before=2.0 * half,
                after=2.0 * narrowed,
            )


def _fill_up(up: Upstream) -> Iterator[Worth]:
    if len(up.supply.factor.used) >= ENOUGH_FILL_UPS:
        return
    kind = up.supply.store.kind
    figure, likely = NAMES[kind][2], up.supply.largest_leg + up.supply.store.unusable
    before, after = wanted(RangeInput.of(up)) - likely, after_fill_up(RangeInput.of(up)) - likely
    yield Worth(
        code="fill_up" if kind == "fuel" else "charge",
        figure=figure,
        kind="fuel" if kind == "fuel" else "energy",
        before=before,
        after=after,
    )


def _mixture(up: Upstream) -> Iterator[Worth]:
    engine = up.inputs.bike.engine
    tunable = {"jetted": "main_jet", "rod": "knob_clicks", "injected": "fuel_trim"}.get(up.inputs.bike.metering)
    if tunable is None:
        return
    if up.mixture.good is None:
        figure = {
            "main_jet": "fuelling.main.wanted",
            "knob_clicks": "fuelling.knob.wanted",
            "fuel_trim": "fuelling.trim.wanted",
        }[tunable]
        yield Worth(
            code="known_good",
            figure=figure,
            kind=kind_of(tunable),
            before=None,
            after=step_of(up.inputs.bike.engine, tunable),
        )
    if isinstance(engine, Jetted) and engine.carburettor.needle is None and up.richness.densest is not None:
        dense = up.richness.densest
        middle = dense.throttle.size // 2
        width = float(dense.high[middle] - dense.low[middle])
        if width < NEEDLE_WIDTH:
            return
        yield Worth(
            code="needle", figure="fuelling.richness_full_densest", kind="richness", before=width, after=0.5 * width
        )
    if isinstance(engine, Injected) and engine.injection.sensors is None:
        blind, seeing = (
            map_air_effect(
                engine.injection.model_copy(update={"sensors": s}), up.day.states.thinnest, up.day.states.densest
            )[0]
            for s in ("throttle_rpm", "pressure_temperature")
        )
        known = 2.0 * SENSOR_SPREAD
        yield Worth(
            code="sensors",
            figure="fuelling.richness_full_thinnest",
            kind="richness",
            before=abs(blind - seeing) + known,
            after=known,
        )


def _roll_out(up: Upstream) -> Iterator[Worth]:
    if up.inputs.bike.tyre.rolling_radius_m is not None:
        return
    best = top(DriveInput.of(up))
    if best.limit == "revs":
        width = 2.0 * best.speed_m_per_s
        yield Worth(
            code="roll_out",
            figure="drive.top_speed",
            kind="speed",
            before=width * way_spread(DriveInput.of(up)),
            after=width * Z90 * ROLL_OUT,
        )


def worth(report: Report) -> list[Worth]:
    """The measurements still worth taking; empty when all is measured.

    First what is unknown, then what an unsettled station waits for, then the one that narrows most.
    """
    up: Upstream = report.behind.up
    tried = [w for w in (*_mixture(up), *_fill_up(up), *_sags(up), *_roll_out(up)) if w.narrowing >= WORTH_SHARE]

    def order(w: Worth) -> tuple[bool, int, float]:
        return w.before is not None, -SEVERITIES.index(report.verdicts[station_of(w.figure)]), -w.narrowing

    return sorted(tried, key=order)
