"""What another rotor, master or pad would do to a brake, each beside it as it is set. A larger rotor alone pulls more
for each newton and so locks sooner: to feel less grabby it wants a larger master or softer pads with it.
"""

from dataclasses import dataclass

from lynxwort.core.model.setup.kit import PADS
from lynxwort.core.report import Move
from lynxwort.core.stations.kit import braking
from lynxwort.core.stations.kit.candidates import SOLD_ROTORS_M
from lynxwort.core.stations.kit.ground import ground_of
from lynxwort.core.stations.kit.input import KitInput
from lynxwort.core.tunables import TUNABLES


@dataclass(frozen=True, slots=True, kw_only=True)
class Choice:
    """One brake: what is on, torque for a newton [N m/N], force from bite to lock [N] on the lap's slickest and firmest
    ground, hottest rotor [K], fluid to boiling [K]; moves: to it, none for what is set; keeps: whether it keeps the
    window of what is set.
    """

    rotor_m: float
    master_m: float
    pad: str
    gain_nm_per_n: float
    slickest: str
    firmest: str
    slick_n: float
    firm_n: float
    rotor_k: float
    fluid_margin_k: float
    moves: tuple[Move, ...]
    keeps: bool


def _choice(given: KitInput, end: str, *, keeps: bool = False, **other: float | str) -> Choice:
    brake = braking.fitted(given, end, **other)  # type: ignore[arg-type]
    lateral = ground_of(given).lateral
    slick, firm = min(lateral, key=lambda g: lateral[g]), max(lateral, key=lambda g: lateral[g])
    moves = [
        Move(tunable=f"{end}_{name}", value=PADS.index(str(value)) + 1 if name == "pad" else float(value))
        for name, value in other.items()
    ]
    return Choice(
        rotor_m=brake.rotor_m,
        master_m=brake.master_m,
        pad=brake.pad,
        gain_nm_per_n=brake.gain_nm_per_n,
        slickest=slick,
        firmest=firm,
        slick_n=braking.window(given, end, slick, brake),
        firm_n=braking.window(given, end, firm, brake),
        rotor_k=float(braking.warmth(given, end, brake).rotor_k.max()),
        fluid_margin_k=braking.margin(given, end, brake),
        moves=tuple(moves),
        keeps=keeps,
    )


def choices(given: KitInput, end: str) -> list[Choice]:
    """As it is set; the next larger rotor alone; that rotor with the master that keeps the window; softer pads; a
    larger master.
    """
    now = braking.fitted(given, end)
    ground, step = braking.slickest(given), TUNABLES[f"{end}_master_m"].step
    found = [_choice(given, end)]
    larger = next((r for r in reversed(SOLD_ROTORS_M) if r > now.rotor_m + 1e-6), None)
    if larger is not None:
        alone = braking.fitted(given, end, rotor_m=larger)
        window = braking.window(given, end, ground, now)
        master = round(braking.master_for_window(given, end, window, ground, alone) / step) * step
        found += [
            _choice(given, end, rotor_m=larger),
            _choice(given, end, keeps=True, rotor_m=larger, master_m=round(master, 6)),
        ]
    if now.pad != "organic":
        found.append(_choice(given, end, pad="organic"))
    return [*found, _choice(given, end, master_m=round(now.master_m + 2 * step, 6))]
