"""A field that takes several files."""

from typing import Any

from django import forms


class FilesInput(forms.ClearableFileInput):
    """Takes several files."""

    allow_multiple_selected = True


class FilesField(forms.FileField):
    """One file or several: a list."""

    widget = FilesInput

    def clean(self, data: Any, initial: Any = None) -> list[Any]:
        single = super().clean
        return [single(d, initial) for d in data] if data else []
