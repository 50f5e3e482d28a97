"""A kept setup copied to another bike, item by item: what each would do there, and what is left out."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.urls import reverse
from django.utils.translation import gettext as _

from lynxwort.core.errors import InputRefused
from lynxwort.core.model.bike import Bike as CoreBike
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.tunables import TUNABLES, WHOLES, is_of_mixture, said_value, tunables_of
from lynxwort.core.units.convert import Units
from lynxwort.web.bench.models import Pairing
from lynxwort.web.bench.rows import Outcome, outcomes_of
from lynxwort.web.bench.services import Bench, open_bench
from lynxwort.web.bench.slots import tunable_text
from lynxwort.web.bikes import changes
from lynxwort.web.bikes.models import Draft, Revision, Setup
from lynxwort.web.bikes.services import checked_bike, checked_setup, fitting, refuse_misfit
from lynxwort.web.evaluation import door
from lynxwort.web.evaluation.assembled import with_setup
from lynxwort.words.catalogue import TUNABLE_NAMES, tunable_word
from lynxwort.words.refusals import explain

#: set as a whole, and of one bike or one course only
STAYS = ("kit_on", "kit_off", "stops", "turned")


@dataclass(frozen=True, slots=True, kw_only=True)
class Item:
    """One field that differs. field; name; now, then: in words; outcomes: what it would do there; ticked: whether it is
    taken unless one says otherwise; why: it is left out.
    """

    field: str
    name: str
    now: str = ""
    then: str = ""
    outcomes: tuple[Outcome, ...] = ()
    ticked: bool = True
    why: str = ""


def _differs(source: CoreSetup, target: CoreSetup) -> Iterator[str]:
    """Fields that the source says and the target says otherwise, or not."""
    for field in TUNABLES:
        there, here = said_value(source, field), said_value(target, field)
        if there is not None and (here is None or abs(there - here) > 1e-12):
            yield field
    for field in WHOLES:
        if field not in STAYS and getattr(source, field) and getattr(source, field) != getattr(target, field):
            yield field


def _text(bike: CoreBike, field: str, setup: CoreSetup, preset: Units | str) -> str:
    if field in WHOLES:
        return _("as there") if getattr(setup, field) else _("not said")
    value = said_value(setup, field)
    return _("not said") if value is None else tunable_text(bike, field, value, preset)


def draft_of(line: Setup) -> str:
    """Where the line's draft is seen: on the bench it stood on last; empty before it was put on one."""
    pairing = Pairing.objects.filter(setup=line).order_by("-pk").first()
    return reverse("bench:station", args=[line.pk, pairing.race_id, "chassis"]) if pairing and line.head else ""


def _bench(line: Setup) -> Bench | None:
    """The bench on which the line stood last; None before it was put on one, or where it cannot be set up."""
    pairing = Pairing.objects.filter(setup=line).select_related("race__rider", "race__course").order_by("-pk").first()
    if pairing is None or line.head is None:
        return None
    try:
        return open_bench(line, pairing.race)
    except InputRefused:
        return None


def _effects(
    bench: Bench | None, bike: CoreBike, field: str, setup: CoreSetup, preset: Units | str
) -> tuple[Outcome, ...]:
    """What one field alone would do on the other bike's race."""
    if bench is None or field not in TUNABLES:
        return ()
    report = door.report_of(with_setup(bench.inputs, setup), bench.sensitivities, shown=TUNABLES[field].shows)
    return outcomes_of(report, bench.report, field, preset)


def copy_page(row: Revision, line: Setup, preset: Units | str) -> dict[str, Any]:
    """What of a kept setup another bike would take, and what is left out."""
    bike, draft = checked_bike(line.bike.document), line.draft
    source = checked_setup(row.values)
    target = checked_setup(fitting(bike, draft.values))
    bench, own = _bench(line), set(tunables_of(bike)) | set(WHOLES)
    taken, left = [], []
    for field in _differs(source, target):
        name = _(tunable_word(field, bike)) if field in TUNABLES else _(TUNABLE_NAMES[field])
        if field not in own:
            left.append(Item(field=field, name=name, why=_("This bike has nothing of the kind, or only one.")))
            continue
        try:
            setup = checked_setup(
                changes.Copied(row, (field,)).values(
                    Draft(values=target.model_dump(mode="json", exclude_unset=True)), bike
                )
            )
            refuse_misfit(bike, setup)
            effects = _effects(bench, bike, field, setup, preset)
        except InputRefused as refused:
            left.append(Item(field=field, name=name, why=explain(refused.refusals[0], preset=preset, translate=_)))
            continue
        now, then = (_text(bike, field, s, preset) for s in (target, source))
        taken.append(
            Item(field=field, name=name, now=now, then=then, outcomes=effects, ticked=not is_of_mixture(field))
        )
    return {
        "revision": row,
        "line": line,
        "items": taken,
        "left": left,
        "judged": bench is not None,
        "mixture": any(not item.ticked for item in taken),
    }
