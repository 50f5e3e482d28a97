"""Lynxwort: sets up an off-road race bike for one race, one course, one day's air."""

import os

from lynxwort import places

__version__ = "0.9.0"

# numba reads it when it is first imported, and would else write beside the code
os.environ.setdefault("NUMBA_CACHE_DIR", str(places.kernels()))
