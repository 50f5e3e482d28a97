"""How each quantity may be written, and what it means: shown beside the forms, met by a test with pint's own factors.

A person who reads metric units types a bare number in the first unit of the quantity.
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Spelling:
    """A way to write a quantity. written: as typed; value: what it means, in `unit`."""

    written: str
    value: float
    unit: str


def _all(*rows: tuple[str, float, str]) -> tuple[Spelling, ...]:
    return tuple(Spelling(*row) for row in rows)


SPELLINGS: dict[str, tuple[Spelling, ...]] = {
    "mass": _all(
        ("88", 88.0, "kg"), ("88,5 kg", 88.5, "kg"), ("194 lb", 194.0, "lb"), ("194 lbs", 194.0, "lb"),
        ("13 st 12 lb", 194.0, "lb"), ("16 st", 224.0, "lb"), ("12 lb 8 oz", 12.5, "lb"), ("850 g", 850.0, "g"),
        ("~105", 105.0, "kg"),
    ),
    "length": _all(
        ("0.96", 0.96, "m"), ("960 mm", 960.0, "mm"), ("96 cm", 96.0, "cm"), ("37 3/4 in", 37.75, "in"),
        ("5'3\"", 63.0, "in"), ("5 ft 3", 63.0, "in"), ("3' 1 1/2\"", 37.5, "in"), ("38 inches", 38.0, "in"),
    ),
    "travel": _all(
        ("105", 105.0, "mm"), ("105 mm", 105.0, "mm"), ("10,5 cm", 10.5, "cm"), ("4 1/4 in", 4.25, "in"),
        ("4¼\"", 4.25, "in"), ("4.13\"", 4.13, "in"), ("about 105", 105.0, "mm"),
    ),
    "preload": _all(
        ("10", 10.0, "mm"), ("10,5", 10.5, "mm"), ("3/8 in", 0.375, "in"), ("0.4 in", 0.4, "in"), ("1 cm", 1.0, "cm"),
    ),
    "bore": _all(
        ("2.74", 2.74, "mm"), ("2,74 mm", 2.74, "mm"), ("108 thou", 0.108, "in"), ("0.108 in", 0.108, "in"),
    ),
    "span": _all(("4.5", 4.5, "m"), ("15 ft", 15.0, "ft"), ("4,5 m", 4.5, "m"), ("14'9\"", 14.75, "ft")),
    "stretch": _all(("80", 80.0, "m"), ("260 ft", 260.0, "ft"), ("0.08 km", 80.0, "m")),
    "height": _all(("650", 650.0, "m"), ("2100 ft", 2100.0, "ft"), ("2100'", 2100.0, "ft"), ("0.65 km", 650.0, "m")),
    "distance": _all(("62", 62.0, "km"), ("62 km", 62.0, "km"), ("38.5 mi", 38.5, "mi"), ("38 1/2 miles", 38.5, "mi")),
    "ribbon": _all(("22.1", 22.1, "km"), ("22100 m", 22.1, "km"), ("13.7 mi", 13.7, "mi"), ("22,1", 22.1, "km")),
    "speed": _all(("110", 110.0, "km/h"), ("110 kph", 110.0, "km/h"), ("68 mph", 68.0, "mph"), ("30 m/s", 30.0, "m/s")),
    "volume": _all(
        ("9.5", 9.5, "L"), ("9,5 litres", 9.5, "L"), ("2.5 gal", 2.5, "US gal"), ("2 1/2 gallons", 2.5, "US gal"),
        ("2.1 imp gal", 2.1, "imp gal"), ("9500 ml", 9.5, "L"),
    ),
    "fuel": _all(
        ("3.4", 3.4, "L"), ("3,4 l", 3.4, "L"), ("0.9 gal", 0.9, "US gal"), ("3400 cc", 3.4, "L"),
        ("3/4 gal", 0.75, "US gal"),
    ),
    "oil": _all(("190", 190.0, "mL"), ("190 cc", 190.0, "mL"), ("6.4 fl oz", 6.4, "fl oz"), ("0.19 L", 190.0, "mL")),
    "engine_size": _all(("249", 249.0, "cm^3"), ("249 cc", 249.0, "cm^3"), ("249 ccm", 249.0, "cm^3")),
    "power": _all(
        ("36", 36.0, "kW"), ("36 kw", 36.0, "kW"), ("48 hp", 48.0, "hp"), ("48 bhp", 48.0, "hp"), ("49 PS", 49.0, "PS"),
        ("9000 W", 9.0, "kW"),
    ),
    "torque": _all(
        ("42", 42.0, "N*m"), ("42 Nm", 42.0, "N*m"), ("31 ft lb", 31.0, "lbf*ft"), ("31 lb-ft", 31.0, "lbf*ft"),
        ("4.3 kgm", 4.3, "kgf*m"),
    ),
    "rpm": _all(("8500", 8500.0, "rpm"), ("8500 rpm", 8500.0, "rpm"), ("8500 revs", 8500.0, "rpm")),
    "spring_rate": _all(
        ("54", 54.0, "N/mm"), ("5.5 kgf/mm", 5.5, "kgf/mm"), ("5,5 kg/mm", 5.5, "kgf/mm"),
        ("300 lb/in", 300.0, "lbf/in"), ("300 lbs/inch", 300.0, "lbf/in"), ("0.46 kg/mm", 0.46, "kgf/mm"),
    ),
    "pressure": _all(
        ("1013", 1013.0, "hPa"), ("1013 mbar", 1013.0, "hPa"), ("101.3 kPa", 101.3, "kPa"),
        ("29.92 inHg", 29.92, "inHg"), ("14.7 psi", 14.7, "psi"),
    ),
    "tyre_pressure": _all(
        ("0.9", 0.9, "bar"), ("0,9 bar", 0.9, "bar"), ("13 psi", 13.0, "psi"), ("13 PSI", 13.0, "psi"),
        ("90 kPa", 90.0, "kPa"),
    ),
    "temperature": _all(
        ("22", 22.0, "°C"), ("22 °C", 22.0, "°C"), ("22 C", 22.0, "°C"), ("72 °F", 72.0, "°F"), ("72 f", 72.0, "°F"),
        ("-4", -4.0, "°C"),
    ),
    "minutes": _all(
        ("90", 90.0, "min"), ("90 min", 90.0, "min"), ("1:30", 90.0, "min"), ("1h30", 90.0, "min"),
        ("1 h 30 min", 90.0, "min"), ("1.5 h", 90.0, "min"), ("1 1/2 hours", 90.0, "min"), ("45 s", 0.75, "min"),
    ),
    "hours": _all(("6", 6.0, "h"), ("6:30", 6.5, "h"), ("6h30", 6.5, "h"), ("390 min", 6.5, "h"), ("6½", 6.5, "h")),
    "seconds": _all(
        ("20", 20.0, "s"), ("1:30", 90.0, "s"), ("1 min 30 s", 90.0, "s"), ("1.5 min", 90.0, "s"),
        ("20 sec", 20.0, "s"),
    ),
    "ratio": _all(("2.48", 2.48, "1"), ("2,48", 2.48, "1"), ("62/25", 2.48, "1"), ("2.48:1", 2.48, "1")),
    "number": _all(
        ("175", 175.0, "1"), ("#175", 175.0, "1"), ("No. 175", 175.0, "1"), ("50:1", 50.0, "1"), ("1:50", 50.0, "1"),
        ("1 1/2 turns", 1.5, "1"), ("1½", 1.5, "1"),
    ),
    "count": _all(("13", 13.0, "1"), ("13T", 13.0, "1"), ("13 teeth", 13.0, "1"), ("12 clicks", 12.0, "1")),
    "factor": _all(("0.7", 0.7, "1"), ("0,7", 0.7, "1"), ("70 %", 0.7, "1"), ("3/4", 0.75, "1")),
    "share": _all(("48", 48.0, "%"), ("48 %", 48.0, "%"), ("48 percent", 48.0, "%")),
    "richness": _all(("+4", 4.0, "%"), ("-2.5 %", -2.5, "%")),
    "grade": _all(
        ("25", 25.0, "%"), ("25 %", 25.0, "%"), ("1:4", 25.0, "%"), ("1 in 4", 25.0, "%"), ("45°", 100.0, "%"),
        ("45 degrees", 100.0, "%"),
    ),
    "bearing": _all(("315", 315.0, "°"), ("NW", 315.0, "°"), ("from the north", 0.0, "°"), ("SSW", 202.5, "°")),
    "angle": _all(("26.5", 26.5, "°"), ("26,5°", 26.5, "°"), ("26.5 deg", 26.5, "°")),
    "energy": _all(
        ("5.2", 5.2, "kWh"), ("5,2 kWh", 5.2, "kWh"), ("54 Ah x 96 V", 5.184, "kWh"), ("96V 54Ah", 5.184, "kWh"),
        ("5200 Wh", 5.2, "kWh"),
    ),
    "charge": _all(("48", 48.0, "Wh"), ("4 Ah x 12 V", 48.0, "Wh"), ("12V 4Ah", 48.0, "Wh")),
    "voltage": _all(("96", 96.0, "V"), ("96 volts", 96.0, "V")),
    "watts": _all(("35", 35.0, "W"), ("35 watts", 35.0, "W"), ("0.035 kW", 35.0, "W")),
    "amps": _all(("3.5", 3.5, "A"), ("3,5 amps", 3.5, "A")),
    "force": _all(("40", 40.0, "N"), ("4 kgf", 4.0, "kgf"), ("9 lbf", 9.0, "lbf")),
    "decibel": _all(("94", 94.0, "dB"), ("94 dB", 94.0, "dB")),
    "engine_hours": _all(("118", 118.0, "h"), ("118,5 h", 118.5, "h"), ("2 h", 2.0, "h"), ("90 min", 90.0, "min")),
    "clearance": _all(("0.15", 0.15, "mm"), ("0,135 mm", 0.135, "mm"), ("6 thou", 0.006, "in")),
    "compression": _all(("9.6", 9.6, "bar"), ("9,6 bar", 9.6, "bar"), ("140 psi", 140.0, "psi")),
    "bolt_torque": _all(("24", 24.0, "N·m"), ("24,5 Nm", 24.5, "Nm"), ("18 lbf*ft", 18.0, "lbf*ft")),
    "cell_volts": _all(("0.03", 0.03, "V"), ("0,045 V", 0.045, "V")),
    "seep": _all(("10", 10.0, "mL/h"), ("10 mL/h", 10.0, "mL/h")),
}  # fmt: skip
