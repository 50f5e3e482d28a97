"""Write docs/document.schema.json from the core's models; --check fails when it is older than they are."""

import json
import sys
from pathlib import Path

from lynxwort.core.model.inputs import Inputs

OUT = Path(__file__).parents[1] / "docs/document.schema.json"


def main() -> int:
    text = json.dumps(Inputs.model_json_schema(), indent=1, sort_keys=True) + "\n"
    if "--check" in sys.argv:
        if OUT.read_text() != text:
            sys.stderr.write("docs/document.schema.json is older than the models: run make schema\n")
            return 1
        return 0
    OUT.write_text(text)
    return 0


if __name__ == "__main__":
    sys.exit(main())
