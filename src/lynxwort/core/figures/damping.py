"""Figures of Damping: ratios, travel, what the rides do."""

from lynxwort.core.figures.spec import FigureSpec, told

FIGURES: dict[str, FigureSpec] = {
    "damping.front.zeta_compression": told(
        "1",
        "damping",
        "compression damping of the front as a share of critical, at the wheel, shaft at 0.25 m/s, rider at race sag",
    ),
    "damping.front.zeta_rebound": told(
        "1",
        "damping",
        "rebound damping of the front as a share of critical, at the wheel, shaft at 0.25 m/s, rider at race sag",
    ),
    "damping.front.travel_used": told(
        "m", "travel", "deepest front travel over the course's hardest piece, along the leg"
    ),
    "damping.front.bottomings": told(
        "1", "number", "metal contacts of the front over the course's pieces, each ridden once", "lower", even_abs=0.3
    ),
    "damping.front.packing": told(
        "m", "travel", "how much deeper the front rides than it stands, worst piece", "lower", even_abs=0.002
    ),
    "damping.rear.zeta_compression": told(
        "1",
        "damping",
        "compression damping of the rear as a share of critical, at the wheel, shaft at 0.25 m/s, rider at race sag",
    ),
    "damping.rear.zeta_rebound": told(
        "1",
        "damping",
        "rebound damping of the rear as a share of critical, at the wheel, shaft at 0.25 m/s, rider at race sag",
    ),
    "damping.rear.travel_used": told(
        "m", "travel", "deepest rear travel over the course's hardest piece, vertical at the axle"
    ),
    "damping.rear.bottomings": told(
        "1", "number", "metal contacts of the rear over the course's pieces, each ridden once", "lower", even_abs=0.3
    ),
    "damping.rear.packing": told(
        "m", "travel", "how much deeper the rear rides than it stands, worst piece", "lower", even_abs=0.002
    ),
    "damping.wheel_off_ground": told(
        "1",
        "share",
        "share of the time that a wheel carries nothing, worst piece but the landing",
        "lower",
        even_abs=0.02,
    ),
    "damping.peg_acceleration": told(
        "m/s^2",
        "acceleration",
        "vertical acceleration of the pegs through Wk, r.m.s., worst piece; relative only",
        "lower",
        even_rel=0.03,
    ),
    "damping.overshoot": told(
        "m", "travel", "how far the body rises beyond where it rests after a landing", "lower", even_abs=0.005
    ),
    "damping.stress_max": told(
        "Pa",
        "stress",
        "highest bending stress of a shim at the fastest shaft speeds of the rides",
        "lower",
        even_rel=0.05,
    ),
    "damping.click_authority.low": told(
        "1", "share", "how much more the shock holds with its compression clicker fully in, at 0.1 m/s"
    ),
    "damping.click_authority.high": told(
        "1", "share", "how much more the shock holds with its compression clicker fully in, at 2 m/s"
    ),
}
