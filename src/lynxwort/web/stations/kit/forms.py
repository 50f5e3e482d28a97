"""What Kit asks: an item, the tyres, the brakes."""

from typing import Any

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.bike import Brake, Item, Kit, OnWheel
from lynxwort.core.model.bike.cooling import Cooling
from lynxwort.core.model.bike.electrics import Electrics
from lynxwort.core.model.bike.kit import RearBrake, Shifts
from lynxwort.core.model.race import Race
from lynxwort.core.model.rules import RULES, USUAL, Asked
from lynxwort.web.ui.forms import DocumentForm, field_for, refusal_words
from lynxwort.words.choices import TYRE_FILLINGS
from lynxwort.words.kit import FLUIDS, GROUPS, NEEDS, PLACES, TYRE_KINDS, ready

_SHIFTS = (
    ("shifts.drag_area_m2", Shifts, _("Drag area, added, m²")),
    ("shifts.ground_clearance_m", Shifts, _("Ground clearance, added")),
    ("shifts.bar_up_m", Shifts, _("Bars, raised by")),
    ("shifts.bar_ahead_m", Shifts, _("Bars, ahead by")),
    ("shifts.seat_up_m", Shifts, _("Seat, raised by")),
    ("shifts.peg_down_m", Shifts, _("Pegs, lowered by")),
    ("shifts.offset_change_m", Shifts, _("Offset of the clamps, added")),
    ("shifts.radiator_share", Shifts, _("Radiators' face, added")),
    ("shifts.radiator_air_share", Shifts, _("Air to the radiators, added")),
    ("shifts.generator_low_w", Shifts, _("Generator, first point, added")),
    ("shifts.generator_high_w", Shifts, _("Generator, second point, added")),
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
        ("because", Item, _("because")),
        ("cost", Item, _("Costs")),
        ("spent", Item, _("did cost")),
        ("work_s", Item, _("Work to put it on")),
        ("worked_s", Item, _("Work it took, once it is done")),
        ("arrives", Item, _("Arrives on, like 2027-04-02")),
        ("watts_w", Item, _("Draws")),
        ("when", Item, _("It draws")),
        ("duty_share", Item, _("for how much of that time")),
        ("lamp_cd", Item, _("A head lamp: brightest spot")),
        ("air_m3_per_s", Item, _("A fan: air it draws")),
        *_SHIFTS,
    )
    choice_labels = {
        "on": _choices(PLACES), "group": _choices(GROUPS), "need": _choices(NEEDS), "when": _choices(ready.WHENS),
    }  # fmt: skip
    sections = (
        (_("What it is, where it sits"), ("name", "mass_kg", "removed_kg", "ahead_m", "height_m", "on", "aside_m",
                                          "gyration_share", "damper_clicks", "group", "weighed_with")),
        (_("Need, money, work"), ("need", "because", "cost", "spent", "work_s", "worked_s", "arrives", "after")),
        (_("Current, light, air"), ("watts_w", "when", "duty_share", "lamp_cd", "air_m3_per_s")),
        (_("What else it moves"), tuple(path for path, *_rest in _SHIFTS)),
    )  # fmt: skip

    row: Any = None
    editing = ""

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["weighed_with"] = forms.BooleanField(
            label=_("It was on when the bike was weighed"), required=False, initial=self.current.get("weighed_with")
        )
        self.fields["after"] = forms.CharField(
            label=_("After, names apart by commas"), required=False, max_length=300,
            help_text=_("What must be on before it; of this list."),
        )  # fmt: skip

    def listed(self, items: list[dict[str, Any]]) -> None:
        """Tell it what is on the list, for what comes before it."""
        self.known = {i["name"].lower(): i["id"] for i in items if i["id"] != self.editing}
        names = {i["id"]: i["name"] for i in items}
        self.initial["after"] = ", ".join(names[a] for a in self.current.get("after", ()) if a in names)

    known: dict[str, str] = {}

    def clean_after(self) -> list[str]:
        """Ids of what was named."""
        words = [w.strip() for w in self.cleaned_data["after"].split(",") if w.strip()]
        unknown = [w for w in words if w.lower() not in self.known]
        if unknown:
            raise forms.ValidationError(_("Not on the list: %(what)s") % {"what": ", ".join(unknown)})
        return [self.known[w.lower()] for w in words]

    def document(self) -> dict[str, Any]:
        made = super().document()
        made |= {"weighed_with": True} if self.cleaned_data["weighed_with"] else {}
        return made | ({"after": self.cleaned_data["after"]} if self.cleaned_data["after"] else {})

    def grouped(self) -> list[Any]:
        """Sections with their fields, for the page."""
        return [(title, [self[n] for n in names]) for title, names in self.sections]


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


