"""How each race to come stands: judged when its bench is opened or kept, else by a job; never while the stand is
shown.
"""

import hashlib
import json
from dataclasses import asdict, dataclass
from datetime import timedelta
from typing import Any

from django.db.models import Count, Max, Prefetch, Q
from django.utils import timezone

from lynxwort.core import CORE_VERSION
from lynxwort.core.asks.worth import Worth, worth
from lynxwort.core.errors import InputRefused
from lynxwort.core.report import SEVERITIES, STATIONS, Report, read_report
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bikes.models import Bike, Setup
from lynxwort.web.garages.models import Garage
from lynxwort.web.jobs import worker
from lynxwort.web.races.models import Race
from lynxwort.web.ui.trouble import noting

#: races of one garage that the worker judges for one view of the stand
JUDGED_AT_ONCE = 6
#: what is stored of a figure
SHOWN = ("id", "value", "unit", "low", "high", "basis")


#: how many readings a bike has, the newest, how many struck out; lines of its log, and when one last changed
Written = tuple[int, int, int, int, str]


def standing_key(setup: Setup, race: Race, readings: Written) -> str:
    """Hash of what a standing rests on."""
    parts = [CORE_VERSION, setup.head_id, race.pk, race.version, race.rider.document, setup.bike.document, readings]
    return hashlib.sha256(json.dumps(parts, sort_keys=True).encode()).hexdigest()


def written(setup: Setup) -> Written:
    """The same of one bike."""
    found = Bike.objects.filter(pk=setup.bike_id).aggregate(
        n=Count("readings", distinct=True),
        last=Max("readings__id"),
        out=Count("readings", filter=Q(readings__struck_out=True), distinct=True),
        lines=Count("service", distinct=True),
        changed=Max("service__changed"),
    )
    return found["n"], found["last"] or 0, found["out"], found["lines"], str(found["changed"])


def standing_of(report: Report) -> dict[str, Any]:
    """What the stand shows of a report: verdicts, the first finding of each station, the figures they speak of,
    what to measure.
    """
    first = [report.of(s)[0] for s in STATIONS if report.of(s)]
    return {
        "verdicts": dict(report.verdicts),
        "findings": [asdict(f) for f in first],
        # without their working: the stand shows values only
        "figures": {
            name: {k: getattr(f, k) for k in SHOWN} for name, f in report.figures.items() if f.value is not None
        },
        "core_version": report.core_version,
        "not_judged": dict(report.not_judged),
        "doubted": list(report.doubted),
        "sensitivities": {},
        "measures": [asdict(w) for w in worth(report)],
    }


def remember(setup: Setup, race: Race, report: Report) -> None:
    """Store how the kept setup stands for this race, when that is news and the database takes it."""
    key = standing_key(setup, race, written(setup))
    known = Pairing.objects.filter(race=race).values_list("setup_id", "key").first()
    if known == (setup.pk, key):
        return
    with noting("how a race stands"):
        Pairing.objects.update_or_create(
            race=race, defaults={"setup": setup, "standing": standing_of(report), "key": key}
        )


@dataclass(frozen=True, slots=True)
class Standing:
    """One race to come on the stand. report: as stored; unsettled: stations that wait, worst first; fresh: judged
    as things are now.
    """

    race: Race
    setup: Setup | None
    report: Report | None
    unsettled: list[str]
    measures: list[Worth]
    fresh: bool


def _read(pairing: Pairing) -> tuple[Report | None, list[str], list[Worth]]:
    if (
        not pairing.standing or pairing.standing.get("core_version") != CORE_VERSION
    ):  # as another core said it: its words may be other ones
        return None, [], []
    report = read_report(pairing.standing)
    waiting = [s for s in STATIONS if report.verdicts.get(s, "ok") != "ok"]
    stopped = any(f.code == "gate_no_riding" for f in report.findings)
    # where nobody may ride that comes first, then what can end an engine
    first = ("baseline", "fuelling") if stopped else ("fuelling",)
    waiting.sort(key=lambda s: (-SEVERITIES.index(report.verdicts[s]), s not in first))
    return report, waiting, [Worth(**w) for w in pairing.standing.get("measures", [])]


def standings(garage: Garage, *, limit: int = 12) -> list[Standing]:
    """The next races with how they stand; what is out of date is asked of the worker. A fixed number of queries."""
    heads = Setup.objects.select_related("bike", "head").defer("head__report", "head__document")
    marked = heads.annotate(
        n_readings=Count("bike__readings", distinct=True),
        last_reading=Max("bike__readings__id"),
        struck=Count("bike__readings", filter=Q(bike__readings__struck_out=True), distinct=True),
        n_lines=Count("bike__service", distinct=True),
        last_line=Max("bike__service__changed"),
    )
    races = (
        Race.objects.filter(garage=garage)
        .select_related("course", "rider", "pairing")
        .prefetch_related(Prefetch("pairing__setup", marked))
    )
    today = timezone.now() - timedelta(days=1)
    races = races.filter(start__gte=today).order_by("start", "id")[:limit]
    found: list[Standing] = []
    asked: dict[str, dict[str, Any]] = {}
    for race in races:
        pairing = getattr(race, "pairing", None)
        if pairing is None:
            found.append(Standing(race, None, None, [], [], True))
            continue
        setup = pairing.setup
        key = standing_key(
            setup, race, (setup.n_readings, setup.last_reading or 0, setup.struck, setup.n_lines, str(setup.last_line))
        )
        fresh = setup.head_id is None or pairing.key == key
        if not fresh and len(asked) < JUDGED_AT_ONCE:
            asked[key] = {"race": race.pk}
        report, unsettled, measures = _read(pairing)
        found.append(Standing(race, setup, report, unsettled, measures, fresh))
    if asked:
        with noting("races to judge"):
            worker.submit_all("standing", asked)
    return found


@worker.register("standing")
def judge(payload: dict[str, Any]) -> dict[str, Any]:
    """Job: judge a race's kept setup and remember how it stands."""
    from lynxwort.web.bench.services import kept_report

    race = Race.objects.select_related("course", "rider", "garage").get(pk=payload["race"])
    setup = Setup.objects.select_related("bike__garage", "head", "draft").get(pairings__race=race)
    try:
        remember(setup, race, kept_report(setup, race))
    except InputRefused as refused:
        Pairing.objects.filter(race=race).update(standing=None, key=standing_key(setup, race, written(setup)))
        return {"refused": str(refused)}
    return {}
