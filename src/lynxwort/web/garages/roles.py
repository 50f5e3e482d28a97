"""What each role may do in a garage: one verb for each kind of doing, one predicate for all of them."""

from enum import StrEnum
from typing import Any

from lynxwort.web.garages.models import Membership

Role = Membership.Role


class Verb(StrEnum):
    """Kinds of doing. READ: see everything; TAP: times, fill-ups, what a helper does by a press; RUN: trials, scores,
    readings; DRAFT: step and take back what is not kept; KEEP: keep, return, branch; BIKE: facts, parts, kit, gate,
    service; RACE: courses, races, riders; OWN: let people in, end that, take the garage along or another in.
    """

    READ = "read"
    TAP = "tap"
    RUN = "run"
    DRAFT = "draft"
    KEEP = "keep"
    BIKE = "bike"
    RACE = "race"
    OWN = "own"


_CREW = frozenset({Verb.READ, Verb.TAP})
_RIDER = _CREW | {Verb.RUN, Verb.DRAFT}
_MECHANIC = _RIDER | {Verb.KEEP, Verb.BIKE, Verb.RACE}
ALLOWED: dict[str, frozenset[Verb]] = {
    Role.OWNER: _MECHANIC | {Verb.OWN},
    Role.MECHANIC: _MECHANIC,
    Role.RIDER: _RIDER,
    Role.CREW: _CREW,
}


def may(member: Any, verb: Verb) -> bool:
    """Whether a member may do such a thing. member: a Membership, or None of somebody no garage lets in."""
    return bool(member) and verb in ALLOWED.get(member.role, frozenset())
