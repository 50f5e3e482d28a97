"""What fill brings a rider home how surely, and how much of that is only that nobody has measured yet.

    python fuel_to_finish.py

Each litre more is heavier: the ride, the sags and the consumption are reckoned anew for it.
"""

import sys

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.inputs import Inputs
from lynxwort.demo import scenario


def filled(inputs: Inputs, fill_m3: float) -> Inputs:
    """The same with this much in its tank at the start."""
    return inputs.model_copy(update={"setup": inputs.setup.model_copy(update={"fuel_fill_m3": fill_m3})})


def main() -> int:
    """Print a row for each fill: how sure the finish is with its range, and the mass ready to start."""
    inputs = scenario.inputs()
    tank = inputs.setup.tank_capacity_m3
    print("litres", "finishes", "from", "to", "kilograms")
    for share in (0.6, 0.7, 0.8, 0.9, 1.0):
        figures = evaluate(filled(inputs, share * tank)).figures
        finish = figures["range.p_finish"]
        print(
            f"{1000 * share * tank:.2f} {finish.value:.3f} {finish.low:.3f} {finish.high:.3f}",
            f"{figures['range.mass_full'].value:.1f}",
        )
    return 0


if __name__ == "__main__":
    sys.exit(main())
