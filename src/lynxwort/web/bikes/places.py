"""Where on the bike each of its facts is found."""

from collections.abc import Iterable

from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.bike import metering_of
from lynxwort.words.choices import ENGINES

#: place -> what its facts' paths begin with; the first place that fits has the fact
_BEGIN: dict[str, tuple[str, ...]] = {
    "fuel": (
        "bike.engine.carburettor.",
        "bike.engine.injection.",
        "bike.engine.weighed_pack_j",
        "bike.engine.nominal_voltage_v",
        "bike.engine.usable_share",
        "bike.engine.cold_share_per_k",
        "bike.engine.internal_ohm",
        "bike.engine.pack",
        "bike.engine.charge",
        "bike.engine.generator_w",
        "bike.frame.fuel_front_share",
        "bike.frame.unusable_fuel_m3",
        "bike.frame.other_tanks",
    ),
    "engine": ("bike.name", "bike.engine."),
    "gears": (
        "bike.transmission.",
        "bike.frame.sprocket_",
        "bike.frame.chain_",
        "bike.frame.case_gap_m",
        "bike.frame.adjuster_",
    ),
    "fork": ("bike.frame.fork_", "bike.frame.rake_rad", "bike.frame.clamp_offset_m", "bike.frame.axle_lead_m"),
    "front_wheel": (
        "bike.frame.front_tyre",
        "bike.frame.unsprung_front_kg",
        "bike.frame.other_front_wheels",
        "bike.frame.front_guard",
        "bike.frame.front_clamp",
        "bike.frame.front_radiator",
    ),
    "shock": (
        "bike.frame.rear_travel_m",
        "bike.frame.link",
        "bike.frame.shock_",
        "bike.frame.swingarm_",
        "bike.frame.axle_below",
    ),
    "rear_wheel": ("bike.tyre.", "bike.frame.unsprung_rear_kg", "bike.frame.other_rear_wheels", "bike.frame.rear_"),
    "seat": (
        "bike.frame.seat_",
        "bike.frame.peg_",
        "bike.frame.bar_",
        "bike.frame.side_stand_m",
        "bike.frame.ground_clearance_m",
    ),
    "weight": ("bike.",),
}
TITLES = {
    "engine": _("Engine"),
    "gears": _("Gears and chain"),
    "fork": _("Fork and clamps"),
    "front_wheel": _("Front wheel"),
    "shock": _("Shock, link and swingarm"),
    "rear_wheel": _("Rear wheel"),
    "seat": _("Seat, pegs, bars"),
    "weight": _("Weight and frame"),
}
FUEL = {
    "jetted": _("Carburettor and tank"),
    "rod": _("Carburettor and tank"),
    "injected": _("Injection and tank"),
    "electric": _("Pack"),
}
#: in the order in which they are asked
ORDER = ("engine", "fuel", "gears", "weight", "seat", "fork", "front_wheel", "shock", "rear_wheel")


def title_of(place: str, kind: str) -> str:
    """What a place is called on a bike with this kind of engine."""
    return str(FUEL[metering_of(kind)] if place == "fuel" else TITLES[place])


def place_of(path: str) -> str:
    """Where a fact is found."""
    return next(place for place, begin in _BEGIN.items() if path.startswith(begin))


def by_place(paths: Iterable[str], kind: str) -> list[tuple[str, str, list[str]]]:
    """Each place with its title and its facts' paths, in the order in which they are asked."""
    found: dict[str, list[str]] = {place: [] for place in ORDER}
    for path in paths:
        found[place_of(path)].append(path)
    titles = {place: title_of(place, kind) for place in ORDER}
    titles["engine"] = f"{titles['engine']}: {_(ENGINES[kind])}"
    return [(place, titles[place], names) for place, names in found.items() if names]
