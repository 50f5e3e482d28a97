from django.apps import AppConfig
from django.utils.translation import gettext_lazy as _

DRAWN = ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "kit", "trials")


class StationsConfig(AppConfig):
    name = "lynxwort.web.stations"
    label = "stations"

    def ready(self) -> None:
        """Each station gives the bench its drawings."""
        from lynxwort.web.bench import registry

        for station in DRAWN:
            registry.give(station, f"lynxwort.web.stations.{station}.rooms.draw")
        from lynxwort.web.stations.rooms import ROOMS

        for station, rooms in ROOMS.items():
            registry.give_rooms(station, rooms)
        registry.give_card(
            _("Before anyone rides: check"), "lynxwort.web.stations.baseline.gating.before_riding", place="first"
        )
        registry.give_card(_("Still to do"), "lynxwort.web.stations.week.planning.still_to_do", place="first")
        registry.give_card(_("If the air changes"), "lynxwort.web.stations.fuelling.jets.sentences")
        registry.give_card(_("What to click when"), "lynxwort.web.stations.trials.days.sentences")
        registry.give_card(
            _("Carried, and still to do"), "lynxwort.web.stations.kit.preparing.sentences", place="behind"
        )
