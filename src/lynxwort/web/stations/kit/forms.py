"""What Kit asks: an item, the tyres, the brakes."""

from typing import Any

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.bike import Brake, Item, Kit, OnWheel
from lynxwort.core.model.bike.kit import RearBrake, Shifts
from lynxwort.web.ui.forms import DocumentForm
from lynxwort.words.choices import TYRE_FILLINGS
from lynxwort.words.kit import FLUIDS, GROUPS, NEEDS, PLACES, TYRE_KINDS

_SHIFTS = (
    ("shifts.drag_area_m2", Shifts, _("Drag area, added, m²")),
    ("shifts.ground_clearance_m", Shifts, _("Ground clearance, added")),
    ("shifts.bar_up_m", Shifts, _("Bars, raised by")),
    ("shifts.bar_ahead_m", Shifts, _("Bars, ahead by")),
    ("shifts.seat_up_m", Shifts, _("Seat, raised by")),
    ("shifts.peg_down_m", Shifts, _("Pegs, lowered by")),
    ("shifts.offset_change_m", Shifts, _("Offset of the clamps, added")),
)


def _choices(words: dict[str, str]) -> list[tuple[str, Any]]:
    return [(k, _(v)) for k, v in words.items()]


class ItemForm(DocumentForm):
    """One thing that is bolted on, or can be."""

    spec = (
        ("name", Item, _("What you call it")),
        ("mass_kg", Item, _("Weighs")),
        ("removed_kg", Item, _("What comes off for it weighs")),
        ("ahead_m", Item, _("Ahead of the rear axle")),
        ("height_m", Item, _("Above the ground")),
        ("on", Item, _("Moves with")),
        ("aside_m", Item, _("On what steers: from its axis, each side")),
        ("damper_clicks", Item, _("A steering damper: clicks in all")),
        ("gyration_share", Item, _("Turns with the wheel, at this share of its radius")),
        ("group", Item, _("Kind")),
        ("need", Item, _("You need it")),
        ("cost", Item, _("Costs")),
        ("work_s", Item, _("Work to put it on")),
        ("watts_w", Item, _("Draws, watts")),
        *_SHIFTS,
    )
    choice_labels = {"on": _choices(PLACES), "group": _choices(GROUPS), "need": _choices(NEEDS)}

    row: Any = None
    editing = ""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["weighed_with"] = forms.BooleanField(
            label=_("It was on when the bike was weighed"), required=False, initial=self.current.get("weighed_with")
        )

    def document(self) -> dict[str, Any]:
        made = super().document()
        return made | ({"weighed_with": True} if self.cleaned_data["weighed_with"] else {})


def _of_wheel(end: str) -> tuple[tuple[str, type, Any], ...]:
    path = f"{end}_tyre"
    return (
        (f"{path}.tyre_kind", OnWheel, _("Tread")),
        (f"{path}.inside", OnWheel, _("Filled with")),
        (f"{path}.knob_m", OnWheel, _("Knobs, height now")),
        (f"{path}.knob_new_m", OnWheel, _("Knobs, height when new")),
        (f"{path}.foam_for_kg", OnWheel, _("Foam made for, on this wheel")),
        (f"{end}_wheel_inertia_kg_m2", Kit, _("Turning inertia, kg·m²")),
    )


class WheelsForm(DocumentForm):
    """What stands on the bike's own wheels."""

    spec = (*_of_wheel("front"), *_of_wheel("rear"))
    choice_labels = {
        "tyre_kind": _choices(TYRE_KINDS),
        "inside": [("", _("as its facts say; a tube")), *_choices(TYRE_FILLINGS)],
    }


def _of_brake(end: str) -> tuple[tuple[str, type, Any], ...]:
    path, model = f"{end}_brake", Brake if end == "front" else RearBrake
    return (
        (f"{path}.fluid", model, _("Fluid, as on the cap")),
        (f"{path}.fluid_from", model, _("Changed in, like 2026-03")),
        (f"{path}.thickness_m", model, _("Rotor, thickness")),
        (f"{path}.lever_ratio", model, _("Lever, finger to piston")),
    )


class ControlsForm(DocumentForm):
    """Bars and clutch."""

    spec = (
        ("bar_mount_hz", Kit, _("Soft bar mounts sway at")),
        ("clutch_plates", Kit, _("Friction plates of the clutch")),
        ("clutch_outer_m", Kit, _("Friction plates, outer diameter")),
        ("clutch_inner_m", Kit, _("Friction plates, inner diameter")),
        ("clutch_spring_n", Kit, _("All clutch springs together, shut")),
    )


class BrakesForm(DocumentForm):
    """What of the brakes stays."""

    spec = (*_of_brake("front"), *_of_brake("rear"))
    choice_labels = {"fluid": list(FLUIDS.items())}


class SheetForm(forms.Form):
    """A file of items."""

    file = forms.FileField(label=_("A CSV of items"))
