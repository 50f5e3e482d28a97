"""Form fields derived from the core's own metadata: typed values with units, the core's bounds, the core's
messages.
"""

from typing import Any, get_args

from django import forms
from django.utils.translation import gettext
from pydantic import ValidationError

from lynxwort.core.errors import Refusal
from lynxwort.core.model.base import FieldFacts, Part, field_facts
from lynxwort.core.model.bike import Transmission
from lynxwort.core.model.bike.patterns import plant
from lynxwort.core.model.refused import refusals_of
from lynxwort.core.units.convert import KINDS, UnitNotUnderstood, Units, parse_typed
from lynxwort.core.units.written import numbers_of
from lynxwort.web.ui.stale import MarkedForm
from lynxwort.words import decimal_meant
from lynxwort.words.bike import HOW
from lynxwort.words.formatting import number_text, unit_text
from lynxwort.words.refusals import explain

TEXT_KINDS = ("text", "moment", "zone", "choice", "ratios", "shares", "")


def refusal_words(
    code: str,
    preset: Units | str,
    *,
    kind: str = "",
    low: float | None = None,
    high: float | None = None,
    message: str = "",
) -> str:
    """The door's message for one code, translated."""
    return explain(
        Refusal(path="", code=code, low=low, high=high, message=message), kind=kind, preset=preset, translate=gettext
    )


class QuantityField(forms.CharField):
    """A typed number, with or without unit, cleaned to SI within the core's bounds."""

    def __init__(self, facts: FieldFacts, preset: Units | str, **kwargs: Any) -> None:
        self.facts, self.preset = facts, preset
        kwargs.setdefault("required", facts.required)
        super().__init__(max_length=40, **kwargs)
        self.unit = unit_text(facts.kind, preset)
        self.widget.attrs |= {"inputmode": "decimal", "autocomplete": "off", "data-quantity": facts.name}
        if not facts.required and facts.default is not None:
            self.assumed = f"{number_text(facts.default, facts.kind, preset)} {self.unit}".strip()

    def prepare_value(self, value: Any) -> Any:
        return (
            number_text(value, self.facts.kind, self.preset).replace("\u202f", "")
            if isinstance(value, int | float)
            else value
        )

    def clean(self, value: Any) -> float | int | None:
        text = super().clean(value)
        if not text:
            return None
        facts = self.facts
        try:
            number = parse_typed(decimal_meant(text), facts.kind, self.preset, low=facts.low, high=facts.high)
        except UnitNotUnderstood as error:
            words = refusal_words(error.code, self.preset, kind=facts.kind, message=error.message)
            raise forms.ValidationError(words) from None
        # a value shown rounded and sent back untouched must not fall out of its bounds
        slack = 1e-9 * max(1.0, abs(number))
        if facts.low is not None and number < facts.low - slack:
            raise forms.ValidationError(refusal_words("too_low", self.preset, kind=facts.kind, low=facts.low))
        if facts.high is not None and number > facts.high + slack:
            raise forms.ValidationError(refusal_words("too_high", self.preset, kind=facts.kind, high=facts.high))
        if facts.annotation in (int, int | None):
            if abs(number - round(number)) > 1e-6:
                raise forms.ValidationError(refusal_words("not_a_whole_number", self.preset))
            return round(number)
        return number


class RatiosField(forms.CharField):
    """Gear ratios: numbers apart by spaces or commas, or teeth as 30/14."""

    def clean(self, value: Any) -> list[float] | None:
        text = super().clean(value)
        if not text:
            return None
        try:
            found = numbers_of(text)
        except (ValueError, ZeroDivisionError):
            raise forms.ValidationError(refusal_words("not_ratios", "metric")) from None
        try:
            Transmission(primary_ratio=2.0, gear_ratios=tuple(found))
        except ValidationError as error:
            refusal = refusals_of(error, root=Transmission)[0]
            raise forms.ValidationError(explain(refusal, translate=gettext)) from None
        return found

    def prepare_value(self, value: Any) -> Any:
        return "  ".join(f"{v:g}" for v in value) if isinstance(value, list | tuple) else value


