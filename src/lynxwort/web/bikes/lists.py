"""Facts that are lists, a line each: how a line is read and written, and which fact is one."""

from math import degrees, radians
from typing import Any

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.bike import (
    FITTING_PLACES,
    Fitting,
    Gearbox,
    HeadInsert,
    IgnitionMap,
    LinkPoint,
    NeedlePoint,
    OtherNeedle,
    OtherTank,
    OtherWheel,
    Pack,
    Payload,
    TorquePoint,
)
from lynxwort.core.physics.chassis.linkage import read_table
from lynxwort.core.physics.reach.pack import pack_energy
from lynxwort.core.units.convert import UnitNotUnderstood, parse_typed
from lynxwort.core.units.written import numbers_of
from lynxwort.web.ui.forms import LinesField, NotANumberThere, refusal_words
from lynxwort.words.choices import TYRE_FILLINGS
from lynxwort.words.fuelling import PLACES
from lynxwort.words.kit import TYRE_KINDS


def _read_torque(line: str) -> dict:
    rpm, torque = line.split()
    return {"rpm": _number(rpm), "torque_nm": _number(torque)}


def _read_gearbox(line: str) -> dict:
    name, primary, ratios = _parts(line, 3)
    if not (primary or ratios):
        raise ValueError("nothing but a name")
    found = {"name": name, "gear_ratios": numbers_of(ratios)}
    return found | ({"primary_ratio": numbers_of(primary)[0]} if primary else {})


def _write_gearbox(item: dict) -> str:
    return (
        f"{item['name']}; {item.get('primary_ratio') or ''}; {'  '.join(f'{g:g}' for g in item.get('gear_ratios', ()))}"
    )


def _number(word: str) -> float:
    try:
        return float(word.strip().replace(",", "."))
    except ValueError:
        raise NotANumberThere(word.strip()) from None


def _parts(line: str, count: int) -> list[str]:
    """The parts of a line; blanks at its end may be left out. Raises ValueError for more than there are."""
    found = [part.strip() for part in line.split(";")]
    if len(found) > count:
        raise ValueError("too many parts")
    return found + [""] * (count - len(found))


def _read_payload(line: str) -> dict:
    name, mass, ahead, height = _parts(line, 4)
    return {
        "name": name.strip(),
        "mass_kg": _number(mass),
        "ahead_m": _number(ahead) / 1000.0,
        "height_m": _number(height) / 1000.0,
    }


def _write_payload(item: dict) -> str:
    return f"{item['name']}; {item['mass_kg']:g}; {1000 * item['ahead_m']:g}; {1000 * item['height_m']:g}"


def _coded(words: dict[str, str]) -> dict[str, str]:
    """What a word or a code of a list stands for."""
    return {str(_(said)).lower(): code for code, said in words.items()} | {code: code for code in words}


def _read_wheel(line: str) -> dict:
    first, *more = (part.strip() for part in line.split(";"))
    marking, *heavier = first.split()
    made: dict[str, Any] = {"marking": marking} | ({"heavier_kg": _number(heavier[0])} if heavier else {})
    tread, inside, foam, knob = (*more, "", "", "", "")[:4]
    if tread:
        made["tyre_kind"] = _coded(TYRE_KINDS)[tread.lower()]
    if inside:
        made["inside"] = _coded(TYRE_FILLINGS)[inside.lower()]
    if foam:
        made["foam_for_kg"] = _number(foam)
    return made | ({"knob_m": _number(knob) / 1000.0} if knob else {})


def _write_wheel(wheel: dict) -> str:
    more = [
        str(_(TYRE_KINDS[wheel["tyre_kind"]])) if "tyre_kind" in wheel else "",
        str(_(TYRE_FILLINGS[wheel["inside"]])) if wheel.get("inside") else "",
        f"{wheel['foam_for_kg']:g}" if wheel.get("foam_for_kg") else "",
        f"{1000 * wheel['knob_m']:g}" if wheel.get("knob_m") is not None else "",
    ]
    while more and not more[-1]:
        more.pop()
    return "; ".join([f"{wheel['marking']} {wheel.get('heavier_kg', 0.0):g}", *more])


class LinkageField(LinesField):
    """A table of wheel travel and shock stroke, typed or pasted; a refusal names its line."""

    def lines(self, text: str) -> list[dict]:
        if text.split() == self.prepare_value(self.known).split():
            return self.known
        try:
            return read_table(text)
        except InputRefused as refused:
            line = refused.refusals[0].path.rpartition(".")[2]
            raise forms.ValidationError(
                f"{_('Line')} {line}: {refusal_words(refused.refusals[0].code, 'metric')}"
            ) from None


def _read_fitting(line: str) -> dict:
    place, name, low, high, scale, swept, louder = _parts(line, 7)
    known = {str(_(words)).lower(): code for code, words in PLACES.items()} | {code: code for code in FITTING_PLACES}
    made: dict[str, Any] = {"place": known[place.lower()], "name": name}
    for key, word in (("leaner_low", low), ("leaner_high", high)):
        if word:
            made[key] = _number(word) / 100.0
    made |= {"displacement_m3": _number(swept) * 1e-6} if swept else {}
    made |= {"sound_db": _number(louder)} if louder else {}
    return made | ({"power_scale": _number(scale)} if scale else {})