class CoolingForm(DocumentForm):
    """Radiators and fan as they are."""

    spec = tuple(
        (f"cooling.{name}", Cooling, label)
        for name, label in (
            ("radiators", _("Radiators, none = cooled by air")),
            ("width_m", _("Core of one, across")),
            ("height_m", _("Core of one, tank to tank")),
            ("depth_m", _("Core of one, front to back")),
            ("coolant_m3", _("Coolant it holds")),
            ("fan_from_k", _("A fan starts at")),
        )
    )


class ElectricsForm(DocumentForm):
    """Generator, battery and wires."""

    spec = tuple(
        (f"electrics.{name}", Electrics, label)
        for name, label in (
            ("low_rpm", _("Generator, first point: revs")),
            ("low_w", _("it gives there")),
            ("high_rpm", _("Second point: revs")),
            ("high_w", _("it gives there")),
            ("ignition_from", _("Ignition fed by")),
            ("ignition_w", _("Ignition draws")),
            ("injection_w", _("Injection draws, with its pump")),
            ("lighting", _("Lamps fed")),
            ("battery", _("Battery")),
            ("battery_j", _("Battery holds")),
            ("starter", _("Started")),
            ("lamp_wire_m2", _("Wire to the lamp, copper")),
            ("lamp_wire_m", _("Wire to the lamp, one way")),
            ("lamp_fuse_a", _("Its fuse")),
        )
    )
    choice_labels = {
        "ignition_from": _choices(ready.FEEDS), "lighting": _choices(ready.LIGHTINGS),
        "battery": _choices(ready.BATTERIES), "starter": _choices(ready.STARTERS),
    }  # fmt: skip


class BuildForm(DocumentForm):
    """When the work begins, how much a day has, what bag, bike and truck carry."""

    spec = (
        ("build_from", Kit, _("The work begins on, like 2027-03-20")),
        ("build_day_s", Kit, _("Work that a day has")),
        ("bag_kg", Kit, _("The bum bag carries")),
        ("toolbox_kg", Kit, _("The bike carries")),
        ("chase_truck", Kit, _("A truck with spares")),
    )
    choice_labels = {"chase_truck": [("none", _("none")), ("reached", _("can be reached"))]}


class StrokeForm(DocumentForm):
    """What a sound test asks of the engine."""

    spec = (("stroke_m", Kit, _("Stroke of the engine")),)


class RulesForm(DocumentForm):
    """What an event asks for: its sound test, and each rule with how it stands."""

    spec = (("sound_limit_db", Race, _("Loudest allowed")), ("sound_test", Race, _("Tested")))
    choice_labels = {"sound_test": _choices(ready.SOUND_TESTS)}

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.asked = {a["rule"]: a for a in self.current.get("asked", ())}
        for rule in RULES:
            known = self.asked.get(rule, {})
            words = _(ready.RULES[rule])
            self.fields[f"{rule}.need"] = forms.ChoiceField(
                label=words, required=False, choices=[("", _("not asked")), ("must", _("must")), ("nice", _("asked"))],
                initial="" if not known else "must" if known.get("must", True) else "nice",
            )  # fmt: skip
            for name, label in (("done", _("seen to on")), ("paper", _("paper")), ("photo", _("picture"))):
                field = field_for(Asked, name, self.preset, label=str(label), help_text="")
                field.widget.attrs["aria-label"] = f"{words}: {label}"
                self.fields[f"{rule}.{name}"], self.initial[f"{rule}.{name}"] = field, known.get(name, "")

    def rows(self) -> list[tuple[str, list[Any]]]:
        """Each rule with its fields, those that are asked or usual first."""
        first = sorted(RULES, key=lambda r: (r not in self.asked, r not in USUAL))
        return [(rule, [self[f"{rule}.{n}"] for n in ("need", "done", "paper", "photo")]) for rule in first]

    def plain(self) -> list[Any]:
        """The sound test's fields."""
        return [self[path] for path, *_rest in self.spec]

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean()
        for rule in RULES:
            said = [n for n in ("done", "paper", "photo") if cleaned.get(f"{rule}.{n}")]
            if said and not cleaned.get(f"{rule}.need"):
                self.add_error(f"{rule}.need", refusal_words("missing", self.preset))
        return cleaned

    def document(self) -> dict[str, Any]:
        made, asked = super().document(), []
        for rule in RULES:
            need = self.cleaned_data[f"{rule}.need"]
            if not need:
                continue
            said = {n: self.cleaned_data[f"{rule}.{n}"] for n in ("done", "paper", "photo")}
            asked.append({"rule": rule, "must": need == "must"} | {n: v for n, v in said.items() if v})
        return made | ({"asked": asked} if asked else {})


class SheetForm(forms.Form):
    """A file of items."""

    file = forms.FileField(label=_("A CSV of items"))
