"""Kinds of bike, each drawn from what such a bike usually has."""

from functools import cache
from typing import Any

from django.utils.translation import gettext as _

from lynxwort.core.model.bike import metering_of
from lynxwort.core.model.bike.patterns import PATTERNS, completed, first_setup
from lynxwort.core.model.inputs import Inputs
from lynxwort.core.standin.unraced import unraced
from lynxwort.web.bikes.services import checked_bike, checked_setup
from lynxwort.web.stations.pictured import alone
from lynxwort.words.bike import KINDS, METERINGS

#: a jetted bike is drawn with a main jet in, whichever
ANY_JET = 150.0


@cache
def _inputs(kind: str) -> Inputs:
    """A usual bike of a kind."""
    pattern = PATTERNS[kind]
    bike = completed({"name": kind, "engine": {"kind": pattern.engines[0]}}, kind)
    jet = {"main_jet": ANY_JET} if metering_of(pattern.engines[0]) == "jetted" else {}
    return unraced(checked_bike(bike), checked_setup(first_setup(pattern.setup | jet, kind)))


def kind_of_page(kind: str, engine: str) -> dict[str, Any]:
    """One kind: title, what it is for, its picture, how its fuel is metered."""
    name, use = KINDS[kind]
    return {
        "key": kind,
        "title": _(name),
        "use": _(use),
        "picture": alone(_inputs(kind), (), _(name)),
        "metered": _(METERINGS[metering_of(engine)]),
    }


def kinds_page() -> list[dict[str, Any]]:
    """All kinds, each with the ways on: how its fuel is metered, the usual first."""
    return [
        kind_of_page(kind, pattern.engines[0])
        | {"ways": [(engine, _(METERINGS[metering_of(engine)])) for engine in pattern.engines]}
        for kind, pattern in PATTERNS.items()
    ]