def _write_fitting(item: dict) -> str:
    ends = ("" if item.get(k) is None else f"{100 * item[k]:g}" for k in ("leaner_low", "leaner_high"))
    swept, louder = item.get("displacement_m3"), item.get("sound_db")
    tail = ["" if swept is None else f"{1e6 * swept:g}", "" if louder is None else f"{louder:g}"]
    parts = [str(_(PLACES[item["place"]])), item["name"], *ends, f"{item.get('power_scale', 1.0):g}", *tail]
    return "; ".join(parts).rstrip("; ")


def _read_head(line: str) -> dict:
    name, ratio, squish = _parts(line, 3)
    return {"name": name, "compression_ratio": _number(ratio)} | (
        {"squish_m": _number(squish) / 1000.0} if squish else {}
    )


def _read_ignition(line: str) -> dict:
    name, degrees, low, high = _parts(line, 4)
    scales = {"low_scale": low, "high_scale": high}
    return {"name": name, "advance_rad": radians(_number(degrees))} | {k: _number(v) for k, v in scales.items() if v}


def _read_point(word: str) -> dict:
    distance, diameter = word.replace("=", " ").split()
    return {"distance_m": _number(distance) / 1000.0, "diameter_m": _number(diameter) / 1000.0}


def _read_needle(line: str) -> dict:
    name, bore, table = _parts(line, 3)
    return {
        "name": name,
        "needle": {"jet_bore_m": _number(bore) / 1000.0, "table": [_read_point(w) for w in table.split()]},
    }


def _write_needle(item: dict) -> str:
    table = " ".join(f"{1000 * p['distance_m']:g}={1000 * p['diameter_m']:g}" for p in item["needle"].get("table", ()))
    return f"{item['name']}; {1000 * item['needle'].get('jet_bore_m', 0.0029):g}; {table}"


def _write_words(*values: object) -> str:
    return "; ".join("" if v is None else v if isinstance(v, str) else f"{v:g}" for v in values)


def _tail(item: dict, cost: str, minutes: str) -> dict:
    """Money and fitting time of a tank or pack, where they are said."""
    return (
        item | ({"cost": _number(cost)} if cost else {}) | ({"fitting_s": 60.0 * _number(minutes)} if minutes else {})
    )


def _minutes(item: dict) -> float | None:
    return None if item.get("fitting_s") is None else item["fitting_s"] / 60.0


def _read_tank(line: str) -> dict:
    name, litres, stays, share, heavier, cost, minutes = _parts(line, 7)
    made = {"name": name, "capacity_m3": _number(litres) / 1000.0}
    for key, word, scale in (
        ("unusable_m3", stays, 1000.0),
        ("front_share", share, 100.0),
        ("heavier_kg", heavier, 1.0),
    ):
        if word:
            made[key] = _number(word) / scale
    return _tail(made, cost, minutes)


def _write_tank(item: dict) -> str:
    stays, share = item.get("unusable_m3"), item.get("front_share")
    return _write_words(
        item["name"],
        round(1000 * item["capacity_m3"], 6),
        None if stays is None else round(1000 * stays, 6),
        None if share is None else round(100 * share, 6),
        item.get("heavier_kg"),
        item.get("cost"),
        _minutes(item),
    )


def _read_pack(line: str) -> dict:
    name, energy, mass, share, rise, cost, minutes = _parts(line, 7)
    try:
        joules = parse_typed(energy, "energy", "metric")
    except UnitNotUnderstood:
        volts, _times, hours = energy.partition("x")  # 96 x 54: volts first
        joules = pack_energy(_number(volts), _number(hours))
    made = {"name": name, "energy_j": joules, "mass_kg": _number(mass)}
    for key, word, scale in (("rear_share", share, 100.0), ("seat_up_m", rise, 1000.0)):
        if word:
            made[key] = _number(word) / scale
    return _tail(made, cost, minutes)


def _write_pack(item: dict) -> str:
    share, rise = item.get("rear_share"), item.get("seat_up_m")
    return _write_words(
        item["name"],
        round(item["energy_j"] / 3.6e6, 6),
        item["mass_kg"],
        None if share is None else round(100 * share, 6),
        None if rise is None else round(1000 * rise, 6),
        item.get("cost"),
        _minutes(item),
    )


def _other_wheels(label: Any) -> LinesField:
    return LinesField(
        label=label,
        read=_read_wheel,
        write=_write_wheel,
        code="not_a_wheel_line",
        model=OtherWheel,
        help_text=_(
            "its tyre, and how many kg heavier; tread; filled with; kg on the wheel that foam was made for; mm of "
            "knob; "
            "like 110/100-18 0.4; scoop; a tube; blanks stay assumed"
        ),
    )


