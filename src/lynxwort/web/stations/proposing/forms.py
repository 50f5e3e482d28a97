"""What a plan may cost and must leave alone, as it is asked for in an address."""

from typing import Any
from urllib.parse import urlencode

from django import forms
from django.utils.translation import gettext as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.propose.season import MOST_PARTS, PARTS
from lynxwort.core.propose.wish import Wish
from lynxwort.core.report import STATIONS
from lynxwort.core.units.convert import Units
from lynxwort.web.ui.forms import QuantityField
from lynxwort.words.catalogue import STATION_NAMES
from lynxwort.words.choices import CARES, FEELS, SCHOOLS


class WishForm(forms.Form):
    """Money, work, liking and what to leave alone; blank leaves each as it is assumed."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name, label in (
            ("purchases", _("Parts you would buy, at most")),
            ("money", _("Money for parts and items, at most")),
            ("work_s", _("Hours of work, at most")),
            ("changes", _("Steps, at most")),
        ):
            facts = field_facts(Wish, name)
            self.fields[name] = QuantityField(facts, preset, label=label, required=False)
        self.fields["money"].help_text = _("A part without a price is not bought then; blank is no limit.")
        self.fields["work_s"].help_text = _("Blank is no limit.")
        for name, label, words in (
            ("feel", _("How it should ride"), FEELS),
            ("care", _("What matters more"), CARES),
            ("school", _("A spring is chosen by"), {name: SCHOOLS[name] for name in ("two_sag", "chart", "frequency")}),
        ):
            choices = [(key, _(text)) for key, text in words.items()]
            self.fields[name] = forms.ChoiceField(choices=choices, label=label, required=False)
        self.fields["feel"].help_text = _(
            "Plush minds what is hard twice as much and aims for deeper sags; firm minds what wallows, and aims higher."
        )
        self.fields["care"].help_text = _("Safety and the finish come before either, whatever you choose.")
        self.fields["school"].help_text = _("Only among the springs that the sags allow.")
        self.fields["leave"] = forms.MultipleChoiceField(
            choices=[(s, _(STATION_NAMES[s])) for s in STATIONS if s not in ("purpose", "baseline", "trials")],
            label=_("Leave alone"), required=False, widget=forms.CheckboxSelectMultiple,
        )  # fmt: skip

    def wish(self) -> Wish:
        """What was asked for. Only of a valid form."""
        said = {k: v for k, v in self.cleaned_data.items() if k in Wish.model_fields and v not in (None, "", [])}
        return Wish.model_validate(said)

    @property
    def query(self) -> str:
        """What was typed, as an address carries it."""
        return urlencode(
            [(name, value) for name in self.fields for value in self.data.getlist(name) if value]  # type: ignore[attr-defined]
        )


class SeasonForm(WishForm):
    """The same for several races of one bike: which, and how many parts in all."""

    def __init__(self, *args: Any, races: list[tuple[str, str]], **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.fields["race"] = forms.MultipleChoiceField(
            choices=races, label=_("Races besides this one"), required=False, widget=forms.CheckboxSelectMultiple
        )
        self.fields["purchases"].assumed = str(PARTS)  # type: ignore[attr-defined]
        for name in ("work_s", "changes"):
            self.fields[name].help_text = _("For each race.")

    @property
    def first(self) -> list[forms.BoundField]:
        """What is asked for first."""
        return [self[name] for name in ("race", "purchases", "money")]

    @property
    def more(self) -> list[forms.BoundField]:
        """Limits that few need."""
        return [self[name] for name in ("feel", "care", "school", "work_s", "changes", "leave")]

    def clean_purchases(self) -> int:
        """As many as are looked at together."""
        said = self.cleaned_data["purchases"]
        if said is not None and said > MOST_PARTS:
            high = {"high": MOST_PARTS}
            raise forms.ValidationError(_("At most %(high)s parts are looked at together.") % high)
        return PARTS if said is None else int(said)

    @property
    def races(self) -> list[int]:
        """Which other races. Only of a valid form."""
        return [int(pk) for pk in self.cleaned_data["race"]]
