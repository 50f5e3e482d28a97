"""A race: course, rider, day, air; and the pieces of its ground."""

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.race import GROUNDS, CriticalHill, Race, RaceAir, RefuelPoint, Stage
from lynxwort.core.model.rider import Rider
from lynxwort.web.ui.forms import DocumentForm, QuantityField
from lynxwort.words.catalogue import TERMS

HEIGHTS = [
    ("satellite", _("satellite receiver (phone, most devices)")),
    ("barometer", _("barometric device")),
    ("terrain", _("terrain model (drawn on a map)")),
]
POSTURES = [("standing", _("standing")), ("seated", _("seated")), ("attack", _("attack, far forward"))]
PRESSURES = [("sea_level", _("forecast, sea level")), ("station", _("barometer or phone at the place")), ("altimeter", _("airfield altimeter setting"))]
GROUND_CHOICES = [(g, _(TERMS[g])) for g in GROUNDS]


class RaceForm(DocumentForm):
    """Everything about a race but its ground."""

    spec = (
        ("race.name", Race, _("Race")),
        ("stage.laps", Stage, _("Laps")),
        ("race.start", Race, _("Start, local time")),
        ("race.time_zone", Race, _("Time zone")),
        ("rider.name", Rider, _("Rider")),
        ("rider.mass_in_gear_kg", Rider, _("Weight in riding gear")),
        ("rider.pace", Rider, _("Pace")),
        ("rider.posture", Rider, _("Rides mostly")),
        ("race.air.temperature_low_k", RaceAir, _("Coldest hour")),
        ("race.air.temperature_high_k", RaceAir, _("Hottest hour")),
        ("race.air.pressure_kind", RaceAir, _("Pressure is from")),
        ("race.air.pressure_pa", RaceAir, _("Pressure")),
        ("race.air.pressure_spread_pa", RaceAir, _("Pressure may move by")),
        ("race.air.reading_height_m", RaceAir, _("Air read at height")),
        ("race.air.relative_humidity_low", RaceAir, _("Driest hour")),
        ("race.air.relative_humidity_high", RaceAir, _("Dampest hour")),
        ("race.certainty", Race, _("Fuel must last with")),
    )
    choice_labels = {"posture": POSTURES, "pressure_kind": PRESSURES}
    sections = (
        (_("Race"), ("race.name", "stage.laps", "race.start", "race.time_zone", "race.certainty")),
        (_("Rider"), ("rider.name", "rider.mass_in_gear_kg", "rider.pace", "rider.posture")),
        (_("Air of the day"), ("race.air.temperature_low_k", "race.air.temperature_high_k", "race.air.pressure_kind", "race.air.pressure_pa",
                               "race.air.relative_humidity_low", "race.air.relative_humidity_high", "race.air.pressure_spread_pa",
                               "race.air.reading_height_m")),
    )  # fmt: skip

    def __init__(self, *args, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["race.start"].widget = forms.DateTimeInput(attrs={"type": "datetime-local"})
        for name in ("race.name", "race.start", "rider.name"):
            self.fields[name].required = True
        self.fields["race.time_zone"].assumed = "UTC"

    def grouped(self):
        """Sections with their fields, for the page."""
        return [(title, [self[n] for n in names]) for title, names in self.sections]


class CourseForm(forms.Form):
    """A GPX file and where its heights come from."""

    file = forms.FileField(label=_("Course file, GPX"))
    heights = forms.ChoiceField(label=_("Its heights come from"), choices=HEIGHTS)


def _ground_field(**kwargs):
    return forms.ChoiceField(label=_("Ground"), choices=GROUND_CHOICES, **kwargs)


class SplitForm(forms.Form):
    """Split the ground at a place."""

    def __init__(self, *args, preset: str, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["at"] = QuantityField(field_facts(CriticalHill, "at_m"), preset, label=_("Split here"), required=True)


class HillForm(forms.Form):
    """A critical hill."""

    def __init__(self, *args, preset: str, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["at_m"] = QuantityField(field_facts(CriticalHill, "at_m"), preset, label=_("Begins at"))
        self.fields["length_m"] = QuantityField(field_facts(CriticalHill, "length_m"), preset, label=_("Length"))
        self.fields["grade"] = QuantityField(field_facts(CriticalHill, "grade"), preset, label=_("Grade"))
        self.fields["ground"] = _ground_field()


class RefuelForm(forms.Form):
    """A refuel point."""

    def __init__(self, *args, preset: str, **kwargs):
        super().__init__(*args, **kwargs)
        self.fields["at_m"] = QuantityField(field_facts(RefuelPoint, "at_m"), preset, label=_("At"))
        self.fields["name"] = forms.CharField(label=_("Name"), max_length=60, required=False)
