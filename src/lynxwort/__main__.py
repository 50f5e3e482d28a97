"""`python -m lynxwort`: see lynxwort.cli."""

import sys

from lynxwort.cli.main import main

if __name__ == "__main__":
    sys.exit(main())
