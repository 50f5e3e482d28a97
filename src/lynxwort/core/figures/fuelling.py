"""Figures of Fuelling: richness, margins, what is wanted, octane and flow."""

from lynxwort.core.figures.spec import FigureSpec, told

FIGURES: dict[str, FigureSpec] = {
    "fuelling.richness_full_densest": told(
        "1",
        "richness",
        "fuel per dry air against the known-good pair, + = rich, full lift, densest air",
        "target",
        even_abs=0.002,
    ),
    "fuelling.richness_full_thinnest": told(
        "1",
        "richness",
        "fuel per dry air against the known-good pair, + = rich, full lift, thinnest air",
        "target",
        even_abs=0.002,
    ),
    "fuelling.richness_half_densest": told(
        "1",
        "richness",
        "fuel per dry air against the known-good pair, + = rich, half lift, densest air",
        "target",
        even_abs=0.002,
    ),
    "fuelling.richness_quarter_densest": told(
        "1",
        "richness",
        "fuel per dry air against the known-good pair, + = rich, quarter lift, densest air",
        "target",
        even_abs=0.002,
    ),
    "fuelling.lean_margin_min": told(
        "1",
        "richness",
        "lean end of the range from half lift up minus the lean limit, least over the air of the race; + = safe",
        "margin",
        even_abs=0.002,
        card=11,
    ),
    **{
        f"fuelling.lean_margin.{name}": told(
            "1",
            "richness",
            (
                f"lean end of the range over throttle {at} minus its limit, least over the air of the race; below "
                f"half lift the limit is the proven pair; + = safe"
            ),
            "margin",
            even_abs=0.002,
        )
        for name, at in (
            ("closed", "closed to 1/8"),
            ("eighth", "1/8 to 1/4"),
            ("quarter", "1/4 to 1/2"),
            ("half", "1/2 to 3/4"),
            ("full", "3/4 to full"),
        )
    },
    "fuelling.lean_limit": told("1", "richness", "least richness allowed from half lift up, lean end of the range"),
    "fuelling.window.temperature_low": told(
        "K",
        "temperature",
        (
            "coldest thermometer where the weather is read at which the whole course stays above the lean limit, at "
            "the highest pressure of the race and the driest hour"
        ),
        "lower",
        even_abs=0.5,
    ),
    "fuelling.needle.wanted": told(
        "1",
        "number",
        (
            "leanest clip from the top, between grooves too, that keeps the proven pair and the lean limit from half "
            "to three quarters of lift in the densest air"
        ),
    ),
    "fuelling.pilot.wanted": told(
        "1",
        "number",
        "leanest pilot jet whose lean end keeps to the proven pair with the throttle shut in the densest air",
    ),
    "fuelling.oil_per_fill": told("m^3", "oil", "oil in the fuel at the start"),
    "fuelling.trim_rms": told(
        "1",
        "richness",
        "root mean square error of the map against its target by the newest log, with the trims as they are",
        "lower",
        even_abs=0.002,
    ),
    "fuelling.detonation_margin": told(
        "1",
        "number",
        "octane numbers in hand against the known-good pair, least over the air of the race, + = safer",
        "higher",
        even_abs=0.2,
    ),
    "fuelling.flow_margin": told(
        "1",
        "share",
        "measured fuel delivery over the most that full throttle asks for, less one",
        "higher",
        even_abs=0.01,
    ),
    "fuelling.main.wanted": told(
        "1",
        "number",
        (
            "leanest main jet that keeps the proven pair and the lean limit from three quarters of lift up in the "
            "densest air"
        ),
        card=8,
    ),
    "fuelling.knob.wanted": told(
        "1",
        "number",
        (
            "leanest knob setting, in clicks from the base, that keeps the proven pair and the lean limit over the "
            "whole throttle in the air of the race"
        ),
        card=9,
    ),
    "fuelling.trim.wanted": told(
        "1",
        "richness",
        (
            "leanest trim of the map that keeps the proven pair and the lean limit over the whole throttle in the air "
            "of the race"
        ),
        card=10,
    ),
    "fuelling.longest_full_throttle": told("s", "seconds", "longest unbroken full throttle of a lap"),
}
