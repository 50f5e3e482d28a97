from django.core.management.base import BaseCommand
from django.db import transaction

from lynxwort.demo.scenario import inputs
from lynxwort.web.bench.services import put_on_bench
from lynxwort.web.bench.upload import place_inputs
from lynxwort.web.bikes.models import Setup
from lynxwort.web.garages.models import Garage, Membership, User
from lynxwort.web.garages.services import DEMO_USER


class Command(BaseCommand):
    help = "Load the demo scenario once: an invented bike, race, rider and parts box."

    def handle(self, **options):
        if User.objects.filter(username=DEMO_USER).exists():
            self.stdout.write("the demo is loaded already")
            return
        with transaction.atomic():
            user = User(username=DEMO_USER)
            user.set_unusable_password()
            user.save()
            garage = Garage.objects.create(name="Demo garage")
            Membership.objects.create(user=user, garage=garage)
            bike, race = place_inputs(garage, inputs())
        put_on_bench(Setup.objects.select_related("bike__garage", "head", "draft").get(bike=bike), race, DEMO_USER)
        self.stdout.write("the demo is loaded")
