"""One line into the box, a file into it, and what one knows of a part."""

from typing import Any

from django import forms
from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.base import field_facts
from lynxwort.core.model.parts import KINDS, BoxPart
from lynxwort.core.units.convert import Units
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.ui.forms import QuantityField, unrounded
from lynxwort.web.ui.stale import MarkedForm
from lynxwort.words.catalogue import PART_KINDS
from lynxwort.words.refusals import explain


class _Priced(forms.Form):
    """A price and a time to fit, as they may be said of every part."""

    def __init__(self, *args: Any, preset: Units | str, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for name, label in (("cost", gettext("Price of one")), ("work_s", gettext("Fitting it takes"))):
            self.fields[name] = QuantityField(field_facts(BoxPart, name), preset, label=label, required=False)

    def clean(self) -> dict[str, Any]:
        return unrounded(self, super().clean() or {})


class PartForm(_Priced):
    """Quick add: a kind and a line."""

    kind = forms.ChoiceField(label=_("Part"), choices=[(k, _(PART_KINDS[k])) for k in KINDS])
    text = forms.CharField(label=_("What"), max_length=400)
    label = forms.CharField(label=_("Name or mark"), max_length=60, required=False)
    count = forms.IntegerField(label=_("How many of each"), min_value=1, max_value=999, initial=1)
    condition = forms.ChoiceField(label=_("Condition"), choices=OwnedPart.Condition.choices, initial="good")
    place = forms.CharField(label=_("Lies where"), max_length=60, required=False)


class AboutForm(_Priced, MarkedForm):
    """Count, condition, place, mark, price and time of a part in the box."""

    count = forms.IntegerField(label=_("Count"), min_value=1, max_value=999)
    condition = forms.ChoiceField(label=_("Condition"), choices=OwnedPart.Condition.choices)
    place = forms.CharField(label=_("Lies where"), max_length=60, required=False)
    label = forms.CharField(label=_("Name or mark"), max_length=60, required=False)

    def __init__(self, *args: Any, row: OwnedPart, shown: dict, **kwargs: Any) -> None:
        super().__init__(*args, initial=shown, auto_id=f"%s-{row.pk}", **kwargs)
        self.row, self.shown = row, shown

    def refuse(self, refusals: Any) -> None:
        """What the door says, above the form."""
        for refusal in refusals:
            self.add_error(None, explain(refusal, translate=gettext))


class FileForm(forms.Form):
    """A file of parts."""

    file = forms.FileField(label=_("File of parts, CSV"))
