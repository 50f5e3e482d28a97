"""What plans are held against: setups that were moved at random, the stations' proposals taken by hand, and every setup
of a bike of which most is held.
"""

import itertools
import math
import random

from pydantic import ValidationError

from lynxwort.core.errors import InputRefused
from lynxwort.core.evaluate import evaluate
from lynxwort.core.judging import LEAN_MARGINS
from lynxwort.core.model.fit import setup_misfit
from lynxwort.core.propose.candidates import EXISTS
from lynxwort.core.propose.leaning import lean_ends
from lynxwort.core.propose.levels import levels_of
from lynxwort.core.propose.single import judged, moved
from lynxwort.core.propose.work import is_workable, owned
from lynxwort.core.report import Move
from lynxwort.core.tunables import current_value, item_of, neighbour, said_value, step_of, tunables_of

#: the order in which the trade works (common practice, no source)
BY_HAND = ("fuelling", "range", "chassis", "drive", "damping", "kit")


def perturbed(inputs, seed):
    """The document with a few of its tunables moved by some notches, nothing bought."""
    dice, setup = random.Random(seed), inputs.setup
    may = [
        t for t in tunables_of(inputs.bike) if is_workable(t) and not item_of(t) and said_value(setup, t) is not None
    ]
    for tunable in dice.sample(may, 4):
        for _ in range(dice.randint(1, 3)):
            notch = neighbour(inputs.bike, setup, inputs.parts, tunable, dice.choice((-1, 1)))
            if notch is None or notch.owned is False:
                continue
            try:
                after = moved(setup, [Move(tunable=tunable, value=notch.value)])
            except (InputRefused, ValidationError):
                continue
            setup = setup if setup_misfit(inputs.bike, after) else after
    return inputs.model_copy(update={"setup": setup})


def by_hand(inputs, cache, ranges):
    """Levels after the stations' own proposals were taken one after the other, the first that holds, from the box."""
    seen = set()
    while True:
        report = evaluate(inputs, cache=cache, sensitivities=ranges)
        found = (f for s in BY_HAND for f in judged(report.behind.up, report, s) if f.severity in ("look", "act"))
        moves = (m for f in found for m in f.proposals)
        free = (m for m in moves if all(owned(inputs.parts, x.tunable, x.value) is not False for x in m))
        setup = next((s for s in (moved(inputs.setup, m) for m in free) if s not in seen), None)
        if setup is None or len(seen) > 25:
            return levels_of(report)
        seen.add(setup)
        inputs = inputs.model_copy(update={"setup": setup})


def ends(inputs, setup, cache):
    """Lean ends of a setup by range, against the pair that ran right: 0 is the pair in this air; and lean margins."""
    report = evaluate(inputs.model_copy(update={"setup": setup}), cache=cache, need={"fuelling.figures"})
    return report.ask(lean_ends).ends | {name: report.value(name) for name in LEAN_MARGINS}


def is_leaner(inputs, setup, cache):
    """Whether some range is leaner than it was, and than its limit or the pair itself."""
    was, now = ends(inputs, inputs.setup, cache), ends(inputs, setup, cache)
    return any(v is not None and now[n] < min(v, 0.0) - 1e-9 for n, v in was.items())


def brute(inputs, free, cache, ranges):
    """The best levels of all setups in which only these are moved: what is owned, or notches near."""

    def reach(tunable):
        now = current_value(inputs.setup, tunable)
        if tunable in type(inputs.parts).model_fields:
            return sorted({*inputs.parts.owned(tunable), now})
        step, (least, most) = step_of(inputs.bike.engine, tunable), EXISTS.get(tunable, (-math.inf, math.inf))
        return [v for k in range(-6, 11) if least - 1e-9 <= (v := round(now + k * step, 9)) <= most + 1e-9]

    best = levels_of(evaluate(inputs, cache=cache, sensitivities=ranges, explain=False)).key
    for values in itertools.product(*map(reach, free)):
        try:
            setup = moved(inputs.setup, [Move(tunable=t, value=v) for t, v in zip(free, values, strict=True)])
        except (InputRefused, ValidationError):
            continue
        if setup_misfit(inputs.bike, setup) or is_leaner(inputs, setup, cache):
            continue
        at = inputs.model_copy(update={"setup": setup})
        best = min(best, levels_of(evaluate(at, cache=cache, sensitivities=ranges, explain=False)).key)
    return best


def structure(plan):
    """The parts and items of a plan: what is bought, fetched and bolted, not set."""
    return {m.tunable: m.value for m in plan.moves if m.owned is not None or item_of(m.tunable)}


def heavier(inputs, by_kg):
    """The document with every rider so much heavier."""
    riders = tuple(r.model_copy(update={"mass_in_gear_kg": r.mass_in_gear_kg + by_kg}) for r in inputs.riders)
    return inputs.model_copy(update={"riders": riders})
