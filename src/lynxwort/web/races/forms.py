"""A race: course, rider, day, air; and the pieces of its ground."""

from collections.abc import Iterable
from typing import Any

from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.race import (
    GROUNDS,
    STATES,
    TIGHTNESSES,
    CriticalHill,
    GroundSegment,
    RaceAir,
    RefuelPoint,
    Relay,
    Stage,
    Zone,
)
from lynxwort.core.model.race import Race as CoreRace
from lynxwort.core.model.rider import Rider
from lynxwort.core.units.convert import Units
from lynxwort.web.races.files import FilesField
from lynxwort.web.races.models import Race
from lynxwort.web.races.models import Rider as RiderRow
from lynxwort.web.races.services import race_facts, stage_facts
from lynxwort.web.ui.forms import DocumentForm, QuantityField, dig, refusal_words
from lynxwort.words.catalogue import TERMS
from lynxwort.words.choices import HEIGHT_SOURCES, STAGE_KINDS, SURFACE_STATES, TIGHTNESS
from lynxwort.words.range import MARKED_WORDS

HEIGHTS = [(k, _(v)) for k, v in HEIGHT_SOURCES.items()]
POSTURES = [("standing", _("standing")), ("seated", _("seated")), ("attack", _("attack, far forward"))]
PRESSURES = [
    ("sea_level", _("forecast, sea level")),
    ("station", _("barometer or phone at the place")),
    ("altimeter", _("airfield altimeter setting")),
]
STATE_CHOICES = [(s, _(SURFACE_STATES[s])) for s in STATES]
TIGHT_CHOICES = [(s, _(TIGHTNESS[s])) for s in TIGHTNESSES]
GROUND_CHOICES = [(g, _(TERMS[g])) for g in GROUNDS]
#: pits nearer than this [m] are none
LEAST_APART_M = 500.0
#: longer than this [m] is no hill
LONGEST_HILL_M = field_facts(CriticalHill, "length_m").high or 0.0


