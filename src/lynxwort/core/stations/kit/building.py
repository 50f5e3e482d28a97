"""The build: what this setup has on beyond the bike as weighed, its money, mass and work, in which order it is put on
and whether it is ready; and which spares are worth their grams.
"""

import itertools
from dataclasses import dataclass

from lynxwort.core.figures import figure
from lynxwort.core.model.bike import Item, needs
from lynxwort.core.model.bike.spares import SPARES, Spare
from lynxwort.core.model.days import days_between
from lynxwort.core.model.fitted import inside_of, items_on, put_on
from lynxwort.core.physics.kit import masses, spares, work
from lynxwort.core.report import Figure
from lynxwort.core.stations.kit.ground import ground_of, night
from lynxwort.core.stations.kit.input import KitInput

#: share of what a spare saves that is left when it lies in a truck one has to get to (assumption)
TRUCK_SHARE = 0.5


def on_now(given: KitInput) -> tuple[Item, ...]:
    """What is bolted on now."""
    return items_on(given.bike, given.brakes)


def in_build(given: KitInput) -> tuple[Item, ...]:
    """What is put on for this race: on in this setup, not on when the bike was weighed."""
    return put_on(given.bike, given.brakes)


def is_done(item: Item) -> bool:
    """Whether it is on already: its real work was said."""
    return item.worked_s is not None


@dataclass(frozen=True, slots=True, kw_only=True)
class Build:
    """Sums over the build, planned and actual where it was said: cost [own money], mass added less mass taken off [kg],
    work and what is left of it [s]. missing: names of what has not arrived by the day the work begins; plan: in its
    order; critical_s: the longest path [s of work]; to_start_s: work that fits before the start [s], None when no day
    was said; circle: whether the order goes round in a circle.
    """

    cost: float
    spent: float
    mass_kg: float
    work_s: float
    worked_s: float
    left_s: float
    missing: tuple[str, ...]
    plan: tuple[work.Planned, ...]
    critical_s: float
    to_start_s: float | None
    circle: bool


def arrives_s(given: KitInput, item: Item) -> float:
    """When an item is there [s of work from the day the work begins]."""
    from_day = given.bike.kit.build_from
    if item.arrives is None or from_day is None:
        return 0.0
    return days_between(from_day, item.arrives) * given.bike.kit.build_day_s


def jobs_of(given: KitInput, items: tuple[Item, ...]) -> list[work.Job]:
    """What is left to do of these, and what ends every build."""
    left = [i for i in items if not is_done(i)]
    names = {i.id for i in left}
    jobs = [
        work.Job(
            id=i.id, takes_s=work.UNSAID_S if i.work_s is None else i.work_s,
            after=tuple(a for a in i.after if a in names), arrives_s=arrives_s(given, i),
        )
        for i in left
    ]  # fmt: skip
    before = tuple(names)
    for identity, takes in work.LAST_STEPS if items else ():
        jobs.append(work.Job(id=identity, takes_s=takes, after=before))
        before = (identity,)
    return jobs


def build(given: KitInput) -> Build:
    """All of it."""
    return given.once("kit_build", lambda: _build(given))


def _build(given: KitInput) -> Build:
    items, kit = in_build(given), given.bike.kit
    jobs = jobs_of(given, items)
    try:
        plan, length, circle = tuple(work.plan(jobs)), work.critical(jobs)[0], False
    except work.InACircle:
        plan, length, circle = (), 0.0, True
    to_start = None
    if kit.build_from is not None:
        to_start = days_between(kit.build_from, given.event.start) * kit.build_day_s
    return Build(
        cost=sum(i.cost or 0.0 for i in items),
        spent=sum(i.spent or 0.0 for i in items),
        mass_kg=sum(i.net_kg for i in items),
        work_s=sum(work.UNSAID_S if i.work_s is None else i.work_s for i in items),
        worked_s=sum(i.worked_s or 0.0 for i in items),
        left_s=sum(j.takes_s for j in jobs),
        missing=tuple(i.name for i in items if not is_done(i) and arrives_s(given, i) > 0.0),
        plan=plan,
        critical_s=length,
        to_start_s=to_start,
        circle=circle,
    )


def power_to_mass(given: KitInput) -> float:
    """What the build takes of the power to each kilogram, rider aboard [1]."""
    more = sum(i.net_kg for i in in_build(given))
    return masses.power_to_mass_change(given.lap.ride_input.mass_kg - more, more)


@dataclass(frozen=True, slots=True, kw_only=True)
class Carried:
    """A spare: chance that it is wanted [1], what it saves in the mean [s], where it goes: "bag", "toolbox", "truck",
    or "" where it stays; second_chance: chance that a second one is wanted [1].
    """

    spare: Spare
    chance: float
    second_chance: float
    saves_s: float
    where: str

    @property
    def saves_per_100g_s(self) -> float:
        """What it saves for each 100 g [s]."""
        return self.saves_s * 0.1 / self.spare.mass_kg


@dataclass(frozen=True, slots=True, kw_only=True)
class Packed:
    """All spares by what they save, and the loss that is left [s]; mass in the bag and in the toolbox [kg]."""

    spares: tuple[Carried, ...]
    left_s: float
    bag_kg: float
    toolbox_kg: float


def pack(given: KitInput) -> Packed:
    """The best choice for the bag first, then the toolbox, then the truck."""
    return given.once("kit_spares", lambda: _pack(given))


