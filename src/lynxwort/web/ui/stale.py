"""Facts that were changed while a page stood open: a mark of what a form was shown, and both values when that has
changed.
"""

import hashlib
import json
from collections.abc import Callable
from typing import Any, TypeVar

from django import forms
from django.http import HttpRequest
from django.utils.translation import gettext as _

from lynxwort.core.errors import InputRefused

F = TypeVar("F", bound="MarkedForm")
#: how often an edit is done again on what stands then; writers are one at a time, so a few are enough
TRIES = 40


class StaleFacts(Exception):
    """What was edited has been changed since it was read or shown."""


def mark_of(content: Any) -> str:
    """A short mark of some plain data: equal marks, equal content."""
    return hashlib.sha256(json.dumps(content, sort_keys=True, default=str).encode()).hexdigest()[:16]


class MarkedForm(forms.Form):
    """A form that knows what it was shown with: `shown` is the stored content it speaks of. A page sends the mark back
    as `was`.
    """

    shown: Any = None
    told = False

    @property
    def was(self) -> str:
        """The mark for the page: of what the sender saw, until both values have been shown."""
        sent = str(self.data.get("was", "")) if self.is_bound else ""
        return mark_of(self.shown) if self.told or not sent else sent

    @property
    def stale(self) -> bool:
        """Whether what the sender saw has been changed since. A sender that says nothing takes what stands."""
        sent = self.data.get("was", "") if self.is_bound else ""
        return bool(sent) and sent != mark_of(self.shown)

    def tell(self) -> None:
        """Show what stands now beside what was typed; sent once more, it is taken."""
        self.told = True
        self.add_error(
            None,
            _(
                "This was changed in another window since the page was shown. Where they differ, both values "
                "stand; send it again to take yours."
            ),
        )
        for name, field in self.fields.items():
            known, typed = (
                field.prepare_value(self.get_initial_for_field(field, name)),
                field.widget.value_from_datadict(self.data, self.files, self.add_prefix(name)),
            )
            if _text(field, known) != _text(field, typed):
                field.theirs = _text(field, known) or _("nothing")  # type: ignore[attr-defined]


def _text(field: forms.Field, value: Any) -> str:
    """A value as a person reads it in a field."""
    if isinstance(value, list | tuple):
        return ", ".join(_text(field, v) for v in value)
    plain = "" if value is None else str(value).strip()
    choices = {str(k): str(v) for k, v in getattr(field, "choices", ())}
    if isinstance(field, forms.BooleanField):
        return _("yes") if value in (True, "on", "true", "1") else _("no")
    return choices.get(plain, plain) if plain else ""


def edited(request: HttpRequest, make: Callable[[], F], save: Callable[[F], None]) -> tuple[F, int]:
    """One form of facts from request to answer: (form, 200 shown, 302 saved, 409 both values, 422 refused).

    make: the form with what stands stored now; save: writes it, raises StaleFacts when that has changed under its
    hands, InputRefused.
    """
    for _try in range(TRIES):
        form = make()
        if request.method != "POST":
            return form, 200
        if form.stale:
            form.is_valid()
            form.tell()
            return form, 409
        if not form.is_valid():
            return form, 422
        try:
            save(form)
        except StaleFacts:
            continue
        except InputRefused as refused:
            form.refuse(refused.refusals)  # type: ignore[attr-defined]
            return form, 422
        return form, 302
    raise StaleFacts
