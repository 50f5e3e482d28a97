"""The one door for a change of a draft: `take` checks it, stores it, and says in words what it refuses. A stale version
and a double press are met here.
"""

from dataclasses import dataclass
from typing import Any, Literal, Protocol

from django.db.models import F
from django.utils.translation import gettext as _
from pydantic import ValidationError

from lynxwort.core import tunables
from lynxwort.core.errors import InputRefused, Refusal
from lynxwort.core.model.bike import Bike as CoreBike
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.model.setup import Setup as CoreSetup
from lynxwort.core.units.convert import Units
from lynxwort.web.bikes.models import Draft, Revision
from lynxwort.web.bikes.services import checked_bike, checked_setup, fitting, refuse_misfit
from lynxwort.words.refusals import explain

#: how many changes can be taken back
MOST_PAST = 60
Values = dict[str, Any]


def _within_tank(values: Values) -> Values:
    """Values with no more fuel than their tank holds."""
    if values.get("fuel_fill_m3") and values["fuel_fill_m3"] > (values.get("tank_capacity_m3") or 0.0):
        values["fuel_fill_m3"] = values["tank_capacity_m3"]
    return values


class Change(Protocol):
    """What is done to a draft. back: whether it is a way back, which no check refuses."""

    @property
    def back(self) -> bool: ...

    def values(self, draft: Draft, bike: CoreBike) -> Values:
        """The draft's values after it. Raises InputRefused."""
        ...


@dataclass(frozen=True, slots=True)
class Moves:
    """Notch moves: tunable and value [SI]."""

    moves: tuple[tuple[str, float], ...]
    back: bool = False

    def values(self, draft: Draft, bike: CoreBike) -> Values:
        """Moved one after the other; what is there already stays untouched."""
        foreign = tunables.of_another_kind(bike, [t for t, _value in self.moves])
        if foreign:
            raise InputRefused(*(Refusal(path=f"setup.{t}", code="not_on_this_bike") for t in foreign))
        setup = checked_setup(fitting(bike, draft.values))
        try:
            for tunable, value in self.moves:
                now = tunables.said_value(setup, tunable)
                # to type what was assumed is to say it
                if now is None or abs(now - value) > 1e-12 or tunable in setup.assumed:
                    setup = tunables.move(setup, tunable, value)
        except ValidationError as error:
            raise InputRefused(*refusals_of(error, "setup.", root=CoreSetup)) from None
        return setup.model_dump(mode="json", exclude_unset=True)


@dataclass(frozen=True, slots=True)
class Whole:
    """Fields set as a whole: stacks, a map's trims, stops. said: plain values; None takes a field out."""

    said: Values
    back: bool = False

    def values(self, draft: Draft, bike: CoreBike) -> Values:
        """The others as they are."""
        return {k: v for k, v in draft.values.items() if k not in self.said} | {
            k: v for k, v in self.said.items() if v is not None
        }


@dataclass(frozen=True, slots=True)
class PutBack:
    """One field, or "all", back to the kept revision."""

    field: str
    back: bool = True

    def values(self, draft: Draft, bike: CoreBike) -> Values:
        """A fill is never more than its tank."""
        kept = draft.setup.head.values if draft.setup.head else draft.values
        if self.field == "all":
            return kept
        if tunables.item_of(self.field):
            setup, was = checked_setup(draft.values), tunables.current_value(checked_setup(kept), self.field)
            return tunables.move(setup, self.field, was).model_dump(mode="json", exclude_unset=True)
        values = {k: v for k, v in draft.values.items() if k != self.field} | (
            {self.field: kept[self.field]} if self.field in kept else {}
        )
        assumed = set(values.get("assumed", ())) | ({self.field} & set(kept.get("assumed", ())))
        if assumed:
            values["assumed"] = sorted(assumed)
        return _within_tank(values)


@dataclass(frozen=True, slots=True)
class TakeBack:
    """The last change taken back, a "put back all" included."""

    back: bool = True

    def values(self, draft: Draft, bike: CoreBike) -> Values:
        """As they were before it; as they are where nothing was changed."""
        return draft.past[-1] if draft.past else draft.values


