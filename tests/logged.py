"""A log of service and gate, for tests."""

from lynxwort.core.model.service import Service
from lynxwort.web.service import services

H = 3600.0


def a_log(inputs, *lines, **about):
    """The inputs with a log. lines: (kind, facts), in the order they were written down; about: of the whole."""
    places = {"ride": "rides", "check": "checks", "part": "parts", "wear": "wear", "bolt": "bolts"}
    document = dict(about)
    for seq, (kind, facts) in enumerate(lines, start=1):
        document.setdefault(places[kind], []).append({"id": f"l{seq}", "seq": seq} | facts)
    return inputs.model_copy(update={"service": Service.model_validate(document)})


def a_part(bike):
    """A part with its clock, written down of a bike."""
    return services.write(bike, "part", {"kind": "piston", "fitted_s": 80 * H})


def check(name, result="pass", **more):
    return "check", {"check": name, "result": result} | more


def part(kind, fitted_h=0.0, **more):
    return "part", {"kind": kind, "fitted_s": fitted_h * H} | more


def meter(hours):
    return "ride", {"meter_s": hours * H}


def wear(measure, value=None, **more):
    return "wear", {"measure": measure} | ({} if value is None else {"value_si": value}) | more


def bolt(**more):
    return "bolt", {"name": "Upper engine mount", "torque_nm": 24.0} | more
