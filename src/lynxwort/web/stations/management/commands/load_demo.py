import uuid
from datetime import UTC, datetime
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction
from django.utils.translation import gettext as _

from lynxwort.core.model.trials import Trial as CoreTrial
from lynxwort.core.standin.session import ride
from lynxwort.core.stations.damping import rides
from lynxwort.core.stations.trials.day import begun
from lynxwort.core.stations.trials.planning import expected
from lynxwort.demo import garage_log, scenario, season
from lynxwort.demo.bikes import BOX, SHOP
from lynxwort.web.bench.models import Felt
from lynxwort.web.bench.services import keep, kept_report, open_bench, put_on_bench
from lynxwort.web.bench.standing import remember
from lynxwort.web.bench.upload import place_inputs
from lynxwort.web.bikes.models import Bike, Revision, Setup
from lynxwort.web.bikes.services import branch, checked_setup
from lynxwort.web.evaluation import door
from lynxwort.web.evaluation.assembled import with_setup
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.garages.services import DEMO_USER
from lynxwort.web.parts.services import quick_add
from lynxwort.web.races.models import Race, Rider
from lynxwort.web.races.services import OF_CREW, OF_WEEK, change_facts
from lynxwort.web.readings.models import Reading
from lynxwort.web.readings.services import add_reading
from lynxwort.web.runs import days, loading
from lynxwort.web.runs import services as runs
from lynxwort.web.runs.models import RiddenDay, Trial
from lynxwort.web.service import services as service
from lynxwort.web.service.models import ServiceLine
from lynxwort.web.stations.fuelling import dynos
from lynxwort.web.stations.trials import planning


def _day(text: str) -> datetime:
    return datetime.fromisoformat(f"{text}T18:00").replace(tzinfo=UTC)


def _line(pk: int) -> Setup:
    return Setup.objects.select_related("bike__garage", "head", "draft").get(pk=pk)


def _keep(pk: int, race: Race, values: dict[str, Any], kept: season.Kept) -> Revision:
    line = _line(pk)
    line.draft.values = values
    line.draft.save(update_fields=["values"])
    revision = keep(open_bench(line, race), line.draft.version, reason=kept.reason, author=DEMO_USER)
    Revision.objects.filter(pk=revision.pk).update(created=_day(kept.on), name=kept.name)
    return revision


def _tried(pk: int, race: Race, tried: season.Tried) -> None:
    """A trial of the season with its runs, through the same doors as any."""
    line = _line(pk)
    bench = open_bench(line, race)
    values = line.draft.values | tried.changes
    report = door.report_of(with_setup(bench.inputs, checked_setup(values)))
    plan = tried.plan | {"rider": tried.rider, "question": planning.question_of(checked_setup(values), tried.changes)}
    share = expected(bench.kept, report).share
    row = runs.start(
        line, plan | ({} if share is None else {"model_share": share}), values=values,
        number=line.head.number if line.head else 0,
    )  # fmt: skip
    for run in ride(CoreTrial.model_validate(row.as_document()), tried.seed, **tried.ridden):
        runs.add_run(row, run.model_dump(mode="json", exclude={"id", "setting"}), uuid.uuid4())
    runs.decide(row, tried.outcome)
    Trial.objects.filter(pk=row.pk).update(created=_day(tried.on))


def _logged(pk: int, race: Race, logged: season.Logged) -> None:
    """A day of the season with its clicks, through the same doors as any."""
    bench = open_bench(_line(pk), race)
    document = begun(bench.kept_inputs).model_dump(mode="json", exclude_unset=True, exclude={"id"})
    row = days.begin(_line(pk), race, document | logged.facts)
    for click in logged.clicks:
        days.log_click(row, click, uuid.uuid4())
    RiddenDay.objects.filter(pk=row.pk).update(created=_day(logged.on))


def _told(bike: Bike, pk: int, race: Race) -> None:
    """The season of the first bike, as if it had been written down day by day."""
    values, kept = dict(season.AS_BOUGHT), []
    for event in season.EVENTS:
        match event:
            case season.Kept():
                values |= event.changes
                kept.append(_keep(pk, race, values, event))
            case season.Measured():
                row = add_reading(bike, event.document)
                Reading.objects.filter(pk=row.pk).update(created=_day(event.on), struck_out=event.struck_out)
            case season.Noted():
                line = _line(pk)
                features = open_bench(line, race).report.ask(rides.features)
                at_m = next(f.at_m for f in features if f.kind == event.piece)
                note = Felt.objects.create(
                    setup=line,
                    race=race,
                    what=event.what,
                    end=event.end,
                    piece=event.piece,
                    at_m=at_m,
                    words=event.words,
                )
                Felt.objects.filter(pk=note.pk).update(created=_day(event.on))
    dynos.stand_in(open_bench(_line(pk), race))
    for tried in season.TRIALS:
        _tried(pk, race, tried)
    for logged in season.DAYS:
        _logged(pk, race, logged)
    start = kept[season.BRANCH_FROM - 1]
    other = branch(start, season.BRANCH_NAME)
    _keep(other.pk, race, start.values | season.BRANCH.changes, season.BRANCH)


def _wrote(bike: Bike) -> None:
    """The bike's log of service and gate, once, through the same doors as any."""
    if ServiceLine.objects.filter(bike=bike).exists():
        return
    for kind, document in garage_log.LOGS.get(bike.name, ()):
        if kind == "about":
            service.say(bike, **document)
        else:
            service.write(bike, kind, document)


class Command(BaseCommand):
    help = "Load the demo scenario once: invented bikes with a season behind them, races, riders and a parts box."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--only", choices=tuple(scenario.SCENARIOS), help="one race with its bike, instead of all")
        parser.add_argument("--bare", action="store_true", help="without the season of the first bike")

    def handle(self, **options: Any) -> None:
        if User.objects.filter(username=DEMO_USER).exists():
            self.stdout.write(_("the demo is loaded already"))
            return
        pairs: list[tuple[Bike, Race]] = []
        with transaction.atomic():
            user = User(username=DEMO_USER)
            user.set_unusable_password()
            user.save()
            garage = Garage.objects.create(name="Demo garage")
            Membership.objects.create(user=user, garage=garage)
            for name, role in () if options["bare"] else season.PEOPLE:
                other = User.objects.create_user(username=name, password=None, guest=True)
                Membership.objects.create(user=other, garage=garage, role=role)
            for name in [options["only"]] if options.get("only") else scenario.SCENARIOS:
                inputs = scenario.inputs(name)
                bike = Bike.objects.filter(garage=garage, name=inputs.bike.name).first()
                rider = Rider.objects.filter(garage=garage, name=inputs.rider.name).first()
                pairs.append(place_inputs(garage, inputs, bike=bike, rider=rider))
            for kind, text, about in BOX if options["bare"] else (*BOX, *SHOP):
                quick_add(garage, kind, text, "metric", **about)
        for bike, race in pairs:
            first = bike.setups.order_by("pk")[0].pk
            if race.name == scenario.RACES["brackenmere"]["name"] and not options["bare"]:
                change_facts(race, OF_CREW, {"crew": season.CREW}, seen={})
                change_facts(race, OF_WEEK, {"week": season.WEEK}, seen={})
                _told(bike, first, race)
                for before in [r for _b, r in pairs if r.pk != race.pk][:1]:
                    for key in season.FORGOTTEN:
                        loading.say(before, key, "forgotten")
            if not options["bare"]:
                _wrote(bike)
            put_on_bench(_line(first), race, DEMO_USER)
            setup = _line(first)
            remember(setup, race, kept_report(setup, race))
        self.stdout.write(_("the demo is loaded"))
