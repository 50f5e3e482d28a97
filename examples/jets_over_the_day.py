"""How near the lean limit the mixture comes, from the coldest to the hottest hour the day may bring.

    python jets_over_the_day.py

The day's air is a range; here it is narrowed to one temperature after another. Below 0 is leaner than the pair that
ran right: such a row is no advice to ride, whatever the jets. The manual's own limits come first.
"""

import sys

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.inputs import Inputs
from lynxwort.demo import scenario

RANGES = ("closed", "eighth", "quarter", "half", "full")


def at_temperature(inputs: Inputs, temperature_k: float) -> Inputs:
    """The same on a day that has this one temperature at the place of its weather reading."""
    air = inputs.race.air.model_copy(update={"temperature_low_k": temperature_k, "temperature_high_k": temperature_k})
    return inputs.model_copy(update={"race": inputs.race.model_copy(update={"air": air})})


def main() -> int:
    """Print a row for each of six temperatures: the margin of each range of the throttle, percent."""
    inputs = scenario.inputs()
    low, high = inputs.race.air.temperature_low_k, inputs.race.air.temperature_high_k
    print("celsius", *RANGES)
    for step in range(6):
        temperature_k = low + (high - low) * step / 5
        figures = evaluate(at_temperature(inputs, temperature_k)).figures
        margins = [figures[f"fuelling.lean_margin.{name}"].value for name in RANGES]
        print(f"{temperature_k - 273.15:.1f}", *(f"{100 * margin:+.2f}" for margin in margins))
    return 0


if __name__ == "__main__":
    sys.exit(main())