class RiderForm(DocumentForm):
    """A rider as he or she sits on the bike."""

    spec = (
        ("rider.name", Rider, _("Rider's name")),
        ("rider.mass_in_gear_kg", Rider, _("Weight in riding gear")),
        ("rider.inseam_m", Rider, _("Inside leg")),
        ("rider.pace", Rider, _("Pace")),
        ("rider.longest_stint_s", Rider, _("Can ride at a stretch")),
        ("rider.posture", Rider, _("Rides mostly")),
    )
    choice_labels = {"posture": POSTURES}

    def __init__(self, *args: Any, row: RiderRow | None = None, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.row = row
        self.fields["rider.name"].required, self.fields["rider.name"].assumed = True, ""  # type: ignore[attr-defined]


#: what a new race asks of the fuel: more than UNMEASURED_MOST cannot be said of a bike that was never measured
FIRST_WISH = 0.95


class RaceForm(DocumentForm):
    """The day, its air and who rides; the course and its laps stand with the stages."""

    spec = (
        ("race.name", CoreRace, _("Race")),
        ("race.start", CoreRace, _("Start, local time")),
        ("race.time_zone", CoreRace, _("Time zone")),
        ("race.class_gap_s", CoreRace, _("Own class starts after the first by")),
        ("race.starters", CoreRace, _("Bikes on the course")),
        ("race.air.temperature_low_k", RaceAir, _("Coldest hour")),
        ("race.air.temperature_high_k", RaceAir, _("Hottest hour")),
        ("race.air.pressure_kind", RaceAir, _("Pressure is from")),
        ("race.air.pressure_pa", RaceAir, _("Pressure")),
        ("race.air.pressure_spread_pa", RaceAir, _("Pressure may move by")),
        ("race.air.reading_height_m", RaceAir, _("Air read at height")),
        ("race.air.relative_humidity_low", RaceAir, _("Driest hour")),
        ("race.air.relative_humidity_high", RaceAir, _("Dampest hour")),
        ("race.air.wind_m_per_s", RaceAir, _("Wind")),
        ("race.air.wind_from_rad", RaceAir, _("Wind from, clockwise from north")),
        ("race.certainty", CoreRace, _("Fuel must last with")),
        ("race.relay.hand_over_s", Relay, _("A hand-over costs")),
        ("race.relay.longest_stint_s", Relay, _("Longest stint by the rules")),
        ("race.relay.rest_s", Relay, _("Least rest between stints")),
    )
    choice_labels = {"pressure_kind": PRESSURES}
    sections = (
        (
            _("Race"),
            (
                *("race.name", "race.start", "race.class_gap_s", "race.time_zone", "race.starters", "race.certainty"),
                *("rider", "others"),
            ),
        ),
        (_("A team by turns"), ("team", "race.relay.hand_over_s", "race.relay.longest_stint_s", "race.relay.rest_s")),
        (
            _("Air of the day"),
            (
                "race.air.temperature_low_k",
                "race.air.temperature_high_k",
                "race.air.pressure_kind",
                "race.air.pressure_pa",
                "race.air.relative_humidity_low",
                "race.air.relative_humidity_high",
                "race.air.pressure_spread_pa",
                "race.air.reading_height_m",
                "race.air.wind_m_per_s",
                "race.air.wind_from_rad",
            ),
        ),
        (_("Several days"), ("marked",)),
    )

    def __init__(
        self, *args: Any, riders: Any = (), new_rider: bool = False, row: Race | None = None, **kwargs: Any
    ) -> None:
        super().__init__(*args, **kwargs)
        self.row = row
        if new_rider:
            self.initial["race.certainty"] = FIRST_WISH
        if row is not None:
            self.shown = race_facts(row)
            self.initial |= {"rider": str(row.rider_id), "others": [str(pk) for pk in self.shown["others"]]}  # type: ignore[operator]
        self.fields["race.start"].widget = forms.DateTimeInput(attrs={"type": "datetime-local"})
        for name in ("race.name", "race.start"):
            self.fields[name].required, self.fields[name].assumed, self.fields[name].help_text = True, "", ""  # type: ignore[attr-defined]
        self.fields["race.time_zone"].assumed = "UTC"  # type: ignore[attr-defined]
        choices = [(str(r.pk), r.name) for r in riders]
        if choices:
            choices = [("", _("a new rider")), *choices] if new_rider else choices
            self.fields["rider"] = forms.ChoiceField(label=_("Rider"), choices=choices, required=not new_rider)
        people = [c for c in choices if c[0]]
        if len(people) > (0 if new_rider else 1):
            self.fields["others"] = forms.MultipleChoiceField(
                label=_("Others who share the bike"),
                choices=people,
                required=False,
                widget=forms.CheckboxSelectMultiple,
                help_text=_("The springs page then looks for the least wrong setting for all of them."),
            )
        self.fields["team"] = forms.BooleanField(
            label=_("All of them share the race by turns"),
            required=False,
            initial=dig(self.current, "race.relay") is not None,
            help_text=_("Who rides which lap, or stage, is worked out on the crew sheet."),
        )

        self.fields["marked"] = forms.MultipleChoiceField(
            label=_("Marked by the event, not to be replaced"),
            choices=[(part, _(words)) for part, words in MARKED_WORDS.items()],
            required=False,
            initial=dig(self.current, "race.marked") or [],
            widget=forms.CheckboxSelectMultiple,
            help_text=_(
                "It stands on the crew's sheet and the time card. What counts as replaced, the organiser says."
            ),
        )

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean() or {}
        if cleaned.get("team") and not [r for r in cleaned.get("others") or [] if r != cleaned.get("rider")]:
            self.add_error("team", refusal_words("relay_alone", self.preset))
        return cleaned

    def document(self) -> dict[str, Any]:
        made = super().document()
        relay = made["race"].pop("relay", {})
        if self.cleaned_data.get("marked"):
            made["race"]["marked"] = self.cleaned_data["marked"]
        return made if not self.cleaned_data.get("team") else {"race": made["race"] | {"relay": relay}}

    def grouped(self) -> list[Any]:
        """Sections with their fields, for the page."""
        return [(title, [self[n] for n in names if n in self.fields]) for title, names in self.sections]


#: what is ticked of a stage: what is so after it
AFTER_A_STAGE = {"refuel_after": _("Fuel may be taken after it"), "park_after": _("Then it stands in a closed park")}


class StageForm(DocumentForm):
    """How a stage is ridden: by laps or hours, as test or liaison, within what time."""

    spec = (
        ("stage.name", Stage, _("Name of the stage")),
        ("stage.kind", Stage, _("Kind")),
        ("stage.laps", Stage, _("Laps")),
        ("stage.hours_s", Stage, _("or hours, and the lap under way")),
        ("stage.allowed_s", Stage, _("Time allowed on the schedule")),
        ("stage.state", Stage, _("The ground is")),
        ("stage.crawling_s", Stage, _("At a walking pace, each lap")),
        ("stage.standing_s", Stage, _("Standing at idle, each lap")),
        ("stage.queue_at_m", Stage, _("where one crawls or stands")),
        ("stage.work_after_s", Stage, _("The bike may be worked on after it")),
    )
    choice_labels = {"kind": [(k, _(v)) for k, v in STAGE_KINDS.items()], "state": STATE_CHOICES}

    def __init__(self, *args: Any, row: Race | None = None, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.row = row
        self.shown = stage_facts(dig(self.current, "stage") or {})
        self.fields["stage.kind"].required = self.fields["stage.state"].required = False
        for name, label in AFTER_A_STAGE.items():
            now = bool(dig(self.current, f"stage.{name}"))
            self.fields[f"stage.{name}"] = forms.BooleanField(label=label, required=False, initial=now)

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean() or {}
        if (cleaned.get("stage.laps") or 1) > 1 and cleaned.get("stage.hours_s"):
            self.add_error("stage.hours_s", refusal_words("laps_and_hours", self.preset))
        return cleaned

    def facts(self) -> dict:
        """The stage's facts; what was left blank is None, so that it is taken away."""
        made = self.document().get("stage", {})
        known = {path.removeprefix("stage."): None for path, *_rest in self.spec} | made
        return known | {name: self.cleaned_data[f"stage.{name}"] for name in AFTER_A_STAGE}


#: what a new race is asked at once; the rest is folded
FIRST_ASKED = (
    *("race.name", "race.start", "stage.laps", "stage.hours_s"),
    *("race.air.temperature_low_k", "race.air.temperature_high_k", "rider", "rider.name", "rider.mass_in_gear_kg"),
)


def new_race_parts(form: RaceForm, stage: StageForm, rider: RiderForm) -> dict[str, Any]:
    """A new race's page: what is asked first, and what is folded, with its titles."""
    fields = [f[n] for f in (form, stage, rider) for n in f.fields]
    first = {f.name: f for f in fields if f.name in FIRST_ASKED}

    def rest(of: Iterable[Any]) -> list[Any]:
        return [f for f in of if f.name not in FIRST_ASKED]

    day, team, air, several = form.grouped()
    return {
        "first": [first[n] for n in FIRST_ASKED if n in first],
        "folded": [
            (_("More of the day"), [f for f in rest(day[1]) if f.name != "others"]),
            (_("More of the air"), rest(air[1])),
            (_("Queues, schedule, ground"), rest(stage)),
            (_("More of the rider"), rest(rider)),
            several,
            (team[0], [*(f for f in day[1] if f.name == "others"), *rest(team[1])]),
        ],
    }


class CourseForm(forms.Form):
    """A course of the garage, or a GPX file and where its heights come from."""

    def __init__(self, *args: Any, courses: Any = (), **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        if courses:
            choices = [("", _("from a file"))] + [(str(c.pk), c.name) for c in courses]
            self.fields["known"] = forms.ChoiceField(label=_("Course"), choices=choices, required=False)
        self.fields["file"] = FilesField(
            label=_("Course file, GPX"),
            required=False,
            help_text=_("Several, or an archive: a stage each, by their names."),
        )
        self.fields["heights"] = forms.ChoiceField(label=_("Its heights come from"), choices=HEIGHTS, required=False)

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean() or {}
        kept = self.data.getlist("kept") if hasattr(self.data, "getlist") else []
        if not (cleaned.get("known") or cleaned.get("file") or kept) and "file" not in self.errors:
            self.add_error("file", _("Choose a course or a file."))
        return cleaned


class SurfaceForm(forms.Form):
    """What is known of the stretch that is being painted; blank = usual for its ground."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name, label in (
            ("depth_m", _("Loose ground, deep")),
            ("whoop_length_m", _("Whoops, crest to crest")),
            ("whoop_height_m", _("Whoops, high")),
        ):
            self.fields[name] = QuantityField(field_facts(GroundSegment, name), preset, label=label, required=False)
        self.fields["tightness"] = forms.ChoiceField(
            label=_("It bends"), choices=TIGHT_CHOICES, required=False, initial="usual"
        )
        self.fields["state"] = forms.ChoiceField(
            label=_("It is"), choices=[("", _("as the stage")), *STATE_CHOICES], required=False
        )


class HillForm(forms.Form):
    """A critical hill."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["at_m"] = QuantityField(field_facts(CriticalHill, "at_m"), preset, label=_("Begins at"))
        self.fields["length_m"] = QuantityField(field_facts(CriticalHill, "length_m"), preset, label=_("Length"))
        self.fields["grade"] = QuantityField(field_facts(CriticalHill, "grade"), preset, label=_("Grade"))
        self.fields["ground"] = forms.ChoiceField(label=_("Ground"), choices=GROUND_CHOICES)
        self.fields["name"] = forms.CharField(label=_("Name"), max_length=60, required=False)
        speed = field_facts(CriticalHill, "entry_speed_m_per_s")
        self.fields["entry_speed_m_per_s"] = QuantityField(speed, preset, label=_("Speed at its foot"), required=False)


class PointForm(forms.Form):
    """A crew point."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["at_m"] = QuantityField(field_facts(RefuelPoint, "at_m"), preset, label=_("At"))
        self.fields["name"] = forms.CharField(label=_("Name"), max_length=60, required=False)


class RefuelForm(PointForm):
    """A refuel point: where, how fast it fills, what it costs to stand there, and whether one must."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, preset=preset, **kwargs)
        for name, label in (("rate_m3_per_s", _("Fills")), ("fixed_s", _("Stands at least"))):
            self.fields[name] = QuantityField(field_facts(RefuelPoint, name), preset, label=label, required=False)
        self.fields["must_stop"] = forms.BooleanField(label=_("One must stop there"), required=False)
        self.fields["also"] = forms.CharField(
            label=_("Also done there"), max_length=80, required=False, help_text=_("Tyre, foam, wheel, oil.")
        )
        self.fields["also_s"] = QuantityField(
            field_facts(RefuelPoint, "also_s"), preset, label=_("which takes"), required=False
        )


class PitsForm(RefuelForm):
    """A refuel point every so far."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, preset=preset, **kwargs)
        self.preset = preset
        del self.fields["at_m"]
        self.fields["name"].label = _("Each is called")
        self.fields["rate_m3_per_s"].label, self.fields["fixed_s"].label = _("Pours, at each"), _("At each one stands")
        self.fields["must_stop"].label = _("One must stop at each")
        del self.fields["also"], self.fields["also_s"]
        first = {"every_m": QuantityField(field_facts(RefuelPoint, "at_m"), preset, label=_("One every"))}
        self.fields = first | self.fields

    def clean_every_m(self) -> float:
        every = self.cleaned_data["every_m"]
        if every is not None and every < LEAST_APART_M:
            raise forms.ValidationError(refusal_words("too_low", self.preset, kind="distance", low=LEAST_APART_M))
        return every  # type: ignore[no-any-return]


class ZoneForm(forms.Form):
    """A speed limit, or a stretch in the dark."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["kind"] = forms.ChoiceField(
            label=_("Zone"), choices=[("speed_limit", _("speed limit")), ("night", _("in the dark"))]
        )
        self.fields["from_m"] = QuantityField(field_facts(Zone, "from_m"), preset, label=_("From"))
        self.fields["to_m"] = QuantityField(field_facts(Zone, "to_m"), preset, label=_("to"))
        self.fields["limit_m_per_s"] = QuantityField(
            field_facts(Zone, "limit_m_per_s"), preset, label=_("Highest speed"), required=False
        )

    def clean(self) -> dict[str, Any]:
        cleaned = super().clean() or {}
        if (
            cleaned.get("kind") == "speed_limit"
            and not cleaned.get("limit_m_per_s")
            and "limit_m_per_s" not in self.errors
        ):
            self.add_error("limit_m_per_s", refusal_words("limit_missing", ""))
        if (
            cleaned.get("from_m") is not None
            and (cleaned.get("to_m") or 0.0) <= cleaned["from_m"]
            and "to_m" not in self.errors
        ):
            self.add_error("to_m", refusal_words("segment_order", ""))
        return cleaned


#: what may be placed on a stage: the document's list -> form
PLACED = {"hills": HillForm, "refuel_points": RefuelForm, "crew_points": PointForm, "zones": ZoneForm}
