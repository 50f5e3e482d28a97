"""What is said of the week before a race, as facts of the race that several pages change."""

from collections.abc import Callable
from typing import Any

from lynxwort.web.races.models import Race
from lynxwort.web.races.services import OF_WEEK, change_facts, facts_of
from lynxwort.web.ui.stale import TRIES, StaleFacts

#: what the id of a chore that a plan brings begins with
OF_PLAN = "plan-"


def change(row: Race, make: Callable[[dict[str, Any]], dict[str, Any]]) -> None:
    """Make something else of a race's week, whatever it is by then. Raises InputRefused, StaleFacts."""
    for _try in range(TRIES):
        row.refresh_from_db()
        seen = facts_of(row, OF_WEEK)
        week = {k: v for k, v in make(dict(seen.get("week", {}))).items() if v not in (None, [])}
        try:
            change_facts(row, OF_WEEK, {"week": week} if week else {}, seen=seen)
        except StaleFacts:
            continue
        return
    raise StaleFacts


def with_plan(week: dict[str, Any], work: list[dict[str, Any]]) -> dict[str, Any]:
    """The week with a plan's work in the place of that of the plan before; what of it was done stays done."""
    done = {c["name"] for c in week.get("chores", ()) if c["id"].startswith(OF_PLAN) and c.get("done")}
    own = [c for c in week.get("chores", ()) if not c["id"].startswith(OF_PLAN)]
    made = [{"id": f"{OF_PLAN}{i}"} | w | ({"done": True} if w["name"] in done else {}) for i, w in enumerate(work)]
    return week | {"chores": [*made, *own]}
