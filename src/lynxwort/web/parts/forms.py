"""One line into the box, a file into it, and what one knows of a part."""

from typing import Any

from django import forms
from django.utils.translation import gettext
from django.utils.translation import gettext_lazy as _

from lynxwort.core.model.parts import KINDS
from lynxwort.web.parts.models import OwnedPart
from lynxwort.web.ui.stale import MarkedForm
from lynxwort.words.catalogue import PART_KINDS
from lynxwort.words.refusals import explain


class PartForm(forms.Form):
    """Quick add: a kind and a line."""

    kind = forms.ChoiceField(label=_("Part"), choices=[(k, _(PART_KINDS[k])) for k in KINDS])
    text = forms.CharField(label=_("What"), max_length=400)
    label = forms.CharField(label=_("Name or mark"), max_length=60, required=False)
    count = forms.IntegerField(label=_("How many of each"), min_value=1, max_value=999, initial=1)
    condition = forms.ChoiceField(label=_("Condition"), choices=OwnedPart.Condition.choices, initial="good")
    place = forms.CharField(label=_("Lies where"), max_length=60, required=False)


class AboutForm(MarkedForm):
    """Count, condition, place and mark of a part in the box."""

    count = forms.IntegerField(label=_("Count"), min_value=1, max_value=999)
    condition = forms.ChoiceField(label=_("Condition"), choices=OwnedPart.Condition.choices)
    place = forms.CharField(label=_("Lies where"), max_length=60, required=False)
    label = forms.CharField(label=_("Name or mark"), max_length=60, required=False)

    def __init__(self, *args: Any, row: OwnedPart, shown: dict, **kwargs: Any) -> None:
        super().__init__(*args, initial=shown, auto_id=f"%s-{row.pk}", **kwargs)  # type: ignore[misc]
        self.row, self.shown = row, shown

    def refuse(self, refusals: Any) -> None:
        """What the door says, above the form."""
        for refusal in refusals:
            self.add_error(None, explain(refusal, translate=gettext))


class FileForm(forms.Form):
    """A file of parts."""

    file = forms.FileField(label=_("File of parts, CSV"))