def _pack(given: KitInput) -> Packed:
    kit, lasts = given.bike.kit, given.race_s
    on = {i.id for i in on_now(given)}
    kinds = [s for s in SPARES if not s.fed or given.bike.metering in s.fed]
    rates = [s.per_hour * (0.5 if on.intersection(s.guarded_by) else 1.0) for s in kinds]
    chance = [spares.fails(rate, lasts) for rate in rates]
    second = [spares.fails(rate, lasts, times=2) for rate in rates]
    lost = [lasts if s.without_s is None else min(s.without_s, lasts) for s in kinds]
    saves = [p * max(w - s.with_s, 0.0) for s, p, w in zip(kinds, chance, lost, strict=True)]
    grams = [max(round(s.mass_kg / spares.GRAM_KG), 1) for s in kinds]
    where = [""] * len(kinds)
    for place, kg in (("bag", kit.bag_kg), ("toolbox", kit.toolbox_kg)):
        free = [v if not w else 0.0 for v, w in zip(saves, where, strict=True)]
        for i in spares.best(free, grams, round(kg / spares.GRAM_KG)):
            where[i] = place
    if kit.chase_truck == "reached":
        where = [w or "truck" for w in where]
    left = sum(
        p * w - (v if at in ("bag", "toolbox") else TRUCK_SHARE * v if at == "truck" else 0.0)
        for p, w, v, at in zip(chance, lost, saves, where, strict=True)
    )
    found = [
        Carried(spare=s, chance=p, second_chance=two, saves_s=v, where=at)
        for s, p, two, v, at in zip(kinds, chance, second, saves, where, strict=True)
    ]
    return Packed(
        spares=tuple(sorted(found, key=lambda c: -c.saves_s)),
        left_s=left,
        bag_kg=sum(s.mass_kg for s, at in zip(kinds, where, strict=True) if at == "bag"),
        toolbox_kg=sum(s.mass_kg for s, at in zip(kinds, where, strict=True) if at == "toolbox"),
    )


_SAYS = {
    "cost": "sum of what is put on", "hours": "sum of what is put on, an hour where nobody said",
    "hours_left": "what is not done, with checks, bedding in and a slow ride",
    "critical_path": "longest path: earliest start is the later of its part's day and the end of what comes before",
    "missing": "not done, arriving after the work begins",
}  # fmt: skip


def figures(given: KitInput) -> list[Figure]:
    """Of the build and the spares; the build's none when nothing is put on."""
    packed = pack(given)
    loss = figure(
        "kit.spares.loss_left", packed.left_s, low=0.5 * packed.left_s, high=2.0 * packed.left_s, basis="assumed",
        formula="sum of p x time lost, less what is carried saves; p = 1 - exp(-rate t)",
        inputs=("bike.kit.bag_kg", "bike.kit.toolbox_kg"), source="rates by HANDBOOK 9, 7, assumption",
    )  # fmt: skip
    names = ("cost", "hours", "hours_left", "critical_path", "missing")
    if not in_build(given):
        return [figure(f"kit.build.{n}", None, status="not_applicable", reason="nothing_built") for n in names] + [loss]
    seen = build(given)
    values = (seen.cost, seen.work_s, seen.left_s, None if seen.circle else seen.critical_s, float(len(seen.missing)))
    paths = ("setup.kit_on",)
    return [
        figure(f"kit.build.{n}", v, inputs=paths, basis="assumed", formula=_SAYS[n], source="as said of each thing")
        for n, v in zip(names, values, strict=True)
    ] + [loss]


def race_facts(given: KitInput) -> needs.RaceFacts:
    """What the table of needs looks at."""
    metres = ground_of(given).metres
    whole = sum(metres.values())
    stages, starts = given.clock.stages, given.lap.around.starts_m
    alone = 0.0
    for i, stage in enumerate(stages):
        helps = sorted([p.at_m for p in stage.refuel_points] + [p.at_m for p in stage.crew_points])
        marks = [0.0, *helps, float(starts[i + 1] - starts[i])]
        alone = max(alone, *(b - a for a, b in itertools.pairwise(marks)))
    return needs.RaceFacts(
        shares={g: m / whole for g, m in metres.items()},
        race_m=given.clock.race_m,
        top_m_per_s=float(given.lap.whole.speed_m_per_s.max()),
        dark_m=float(given.lap.whole.step_m[night(given)].sum()),
        waits_s=max(s.crawling_s + s.standing_s for s in stages),
        alone_m=alone,
        road=any(s.kind == "liaison" for s in stages),
        plain_tubes=inside_of(given.bike, given.setup, "rear") == "tube",
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class Need:
    """What the race asks for beside what there is: on: items of the bike's list that meet it and are on; there: those
    on the list that do not; overruled: what the owner said against a must, empty when nothing.
    """

    wanted: needs.Wanted
    on: tuple[Item, ...]
    there: tuple[Item, ...]
    overruled: str


def race_needs(given: KitInput) -> list[Need]:
    """Each rule that speaks, musts first. An item is known by the catalogue's id."""
    on = on_now(given)
    found = []
    for wanted in needs.wanted(race_facts(given)):
        there = [i for i in given.bike.kit.items if i.id in wanted.items]
        said = next((i.because for i in there if i.need == "nice" and i.because), "")
        if wanted.items == needs.LAMPS:
            there = [i for i in given.bike.kit.items if i.lamp_cd > 0.0]
        found.append(
            Need(
                wanted=wanted, on=tuple(i for i in there if i in on), there=tuple(i for i in there if i not in on),
                overruled=said,
            )
        )  # fmt: skip
    return found
