from typing import Any

from django import forms
from django.contrib.auth.password_validation import validate_password
from django.utils.translation import gettext_lazy as _

from lynxwort.web.garages.models import User
from lynxwort.web.garages.roles import Role
from lynxwort.web.people.services import JOINED_AS

AS = [(role.value, role.label) for role in JOINED_AS]
HOW_MANY = [("one", _("one person, within a day")), ("many", _("everybody who scans it, for an hour"))]


class InviteForm(forms.Form):
    """A code to join by."""

    role = forms.ChoiceField(label=_("Joins as"), choices=AS, initial=Role.CREW.value)
    many = forms.ChoiceField(label=_("Who may use it"), choices=HOW_MANY, initial="one")
    label = forms.CharField(label=_("For whom, if you like"), max_length=60, required=False)


class JoinForm(forms.Form):
    """A name to be known by in the garage; a password only for whoever wants to come in on another device too."""

    username = forms.CharField(label=_("Your name"), max_length=60)
    password = forms.CharField(
        label=_("A password, if you want to come in on another device too (at least 10 characters)"),
        widget=forms.PasswordInput(attrs={"autocomplete": "new-password"}),
        required=False,
    )

    def clean_username(self) -> str:
        name = " ".join(self.cleaned_data["username"].split())
        if not name.isprintable():
            raise forms.ValidationError(_("A name is written in letters that can be read."))
        return name

    def clean(self) -> dict[str, Any]:
        told: dict[str, Any] = super().clean() or {}
        if told.get("password"):
            try:
                validate_password(told["password"], User(username=told.get("username", "")))
            except forms.ValidationError as error:
                self.add_error("password", error)
        return told
