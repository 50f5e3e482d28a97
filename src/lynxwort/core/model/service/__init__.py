"""Service: what is written down of a bike, and the tables that it is read by."""

from lynxwort.core.model.service.records import (
    MOST_BOLTS,
    MOST_CHECKS,
    MOST_PARTS,
    MOST_RIDES,
    MOST_WEAR,
    Bolt,
    ClockedPart,
    GateCheck,
    Ride,
    Service,
    WearReading,
)

__all__ = [
    "MOST_BOLTS",
    "MOST_CHECKS",
    "MOST_PARTS",
    "MOST_RIDES",
    "MOST_WEAR",
    "Bolt",
    "ClockedPart",
    "GateCheck",
    "Ride",
    "Service",
    "WearReading",
]