class NotANumberThere(ValueError):
    """A word of a line that should be a number. word: as it was typed."""

    def __init__(self, word: str) -> None:
        self.word = word
        super().__init__(word)


class LinesField(forms.CharField):
    """Some lines, each read by itself; what cannot be read is refused with its code. burns: only of bikes that burn
    fuel; fed: only of bikes fed so.
    """

    def __init__(
        self,
        *,
        write: Any,
        code: str,
        model: type[Part],
        read: Any = None,
        burns: bool = False,
        fed: str = "",
        **kwargs: Any,
    ) -> None:
        super().__init__(
            required=False, max_length=6000, widget=forms.Textarea(attrs={"rows": 4, "autocomplete": "off"}), **kwargs
        )
        self.read, self.write, self.code, self.model, self.burns, self.fed = read, write, code, model, burns, fed

    #: what was written for the form, by its line: a line sent back untouched keeps all its digits
    known: list[dict[str, Any]] = []

    def lines(self, text: str) -> list[dict[str, Any]]:
        """The documents that the lines say."""
        kept = {self.write(item).strip(): item for item in self.known}
        numbered = [(n, line.strip()) for n, line in enumerate(text.splitlines(), start=1) if line.strip()]
        return [kept[line] if line in kept else self._line(n, line) for n, line in numbered]

    def _line(self, number: int, line: str) -> dict[str, Any]:
        """What one line says. Raises ValidationError with its number and what of it is refused."""
        try:
            made: dict[str, Any] = self.read(line)
            self.model.model_validate(made)
        except ValidationError as error:
            why = self._refused(refusals_of(error, root=self.model)[0])
        except NotANumberThere as error:
            why = (
                f"{gettext('“%(word)s” is not a number.') % {'word': error.word}} {refusal_words(self.code, 'metric')}"
            )
        except (ValueError, TypeError, KeyError):
            why = refusal_words(self.code, "metric")
        else:
            return made
        raise forms.ValidationError(gettext("Line %(n)s: %(why)s") % {"n": number, "why": why})

    def _refused(self, refusal: Refusal) -> str:
        """A value of a line that cannot be, named by what it is."""
        name = refusal.path.split(".")[0]
        if name not in self.model.model_fields:
            return f"{explain(refusal, translate=gettext)} {refusal_words(self.code, 'metric')}"
        facts = field_facts(self.model, name)
        kind = facts.kind if facts.kind in KINDS else ""
        return f"{facts.help or name}: {explain(refusal, kind=kind, translate=gettext)}"

    def clean(self, value: Any) -> list[dict[str, Any]]:
        made = self.lines(super().clean(value))
        try:
            for item in made:
                self.model.model_validate(item)
        except ValidationError:
            raise forms.ValidationError(refusal_words(self.code, "metric")) from None
        return made

    def prepare_value(self, value: Any) -> Any:
        return "\n".join(self.write(item) for item in value) if isinstance(value, list | tuple) else value


class SharesField(forms.CharField):
    """A few percentages apart by spaces or commas, cleaned to shares within the core's own bounds."""

    def __init__(self, facts: FieldFacts, **kwargs: Any) -> None:
        super().__init__(**kwargs)
        self.facts = facts
        self.unit = "%"
        self.assumed = self.prepare_value(facts.default)

    def clean(self, value: Any) -> list[float] | None:
        try:
            return [v / 100.0 for v in numbers_of(super().clean(value).replace("%", " "))] or None
        except (ValueError, ZeroDivisionError):
            raise forms.ValidationError(refusal_words("not_shares", "metric")) from None

    def prepare_value(self, value: Any) -> Any:
        return "  ".join(f"{100 * v:g}" for v in value) if isinstance(value, list | tuple) else value


def _help(name: str, meaning: str, label: str) -> str:
    """How the number is found; else its meaning, unless the label has said as much."""
    if name in HOW:
        return gettext(HOW[name])
    told = gettext(meaning) if meaning else ""
    small = {"the", "a", "an", "of", "it", "its", "you", "what", "is"}

    def plain(text: str) -> set[str]:
        return {word.strip(",.:;").lower() for word in text.split()} - small

    return "" if plain(told) <= plain(label) else told


