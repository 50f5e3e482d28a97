from typing import Any

from django import forms
from django.contrib.auth.password_validation import validate_password
from django.utils.translation import gettext_lazy as _

from lynxwort.core.units.convert import OPTIONS
from lynxwort.web.garages.models import User
from lynxwort.web.garages.services import settings_of, units_of_person
from lynxwort.web.ui.stale import MarkedForm
from lynxwort.words import LANGUAGES

QUANTITIES = {
    "distance": _("Distance and speed"),
    "height": _("Height and stretches"),
    "small": _("Travel and lengths"),
    "volume": _("Fuel"),
    "mass": _("Weight"),
    "spring_rate": _("Spring rate"),
    "pressure": _("Pressure"),
    "temperature": _("Temperature"),
    "power": _("Power"),
}


class SettingsForm(MarkedForm):
    """Each quantity's unit, the theme, the language, and what makes pages easier in a van."""

    def __init__(self, *args: Any, user: User, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        now = units_of_person(user)
        self.shown = settings_of(user)
        for name, options in OPTIONS.items():
            self.fields[name] = forms.ChoiceField(
                label=QUANTITIES[name], choices=[(o, o) for o in options], initial=getattr(now, name)
            )
        self.fields["theme"] = forms.ChoiceField(label=_("Light"), choices=User.Theme.choices, initial=user.theme)
        self.fields["language"] = forms.ChoiceField(
            label=_("Language"),
            choices=[("", _("as the browser")), *LANGUAGES.items()],
            initial=user.language,
            required=False,
        )
        self.fields["comforts"] = forms.MultipleChoiceField(
            label=_("In the van"),
            choices=User.Comfort.choices,
            initial=user.comforts,
            required=False,
            widget=forms.CheckboxSelectMultiple,
        )

    def choices(self) -> dict[str, str]:
        """Quantity -> unit, as chosen."""
        return {name: self.cleaned_data[name] for name in OPTIONS}


class FirstAccountForm(forms.Form):
    """Name, password and garage of the first account."""

    username = forms.CharField(label=_("Your name"), max_length=60)
    password = forms.CharField(
        label=_("Password, at least 10 characters"), widget=forms.PasswordInput(attrs={"autocomplete": "new-password"})
    )
    garage = forms.CharField(label=_("Name of your garage"), max_length=80, required=False)

    def clean_username(self) -> str:
        name = self.cleaned_data["username"].strip()
        if User.objects.filter(username=name).exists():
            raise forms.ValidationError(_("This name is taken."))
        return name

    def clean(self) -> dict[str, Any]:
        told = super().clean()
        if told.get("password"):  # type: ignore[union-attr]
            try:
                validate_password(told["password"], User(username=told.get("username", "")))  # type: ignore[index, union-attr]
            except forms.ValidationError as error:
                self.add_error("password", error)
        return told  # type: ignore[return-value]