#: facts that are lists: path -> field
LISTS = {
    "bike.engine.torque_table": lambda: LinesField(
        label=_("Torque at full throttle, one line each"),
        read=_read_torque,
        write=lambda p: f"{p['rpm']:g} {p['torque_nm']:g}",
        code="not_a_torque_line",
        model=TorquePoint,
        burns=True,
        help_text=_("revs and N·m at the crank, on a standard day; like 4000 22.5"),
    ),
    "bike.transmission.others": lambda: LinesField(
        label=_("Other gears that fit, one line each"),
        read=_read_gearbox,
        write=_write_gearbox,
        code="not_a_gearbox_line",
        model=Gearbox,
        burns=True,
        help_text=_("name; primary ratio or blank; ratios; like wide; 2.9; 2.4 1.8 1.4 1.1"),
    ),
    "bike.engine.fittings": lambda: LinesField(
        label=_("Other airboxes, exhausts, inserts, reeds, filters, cylinders, emission parts, one line each"),
        read=_read_fitting,
        write=_write_fitting,
        code="not_a_fitting_line",
        model=Fitting,
        burns=True,
        help_text=_(
            "place; name; leans by % from; to; torque factor; swept volume in cc; dB louder; "
            "like airbox; no lid; 1; 5; 1.02; blanks stay assumed"
        ),
    ),
    "bike.engine.head_inserts": lambda: LinesField(
        label=_("Other heads or inserts, one line each"),
        read=_read_head,
        write=lambda h: (
            f"{h['name']}; {h['compression_ratio']:g}; {1000 * h['squish_m']:g}"
            if h.get("squish_m")
            else f"{h['name']}; {h['compression_ratio']:g}; "
        ),
        code="not_a_head_line",
        model=HeadInsert,
        burns=True,
        help_text=_("name; compression; squish in mm or blank; like high; 8.4; 1.3"),
    ),
    "bike.engine.ignition_maps": lambda: LinesField(
        label=_("Other ignition maps, one line each"),
        read=_read_ignition,
        write=lambda m: (
            f"{m['name']}; {round(degrees(m['advance_rad']), 2):g}; {m.get('low_scale', 1.0):g}; "
            f"{m.get('high_scale', 1.0):g}"
        ),
        code="not_an_ignition_line",
        model=IgnitionMap,
        burns=True,
        help_text=_("name; degrees earlier; torque factor at half revs; at peak; like soft; -3; 0.97; 0.94"),
    ),
    "bike.engine.carburettor.needle.table": lambda: LinesField(
        label=_("Needle as measured, one line each"),
        read=_read_point,
        write=lambda p: f"{1000 * p['distance_m']:g}={1000 * p['diameter_m']:g}",
        code="not_a_needle",
        model=NeedlePoint,
        burns=True,
        fed="jetted",
        help_text=_(
            "distance from the top groove = diameter in mm; for two tapers; left empty, straight part and taper count"
        ),
    ),
    "bike.engine.carburettor.needles": lambda: LinesField(
        label=_("Other needles that fit, measured, one line each"),
        read=_read_needle,
        write=_write_needle,
        code="not_a_needle_line",
        model=OtherNeedle,
        burns=True,
        fed="jetted",
        help_text=_("name; bore of its jet; distance=diameter in mm; like N2; 2.90; 0=2.74 10=2.74 30=1.90"),
    ),
    "bike.frame.linkage": lambda: LinkageField(
        label=_("Linkage as measured, one line each"),
        write=lambda p: f"{1000 * p['wheel_m']:g} {1000 * p['shock_m']:g}",
        code="not_a_linkage_line",
        model=LinkPoint,
        help_text=_(
            "wheel travel and shock stroke in mm, from 0 0 to full travel; a CSV can be pasted; left empty, the "
            "two ratios count"
        ),
    ),
    "bike.frame.payload": lambda: LinesField(
        label=_("What rides along, one line each"),
        read=_read_payload,
        write=_write_payload,
        code="not_a_payload_line",
        model=Payload,
        help_text=_("name; kg; mm ahead of the rear axle; mm above the ground; like lamp tower; 2.4; 1400; 1050"),
    ),
    "bike.frame.other_tanks": lambda: LinesField(
        label=_("Other tanks that fit, one line each"),
        read=_read_tank,
        write=_write_tank,
        code="not_a_tank_line",
        model=OtherTank,
        burns=True,
        help_text=_(
            "name; litres; litres that stay; % on the front wheel; kg heavier; cost; minutes to fit; like tall; "
            "17; 1.2; 60; 0.8; 310; 25; blanks stay assumed"
        ),
    ),
    "bike.engine.packs": lambda: LinesField(
        label=_("Other packs that fit, one line each"),
        read=_read_pack,
        write=_write_pack,
        code="not_a_pack_line",
        model=Pack,
        fed="electric",
        help_text=_(
            "name; kWh, or volts x ampere hours; kg; % on the rear wheel; mm the seat rises; cost; minutes to "
            "fit; like long; 96 x 62; 62; 52; 20; 2400; 15; blanks stay assumed"
        ),
    ),
    "bike.frame.other_front_wheels": lambda: _other_wheels(_("Other front wheels that fit")),
    "bike.frame.other_rear_wheels": lambda: _other_wheels(_("Other rear wheels that fit")),
}
