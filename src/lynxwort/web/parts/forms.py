from django import forms
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.setup import Setup
from lynxwort.core.units.detents import DETENTS
from lynxwort.web.ui.forms import QuantityField, refusal_words
from lynxwort.words.catalogue import TUNABLES

KINDS = [(t, _(TUNABLES[t])) for t, d in DETENTS.items() if d.part]


class PartForm(forms.Form):
    """One owned part: what it is, and its value as typed."""

    tunable = forms.ChoiceField(label=_("Part"), choices=KINDS)
    value = forms.CharField(label=_("Value"), max_length=40)

    def __init__(self, *args, preset: str, **kwargs):
        super().__init__(*args, **kwargs)
        self.preset = preset

    def clean(self):
        cleaned = super().clean()
        if cleaned.get("tunable") and cleaned.get("value"):
            field = QuantityField(field_facts(Setup, cleaned["tunable"]), self.preset)
            try:
                cleaned["value_si"] = field.clean(cleaned["value"])
            except forms.ValidationError as error:
                self.add_error("value", error)
            if cleaned.get("value_si") is None and "value" not in self.errors:
                self.add_error("value", refusal_words("missing", self.preset))
        return cleaned
