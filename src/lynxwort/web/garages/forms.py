from django import forms
from django.contrib.auth.password_validation import validate_password
from django.utils.translation import gettext_lazy as _

from lynxwort.web.garages.models import User


class FirstAccountForm(forms.Form):
    """Name, password and garage of the first account."""

    username = forms.CharField(label=_("Your name"), max_length=60)
    password = forms.CharField(label=_("Password, at least 10 characters"), widget=forms.PasswordInput(attrs={"autocomplete": "new-password"}))
    garage = forms.CharField(label=_("Name of your garage"), max_length=80, required=False)

    def clean_username(self):
        name = self.cleaned_data["username"].strip()
        if User.objects.filter(username=name).exists():
            raise forms.ValidationError(_("This name is taken."))
        return name

    def clean_password(self):
        validate_password(self.cleaned_data["password"])
        return self.cleaned_data["password"]
