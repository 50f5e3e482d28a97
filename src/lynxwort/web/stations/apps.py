from django.apps import AppConfig

DRAWN = ("purpose", "baseline", "chassis", "damping", "fuelling", "drive", "range", "kit")


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
        registry.give_card("lynxwort.web.stations.fuelling.jets.sentences")
        registry.give_card("lynxwort.web.stations.kit.preparing.sentences")