@dataclass(frozen=True, slots=True)
class Return:
    """An earlier revision's values, with it as parent."""

    revision: Revision
    back: bool = True

    def values(self, draft: Draft, bike: CoreBike) -> Values:
        """As they were kept."""
        return self.revision.values


@dataclass(frozen=True, slots=True)
class Copied:
    """Some fields of a kept setup of another bike. fields: which of them were ticked."""

    revision: Revision
    fields: tuple[str, ...]
    back: bool = False

    def values(self, draft: Draft, bike: CoreBike) -> Values:
        """The draft's own, with those as they were kept there: said now, and as much as the tank holds."""
        there = checked_setup(self.revision.values).model_dump(mode="json", exclude_unset=True)
        taken = {f: there[f] for f in self.fields if f in there}
        values: Values = draft.values | taken
        if "assumed" in values:
            values["assumed"] = [name for name in values["assumed"] if name not in taken]
        return _within_tank(values)


@dataclass(frozen=True, slots=True)
class Taken:
    """What became of a change. same: the draft says so already, as after a double press; stale: another window moved it
    since; nothing is written of a stale or a refused one.
    """

    state: Literal["taken", "same", "stale", "refused"]
    refusals: tuple[Refusal, ...] = ()
    kind: str = ""

    @property
    def done(self) -> bool:
        return self.state in ("taken", "same")

    def words(self, preset: Units | str) -> str:
        """Why it was not done, in the person's units; empty when it was."""
        if self.state == "stale":
            return _("The draft moved on in another window. Nothing was changed; look and press again.")
        return " ".join(explain(r, kind=self.kind, preset=preset, translate=_) for r in self.refusals)


def _written(draft: Draft, version: int, **fields: Any) -> bool:
    """Write the draft if it still stands in this version."""
    return bool(Draft.objects.filter(pk=draft.pk, version=version).update(version=F("version") + 1, **fields))


def _after(draft: Draft, change: Change) -> Values | None:
    """The fields of the draft after a change; None where they are the same. Raises InputRefused."""
    bike = checked_bike(draft.setup.bike.document)
    values = change.values(draft, bike)
    if values == draft.values and (not change.back or isinstance(change, TakeBack)):
        return None
    if not change.back:
        refuse_misfit(bike, checked_setup(values))
    past, parent_id = [*draft.past, draft.values], draft.parent_id
    if isinstance(change, TakeBack):
        past = draft.past[:-1]
    elif isinstance(change, PutBack):
        parent_id = draft.setup.head_id
    elif isinstance(change, Return):
        parent_id = change.revision.pk
    return {"values": values, "past": past[-MOST_PAST:], "parent_id": parent_id}


def _stand(draft: Draft, version: int, fields: Values) -> None:
    draft.version = version + 1
    for name, value in fields.items():
        setattr(draft, name, value)


def imagine(draft: Draft, version: int, change: Change) -> bool:
    """Whether a change would be taken; the draft then stands as it would stand. Nothing is written."""
    try:
        fields = _after(draft, change) if draft.version == version else None
    except InputRefused:
        return False
    if fields is not None:
        _stand(draft, version, fields)
    return fields is not None


def take(draft: Draft, version: int, change: Change) -> Taken:
    """Do a change to a draft that a page showed in this version, as one that can be taken back."""
    kind = tunables.kind_of(change.moves[0][0]) if isinstance(change, Moves) and change.moves else ""
    try:
        fields = _after(draft, change)
    except InputRefused as refused:
        return Taken("refused", refused.refusals, kind)
    if fields is None:
        return Taken("same")
    if not _written(draft, version, **fields):
        draft.refresh_from_db()
        # two presses at once: the other one did it
        return Taken("same" if draft.values == fields["values"] and not change.back else "stale")
    # as it stands in the database now
    _stand(draft, version, fields)
    return Taken("taken")
