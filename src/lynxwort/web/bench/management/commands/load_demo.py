from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction

from lynxwort.demo import scenario
from lynxwort.demo.bikes import BOX
from lynxwort.web.bench.services import kept_report, put_on_bench
from lynxwort.web.bench.standing import remember
from lynxwort.web.bench.upload import place_inputs
from lynxwort.web.bikes.models import Bike, Setup
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.garages.services import DEMO_USER
from lynxwort.web.parts.services import quick_add
from lynxwort.web.races.models import Race, Rider


class Command(BaseCommand):
    help = "Load the demo scenario once: invented bikes, races, riders and a parts box."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--only", choices=tuple(scenario.SCENARIOS), help="one race with its bike, instead of all")

    def handle(self, **options: Any) -> None:
        if User.objects.filter(username=DEMO_USER).exists():
            self.stdout.write("the demo is loaded already")
            return
        pairs: list[tuple[Bike, Race]] = []
        with transaction.atomic():
            user = User(username=DEMO_USER)
            user.set_unusable_password()
            user.save()
            garage = Garage.objects.create(name="Demo garage")
            Membership.objects.create(user=user, garage=garage)
            for name in [options["only"]] if options.get("only") else scenario.SCENARIOS:
                inputs = scenario.inputs(name)
                bike = Bike.objects.filter(garage=garage, name=inputs.bike.name).first()
                rider = Rider.objects.filter(garage=garage, name=inputs.rider.name).first()
                pairs.append(place_inputs(garage, inputs, bike=bike, rider=rider))
            for kind, text, about in BOX:
                quick_add(garage, kind, text, "metric", **about)
        for bike, race in pairs:
            setup = Setup.objects.select_related("bike__garage", "head", "draft").get(bike=bike)
            put_on_bench(setup, race, DEMO_USER)
            setup.refresh_from_db()
            remember(setup, race, kept_report(setup, race))
        self.stdout.write("the demo is loaded")
