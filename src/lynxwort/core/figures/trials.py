"""Figures of Trials: what a trial can show, and what it showed. Of the newest trial of the rider on this bike."""

from lynxwort.core.figures.spec import FigureSpec, told
from lynxwort.core.model.trials import KINDS, MOST_SECTORS

FIGURES: dict[str, FigureSpec] = {
    "trials.noise": told("1", "chance", "spread of this rider's laps after drift: sd, a share of the lap"),
    "trials.smallest_seen": told("1", "chance", "smallest difference that the planned runs see four times in five"),
    "trials.pairs_needed": told("1", "count", "pairs of runs that see what is hoped for four times in five"),
    "trials.minutes_needed": told("s", "minutes", "how long the planned runs take, with the changes"),
    "trials.pairs_done": told("1", "count", "pairs of runs that count"),
    "trials.timing_error": told("s", "seconds", "how far a lap's time may lie off by how it was taken: sd"),
    "trials.effect": told("s", "seconds", "lap time of the change less that of what stood", "lower"),
    "trials.effect_share": told("1", "chance", "the same as a share of the lap", "lower", even_abs=0.005),
    "trials.p_exact": told("1", "chance", "how often chance alone does as much: signs of the pairs flipped"),
    "trials.drift_per_lap": told("s", "seconds", "how the laps drift from one to the next, taken out"),
    "trials.model_effect": told("s", "seconds", "what the model expected before anyone rode", "lower"),
    "trials.updated_effect": told("s", "seconds", "the model's difference and the trial's together", "lower"),
    "trials.model_z": told("1", "factor", "how far the trial lies from the model, in sd of both"),
    "trials.riders_apart": told("s", "seconds", "this rider's effect less the other's, of the same change"),
    "trials.blind_right": told("1", "count", "blind runs told apart rightly"),
    "trials.blind_p": told("1", "chance", "how often guessing alone is right as often"),
    "trials.agreement": told("1", "factor", "how far two riders agree on what the change did to each aspect: ICC(2,1)"),
    **{
        f"trials.sector.{n}.effect": told("s", "seconds", f"time in sector {n}, change less before", "lower")
        for n in range(1, MOST_SECTORS + 1)
    },
    "trials.day.passes": told("1", "count", "bikes that have gone by when the race ends"),
    "trials.day.whoop_depth": told("m", "travel", "the deepest whoops when the race ends, trough to crest"),
    **{
        f"trials.day.clicks.{end}.{way}": told("1", "count", f"clicks in by the rider's own log: {end}, {way}")
        for end in ("front", "rear")
        for way in ("compression", "rebound")
    },
    **{
        f"trials.factor.{kind}": told(
            "1", "factor", f"by what the model's differences turn out to be multiplied: {kind}, this rider"
        )
        for kind in KINDS
    },
}  # fmt: skip
