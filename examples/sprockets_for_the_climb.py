"""Which rear sprocket pulls the course's steepest metres, and what it costs elsewhere.

    python sprockets_for_the_climb.py [DOCUMENT.json]

Without a document it takes the invented demo. A document is what `lynxwort evaluate --example` prints.
"""

import json
import sys
from pathlib import Path

from lynxwort.core.evaluate import evaluate
from lynxwort.core.model.inputs import Inputs, load_inputs
from lynxwort.demo import scenario

SHOWN = ("drive.metres_short", "drive.top_speed", "drive.clutch_energy", "range.fuel_race")


def with_rear_sprocket(inputs: Inputs, teeth: int) -> Inputs:
    """The same with another rear sprocket. The chain, sags and fuel follow by themselves."""
    setup = inputs.setup.model_copy(update={"rear_sprocket_teeth": teeth})
    return inputs.model_copy(update={"setup": setup})


def main(argv: list[str]) -> int:
    """Print a row for each rear sprocket within two teeth of the one fitted."""
    inputs = load_inputs(json.loads(Path(argv[1]).read_text())) if len(argv) > 1 else scenario.inputs()
    fitted = inputs.setup.rear_sprocket_teeth
    print("teeth", *SHOWN)
    for teeth in range(fitted - 2, fitted + 3):
        report = evaluate(with_rear_sprocket(inputs, teeth))
        values = (report.figures[name].value for name in SHOWN)
        print(teeth, *(f"{value:.6g}" for value in values))
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv))
