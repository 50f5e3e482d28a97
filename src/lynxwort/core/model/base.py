"""The base of every input: frozen, bounded, strict; unknown keys refused, NaN and infinity refused.

The bounds and units in the field metadata are the only ones in the product: the forms, the JSON Schema and
the document's door are derived from them (`field_facts`).
"""

import hashlib
from dataclasses import dataclass
from functools import cache
from typing import Any, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator
from pydantic.fields import FieldInfo
from pydantic_core import PydanticUndefined

REQUIRED: Any = PydanticUndefined


#: where a part keeps its hash, and the digest of what was given of it
_HASH, _DIGEST = "_hash", "_digest"


class Part(BaseModel):
    """Base of all input classes. A part is a key: it hashes and compares by its values alone, whatever of them was
    given or assumed.
    """

    model_config = ConfigDict(
        frozen=True,
        extra="forbid",
        strict=True,
        allow_inf_nan=False,
        arbitrary_types_allowed=True,
        use_attribute_docstrings=True,
    )

    @model_validator(mode="before")
    @classmethod
    def _lists(cls, data: object) -> object:
        """JSON's lists are our tuples."""
        if isinstance(data, dict):
            return {k: tuple(v) if isinstance(v, list) else v for k, v in data.items()}
        return data

    def __hash__(self) -> int:
        """Of all values, reckoned once: a part cannot change."""
        found = self.__dict__.get(_HASH)
        if found is None:
            found = hash((type(self), *(_hashable(self.__dict__[name]) for name in type(self).model_fields)))
            self.__dict__[_HASH] = found
        return found

    def __eq__(self, other: object) -> bool:
        """By the values; told apart by their hashes first, since most that are compared are the same thing or quite
        another.
        """
        if self is other:
            return True
        if type(self) is not type(other) or hash(self) != hash(other):
            return False
        mine, theirs = self.__dict__, other.__dict__
        return all(mine[name] == theirs[name] for name in type(self).model_fields)

    def __copy__(self) -> Self:
        """A copy to be changed: it has yet to be hashed."""
        made = super().__copy__()
        made.__dict__.pop(_HASH, None)
        made.__dict__.pop(_DIGEST, None)
        return made

    def digest(self) -> str:
        """Hash [hexadecimal] of what was given of it, the same in every process, reckoned once."""
        found = self.__dict__.get(_DIGEST)
        if found is None:
            text = self.model_dump_json(exclude_unset=True)
            found = self.__dict__[_DIGEST] = hashlib.sha256(text.encode()).hexdigest()
        return found

    @classmethod
    def taken_from(cls, whole: Any) -> Self:
        """The values of this part out of a whole that is joined of it and others: as small a key as what reads it
        needs.
        """
        given = whole.model_fields_set & cls.model_fields.keys()
        made: Self = cls.model_construct(given, **{name: getattr(whole, name) for name in cls.model_fields})  # type: ignore[assignment]
        return made


def _hashable(value: Any) -> Any:
    return tuple(sorted(value.items())) if isinstance(value, dict) else value


def quantity(low: float, high: float, unit: str, kind: str, default: Any = REQUIRED, *, source: str = "") -> Any:
    """A bounded number in SI. kind: see core.units.convert.KINDS; source: where a default comes from."""
    if default is not REQUIRED and not source:
        raise ValueError(
            "a default needs a source: a reference, 'assumption', 'from memory' or 'common practice, no source'"
        )
    return Field(default, ge=low, le=high, json_schema_extra={"unit": unit, "kind": kind, "source": source})


def choice(default: Any = REQUIRED, *, source: str = "") -> Any:
    """A value out of the Literal it is annotated with."""
    return Field(default, json_schema_extra={"unit": "", "kind": "choice", "source": source})


@dataclass(frozen=True, slots=True)
class FieldFacts:
    """What the doors need to know of one field. low, high: bounds in SI, None when not a number."""

    name: str
    required: bool
    default: Any
    low: float | None
    high: float | None
    unit: str
    kind: str
    source: str
    help: str
    annotation: Any


@cache
def field_facts(model: type[Part], name: str) -> FieldFacts:
    """The metadata of one field of a model."""
    info: FieldInfo = model.model_fields[name]
    low = next((m.ge for m in info.metadata if hasattr(m, "ge")), None)
    high = next((m.le for m in info.metadata if hasattr(m, "le")), None)
    extra = info.json_schema_extra if isinstance(info.json_schema_extra, dict) else {}
    return FieldFacts(
        name=name,
        required=info.is_required(),
        default=None if info.is_required() else info.get_default(call_default_factory=True),
        low=low,
        high=high,
        unit=str(extra.get("unit", "")),
        kind=str(extra.get("kind", "")),
        source=str(extra.get("source", "")),
        help=" ".join((info.description or "").split()),
        annotation=info.annotation,
    )