def field_for(model: type[Part], name: str, preset: Units | str, *, label: str, **kwargs: Any) -> forms.Field:
    """The form field of one field of a core model."""
    facts = field_facts(model, name)
    kwargs = {"label": label, "help_text": _help(name, facts.help, str(label))} | kwargs
    if facts.kind == "ratios":
        return RatiosField(max_length=120, **kwargs)
    if facts.kind == "shares":
        return SharesField(facts, max_length=120, required=facts.required, **kwargs)
    if facts.kind == "choice":
        choices = kwargs.pop("choices", None) or [(c, c) for c in get_args(facts.annotation)]
        usual = dict(choices).get(facts.default)
        if facts.required or not usual:
            return forms.ChoiceField(choices=choices, required=facts.required, **kwargs)
        # a list has no blank line of its own: without one, what is assumed would be sent back as said
        field: forms.Field = forms.ChoiceField(choices=[("", gettext("not said")), *choices], required=False, **kwargs)
        field.assumed = usual  # type: ignore[attr-defined]
        return field
    if facts.kind in TEXT_KINDS:
        field = forms.CharField(max_length=120, required=facts.required, **kwargs)
        if not facts.required and facts.default:
            field.assumed = str(facts.default)  # type: ignore[attr-defined]
        return field
    return QuantityField(facts, preset, **kwargs)


def unrounded(form: forms.Form, cleaned: dict[str, Any]) -> dict[str, Any]:
    """What was cleaned, numbers that were sent back as they were shown as they are known: a form shows them rounded."""
    for path, value in list(cleaned.items()):
        field, known = form.fields[path], form.initial.get(path)
        if isinstance(field, QuantityField | SharesField | RatiosField) and known is not None and value is not None:
            if str(form.data.get(form.add_prefix(path), "")).strip() == field.prepare_value(known).strip():
                cleaned[path] = known
    return cleaned


class DocumentForm(MarkedForm):
    """A form over fields of core models. `spec`: (dotted path, model, label); blank optional fields stay assumed.

    `current`: the document being edited; a value sent back as it was shown keeps all its digits.
    """

    spec: tuple[tuple[str, type[Part], Any], ...] = ()
    choice_labels: dict[str, list[tuple[str, Any]]] = {}

    def __init__(
        self, data: Any = None, files: Any = None, *, preset: Units | str, current: dict | None = None, **kwargs: Any
    ) -> None:
        super().__init__(data, files, **kwargs)
        self.preset, self.current = preset, current or {}
        self.shown = self.current
        for path, model, label in self.spec:
            name = path.rsplit(".", 1)[-1]
            more = {"choices": self.choice_labels[name]} if name in self.choice_labels else {}
            self.fields[path] = field_for(model, name, preset, label=label, **more)
            known = dig(self.current, path)
            if known is not None:
                self.initial[path] = known

    def clean(self) -> dict[str, Any]:
        return unrounded(self, super().clean() or {})

    def document(self) -> dict[str, Any]:
        """The nested document of what was filled in."""
        made: dict[str, Any] = {}
        for path, *_rest in self.spec:
            value = self.cleaned_data.get(path)
            if value in (None, ""):
                continue
            plant(made, path, value)
        return made

    def refuse(self, refusals: Any, prefix: str = "") -> None:
        """Put the door's refusals on the right fields; what belongs to none stands above the form."""
        for refusal in refusals:
            path = refusal.path.removeprefix(prefix).lstrip(".")
            field = next(
                (
                    p
                    for p in self.fields
                    if p == path or path.startswith(p + ".") or (path and p.startswith(path + "."))
                ),
                None,
            )
            kind = self.fields[field].facts.kind if field and isinstance(self.fields[field], QuantityField) else ""  # type: ignore[attr-defined]
            self.add_error(field, explain(refusal, kind=kind, preset=self.preset, translate=gettext))


def dig(document: dict, path: str) -> Any:
    """The value at a dotted path, or None."""
    item: Any = document
    for step in path.split("."):
        if not isinstance(item, dict) or step not in item:
            return None
        item = item[step]
    return item
